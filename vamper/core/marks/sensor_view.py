"""What the sensor sees of one mark: a small picture of it, and the trace across its stroke.

The face throws back L · R_stock and the ink L · R_ink, softened by the width of the sensor's spot. Noise is drawn from
a seed: the sensor's own is a grain, glare comes in patches. The trace holds the mean, the σ of the noise round it, and
one pass as it might come out; the mark is found where that falls under the threshold.
"""

from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from scipy import ndimage

from vamper.core.marks.mark import Mark
from vamper.core.marks.reading import Scene
from vamper.core.values.geometry import Points

Floats = npt.NDArray[np.float64]

_SIDE_PX = 112
_RIM_MM = 2.5
_MOST_MM = 18.0
_SPOT_MM = 0.12
_PATCH_MM = 0.7
_TRACE_MM = 7.0
_TRACE_POINTS = 141
# A white face under the lamp in a bright room is white in the picture.
_BRIGHT_ROOM = 1.0


@dataclass(frozen=True, slots=True)
class SensorView:
    """A mark as the sensor sees it: a picture, and the level along a line across it.

    Parameters
    ----------
    picture : array, shape (n, n)
        0 black to 1 white.
    left_mm, top_mm, side_mm : float
        The picture's top left corner on the sheet, and its side.
    from_mm, to_mm : (float, float)
        The line's ends on the sheet.
    at_mm : array, shape (m,)
        Places along the line.
    mean, one_pass : array, shape (m,)
        The mean level at each place and that of one noisy pass, in the light of the lamp in a bright room.
    sigma : float
        σ of the pass's noise.
    threshold : float
        The level under which the mark is found.
    """

    picture: Floats
    left_mm: float
    top_mm: float
    side_mm: float
    from_mm: tuple[float, float]
    to_mm: tuple[float, float]
    at_mm: Floats
    mean: Floats
    one_pass: Floats
    sigma: float
    threshold: float


def sensor_view(mark: Mark, scene: Scene, seed: int = 1) -> SensorView:
    """One mark as the sensor of a scene would see it."""
    box = mark.box_mm
    side = min(max(box.width_mm, box.height_mm) + 2 * _RIM_MM, _MOST_MM)
    large = max(box.width_mm, box.height_mm) + 2 * _RIM_MM > _MOST_MM
    left = box.x_mm - _RIM_MM if large else box.x_mm + box.width_mm / 2 - side / 2
    top = box.y_mm - _RIM_MM if large else box.y_mm + box.height_mm / 2 - side / 2
    mm_a_pixel = side / _SIDE_PX
    along = (np.arange(_SIDE_PX) + 0.5) * mm_a_pixel
    cover = _cover(mark.rings, left + along, top + along)
    cover = ndimage.gaussian_filter(cover, _SPOT_MM / mm_a_pixel)
    scale = 1.0 / (scene.sensor.lamp + max(_BRIGHT_ROOM, scene.room))
    random = np.random.default_rng(seed)
    level = scene.light * (scene.face * (1 - cover) + scene.ink * cover) + _noise(
        scene, cover.shape, mm_a_pixel, random
    )
    start, end = _across(mark)
    at = np.linspace(0.0, _TRACE_MM, _TRACE_POINTS)
    line = np.array(start) + (at / _TRACE_MM)[:, None] * (np.array(end) - start)
    covered = ndimage.gaussian_filter1d(_covered_at(mark.rings, line), _SPOT_MM / (at[1] - at[0]))
    mean = scene.light * (scene.face * (1 - covered) + scene.ink * covered)
    return SensorView(
        picture=np.clip(level * scale, 0.0, 1.0),
        left_mm=left,
        top_mm=top,
        side_mm=side,
        from_mm=start,
        to_mm=end,
        at_mm=at,
        mean=mean * scale,
        one_pass=(mean + random.normal(0.0, scene.noise, len(at))) * scale,
        sigma=scene.noise * scale,
        threshold=(scene.light * scene.face - scene.threshold) * scale,
    )


def _noise(scene: Scene, shape: tuple[int, ...], mm_a_pixel: float, random: np.random.Generator) -> Floats:
    """Grain, and patches of glare, both with the σ of the model."""
    grain = random.normal(0.0, scene.sensor.n0, shape)
    glare = scene.sensor.k * scene.gloss * scene.room
    if not glare:
        return grain
    patches = ndimage.gaussian_filter(random.normal(0.0, 1.0, shape), _PATCH_MM / mm_a_pixel)
    found: Floats = grain + patches / max(float(patches.std()), 1e-9) * glare
    return found


def _cover(rings: tuple[Points, ...], x: npt.NDArray[Any], y: npt.NDArray[Any]) -> Floats:
    """How much of each pixel is ink: four looks a pixel."""
    step = (x[1] - x[0]) / 4
    found = np.zeros((len(y), len(x)))
    for dx in (-step, step):
        for dy in (-step, step):
            across, down = np.meshgrid(x + dx, y + dy)
            found += _covered_at(rings, np.column_stack([across.ravel(), down.ravel()])).reshape(found.shape) / 4
    return found


def _covered_at(rings: tuple[Points, ...], points: Points) -> Floats:
    inside = np.zeros(len(points), dtype=bool)
    for ring in rings:
        shape = shapely.Polygon(ring)
        shapely.prepare(shape)
        inside ^= shapely.contains_xy(shape, points[:, 0], points[:, 1])
    return inside.astype(float)


def _across(mark: Mark) -> tuple[tuple[float, float], tuple[float, float]]:
    """A line across one stroke of the mark: down through the first horizontal one that a look from above meets."""
    box = mark.box_mm
    x = box.x_mm + min(box.width_mm * 0.7, _MOST_MM / 2)
    column = shapely.LineString([(x, box.y_mm - 1), (x, box.y_mm + box.height_mm + 1)])
    met = shapely.intersection(mark.shape, column)
    if met.is_empty:
        middle = box.y_mm
    else:
        _, top, _, bottom = min((part.bounds for part in shapely.get_parts(met)), key=lambda bounds: bounds[1])
        middle = (top + bottom) / 2
    return (x, middle - _TRACE_MM / 2), (x, middle + _TRACE_MM / 2)
