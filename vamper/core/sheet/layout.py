"""A layout: which piece lies where on which sheet, and what found no place."""

from dataclasses import dataclass
from enum import StrEnum

from shapely.geometry import MultiPolygon

from vamper.core.values.cut import Cut
from vamper.core.values.item import Turn
from vamper.core.values.placement import Sheet

THROUGH_GAP_MM = 3.0


class WhyNot(StrEnum):
    """Why a piece is not on a sheet."""

    TOO_BIG = "too big"
    NO_ROOM = "no room"
    NOT_IN_KIT = "not-in-kit"


@dataclass(frozen=True, slots=True)
class Piece:
    """An item as packing needs to know it.

    Parameters
    ----------
    item : int
        The design's number.
    edge : MultiPolygon
        mm, item frame.
    quantity : int
        How many are wanted.
    cut : Cut
        How it is cut.
    bleed_mm : float
        How far its ink reaches over the edge.
    turn : Turn or None
        How it may lie; None as the job says.
    fill_priority : int or None
        Whether further copies are wished for, 1 first.
    sheet_colour : str or None
        The colour of the sheets that it must lie on; None for any.
    """

    item: int
    edge: MultiPolygon
    quantity: int
    cut: Cut = Cut.KISS
    bleed_mm: float = 0.0
    turn: Turn | None = None
    fill_priority: int | None = None
    sheet_colour: str | None = None

    @property
    def area_mm2(self) -> float:
        return float(self.edge.area)


@dataclass(frozen=True, slots=True)
class Unplaced:
    item: int
    quantity: int
    reason: WhyNot


@dataclass(frozen=True, slots=True)
class Layout:
    """Sheets with their placements, what found no place, and whether the search ended by itself."""

    sheets: tuple[Sheet, ...]
    unplaced: tuple[Unplaced, ...]
    time_limited: bool

    @property
    def pieces(self) -> int:
        return sum(len(sheet) for sheet in self.sheets)


def gap_between(first: Piece, second: Piece, gap_mm: float) -> float:
    """The least distance two edges keep: a web beside a through cut must hold on the mat, and bleeds must not meet."""
    web = THROUGH_GAP_MM if Cut.THROUGH in (first.cut, second.cut) else 0.0
    return max(gap_mm, web, first.bleed_mm + second.bleed_mm)
