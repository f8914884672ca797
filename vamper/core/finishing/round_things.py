"""Round things: how far art reaches round a cylinder or a tapering cup, and how it is bent to stand straight there.

A cup that tapers is a piece of a cone; unrolled it is an annular sector. With the greater and the smaller diameter
D > d and the slant s along the wall, R = s·D/(D − d), r = R − s, and the sector spans π·D/R radians. A point of the
flat art, u mm from its middle and v mm above the cup's lower rim along the wall, lies on the circle about the cone's
tip whose radius is measured along the wall; it is turned by u over the radius at the art's middle, so that widths hold
there. A straight line of width w lies off the circle through its ends by ρ − √(ρ² − w²/4), ρ the radius at its middle.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Any, ClassVar

import numpy as np
import numpy.typing as npt
import shapely
from annotated_types import Gt, Le
from shapely.geometry.base import BaseGeometry

from vamper.core.art.bent import Bend
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import WrapSpec
from vamper.core.values.geometry import parts
from vamper.core.values.limits import STRICT

Floats = npt.NDArray[np.float64]
Diameter = Annotated[float, Gt(0), Le(2000)]

OVERLAP_MM, RIM_MM = 3.0, 20.0
FLAT_SAG_MM = 1.0
_SAME_MM = 1e-9


@dataclass(frozen=True, slots=True)
class RoundThing:
    """What is wrapped: its diameters at the upper and lower rim, and the slant along its wall (None: a cylinder)."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    top_mm: Diameter
    bottom_mm: Diameter
    slant_mm: Annotated[float, Gt(0), Le(2000)] | None = None

    def __post_init__(self) -> None:
        if self.is_cylinder:
            return
        if self.slant_mm is None:
            raise BadInput("a taper needs its slant: the height measured along the wall", "slant")
        if self.slant_mm <= abs(self.top_mm - self.bottom_mm) / 2:
            raise BadInput(
                f"a slant of {self.slant_mm:g} mm is too short for these diameters: it must be more than half their "
                f"difference, {abs(self.top_mm - self.bottom_mm) / 2:g} mm; measure it along the wall",
                "slant",
            )

    @property
    def is_cylinder(self) -> bool:
        return abs(self.top_mm - self.bottom_mm) < _SAME_MM

    @property
    def opens_upward(self) -> bool:
        return self.top_mm >= self.bottom_mm

    @property
    def outer_radius_mm(self) -> float:
        """Of the sheet it unrolls to, R = s·D/(D − d)."""
        assert self.slant_mm is not None
        wide, narrow = max(self.top_mm, self.bottom_mm), min(self.top_mm, self.bottom_mm)
        return self.slant_mm * wide / (wide - narrow)

    @property
    def inner_radius_mm(self) -> float:
        assert self.slant_mm is not None
        return self.outer_radius_mm - self.slant_mm

    @property
    def angle_rad(self) -> float:
        """What the unrolled sheet spans, π·D/R."""
        return math.pi * max(self.top_mm, self.bottom_mm) / self.outer_radius_mm

    def radius_at(self, up_mm: float) -> float:
        """The radius on the unrolled sheet so far above the lower rim, along the wall."""
        return self.inner_radius_mm + up_mm if self.opens_upward else self.outer_radius_mm - up_mm

    def around_mm(self, up_mm: float) -> float:
        """The way round so far above the lower rim, along the wall."""
        if self.is_cylinder:
            return math.pi * self.top_mm
        return self.radius_at(up_mm) * self.angle_rad


def from_around(top_mm: float, bottom_mm: float, slant_mm: float | None) -> RoundThing:
    """The same from the ways round that a paper strip measures."""
    return RoundThing(top_mm / math.pi, bottom_mm / math.pi, slant_mm)


@dataclass(frozen=True, slots=True)
class Span:
    """A part of the art, from its left, mm."""

    from_mm: float
    to_mm: float


@dataclass(frozen=True, slots=True)
class Wrap:
    """How art goes round. `sag_mm` is that of a straight line as wide as the art, at its middle; `flat_width_most_mm`
    the largest width that sags by no more than a millimetre (0 and None on a cylinder, where nothing sags).
    """

    thing: RoundThing
    around_mm: float
    sag_mm: float
    flat_width_most_mm: float | None
    pieces: tuple[Span, ...]

    @property
    def is_split(self) -> bool:
        return len(self.pieces) > 1


