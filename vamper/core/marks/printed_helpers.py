"""Helpers to print, at true size: patches under the marks, the trim of a cover, and a guard while the sheet is sprayed.

Each is a drawing in the sheet's own frame, so that it can be laid on the sheet, printed, and looked at on the screen.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.marks.mark import Mark
from vamper.core.marks.sheet_marks import PATCH_RIM_MM, patch_sides
from vamper.core.values.drawing import Anchor, Drawing, Filled, Stroke, Words, line, outline, rectangle
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import Points
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import Paper
from vamper.core.values.units import MM_PER_INCH

_ARROW_MM = 6.0
_HAIR_MM = 1e-6
_GREY = "#8A8F98"


@dataclass(frozen=True, slots=True)
class HelperBox:
    """An upright rectangle on the sheet, mm."""

    left_mm: float
    top_mm: float
    right_mm: float
    bottom_mm: float

    @property
    def size_mm(self) -> tuple[float, float]:
        return self.right_mm - self.left_mm, self.bottom_mm - self.top_mm

    @property
    def points(self) -> Points:
        return rectangle(self.left_mm, self.top_mm, *self.size_mm)


@dataclass(frozen=True, slots=True)
class HelperScene:
    """The scene that helpers are drawn from: marks as printed, and the pieces of the sheet, as printed."""

    paper: Paper
    marks: tuple[Mark, ...]
    spec: MarksSpec
    printed: tuple[BaseGeometry, ...]


@dataclass(frozen=True, slots=True)
class Helper:
    """One helper: what it is for, and how it is drawn."""

    key: str
    name: str
    what: str
    draw: Callable[[HelperScene], Drawing]


def cover_trim(scene: HelperScene) -> HelperBox:
    """The largest rectangle that covers all print and stays clear of every mark.

    Raises
    ------
    BadInput
        If no rectangle covers all print without reaching a mark.
    """
    paper, clear = scene.paper, scene.spec.clear_mm
    zones = [_zone(mark, clear) for mark in scene.marks]
    if scene.printed:
        least = shapely.total_bounds(np.array(scene.printed, dtype=object)).tolist()
    else:
        left, top, right, bottom = _inside_all(paper, zones)
        x, y = (left + right) / 2, (top + bottom) / 2
        least = [x, y, x, y]
    best: HelperBox | None = None
    for order in ((0, 2, 1, 3), (1, 3, 0, 2)):
        box = _grown(list(least), order, zones, paper)
        if box is not None and (best is None or _area(box) > _area(best)):
            best = box
    if best is None:
        raise BadInput(
            "some print lies beside a mark, so no straight-edged cover goes over all of it and clear of the marks; "
            "take marks along the rim, or move those pieces",
            "marks",
        )
    return best


def _area(box: HelperBox) -> float:
    width, height = box.size_mm
    return width * height


def _zone(mark: Mark, clear: float) -> BaseGeometry:
    return shapely.buffer(mark.shape, clear, join_style="mitre")


def _inside_all(paper: Paper, zones: Sequence[BaseGeometry]) -> tuple[float, float, float, float]:
    """The rectangle between the marks."""
    cx, cy = paper.width_mm / 2, paper.height_mm / 2
    left, top, right, bottom = 0.0, 0.0, paper.width_mm, paper.height_mm
    for zone in zones:
        x0, y0, x1, y1 = zone.bounds
        if x1 <= cx:
            left = max(left, x1)
        if x0 >= cx:
            right = min(right, x0)
        if y1 <= cy:
            top = max(top, y1)
        if y0 >= cy:
            bottom = min(bottom, y0)
    return left, top, right, bottom


def _inner(sides: Sequence[float]) -> BaseGeometry:
    """The inside of a box, without its rim: a box that only touches is no obstacle."""
    left, top, right, bottom = sides
    return shapely.box(left + _HAIR_MM, top + _HAIR_MM, right - _HAIR_MM, bottom - _HAIR_MM)


def _grown(sides: list[float], order: Sequence[int], zones: Sequence[BaseGeometry], paper: Paper) -> HelperBox | None:
    """A box grown side by side as far as no mark's zone is reached; None where it reaches such a zone as it is."""
    if any(zone.intersects(_inner(sides)) for zone in zones):
        return None
    limits = (0.0, 0.0, paper.width_mm, paper.height_mm)
    for side in order:
        swept = list(sides)
        swept[side] = limits[side]
        met = [shapely.intersection(zone, _inner(swept)) for zone in zones]
        stops = [shape.bounds for shape in met if not shape.is_empty]
        if side in (0, 1):
            sides[side] = max([limits[side], *(bounds[side + 2] for bounds in stops)])
        else:
            sides[side] = min([limits[side], *(bounds[side - 2] for bounds in stops)])
    return HelperBox(*sides)


