"""A drawing taken apart into its flat colours, for stock that is coloured itself: one layer, and one sheet, a colour.

A flat colour is one that many inked pixels have exactly; every other pixel (the soft rims between two of them) goes to
the flat colour that looks nearest. Each layer is then outlined on its own. Two keys, hooks of the same size at the same
places, are put on the layers that need them: laid on each other they bring the layers into register. They sit where no
colour is drawn, inside its box or beside it, where the boxes of these layers grow least. A key is never round, so that
it cannot turn. The last layer needs none, nor one that fits between those that lie already; and where only one is left
that needs them, there is nothing to lay on each other.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
import numpy.typing as npt
import shapely
from scipy import ndimage
from shapely.geometry import MultiPolygon, Polygon

from vamper.core.art.outline import outline_at, trace
from vamper.core.art.picture import Picture
from vamper.core.values.art import SizeSpec
from vamper.core.values.colour import lab_of
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import Points, as_multi, opening, parts

KEY_MM = 6.0
_KEY_GAP_MM = 2.0
_TIP_MM = 0.6
# A hook has no symmetry, so that a layer laid upside down shows it; in shares of its size about its middle.
_HOOK = ((-0.3, -0.4), (-0.05, -0.4), (-0.05, 0.15), (0.45, 0.15), (0.3, 0.4), (-0.3, 0.4))
# Places that are tried along each side.
_KEY_PLACES = 7
_LEAST_SHARE = 0.01
_MOST_COLOURS = 10
_LOOK_PX = 400
# A rim that runs along what lies already over this share of its length, as near as this, is a place that is plain.
_PLAIN_SHARE, _ALONG_MM = 0.9, 0.4
# Colours that look as near as this are one: the same ink, drawn twice.
_SAME_DE = 6.0
# A picture has shades where more than this share of it differs by so much from its middle colour.
_OTHER_DE, _OTHER_SHARE = 20.0, 0.15


@dataclass(frozen=True, slots=True)
class Layer:
    """One colour (#RRGGBB) and where it is, with its keys where it is `keyed`; mm, the whole drawing's frame."""

    colour: str
    shape: MultiPolygon
    keyed: bool = True


def flat_colours(picture: Picture) -> list[str]:
    """The flat colours of a drawing, the most used first; empty where it has shades rather than colours."""
    rgba = (
        picture.thinned(_LOOK_PX)[0].rgba if max(picture.width_px, picture.height_px) > 4 * _LOOK_PX else picture.rgba
    )
    inked = rgba[rgba[:, :, 3] > 250][:, :3]
    if not len(inked):
        return []
    codes, counts = np.unique(_codes(inked), return_counts=True)
    colours = _colours(codes)
    order = np.argsort(-counts)
    found: list[npt.NDArray[np.uint8]] = []
    for index in order:
        if counts[index] < _LEAST_SHARE * len(inked) or len(found) > _MOST_COLOURS:
            break
        lab = lab_of(colours[index])
        if all(float(np.hypot.reduce(lab - lab_of(other))) > _SAME_DE for other in found):
            found.append(colours[index])
    covered = counts[counts >= _LEAST_SHARE * len(inked)].sum()
    if covered < 0.6 * len(inked) or len(found) > _MOST_COLOURS:
        return []
    return ["#{:02X}{:02X}{:02X}".format(*colour) for colour in found]


def has_shades(picture: Picture) -> bool:
    """Whether a picture lives by its colours: a good part of it looks clearly different from its middle colour. The
    noise that is kept with a photo of one flat colour does not.
    """
    rgba = picture.thinned(_LOOK_PX)[0].rgba
    inked = rgba[rgba[:, :, 3] > 250][:, :3]
    if not len(inked):
        return False
    labs = lab_of(inked)
    apart = np.linalg.norm(labs - np.median(labs, axis=0), axis=1)
    return bool((apart > _OTHER_DE).mean() > _OTHER_SHARE)


def _codes(colours: npt.NDArray[np.uint8]) -> npt.NDArray[np.uint32]:
    """One number a colour: sorting rows of three takes twenty times as long."""
    wide = colours.astype(np.uint32)
    return np.asarray(wide[:, 0] << 16 | wide[:, 1] << 8 | wide[:, 2], dtype=np.uint32)


def _colours(codes: npt.NDArray[np.uint32]) -> npt.NDArray[np.uint8]:
    return np.column_stack([codes >> 16, codes >> 8 & 255, codes & 255]).astype(np.uint8)


def layers_of(picture: Picture, size: SizeSpec, keys: bool = True) -> tuple[Layer, ...]:
    """The drawing's layers at a size of its whole inked area; without `keys` none bears any.

    Raises
    ------
    BadInput
        If it has fewer than two flat colours.
    """
    colours = flat_colours(picture)
    if len(colours) < 2:
        raise BadInput("this drawing has no two flat colours to tell apart", "art")
    whole = outline_at(trace(picture), size)
    labels = _labels(picture, colours)
    scale, (left, top) = whole.mm_per_px, whole.origin_px
    shapes = []
    for number in range(len(colours)):
        # A blur of a pixel makes smooth rims of the steps that labels leave.
        soft = ndimage.gaussian_filter((labels == number).astype(np.float32), 0.8)
        layer = picture.rgba.copy()
        layer[:, :, 3] = np.clip(soft * 255, 0, 255).astype(np.uint8)
        traced = trace(Picture(layer))
        shapes.append(
            as_multi(
                parts(
                    shapely.affinity.affine_transform(
                        shapely.MultiPolygon(traced.polygons.tolist()),
                        [scale, 0, 0, scale, -left * scale, -top * scale],
                    )
                )
            )
        )
    keyed = _keyed(shapes) if keys else frozenset[int]()
    hooks = _keys(whole.shape, [shapes[place] for place in sorted(keyed)]) if keyed else []
    return tuple(
        Layer(colour, as_multi(parts(shapely.union_all([shape, *hooks]))) if place in keyed else shape, place in keyed)
        for place, (colour, shape) in enumerate(zip(colours, shapes, strict=True))
    )


def _keyed(shapes: Sequence[MultiPolygon]) -> frozenset[int]:
    """Which layers need keys, by their places; the largest lies undermost."""
    order = sorted(range(len(shapes)), key=lambda place: -shapes[place].area)
    needing = {
        place
        for at, place in enumerate(order[:-1])
        if not at or not _is_plain(shapes[place], [shapes[below] for below in order[:at]])
    }
    return frozenset(needing if len(needing) > 1 else ())


def _is_plain(layer: MultiPolygon, below: Sequence[MultiPolygon]) -> bool:
    """Whether a layer finds its place by the layers that lie already: it fits in between them."""
    along = layer.boundary.intersection(shapely.union_all(below).boundary.buffer(_ALONG_MM))
    return bool(along.length >= _PLAIN_SHARE * layer.boundary.length)


def _labels(picture: Picture, colours: list[str]) -> npt.NDArray[np.int16]:
    """The number of each inked pixel's colour, −1 where nothing is drawn."""
    rgb = picture.rgba[:, :, :3]
    labs = np.array([lab_of(np.array([int(c[n : n + 2], 16) for n in (1, 3, 5)], dtype=np.uint8)) for c in colours])
    labels = np.full(rgb.shape[:2], -1, dtype=np.int16)
    inked = picture.alpha > 127
    # Of a drawing's many pixels few differ in colour.
    codes, place = np.unique(_codes(rgb[inked]), return_inverse=True)
    apart = np.linalg.norm(lab_of(_colours(codes))[:, None, :] - labs[None, :, :], axis=2)
    labels[inked] = apart.argmin(axis=1)[place]
    return labels


def _keys(drawing: MultiPolygon, layers: Sequence[MultiPolygon]) -> list[Polygon]:
    """Two hooks far enough from each other and from the drawing, where the layers' boxes grow least together."""
    r = KEY_MM / 2
    far = r + _KEY_GAP_MM
    left, top, right, bottom = drawing.bounds
    xs, ys = _places(left, right, far), _places(top, bottom, far)
    grid = np.array([(x, y) for x in xs for y in ys])
    free = grid[shapely.distance(drawing, shapely.points(grid)) > far]
    boxes = np.array([layer.bounds for layer in layers])

    def grown(one: Points, other: Points) -> float:
        low = np.minimum(boxes[:, :2], np.minimum(one, other) - r)
        high = np.maximum(boxes[:, 2:], np.maximum(one, other) + r)
        return float(np.prod(high - low, axis=1).sum())

    apart = 3 * KEY_MM
    pairs = [(one, other) for one, other in combinations(free, 2) if np.hypot(*(one - other)) >= apart]
    one, other = min(pairs, key=lambda pair: grown(*pair))
    return [_hook(*one.tolist()), _hook(*other.tolist())]


def _places(low: float, high: float, far: float) -> list[float]:
    """Where a key may sit along one side: outside either end, inside it, and evenly between."""
    inside = (
        np.linspace(low + KEY_MM / 2, high - KEY_MM / 2, _KEY_PLACES) if high - low > KEY_MM else [low + KEY_MM / 2]
    )
    return [low - far - _TIP_MM, *(float(x) for x in inside), max(high, low + 3 * KEY_MM) + far + _TIP_MM]


def _hook(x: float, y: float) -> Polygon:
    # Tips that a blade cuts and a hand weeds: no sharper than a stock holds.
    blunt = opening(Polygon(np.array(_HOOK) * KEY_MM + (x, y)), _TIP_MM)
    assert isinstance(blunt, Polygon)
    return blunt
