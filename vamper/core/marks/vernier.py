"""The vernier sheet: how far cuts land from the print, read by eye to a tenth of a millimetre.

At four places near the corners stand two scales, one across and one down. Of each, one half is printed, its ticks
1.0 mm apart, and the other half is cut, its ticks 0.9 mm apart. Of all cut ticks one meets a printed tick best. If that
is the printed tick k, the cut lies off by k − 0.9 n, n being the cut tick's own number, which cannot be seen: possible
misses are 0.9 mm apart. Beside them stand a printed comb of whole millimetres and one cut line: where it lies, to half
a millimetre, says which of them it is; see `miss_of`.

In the middle is the check figure, a printed disc and a smaller one to be cut inside it: where the ring that is left is
narrow, there the cut went.
"""

import math
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
import shapely

from vamper.core.marks.calibrate import Axis, CalibrationFit, VernierReading
from vamper.core.values.calibration import landing
from vamper.core.values.drawing import Anchor, Drawing, Filled, Stroke, Words, line
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import Points, quarter_segments, ring_points
from vamper.core.values.lengths import mm
from vamper.core.values.paper import Paper

PRINTED_PITCH_MM = 1.0
CUT_PITCH_MM = 0.9
CUT_TICKS = 5
# The printed half is longer, so that a cut tick finds a neighbour however far off it is.
MOST_TICK = 8
MOST_COARSE_MM = 4
# An eye tells halves of a millimetre apart on the comb.
COARSE_MM = tuple(half / 2 for half in range(-2 * MOST_COARSE_MM, 2 * MOST_COARSE_MM + 1))
# Two misses that look alike on the scale are this far apart at most from where the comb says, with half its step.
_MOST_APART_MM = CUT_PITCH_MM / 2 + 0.25
_TICK_MM = 4.0
_COMB_MM = 6.0
_STROKE_MM = 0.12
_TEXT_MM = 1.6
_NUMBER_MM = 1.0
_DISC_MM, _CUT_DISC_MM = 14.0, 10.0
_DISC_POINTS_AN_ARC = 24
# What one block takes of the sheet, and how much of it stays free round it.
BLOCK_MM = 40.0
_CLEAR_MM = 3.0
# A narrow side is seen from this on, as a share of the ring's width either way.
SEEN_MM = 0.12


class NarrowSide(StrEnum):
    """Where the ring of the check figure is narrow."""

    EVEN = "even"
    RIGHT = "right"
    LOWER_RIGHT = "lower-right"
    BELOW = "below"
    LOWER_LEFT = "lower-left"
    LEFT = "left"
    UPPER_LEFT = "upper-left"
    ABOVE = "above"
    UPPER_RIGHT = "upper-right"


_ROUND = (
    NarrowSide.RIGHT,
    NarrowSide.LOWER_RIGHT,
    NarrowSide.BELOW,
    NarrowSide.LOWER_LEFT,
    NarrowSide.LEFT,
    NarrowSide.UPPER_LEFT,
    NarrowSide.ABOVE,
    NarrowSide.UPPER_RIGHT,
)


@dataclass(frozen=True, slots=True)
class VernierScale:
    """One scale of the sheet: the middle of its printed half, and the axis along which it reads."""

    number: int
    place: str
    x_mm: float
    y_mm: float
    axis: Axis


@dataclass(frozen=True, slots=True)
class VernierSheet:
    """The sheet that a cutter is calibrated by.

    Parameters
    ----------
    paper : Paper
        The sheet.
    scales : tuple of VernierScale
        Printed rulers that cut lines are read against.
    drawing : Drawing
        What is printed.
    lines : tuple of array, shape (n, 2)
        Open lines to cut, mm, sheet frame.
    disc : array, shape (n, 2)
        The rim of the check figure's disc, to be cut.
    check_mm : (float, float)
        The check figure's middle.
    """

    paper: Paper
    scales: tuple[VernierScale, ...]
    drawing: Drawing
    lines: tuple[Points, ...]
    disc: Points
    check_mm: tuple[float, float]


_PLACES = ("top left", "top right", "bottom left", "bottom right")