def _patches(scene: HelperScene, taped: bool) -> Drawing:
    """The marks alone, with a cut line round each, and an arrow to the paper's corner."""
    if not scene.marks:
        raise BadInput(
            "no marks are known here, so there is nothing to patch: choose marks, or measure those of your program",
            "marks",
        )
    paper, fills, strokes, words = scene.paper, list[Filled](), list[Stroke](), list[Words]()
    middle = paper.width_mm / 2, paper.height_mm / 2
    for mark in scene.marks:
        fills.append(Filled(mark.rings))
        box = mark.box_mm
        if box.width_mm > middle[0]:
            rim = max(scene.spec.clear_mm, PATCH_RIM_MM)
            around = (box.x_mm - rim, box.y_mm - rim, box.width_mm + 2 * rim, box.height_mm + 2 * rim)
            strokes.append(outline(rectangle(*around)))
            (left, top), (right_, bottom) = mark.rings[-1].min(axis=0) + rim, mark.rings[-1].max(axis=0) - rim
            strokes.append(outline(rectangle(left, top, right_ - left, bottom - top)))
            continue
        right, below = box.x_mm > middle[0], box.y_mm > middle[1]
        patch = patch_sides(mark, paper, scene.spec, taped)
        strokes.append(outline(rectangle(patch[0], patch[1], patch[2] - patch[0], patch[3] - patch[1])))
        corner = (paper.width_mm if right else 0.0, paper.height_mm if below else 0.0)
        strokes += _arrow((patch[0] if right else patch[2], patch[1] if below else patch[3]), corner)
        place = f"{'bottom' if below else 'top'} {'right' if right else 'left'}"
        x = (patch[0] if right else patch[2]) + (-3 if right else 3)
        y = (patch[1] - 14) if below else (patch[3] + 12)
        anchor = Anchor.END if right else Anchor.START
        words.append(Words(x, y, place, 3.0, anchor))
        if taped:
            words.append(Words(x, y + 4, "tape on the empty end, clear of the mark", 2.0, anchor, 0.0, _GREY))
    how = "on paper: cut out and tape on" if taped else "on white labels: cut out, peel and stick"
    words.append(Words(middle[0], middle[1], f"Patches for the marks, {how}", 3.5, Anchor.MIDDLE))
    words.append(
        Words(middle[0], middle[1] + 6, "print at 100 %; the arrow points to the sheet’s corner", 2.4, Anchor.MIDDLE)
    )
    return Drawing(paper, "Patch sheet", tuple(fills), tuple(strokes), tuple(words))


def _arrow(near: tuple[float, float], corner: tuple[float, float]) -> list[Stroke]:
    dx, dy = (1 if corner[0] > near[0] else -1), (1 if corner[1] > near[1] else -1)
    x, y = near[0] - dx * 2, near[1] - dy * 2
    tail = (x - dx * _ARROW_MM, y - dy * _ARROW_MM)
    return [
        line(*tail, x, y, 0.4),
        line(x, y, x - dx * 2.2, y, 0.4),
        line(x, y, x, y - dy * 2.2, 0.4),
    ]


def size_words(box: HelperBox) -> str:
    """A rectangle's size as it is typed, in both units."""
    width, height = box.size_mm
    return f"{width:.1f} × {height:.1f} mm, {width / MM_PER_INCH:.2f} × {height / MM_PER_INCH:.2f} in"


def _cover(scene: HelperScene) -> Drawing:
    box = cover_trim(scene)
    return _trim(scene, box, "Cover trim", f"Cut the cover to {size_words(box)}", True)


def _guard(scene: HelperScene) -> Drawing:
    box = cover_trim(scene)
    return _trim(scene, box, "Spray guard", f"Cut this window out of card: {size_words(box)}", False)


def _trim(scene: HelperScene, box: HelperBox, title: str, what: str, marks: bool) -> Drawing:
    paper, words = scene.paper, list[Words]()
    strokes = [outline(box.points, 0.35, dashed=not marks), outline(rectangle(0, 0, paper.width_mm, paper.height_mm))]
    x, y = (box.left_mm + box.right_mm) / 2, (box.top_mm + box.bottom_mm) / 2
    words.append(Words(x, y, what, 3.2, Anchor.MIDDLE))
    words.append(
        Words(
            x,
            y + 6,
            f"{box.left_mm:.1f} mm from the left, {box.top_mm:.1f} mm from the top of the sheet",
            2.4,
            Anchor.MIDDLE,
        )
    )
    rings = tuple(Filled(mark.rings, _GREY) for mark in scene.marks)
    return Drawing(paper, title, rings, tuple(strokes), tuple(words))


HELPERS: dict[str, Helper] = {
    one.key: one
    for one in (
        Helper(
            "label-patches",
            "Patches on labels",
            "White labels with the marks, stuck exactly over their places: for dark or shiny stock, one-offs.",
            lambda scene: _patches(scene, taped=False),
        ),
        Helper(
            "paper-patches",
            "Patches on paper",
            "White paper with the marks, taped on and used again through a run.",
            lambda scene: _patches(scene, taped=True),
        ),
        Helper(
            "cover-trim",
            "Cover trim",
            "How large a laminate or transfer film may be that covers all print and leaves every mark free.",
            _cover,
        ),
        Helper(
            "spray-guard",
            "Spray guard",
            "A card with a window, laid over the sheet while it is sprayed, so that no coat gets on the marks.",
            _guard,
        ),
    )
}


def helper_paths(drawing: Drawing) -> list[Points]:
    """The lines of a helper as rings to show on the sheet."""
    return [stroke.points for stroke in drawing.strokes if stroke.closed]
