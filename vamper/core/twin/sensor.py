"""The simulated sensor: it looks for each mark where the plan says it should be, in the pixels that were printed.

It slides what a mark should look like over what it sees (a correlation with the mark's own cover) and takes the place
where both agree best. How dark that place is beside the stock, times the light, is the signal of craft/marks; whether
it is enough is drawn with the logistic chance of the model, so a sheet that was printed as planned is read as often as
the plan says, and a pale, missing, covered or shrunk mark less often. From the places found it fits the map from the
plan to the sheet; marks whose places do not agree with each other were no marks.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
from scipy.special import logit

from vamper.core.marks.mark import Mark
from vamper.core.marks.reading import Scene, scene_of
from vamper.core.marks.spots import spots_of
from vamper.core.plan import Plan
from vamper.core.twin.devices import TwinPrinter, TwinSensor
from vamper.core.twin.printer import PrintedRaster
from vamper.core.values.geometry import Points
from vamper.core.values.pixels import top_of, window_of

Floats = npt.NDArray[np.float64]
Pixels = npt.NDArray[Any]

_PX_A_MM = 5.0
_AGREE_MM = 1.0
_MOST_STRETCH = 0.05
_FINER = 4
_BLUR = 1.0
# How far from where a rough look finds it a place is looked for finely, pixels.
_NEAR = 4
# What lies over a covered mark shines like glass, and lets so much of the contrast through.
COVER_GLOSS, _COVER_LETS = 1.0, 0.35


@dataclass(frozen=True)
class SoughtMark:
    """One thing that is looked for: the mark it is of, its middle, and how much ink each pixel round that has."""

    mark: int
    x_mm: float
    y_mm: float
    half_mm: float
    cover: npt.NDArray[np.float32]

    @cached_property
    def sought(self) -> npt.NDArray[np.float32]:
        """The kernel that is slid over the picture; it sums up to nothing, and agrees with full black by 1.

        A soft picture has one round top, so its place between pixels is told well.
        """
        soft = cv2.GaussianBlur(self.cover, (0, 0), _BLUR)
        even = soft - soft.mean()
        return np.asarray(even / max(float((even * self.cover).sum()), 1e-6), dtype=np.float32)

    @cached_property
    def sketch(self) -> npt.NDArray[np.float32]:
        """`sought` with half as many pixels each way."""
        return np.asarray(_halved(self.sought), np.float32)

    @cached_property
    def core(self) -> npt.NDArray[np.bool_]:
        """Well inside the ink: what is as dark as the ink is, however finely one looks."""
        inside = cv2.erode((self.cover > 0.99).astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
        return inside if inside.any() else np.asarray(self.cover >= self.cover.max() * 0.95)


@dataclass(frozen=True, slots=True)
class SightedMark:
    """The features found where a mark was looked for, run by run: `places` (runs, features, 2), mm on the sheet, and
    how `dark` (runs, features) each was beside full black.
    """

    features: tuple[SoughtMark, ...]
    places: Floats
    dark: Floats


@dataclass(frozen=True, slots=True)
class Sightings:
    """The result of all sighted marks, run by run: whether the marks were `read`, and the `maps` (runs, 2, 3) from plan
    to sheet, without the error of reading.
    """

    read: npt.NDArray[np.bool_]
    maps: Floats


def sought_marks(marks: Sequence[Mark]) -> list[SoughtMark]:
    """The features to look for, mark by mark."""
    found = []
    for number, mark in enumerate(marks):
        box = mark.box_mm
        spots = spots_of((box.x_mm, box.y_mm, box.x_mm + box.width_mm, box.y_mm + box.height_mm))
        found += [
            SoughtMark(number, one.x_mm, one.y_mm, one.half_mm, _cover(mark, one.x_mm, one.y_mm, one.half_mm))
            for one in spots
        ]
    return found


def _cover(mark: Mark, x: float, y: float, half: float) -> npt.NDArray[np.float32]:
    fine = window_of(mark.shape, x, y, half, _PX_A_MM * _FINER)
    side = fine.shape[0] // _FINER
    return np.asarray(cv2.resize(fine, (side, side), interpolation=cv2.INTER_AREA), dtype=np.float32)


def look(
    marks: Sequence[Mark],
    page: PrintedRaster,
    maps: Floats,
    search_mm: float,
    on_run: Callable[[], None] = lambda: None,
) -> SightedMark:
    """Look for marks in each printing.

    Parameters
    ----------
    page : Page
        What was printed, with its ink as it came out.
    maps : array (runs, 2, 3)
        Where the page came to lie.
    search_mm : float
        How far from where it should be a mark is looked for.
    on_run : callable
        Called before each run, as this takes a while; it may raise to end it.
    """
    runs, features = len(maps), tuple(sought_marks(marks))
    found, dark = np.zeros((runs, len(features), 2)), np.zeros((runs, len(features)))
    darkness = page.darkness
    back = _inverse(maps)
    for run in range(runs):
        on_run()
        off = np.zeros(2)
        for place, one in enumerate(features):
            found[run, place], dark[run, place] = _find(darkness, page.px_a_mm, back[run], one, off, search_mm)
            # What was seen of the first mark says where to look for the next.
            if place == 0:
                off = found[run, 0] - (one.x_mm, one.y_mm)
    return SightedMark(features, found, dark)


def read(
    plan: Plan, found: SightedMark, printer: TwinPrinter, sensor: TwinSensor, luck: Floats, edges: Floats
) -> Sightings:
    """The sightings that a sensor makes of the features that it found.

    Parameters
    ----------
    luck, edges : array (runs, marks)
        Drawn from 0..1: one for the noise, one for the paper's edge.
    """
    scene = seen_scene(plan, printer, sensor)
    of_mark = np.array([one.mark for one in found.features])
    # A program looks at one frame on each of its sides.
    marks = int(of_mark.max()) + 1
    each = np.stack([found.dark[:, of_mark == number % marks].min(axis=1) for number in range(luck.shape[1])], axis=1)
    seen = _told(scene, each, luck, sensor.covered, _moved_by_runs(plan, luck.shape[1])) & (edges < scene.edge_missed)
    fitted, agree = _fit(np.array([(one.x_mm, one.y_mm) for one in found.features]), found.places)
    return Sightings(seen.all(axis=1) & agree, fitted)


def seen_scene(plan: Plan, printer: TwinPrinter, sensor: TwinSensor) -> Scene:
    """The scene before a simulated sensor: the job's stock and marks under the light that there really is."""
    job = plan.job
    there = replace(
        job,
        printer=replace(job.printer, black=printer.black),
        cutter=replace(job.cutter, sensor=sensor.sensor),
        room_light=sensor.room,
        marks=replace(job.marks, remedies=(*job.marks.remedies, *sensor.remedies)),
    )
    return scene_of(there)


