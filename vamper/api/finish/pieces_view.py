"""The pieces of a job after the cut, as the screen shows them."""

import math
from collections.abc import Iterator, Mapping, Sequence
from types import MappingProxyType

import numpy as np
import shapely

from vamper.api.finish.pieces_schemas import (
    BlankOut,
    ClothOut,
    ClothProductOut,
    FibreOut,
    LayerOut,
    OnClothOut,
    PiecesOut,
    PressedOut,
    PressOut,
    PunchOut,
    ShrinkOut,
    ShrunkOut,
)
from vamper.core.design import DesignedItem
from vamper.core.finishing.chain import chain_of_job
from vamper.core.finishing.cloth import OnCloth, on_cloth
from vamper.core.finishing.cloth_fit import FIBRE_WORDS
from vamper.core.finishing.cloth_products import cloth_products
from vamper.core.finishing.goes_on import ApplyWay
from vamper.core.finishing.press_plan import Patch, PressPlan, per_plate, press_plan
from vamper.core.finishing.shrink import finished, punch_mm, thickness
from vamper.core.finishing.targets import TARGETS
from vamper.core.finishing.work import work_of
from vamper.core.plan import Plan
from vamper.core.values.art import Purpose
from vamper.core.values.finish import BlankSpec, ClothSpec, HeatSpec, TimeFor
from vamper.core.values.lengths import mm, size_mm
from vamper.core.values.shrink import Bar, ShrinkSpec
from vamper.core.values.stock import Stock, StockClass
from vamper.formats.svg_path import DECIMALS, closed_path, shape_path
from vamper.services.brief.words import plural
from vamper.services.ledger.scraps import scraps_for
from vamper.services.ledger.supplies import KeptOffcut

_HOLES_MM = (2.0, 3.0, 4.0, 5.0, 6.0)
_PAD_MM = 4.0
NO_PRICES: Mapping[str, str] = MappingProxyType({})
# So much of a stock is left round a layer on a piece cut off for it, to hold and to load it by.
_GRIP_MM = 10.0
# A panel as it is drawn: height and half the neck beside its width, the neck's depth, mm between motifs.
_PANEL_HIGH, _NECK, _NECK_DEEP, _BETWEEN_MM = 1.1, 0.18, 0.55, 15.0
_ROUND = {Purpose.DRINKWARE, Purpose.GLASS, Purpose.PLANNER, Purpose.LAPTOP}
_MOST_SCRAPS = 2
# By whether they are pressed.
_KEYED = {
    False: "Lay each so that its two keys cover those below; the keys come off at the end.",
    True: "Lay each so that its two keys cover those below, and let the keys land on a scrap of carrier.",
}
_BY_EYE = "They bear no keys: lay each where the drawing has it."
_LAID = {
    False: "Or stack them on the mask, the front layer first.",
    True: "A short press for each layer, covered, and the whole time for the last.",
}
_NONE_KEPT: tuple[KeptOffcut, ...] = ()


def pieces_out(
    plan: Plan,
    stocks: Sequence[Stock] = (),
    prices: Mapping[str, str] = NO_PRICES,
    offcuts: Sequence[KeptOffcut] = _NONE_KEPT,
) -> PiecesOut:
    job = plan.asked
    way = chain_of_job(job).facts.way
    shrinks = job.stock.stock_class is StockClass.SHRINK
    return PiecesOut(
        goes_round=_goes_round(plan),
        press=_press(plan) if way in (ApplyWay.PRESS, ApplyWay.TAPE) else None,
        cloth=_cloth(plan, job.finish.cloth or ClothSpec(), stocks, prices) if way is ApplyWay.PRESS else None,
        shrinks=shrinks,
        shrink=_shrink(plan, job.shrink) if shrinks and job.shrink is not None else None,
        blank=_blank(job.finish.blank, job.finish.heat) if job.stock.stock_class is StockClass.DYE else None,
        layers=_layers(plan, offcuts),
        layer_words=_layer_words(plan, way is ApplyWay.PRESS),
    )


def _goes_round(plan: Plan) -> bool:
    """Whether something of the job goes round a thing, or may."""
    if any(item.as_asked.wrap is not None for item in plan.items):
        return True
    target = plan.asked.target
    return plan.asked.purpose in _ROUND if target is None else TARGETS[target].cup is not None