def vernier_sheet(paper: Paper, live: shapely.Polygon, title: str) -> VernierSheet:
    """The sheet for a paper, its blocks as near to the corners of the live area as they go.

    Raises
    ------
    BadInput
        If the area you can use is too small for four blocks and the check figure.
    """
    left, top, right, bottom = live.bounds
    half = BLOCK_MM / 2
    need = 2 * BLOCK_MM + _CLEAR_MM
    inner = shapely.box(left + half, top + half, right - half, bottom - half)
    centres = [(x, y) for y in (top + half, bottom - half) for x in (left + half, right - half)]
    blocks = [shapely.box(x - half, y - half, x + half, y + half) for x, y in centres]
    if min(right - left, bottom - top) < need or inner.is_empty or not all(live.covers(block) for block in blocks):
        centres = _moved_in(live, half)
    drawings, lines, scales = [], list[Points](), list[VernierScale]()
    fills: list[Filled] = []
    for number, ((x, y), place) in enumerate(zip(centres, _PLACES, strict=True)):
        for scale in (
            VernierScale(2 * number, place, x + 8.5, y - 10.0, "x"),
            VernierScale(2 * number + 1, place, x - 11.5, y + 7.0, "y"),
        ):
            scales.append(scale)
            strokes, words, cuts = _scale(scale)
            drawings.append((strokes, words))
            lines += cuts
    middle = ((left + right) / 2, (top + bottom) / 2)
    fills.append(Filled((_circle(middle, _DISC_MM), _circle(middle, 0.6))))
    name = Words(middle[0], middle[1] + _DISC_MM / 2 + 4, title, 2.2, Anchor.MIDDLE)
    hint = Words(
        middle[0],
        middle[1] + _DISC_MM / 2 + 7,
        "check figure: on which side is the ring narrow?",
        _TEXT_MM,
        Anchor.MIDDLE,
    )
    drawing = Drawing(
        paper,
        title,
        tuple(fills),
        tuple(stroke for strokes, _ in drawings for stroke in strokes),
        (*(word for _, words in drawings for word in words), name, hint),
    )
    return VernierSheet(paper, tuple(scales), drawing, tuple(lines), _circle(middle, _CUT_DISC_MM), middle)


def _moved_in(live: shapely.Polygon, half: float) -> list[tuple[float, float]]:
    """Block centres for a live area whose corners are notched: as far out along the diagonals as a block fits."""
    left, top, right, bottom = live.bounds
    cx, cy = (left + right) / 2, (top + bottom) / 2
    found = []
    for x, y in ((left, top), (right, top), (left, bottom), (right, bottom)):
        for share in np.linspace(1.0, 0.0, 60):
            px = cx + (x - cx) * share + math.copysign(half, cx - x)
            py = cy + (y - cy) * share + math.copysign(half, cy - y)
            clear = (px - cx) * (x - cx) > 0 and abs(px - cx) >= half and abs(py - cy) >= half + _DISC_MM / 2
            if clear and live.covers(shapely.box(px - half, py - half, px + half, py + half)):
                found.append((float(px), float(py)))
                break
    if len(found) < 4:
        raise BadInput(
            f"the area you can use is too small for a vernier sheet, which needs {mm(2 * BLOCK_MM + _CLEAR_MM)} each "
            "way; calibrate on a larger paper of the same thickness",
            "paper",
        )
    return found


def _scale(scale: VernierScale) -> tuple[list[Stroke], list[Words], list[Points]]:
    """The printed half of a scale with its numbers, and the cut half; the cut half lies right of or below it."""
    strokes, words, cuts = [], [], []

    def at(along: float, beside: float) -> tuple[float, float]:
        if scale.axis == "x":
            return scale.x_mm + along, scale.y_mm + beside
        return scale.x_mm + beside, scale.y_mm + along

    def ruled(along: float, first: float, last: float, width: float) -> Stroke:
        (x0, y0), (x1, y1) = at(along, first), at(along, last)
        return line(x0, y0, x1, y1, width)

    for tick in range(-MOST_TICK, MOST_TICK + 1):
        strokes.append(ruled(tick * PRINTED_PITCH_MM, -_TICK_MM, 0.0, _STROKE_MM))
        # Every other number stands a step farther out, so that they do not run into each other.
        x, y = at(tick * PRINTED_PITCH_MM, -_TICK_MM - 0.6 - _NUMBER_MM * 1.25 * (tick % 2))
        across = scale.axis == "x"
        words.append(
            Words(x, y + (0.0 if across else 0.4), f"{abs(tick)}", _NUMBER_MM, Anchor.MIDDLE if across else Anchor.END)
        )
        if abs(tick) <= CUT_TICKS:
            cuts.append(np.array([at(tick * CUT_PITCH_MM, 0.0), at(tick * CUT_PITCH_MM, _TICK_MM)]))
    for sign, text in ((-1, "−"), (1, "+")):
        x, y = at(sign * (MOST_TICK + 1.6), -_TICK_MM / 2)
        words.append(Words(x, y + 0.5, text, _TEXT_MM, Anchor.MIDDLE))
    # The comb of whole millimetres, beyond the cut half, and the one line to be cut across its end.
    comb = _TICK_MM + 2.0
    for tooth in range(-MOST_COARSE_MM, MOST_COARSE_MM + 1):
        strokes.append(ruled(tooth, comb, comb + (2.4 if tooth else 3.2), _STROKE_MM))
    cuts.append(np.array([at(0.0, comb + 1.6), at(0.0, comb + _COMB_MM)]))
    return strokes, words, cuts


