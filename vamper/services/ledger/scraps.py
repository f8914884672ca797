"""What is left of earlier sheets and large enough for a layer of its own: the tightest first."""

from collections.abc import Iterable
from dataclasses import dataclass

from vamper.core.sheet.live_area import live_area, spent_bound
from vamper.core.values.findings import BadInput
from vamper.core.values.paper import Paper
from vamper.services.ledger.supplies import KeptOffcut


@dataclass(frozen=True, slots=True)
class Scrap:
    """A kept offcut with the largest rectangle of it that is free, mm."""

    id: int
    name: str
    width_mm: float
    height_mm: float


def room_of(paper: Paper) -> tuple[float, float] | None:
    """Width and height of the largest rectangle that is free on a paper, mm; None where nothing is left."""
    bound = spent_bound(paper)
    try:
        return live_area(paper, [] if bound is None else [bound]).room_mm
    except BadInput:
        return None


def scraps_for(
    offcuts: Iterable[KeptOffcut], colour: str | None, width_mm: float, height_mm: float
) -> tuple[Scrap, ...]:
    """Offcuts of one stock that hold a piece, turned if need be; one of another colour is none, one whose colour nobody
    noted may be.
    """
    found = list[Scrap]()
    for kept in offcuts:
        room = room_of(kept.offcut.paper)
        if room is None or kept.offcut.colour not in (None, colour):
            continue
        if min(room) >= min(width_mm, height_mm) and max(room) >= max(width_mm, height_mm):
            found.append(Scrap(kept.id, kept.offcut.name, *room))
    return tuple(sorted(found, key=lambda one: (one.width_mm * one.height_mm, one.id)))
