"""From readings of a vernier sheet to the map from print to cut.

Each reading says by how much a cut misses the print at one place along one axis. The misses of an axis are a plane over
the sheet, dx = (a − 1)·x + b·y + c, fitted by least squares; both axes together are the affine map. Its first columns
turned into words: either axis' turn and stretch, their difference is the shear. What lies farthest from what all other
readings foretell (its residual over 1 − its leverage) is most likely a misread tick. Four readings an axis foretell
each other equally well; of several, it is the reading without which the sheet is left most as it is.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
import numpy.typing as npt
from annotated_types import Ge, Le, Len

from vamper.core.values.calibration import AffineMap, landing, turns_deg
from vamper.core.values.findings import BadInput
from vamper.core.values.limits import STRICT

Axis = Literal["x", "y"]
Floats = npt.NDArray[np.float64]

MOST_MISS_MM = 30.0
_UNKNOWNS = 3
# The thinnest spread of an axis' places beside its longest that still fixes a plane.
_LEAST_SPREAD = 1e-3
_LEAST_SPREAD_MM = 5.0
_NO_FREEDOM = 1e-9
# From this share of the largest on, readings are equally far off.
_ALIKE = 0.999
# σ of a reading to the nearest tenth of a millimetre by eye (0.03 for the eye, 0.1/√12 for the tenth), and how many
# readings' worth of knowledge that is (the mean of an inverse-χ² belief about the variance).
_EYE_MM, _EYE_WEIGHS = 0.042, 4
_AXES: tuple[Axis, Axis] = ("x", "y")


@dataclass(frozen=True, slots=True)
class VernierReading:
    """`miss_mm` is where the cut lies from the print at (x, y); right and down are positive."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    x_mm: Annotated[float, Ge(-3000), Le(3000)]
    y_mm: Annotated[float, Ge(-3000), Le(3000)]
    axis: Axis
    miss_mm: Annotated[float, Ge(-MOST_MISS_MM), Le(MOST_MISS_MM)]


@dataclass(frozen=True, slots=True)
class VernierReadings:
    """The readings of a sheet's vernier scales."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    readings: Annotated[tuple[VernierReading, ...], Len(1, 1000)]


@dataclass(frozen=True, slots=True)
class WorstResidual:
    """The reading (its place in the list) farthest from what the others foretell, and by how much."""

    reading: int
    by_mm: float


@dataclass(frozen=True, slots=True)
class CalibrationFit:
    """How a cutter's frame lies on the print, fitted to readings.

    Parameters
    ----------
    map : AffineMap
        From where a cut is asked for to where it lands.
    offset_mm : (float, float)
        Right and down.
    turn_deg : float
        Clockwise on screen.
    stretch : (float, float)
        Along x and y, 1 where there is none.
    shear_deg : float
        How far x and y are from square.
    residual_mm : float or None
        Root mean square of what is left; None where no reading is left over to check the others.
    left_mm : float
        σ an axis to reckon with: few readings agree by luck, so it is drawn towards how well an eye reads.
    worst : WorstResidual or None
        The reading that fits worst.
    """

    map: AffineMap
    offset_mm: tuple[float, float]
    turn_deg: float
    stretch: tuple[float, float]
    shear_deg: float
    residual_mm: float | None
    left_mm: float
    worst: WorstResidual | None


def fit(readings: Sequence[VernierReading]) -> CalibrationFit:
    """The map that explains the readings best.

    Raises
    ------
    BadInput
        If an axis has fewer than three readings, or all of them lie on one line.
    """
    rows, suspects = [], list[_Suspect]()
    squares, freedom = 0.0, 0
    for number, axis in enumerate(_AXES):
        mine = [(place, one) for place, one in enumerate(readings) if one.axis == axis]
        where = np.array([(one.x_mm, one.y_mm) for _, one in mine]).reshape(-1, 2)
        _check(where, axis)
        miss = np.array([one.miss_mm for _, one in mine])
        middle = where.mean(axis=0)
        design = np.column_stack([where - middle, np.ones(len(where))])
        plane, *_ = np.linalg.lstsq(design, miss, rcond=None)
        left = miss - design @ plane
        leverage = np.einsum("ij,ji->i", design, np.linalg.pinv(design))
        free = 1 - leverage
        suspects += [
            _Suspect(place, abs(float(left[at] / free[at])), _slope_without(design, miss, at))
            for at, (place, _) in enumerate(mine)
            if free[at] > _NO_FREEDOM and len(mine) > _UNKNOWNS
        ]
        squares += float((left**2).sum())
        freedom += len(mine) - _UNKNOWNS
        slope, constant = plane[:2], float(plane[2] - plane[:2] @ middle)
        row = [float(slope[0]), float(slope[1]), constant]
        row[number] += 1.0
        rows.append(row)
    matrix = np.array(rows)
    middle = np.array([(one.x_mm, one.y_mm) for one in readings]).mean(axis=0)
    offset = landing(matrix, middle[None])[0] - middle
    across, down = turns_deg(matrix)
    return CalibrationFit(
        map=((rows[0][0], rows[0][1], rows[0][2]), (rows[1][0], rows[1][1], rows[1][2])),
        offset_mm=(float(offset[0]), float(offset[1])),
        turn_deg=(across + down) / 2,
        stretch=(math.hypot(matrix[0, 0], matrix[1, 0]), math.hypot(matrix[0, 1], matrix[1, 1])),
        shear_deg=across - down,
        residual_mm=math.sqrt(squares / freedom) if freedom else None,
        left_mm=math.sqrt((squares + _EYE_WEIGHS * _EYE_MM**2) / (freedom + _EYE_WEIGHS)),
        worst=_worst(suspects),
    )


@dataclass(frozen=True, slots=True)
class _Suspect:
    """A reading, how far it lies from what the others of its axis foretell, and how much these tilt their plane."""

    reading: int
    by_mm: float
    slope_without: float


def _slope_without(design: Floats, miss: Floats, at: int) -> float:
    plane, *_ = np.linalg.lstsq(np.delete(design, at, axis=0), np.delete(miss, at), rcond=None)
    return float(np.hypot(*plane[:2]))


def _worst(suspects: Sequence[_Suspect]) -> WorstResidual | None:
    most = max((one.by_mm for one in suspects), default=0.0)
    if most == 0.0:
        return None
    likely = [one for one in suspects if one.by_mm >= most * _ALIKE]
    found = min(likely, key=lambda one: one.slope_without)
    return WorstResidual(found.reading, found.by_mm)


def _check(where: Floats, axis: Axis) -> None:
    if len(where) < _UNKNOWNS:
        raise BadInput(
            f"axis {axis} has {len(where)} readings, and at least three are needed, not on one line; read more places",
            "readings",
        )
    spread = np.linalg.svd(where - where.mean(axis=0), compute_uv=False)
    if spread[1] < max(_LEAST_SPREAD * spread[0], 0.1) or spread[0] < _LEAST_SPREAD_MM:
        raise BadInput(
            f"the readings of axis {axis} lie on one line, so turn and stretch cannot be told; read a place beside it",
            "readings",
        )