def _circle(middle: tuple[float, float], diameter: float) -> Points:
    circle = shapely.Point(middle).buffer(
        diameter / 2, quad_segs=max(_DISC_POINTS_AN_ARC, quarter_segments(diameter / 2))
    )
    return ring_points(circle.exterior)


def miss_of(tick: int, coarse_mm: float) -> float:
    """The miss that a printed tick says which a cut one meets: of the possible misses, the nearest to the coarse
    reading.

    Raises
    ------
    BadInput
        If the scale has no such tick, or the comb no such place, or one of them is not where the other can be.
    """
    if not -MOST_TICK <= tick <= MOST_TICK:
        raise BadInput(f"the scale has ticks from −{MOST_TICK} to {MOST_TICK}; say which of them coincides", "tick")
    if not (math.isfinite(coarse_mm) and abs(coarse_mm) <= MOST_COARSE_MM):
        raise BadInput(
            f"the comb goes to {mm(MOST_COARSE_MM)} either way; a cut farther off needs its marks looked at first",
            "coarse_mm",
        )
    found = possible_miss(tick, coarse_mm)
    if found is None:
        raise BadInput(
            f"tick {tick} cannot meet a cut one while the line on the comb lies at {coarse_mm:g}: no cut tick is "
            "there; look at both once more",
            "tick",
        )
    return found


def possible_miss(tick: int, coarse_mm: float) -> float | None:
    """The miss of a tick and a place on the comb that are there; None where no cut tick can meet that printed tick."""
    met = round((tick * PRINTED_PITCH_MM - coarse_mm) / CUT_PITCH_MM)
    met = min(max(met, -CUT_TICKS), CUT_TICKS)
    found = round(tick * PRINTED_PITCH_MM - met * CUT_PITCH_MM, 6)
    return found if abs(found - coarse_mm) <= _MOST_APART_MM else None


def reading_of(sheet: VernierSheet, number: int, tick: int, coarse_mm: float) -> VernierReading:
    """One scale as it was read."""
    scale = next((one for one in sheet.scales if one.number == number), None)
    if scale is None:
        raise BadInput(f"the sheet has {len(sheet.scales)} scales, and this is none of them", "scale")
    return VernierReading(scale.x_mm, scale.y_mm, scale.axis, miss_of(tick, coarse_mm))


def narrow_side(miss: tuple[float, float]) -> NarrowSide:
    """Where the ring of the check figure is narrow if the cut there is off by so much."""
    length = math.hypot(*miss)
    if length < SEEN_MM:
        return NarrowSide.EVEN
    return _ROUND[round(math.degrees(math.atan2(miss[1], miss[0])) / 45) % 8]


def expected_side(sheet: VernierSheet, fit: CalibrationFit) -> NarrowSide:
    """The side of the check figure that should show on the same sheet, which was cut before anything was corrected."""
    middle = np.array([sheet.check_mm])
    off = landing(np.array(fit.map), middle)[0] - middle[0]
    return narrow_side((float(off[0]), float(off[1])))


def agree(expected: NarrowSide, seen: NarrowSide) -> bool:
    """Whether what is seen is what was to be expected: the same side or one beside it."""
    if NarrowSide.EVEN in (expected, seen):
        return expected is seen
    apart = abs(_ROUND.index(expected) - _ROUND.index(seen))
    return min(apart, 8 - apart) <= 1