def _press(plan: Plan) -> PressOut:
    spec = plan.asked.finish
    seconds = work_of(plan.asked).figures(chain_of_job(plan.asked)).get("press_s")
    for_spot = spec.press.time_for is TimeFor.SPOT
    return PressOut(
        heat=spec.heat,
        designs=[
            _pressed(item, press_plan(*item.edge.size_mm, spec.heat, seconds, for_spot), spec.heat.iron)
            for item in plan.items
        ],
        lines=list(_press_lines(spec.heat)),
    )


def _press_lines(heat: HeatSpec) -> Iterator[str]:
    yield "Lint off, cloth dry and pre-heated, no steam, on a hard flat base."
    if heat.iron:
        yield "The iron empty of water and at heat for five minutes first. Patches lie over each other by a third."
        yield (
            "Where a corner stays behind when it is looked at: a third of the time again, the iron turned, as "
            "its holes leave marks. Else no second round."
        )
        yield "Pale spots afterwards: the iron’s tip, through paper."
    yield "The cover sheet decides the sheen: smooth is shiny, paper is matte."
    yield "Peel as the label says, hot within 15 seconds or cold; one corner first."


def _pressed(item: DesignedItem, found: PressPlan, iron: bool) -> PressedOut:
    left, top, right, bottom = item.edge.shape.bounds
    # Patches are laid over the piece's box.
    patches = [
        Patch(x_mm=one.x_mm + left, y_mm=one.y_mm + top, width_mm=one.width_mm, height_mm=one.height_mm)
        for one in found.patches
    ]
    x0, y0 = min([left, *(one.x_mm for one in patches)]), min([top, *(one.y_mm for one in patches)])
    x1 = max([right, *(one.x_mm + one.width_mm for one in patches)])
    y1 = max([bottom, *(one.y_mm + one.height_mm for one in patches)])
    return PressedOut(
        number=item.number,
        name=item.as_asked.name,
        box=[x0 - _PAD_MM, y0 - _PAD_MM, x1 - x0 + 2 * _PAD_MM, y1 - y0 + 2 * _PAD_MM],
        edge=shape_path(item.edge.shape, DECIMALS),
        drawing=shape_path(item.outline.shape, DECIMALS),
        patches=patches,
        words=_pressed_words(found, iron),
    )


def _pressed_words(found: PressPlan, iron: bool) -> str:
    once = "Set down once" if iron else "Closed once"
    words = once if found.count == 1 else f"Set down {found.count} times"
    if found.seconds is None:
        return f"{words}; how long, the label says."
    if found.count == 1:
        return f"{words}, {found.seconds:g} s."
    if found.for_spot:
        return f"{words}, {found.seconds_each:g} s each: {found.seconds:.0f} s altogether."
    return f"{words}, {found.seconds:g} s altogether, about {found.seconds_each:.0f} s each."


def _cloth(plan: Plan, spec: ClothSpec, stocks: Sequence[Stock], prices: Mapping[str, str]) -> ClothOut:
    placed = None
    lines = list[str]()
    if spec.panel_mm is not None:
        for item in plan.items:
            placed = on_cloth(spec, spec.panel_mm, item.outline.size_mm[0])
            lines.append(f"{item.as_asked.name}: {_placed(placed, item.outline.size_mm[0])}")
        if placed is not None:
            lines.insert(0, f"A motif for this panel is about {mm(placed.art_width_mm, 0)} wide: a starter figure.")
    return ClothOut(
        spec=spec,
        fibres=[FibreOut(key=fibre, name=name) for fibre, name in FIBRE_WORDS.items()],
        picture=None if spec.panel_mm is None else _on_panel(plan, spec, spec.panel_mm),
        numbers=[item.number for item in plan.items],
        art_width_mm=None if placed is None else round(placed.art_width_mm, 1),
        products=[
            ClothProductOut(
                key=one.stock.key,
                name=one.stock.name,
                feel=one.words.feel,
                sharp=one.words.sharp,
                wash=one.words.wash,
                weed=one.words.weed,
                price=prices.get(one.stock.key, ""),
                against=one.against,
                chosen=one.stock.key == plan.asked.stock.key,
            )
            for one in cloth_products(stocks, spec)
        ],
        lines=lines,
    )


