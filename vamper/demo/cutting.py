"""What the club knows of cutting: a film of its own after two ladders, blades and mats with some work behind them, and
a borrowed machine that speaks of steps and knows no gf.

The film is harder than its neighbours; its drops are judged by the depth model with that hardness, which nobody else is
told.
"""

from datetime import timedelta

import numpy as np

from vamper.core.cutting.belief import prior
from vamper.core.cutting.depth import bands_of, depth_um
from vamper.core.cutting.ladder import ladder_advice
from vamper.core.values.blade import Blade, BladeIn
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, ForceRange, Mat, Reach
from vamper.core.values.mat import MatIn
from vamper.core.values.named_settings import NamedSetting, SettingSeen
from vamper.core.values.stock import STOCK_BY_KEY, Stock, StockClass, Tack
from vamper.core.values.tried import Outcome, Pressure, Try
from vamper.services.shop.own_stocks import NewStock
from vamper.services.shop.tried import CutRecord, JudgedDrop, RecordKind
from vamper.services.workshop import Workshop
from vamper.store.tables import now

OWN_STOCK = "pearl film from the chandlery"
BORROWED = "the borrowed cutter in the boat shed"
_FACE_UM, _BACKING_UM = 128.0, 110.0
_HARDER = 1.16
_DAYS_AGO = (19, 6)
_VINYL, _LABEL, _CARD = (STOCK_BY_KEY[key] for key in ("satin-vinyl", "matte-label", "card"))
_WORN = 455.0


def _did(stock: Stock, cut: Cut, outcome: Outcome) -> SettingSeen:
    return SettingSeen(stock, cut, outcome, metres=_WORN)


_SHED_SETTINGS = (
    NamedSetting("paper, first line", seen=(_did(_LABEL, Cut.KISS, Outcome.NOT_THROUGH),)),
    NamedSetting(
        "paper, second line",
        tuple(Pressure),
        gentler_than=("foil",),
        seen=(_did(_LABEL, Cut.KISS, Outcome.CLEAN),),
    ),
    NamedSetting(
        "foil",
        tuple(Pressure),
        seen=(_did(_LABEL, Cut.KISS, Outcome.BACKING_MARKED), _did(_VINYL, Cut.KISS, Outcome.NOT_THROUGH)),
    ),
    NamedSetting(
        "cardboard, thin",
        tuple(Pressure),
        gentler_than=("cardboard, thick",),
        seen=(_did(_CARD, Cut.THROUGH, Outcome.NOT_THROUGH),),
    ),
    NamedSetting("cardboard, thick", seen=(_did(_VINYL, Cut.KISS, Outcome.BACKING_MARKED),)),
)


def prepare_cutting(workshop: Workshop) -> tuple[str, int]:
    """Put all of it into a workshop; returns the own stock's key and the borrowed machine's number."""
    shop = workshop.shop
    proposed = shop.own_stocks.proposed(NewStock(OWN_STOCK, StockClass.VINYL, _FACE_UM, _BACKING_UM))
    key = shop.own_stocks.add(proposed)
    mat_cutter = shop.cutters.get(1).value
    _ladders(workshop, shop.stocks.get(key).value, mat_cutter.force_gf)
    borrowed = Cutter(
        reach_mm=Reach(305.0, 305.0),
        force_gf=ForceRange(20.0, 480.0, 5.0),
        mat_mm=Mat(305.0, 305.0),
        settings=_SHED_SETTINGS,
    )
    borrowed_id = shop.cutters.keep(BORROWED, borrowed)
    care = shop.care
    care.blades.put_in(care.blades.keep("the blade from March", BladeIn(Blade.GENERAL, 8.0)), 1)
    care.blades.keep("the steep one", BladeIn(Blade.STEEP, 31.0))
    care.blades.put_in(care.blades.keep("the blade that came with it", BladeIn(Blade.GENERAL, _WORN)), borrowed_id)
    care.mats.put_in(care.mats.keep("the blue mat", MatIn(Tack.MEDIUM, loads=9, washings=1)), 1)
    care.mats.put_in(care.mats.keep("the shed’s mat", MatIn(Tack.MEDIUM, loads=23, washings=2)), borrowed_id)
    care.mats.keep("the mat for paper", MatIn(Tack.LOW, loads=4))
    return key, borrowed_id


def _ladders(workshop: Workshop, stock: Stock, force: ForceRange) -> None:
    """Two ladders, each judged by what the model says of the film as it really is."""
    bands, belief = bands_of(stock, Cut.KISS), prior(stock, Cut.KISS)
    generator, tries = np.random.default_rng(11), list[Try]()
    for days in _DAYS_AGO:
        drops = []
        for gf in ladder_advice(belief, force, tries).next_gf:
            depth = depth_um(gf, 1, stock, Blade.GENERAL) / _HARDER * float(np.exp(generator.normal(0, 0.04)))
            outcome = next(one for one, low, high in bands.outcomes if low <= depth < high)
            drops.append(JudgedDrop(gf, 1, outcome))
        record = CutRecord(RecordKind.LADDER, Cut.KISS, tuple(drops))
        workshop.shop.tried.keep(1, stock, force, record, now() - timedelta(days=days))
        tries += record.tries
        belief = belief.after(record.tries)