def wrap(
    thing: RoundThing,
    width_mm: float,
    height_mm: float,
    up_mm: float | None = None,
    overlap_mm: float = OVERLAP_MM,
    ink: Sequence[float] = (),
) -> Wrap:
    """How art of this size goes round a thing, its middle `up_mm` above the lower rim (else half way).

    Parameters
    ----------
    overlap_mm : float
        How far its ends lie over each other where it goes all round; negative leaves a gap.
    ink : sequence of float
        How much is inked in each of its columns, from the left, to split it where it is emptiest.

    Raises
    ------
    BadInput
        If it reaches past a rim.
    """
    if not thing.is_cylinder and thing.slant_mm is not None:
        up = thing.slant_mm / 2 if up_mm is None else up_mm
        if up - height_mm / 2 < 0 or up + height_mm / 2 > thing.slant_mm:
            raise BadInput(
                f"art {height_mm:g} mm high with its middle {up:g} mm up reaches past a rim; the wall is "
                f"{thing.slant_mm:g} mm",
                "up",
            )
    else:
        up = up_mm if up_mm is not None else height_mm / 2
    around = thing.around_mm(up)
    pieces = _split(width_mm, around + overlap_mm, ink)
    if thing.is_cylinder:
        return Wrap(thing, around, 0.0, None, pieces)
    radius = thing.radius_at(up)
    sag = radius - math.sqrt(max(0.0, radius**2 - width_mm**2 / 4))
    flat = 2 * math.sqrt(max(0.0, 2 * radius * FLAT_SAG_MM - FLAT_SAG_MM**2))
    return Wrap(thing, around, sag, flat, pieces)


def _split(width_mm: float, most_mm: float, ink: Sequence[float]) -> tuple[Span, ...]:
    """The art in as few parts as fit round, parted where it is emptiest near even parts."""
    count = max(1, math.ceil(width_mm / max(most_mm, 1e-9) - 1e-9))
    seams = [0.0]
    column = width_mm / len(ink) if len(ink) else 0.0
    for number in range(1, count):
        even = width_mm * number / count
        left = count - number
        low, high = max(width_mm - left * most_mm, seams[-1]), min(seams[-1] + most_mm, width_mm)
        best = even
        if column:
            middles = (np.arange(len(ink)) + 0.5) * column
            inside = (middles >= low) & (middles <= high)
            if inside.any():
                # Emptiest first, then nearest to even parts.
                order = np.lexsort((np.abs(middles - even), np.where(inside, np.asarray(ink), np.inf)))
                best = float(middles[order[0]])
        seams.append(min(max(best, low), high))
    seams.append(width_mm)
    return tuple(Span(a, b) for a, b in pairwise(seams))


def bend_on(thing: RoundThing, middle: tuple[float, float], up_mm: float) -> Bend:
    """The bend of art whose middle comes to lie `up_mm` above the lower rim."""
    return Bend(middle, thing.radius_at(up_mm), thing.opens_upward)


def bend_deg(thing: RoundThing, width_mm: float, up_mm: float) -> float:
    """How far art of this width turns about the tip of the cone; negative where the narrow rim is the upper one."""
    turned = math.degrees(width_mm / thing.radius_at(up_mm))
    return turned if thing.opens_upward else -turned


def bent_edge(outline: BaseGeometry, distance_mm: float, bend: Bend) -> BaseGeometry:
    """The edge of bent art: its outline grown, without holes, bent."""
    grown = outline.buffer(distance_mm, quad_segs=32) if distance_mm else outline
    return bend.shape(shapely.union_all([shapely.Polygon(part.exterior) for part in parts(grown)]))


def thing_of(spec: WrapSpec) -> RoundThing:
    """The cup or bottle a design goes round."""
    return RoundThing(spec.top_mm, spec.bottom_mm, spec.slant_mm)


def middle_up_mm(spec: WrapSpec) -> float:
    """How far the art's middle lies above the lower rim, along the wall."""
    return spec.slant_mm / 2 if spec.up_mm is None else spec.up_mm
