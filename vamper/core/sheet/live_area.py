"""The live area: what the printer can print, the cutter can reach and the marks leave free, all at once.

Each of these is a `Bound`: a region with its reason. The live area is their common part, and a layout inside it is
always accepted later, because nothing else bounds it.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.devices import Cutter, Printer
from vamper.core.findings import BadInput
from vamper.core.geometry import clockwise_on_screen
from vamper.core.job import Paper

LEAST_SIDE_MM = 5.0


@dataclass(frozen=True, slots=True)
class Bound:
    """One limit of the sheet: `region` is what it leaves usable, mm in the sheet frame."""

    name: str
    reason: str
    region: Polygon


@dataclass(frozen=True, slots=True)
class LiveArea:
    """One ring without holes, and what bounds it."""

    shape: Polygon
    bounds: tuple[Bound, ...]

    @property
    def area_mm2(self) -> float:
        return float(self.shape.area)

    @property
    def size_mm(self) -> tuple[float, float]:
        left, top, right, bottom = self.shape.bounds
        return right - left, bottom - top


def _region(left: float, top: float, right: float, bottom: float) -> Polygon:
    """A rectangle, empty where the sides cross."""
    return shapely.box(left, top, right, bottom) if right > left and bottom > top else Polygon()


def printer_bound(paper: Paper, printer: Printer) -> Bound:
    m = printer.margins
    return Bound(
        "printer",
        f"the printer leaves {m.top_mm:g} mm blank at the top, {m.right_mm:g} at the right, "
        f"{m.bottom_mm:g} at the bottom and {m.left_mm:g} at the left",
        _region(m.left_mm, m.top_mm, paper.width_mm - m.right_mm, paper.height_mm - m.bottom_mm),
    )


def cutter_bound(paper: Paper, cutter: Cutter) -> Bound:
    width, height = min(cutter.reach_width_mm, paper.width_mm), min(cutter.reach_height_mm, paper.height_mm)
    return Bound(
        "cutter",
        f"the blade reaches {cutter.reach_width_mm:g} × {cutter.reach_height_mm:g} mm from the sheet's top left",
        _region(0, 0, width, height),
    )


def live_area(paper: Paper, bounds: Sequence[Bound]) -> LiveArea:
    """What all bounds leave of the paper.

    Raises
    ------
    BadInput
        If less than `LEAST_SIDE_MM` is left in width or height; names the bounds that take it away.
    """
    shape: BaseGeometry = _region(0, 0, paper.width_mm, paper.height_mm)
    for bound in bounds:
        shape = shapely.intersection(shape, bound.region)
    left, top, right, bottom = shape.bounds if not shape.is_empty else (0.0, 0.0, 0.0, 0.0)
    if min(right - left, bottom - top) < LEAST_SIDE_MM:
        reasons = "; ".join(bound.reason for bound in bounds)
        raise BadInput(
            f"nothing is left of the {paper.width_mm:g} × {paper.height_mm:g} mm sheet to print and cut on: {reasons}. "
            "Take a larger sheet or smaller marks",
            "paper",
        )
    assert isinstance(shape, Polygon)
    return LiveArea(clockwise_on_screen(shape), tuple(bounds))