def _on_panel(plan: Plan, spec: ClothSpec, panel_mm: float) -> OnClothOut:
    """A panel seen from the front, its collar a shallow arc, with the motifs one below the other."""
    half, high = panel_mm / 2, panel_mm * _PANEL_HIGH
    neck = panel_mm * _NECK
    turn = np.linspace(0, np.pi, 25)
    collar = np.column_stack([neck * np.cos(turn), neck * _NECK_DEEP * (np.sin(turn) - 1)])
    top = -neck * _NECK_DEEP
    panel = np.concatenate([[(half, high), (half, top)], collar, [(-half, top), (-half, high)]])
    down, motifs = 0.0, list[str]()
    for item in plan.items:
        width, height = item.outline.size_mm
        placed = on_cloth(spec, panel_mm, width)
        down = down or placed.drop_mm
        moved = shapely.affinity.translate(item.outline.shape, -placed.left_of_fold_mm, down)
        motifs.append(shape_path(moved, DECIMALS))
        down += height + _BETWEEN_MM
    box = [-half - _PAD_MM, top - _PAD_MM, panel_mm + 2 * _PAD_MM, high - top + 2 * _PAD_MM]
    return OnClothOut(box=box, panel=closed_path(panel, DECIMALS), motifs=" ".join(motifs))


def _placed(placed: OnCloth, width_mm: float) -> str:
    if not placed.fits:
        return f"{mm(width_mm, 1)} wide, reaches {mm(placed.off_panel_mm, 1)} past the panel; make it smaller."
    return (
        f"{mm(placed.drop_mm, 0)} below the collar, {mm(placed.left_of_fold_mm, 1)} left and "
        f"{mm(placed.right_of_fold_mm, 1)} right of the fold line."
    )


def _shrink(plan: Plan, shrink: ShrinkSpec) -> ShrinkOut:
    def shrunk(item: DesignedItem) -> ShrunkOut:
        printed_at = Bar(*item.edge.size_mm)
        small = finished(shrink, printed_at)
        return ShrunkOut(
            number=item.number,
            name=item.as_asked.name,
            finished=size_mm(small.width_mm, small.height_mm, 1),
            printed=size_mm(printed_at.width_mm, printed_at.height_mm, 1),
        )

    return ShrinkOut(
        lines=[
            f"{shrink.x * 100:.1f} % of its width and {shrink.y * 100:.1f} % of its height are left; it gets "
            f"{thickness(shrink):.1f} times as thick.",
            f"Printed with {shrink.ink_share * 100:.0f} % of the ink, as the same ink gathers on less of an area; tune "
            "it with a swatch.",
        ],
        designs=[shrunk(item) for item in plan.items],
        holes=[PunchOut(hole=mm(hole), punch=mm(punch_mm(shrink, hole), 1)) for hole in _HOLES_MM],
    )


def _blank(spec: BlankSpec | None, heat: HeatSpec) -> BlankOut:
    if spec is None:
        return BlankOut(spec=None, per_plate=None, lines=[])
    count = per_plate(spec.width_mm, spec.height_mm, heat)
    covered = size_mm(*spec.covered_mm, 1)
    return BlankOut(
        spec=spec,
        per_plate=count,
        lines=[
            f"A print for it is at least {covered}.",
            f"{plural(count, 'blank')} lie on the plate at once."
            if count
            else "It is larger than the plate: press it in parts, or take a larger press.",
            "Fresh paper over and under, used paper never twice. The second side gets its own print; a pair bears the "
            "same small number outside the blank.",
        ],
    )


def _layer_words(plan: Plan, pressed: bool) -> list[str]:
    keyed = any(item.spec.keyed for item in plan.items)
    return [_KEYED[pressed] if keyed else _BY_EYE, _LAID[pressed]]


def _layers(plan: Plan, offcuts: Sequence[KeptOffcut]) -> list[LayerOut]:
    """Layers from the back: the largest lies undermost."""
    layers = [item for item in plan.items if item.spec.sheet_colour is not None]
    if len({item.spec.sheet_colour for item in layers}) < 2:
        return []
    layers.sort(key=lambda item: -item.edge.shape.area)

    def out(item: DesignedItem) -> LayerOut:
        wide, high = (math.ceil(side + 2 * _GRIP_MM) for side in item.edge.size_mm)
        scraps = scraps_for(offcuts, item.spec.sheet_colour, wide, high)[:_MOST_SCRAPS]
        return LayerOut(
            number=item.number,
            name=item.as_asked.name,
            colour=item.spec.sheet_colour or "",
            cut_off=size_mm(wide, high),
            scraps=[f"“{one.name}”, {size_mm(one.width_mm, one.height_mm, 0)} free" for one in scraps],
        )

    return [out(item) for item in layers]
