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
from typing import TypeVar

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.art.bent import Bend
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import Points, parts
from vamper.core.values.wrap import LEAST_AROUND_MM, Diameter, WrapSpec, too_short

Floats = npt.NDArray[np.float64]
Height = TypeVar("Height", float, Floats)

OVERLAP_MM = 3.0
FLAT_SAG_MM = 1.0
_SAME_MM = 1e-9


@dataclass(frozen=True, slots=True)
class RoundThing:
    """A thing that is wrapped: its diameters at the upper and lower rim, and the slant along its wall (None: a
    cylinder).
    """

    top_mm: Diameter
    bottom_mm: Diameter
    slant_mm: Diameter | None = None

    def __post_init__(self) -> None:
        if self.is_cylinder:
            return
        if self.slant_mm is None:
            raise BadInput("a taper needs its slant: the height measured along the wall", "slant")
        if short := too_short(self.top_mm, self.bottom_mm, self.slant_mm):
            raise BadInput(short, "slant")

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
        """The angle that the unrolled sheet spans, π·D/R."""
        return math.pi * max(self.top_mm, self.bottom_mm) / self.outer_radius_mm

    def radius_at(self, up_mm: Height) -> Height:
        """The radius on the unrolled sheet so far above the lower rim, along the wall."""
        return self.inner_radius_mm + up_mm if self.opens_upward else self.outer_radius_mm - up_mm

    def around_mm(self, up_mm: float) -> float:
        """The way round so far above the lower rim, along the wall."""
        if self.is_cylinder:
            return math.pi * self.top_mm
        return self.radius_at(up_mm) * self.angle_rad

    @property
    def upright_mm(self) -> float | None:
        """How high it stands, None where its wall was not measured."""
        if self.slant_mm is None:
            return None
        return math.sqrt(self.slant_mm**2 - ((self.top_mm - self.bottom_mm) / 2) ** 2)

    def unrolled(self, wall: Points) -> Points:
        """Places on the wall (turn in degrees, height along it) as they lie when it is laid flat, y down."""
        turn, up = np.radians(wall[:, 0]), wall[:, 1]
        if self.is_cylinder:
            return np.column_stack([turn * self.top_mm / 2, -up])
        sign = -1.0 if self.opens_upward else 1.0
        angle = turn * self.angle_rad / (2 * math.pi)
        radius = self.radius_at(up)
        return np.column_stack([radius * np.sin(angle), sign * radius * np.cos(angle)])


def diameter_of(around_mm: float) -> float:
    """The diameter of what a paper strip measures the way round of."""
    return around_mm / math.pi


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


def check_height(thing: RoundThing, height_mm: float, up_mm: float) -> None:
    """Refuse art that does not lie on the wall; of a cylinder whose height is not known there is nothing to refuse.

    Raises
    ------
    BadInput
        If it reaches past a rim.
    """
    if thing.slant_mm is not None and not height_mm / 2 <= up_mm <= thing.slant_mm - height_mm / 2:
        raise BadInput(
            f"art {height_mm:g} mm high with its middle {up_mm:g} mm up reaches past a rim; the wall is "
            f"{thing.slant_mm:g} mm",
            "up",
        )


def wrap(
    thing: RoundThing,
    width_mm: float,
    up_mm: float,
    overlap_mm: float = OVERLAP_MM,
    ink: Sequence[float] = (),
    handle_mm: float = 0.0,
) -> Wrap:
    """How art of this width goes round a thing, its middle `up_mm` above the lower rim along the wall.

    Parameters
    ----------
    overlap_mm : float
        How far its ends lie over each other where it goes all round; negative leaves a gap.
    ink : sequence of float
        How much is inked in each of its columns, from the left, to split it where it is emptiest.
    handle_mm : float
        What is kept free for a handle; nothing lies over each other then.

    Raises
    ------
    BadInput
        If the gap leaves nothing of the way round.
    """
    around = thing.around_mm(up_mm)
    if around + overlap_mm < LEAST_AROUND_MM:
        raise BadInput(f"a gap of {-overlap_mm:g} mm leaves nothing of the way round; make it smaller", "overlap")
    room = around - handle_mm if handle_mm else around + overlap_mm
    if room < LEAST_AROUND_MM:
        raise BadInput(f"a handle of {handle_mm:g} mm leaves nothing of the way round; make it smaller", "handle")
    pieces = split(width_mm, room, ink)
    if thing.is_cylinder:
        return Wrap(thing, around, 0.0, None, pieces)
    radius = thing.radius_at(up_mm)
    sag = radius - math.sqrt(max(0.0, radius**2 - width_mm**2 / 4))
    flat = 2 * math.sqrt(max(0.0, 2 * radius * FLAT_SAG_MM - FLAT_SAG_MM**2))
    return Wrap(thing, around, sag, flat, pieces)


def split(width_mm: float, most_mm: float, ink: Sequence[float], least: int = 1) -> tuple[Span, ...]:
    """The art in as few parts as fit, parted where it is emptiest near even parts. Where `least` asks for more parts
    than that, no part is narrower than half an even part.
    """
    count = max(least, math.ceil(width_mm / most_mm - 1e-9))
    seams = [0.0]
    column = width_mm / len(ink) if len(ink) else 0.0
    for number in range(1, count):
        even = width_mm * number / count
        left = count - number
        low, high = max(width_mm - left * most_mm, seams[-1]), min(seams[-1] + most_mm, width_mm)
        if least > 1:
            half = width_mm / count / 2
            low, high = max(low, seams[-1] + half), min(high, width_mm - left * half)
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


def half_way_mm(thing: RoundThing, height_mm: float) -> float:
    """Where the art's middle goes when nobody says: half way up the wall, or as it stands on the lower rim."""
    return thing.slant_mm / 2 if thing.slant_mm is not None else height_mm / 2


def bend_deg(thing: RoundThing, width_mm: float, up_mm: float) -> float:
    """How far art of this width turns about the tip of the cone; negative where the narrow rim is the upper rim."""
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