def _moved_by_runs(plan: Plan, looks: int) -> float:
    """How much easier each look is than the model alone reckons, in its logit, so that all of them together succeed as
    often as the machine's own runs say.
    """
    reading = plan.reading
    if reading is None or not reading.offsets.all_runs or not 0 < reading.chance < 1:
        return 0.0
    one, alone = reading.chance ** (1 / looks), reading.marks[0]
    return float(logit(one) - logit(min(max(alone, 1e-9), 1 - 1e-9)))


def _told(scene: Scene, dark: Floats, luck: Floats, covered: int, easier: float) -> npt.NDArray[np.bool_]:
    """Whether each mark is told from the noise: S/N beyond t by a logistic draw."""
    signal = scene.signal * dark
    noise = np.full(dark.shape[1], scene.noise)
    if covered:
        noise[-covered:] = replace(scene, gloss=COVER_GLOSS).noise
        signal[:, -covered:] *= _COVER_LETS
    safe = np.clip(luck, 1e-12, 1 - 1e-12)
    return np.asarray(signal / noise - scene.sensor.t + easier > np.log(safe / (1 - safe)))


def _inverse(maps: Floats) -> Floats:
    linear = np.linalg.inv(maps[..., :2])
    return np.concatenate([linear, -(linear @ maps[..., 2:])], axis=-1)


def _find(
    dark: npt.NDArray[np.float32],
    px_a_mm: float,
    back: Floats,
    one: SoughtMark,
    off: Floats,
    search_mm: float,
) -> tuple[Floats, float]:
    """Where a feature is seen, mm on the sheet, and how dark it is beside full black."""
    side = one.cover.shape[0]
    reach = round(search_mm * _PX_A_MM)
    size = side + 2 * reach
    left = one.x_mm + off[0] - one.half_mm - reach / _PX_A_MM
    top = one.y_mm + off[1] - one.half_mm - reach / _PX_A_MM
    # From pixels of the window to those of the page; a pixel's middle is half a pixel from its corner.
    linear = back[:, :2] * px_a_mm / _PX_A_MM
    start = (back[:, :2] @ (left + 0.5 / _PX_A_MM, top + 0.5 / _PX_A_MM) + back[:, 2]) * px_a_mm - 0.5
    window = cv2.warpAffine(
        dark,
        np.column_stack([linear, start]),
        (size, size),
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_CONSTANT,
        borderValue=0,
    )
    x, y = _where(window, one)
    at = np.array([left + x / _PX_A_MM + one.half_mm, top + y / _PX_A_MM + one.half_mm])
    row, column = round(y), round(x)
    return at, float(window[row : row + side, column : column + side][one.core].mean())


def _where(window: Pixels, one: SoughtMark) -> tuple[float, float]:
    """Column and row of the corner where a feature agrees best, between pixels: roughly first, then near there."""
    rough = cv2.matchTemplate(_halved(window), one.sketch, cv2.TM_CCORR)
    row, column = (2 * int(place) for place in np.unravel_index(int(rough.argmax()), rough.shape))
    side, most = one.cover.shape[0], window.shape[0] - one.cover.shape[0]
    x0, y0 = (min(max(0, place - _NEAR), max(0, most - 2 * _NEAR)) for place in (column, row))
    near = window[y0 : y0 + side + 2 * _NEAR, x0 : x0 + side + 2 * _NEAR]
    x, y, _ = top_of(cv2.matchTemplate(near, one.sought, cv2.TM_CCORR))
    return x0 + x, y0 + y


def _halved(picture: Pixels) -> Pixels:
    height, width = picture.shape
    return cv2.resize(picture, ((width + 1) // 2, (height + 1) // 2), interpolation=cv2.INTER_AREA)


def _fit(meant: Points, found: Floats) -> tuple[Floats, npt.NDArray[np.bool_]]:
    """The maps that take the places meant to those found (runs, n, 2), and whether all places agree with theirs."""
    ones = np.column_stack([meant, np.ones(len(meant))])
    solved = np.linalg.pinv(ones) @ found
    maps = np.swapaxes(solved, -1, -2)
    left = np.abs(ones @ solved - found).max(axis=(1, 2))
    sizes = np.linalg.norm(maps[..., :2], axis=1)
    return maps, (left <= _AGREE_MM) & (np.abs(sizes - 1).max(axis=1) <= _MOST_STRETCH)
