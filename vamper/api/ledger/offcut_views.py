"""An offcut as the screen shows it."""

import shapely
from shapely.geometry import Polygon

from vamper.api.ledger.schemas import OffcutOut
from vamper.core.values.geometry import as_multi, parts
from vamper.core.values.lengths import size_mm
from vamper.core.values.paper import Paper
from vamper.formats.svg_path import shape_path
from vamper.services.ledger.scraps import room_of
from vamper.services.ledger.supplies import KeptOffcut
from vamper.services.shop.shop import Shop


def offcut_out(kept: KeptOffcut, shop: Shop) -> OffcutOut:
    stocks, offcut = shop.stocks.all(), kept.offcut
    return OffcutOut(
        id=kept.id,
        name=offcut.name,
        stock=offcut.stock,
        stock_name=stocks[offcut.stock].name if offcut.stock in stocks else offcut.stock,
        kept_at=kept.kept_at,
        paper=offcut.paper,
        path=_gone_path(offcut.paper),
        room=_room_words(offcut.paper),
    )


def _gone_path(paper: Paper) -> str:
    gone = [shapely.make_valid(Polygon(ring)) for ring in paper.gone_rings]
    if (spent := paper.spent) is not None:
        right, bottom = spent.left_mm + spent.width_mm, spent.top_mm + spent.height_mm
        gone.append(shapely.box(spent.left_mm, spent.top_mm, right, bottom))
    return shape_path(as_multi(parts(shapely.union_all(gone))), 1) if gone else ""


def _room_words(paper: Paper) -> str:
    """The largest rectangle of it that is free, in words."""
    room = room_of(paper)
    return "nothing is left of it" if room is None else f"{size_mm(*room, 0)} in one piece"
