"""What is done to a picture before its outline is taken: the background lifted, one of several drawings kept.

**Lift.** The rim's colour is the median of the outermost pixels. Everything joined to the rim whose colour is within a
tolerance (ΔE) of it becomes transparent; the same colour inside the drawing stays. The pixels next to what was lifted
are mixtures of drawing and ground: each gets the alpha that explains its colour between the ground's and the nearest
drawing's, and the drawing's colour, so that the outline stays at sub-pixel precision and no halo is printed.

**Crop.** A box in shares of the picture's sides; of what is drawn, only parts wholly inside it stay.

**Bend.** What goes on a tapering cup is bent to stand straight there; see `bent`.

**Stretch and lighten.** What goes on a film that shrinks more one way than the other is drawn out the other way, and
printed with less ink, since what there is gathers on less of an area.
"""

from dataclasses import dataclass, replace

import cv2
import numpy as np
import numpy.typing as npt
from scipy import ndimage

from vamper.core.art.bent import bent, straight, weighed
from vamper.core.art.picture import Picture, Pixels
from vamper.core.values.areas import chosen, labelled, widened
from vamper.core.values.art import Preparation
from vamper.core.values.colour import Rgb, difference, lab_of, lab_of_one

START_LIFT_DE = 12.0
# A rim is one colour when this share of it lies within the tolerance.
ONE_COLOUR_SHARE = 0.9
_MIXED_PX = 2
_DRAWN_ALPHA = 13
_ROWS_AT_ONCE = 512

Mask = npt.NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class Rim:
    """The colour along a picture's rim, and the share of the rim that is within the starting tolerance of it."""

    rgb: Rgb
    share: float

    @property
    def is_one_colour(self) -> bool:
        return self.share >= ONE_COLOUR_SHARE


def rim_of(picture: Picture) -> Rim:
    """The rim's colour."""
    rgb = picture.rgba[:, :, :3]
    pixels = np.concatenate([rgb[0], rgb[-1], rgb[:, 0], rgb[:, -1]])
    red, green, blue = (int(value) for value in np.median(pixels, axis=0))
    near = difference(lab_of(pixels), lab_of_one((red, green, blue))) <= START_LIFT_DE
    return Rim((red, green, blue), float(near.mean()))


def prepared(picture: Picture, preparation: Preparation) -> Picture:
    """The picture as it goes on."""
    if preparation.lift_de is not None:
        picture = lifted(picture, preparation.lift_de)
    if preparation.crop is not None:
        picture = cropped(picture, preparation.crop, preparation.cut_off)
    if preparation.bend_deg:
        picture = bent(picture, preparation.bend_deg)
    if preparation.stretch is not None:
        picture = stretched(picture, preparation.stretch)
    if preparation.ink_share is not None:
        picture = lightened(picture, preparation.ink_share)
    return picture


def stretched(picture: Picture, ratio: float) -> Picture:
    """The picture so much wider for its height: one side is drawn out, so that no pixel is lost."""
    height, width = picture.rgba.shape[:2]
    size = (round(width * ratio), height) if ratio >= 1 else (width, round(height / ratio))
    drawn = cv2.resize(weighed(picture.rgba), size, interpolation=cv2.INTER_LINEAR)
    return replace(picture, rgba=straight(drawn))


def lightened(picture: Picture, share: float) -> Picture:
    """The picture printed with so much of its ink: what is white stays white."""
    rgba = picture.rgba.copy()
    rgba[..., :3] = cv2.convertScaleAbs(rgba[..., :3], alpha=share, beta=255 * (1 - share))
    return replace(picture, rgba=rgba)


def lifted(picture: Picture, tolerance_de: float) -> Picture:
    """The picture with its background transparent.

    Parameters
    ----------
    tolerance_de : float
        How far (ΔE) from the rim's colour still is background.
    """
    rim = rim_of(picture).rgb
    ground = _joined_to_rim(_near(picture.rgba, rim, tolerance_de))
    if not ground.any() or ground.all():
        return picture
    rgba = picture.rgba.copy()
    rgba[ground, 3] = 0
    box = _box_of(widened(ground, 1) & ~ground)
    if box is not None:
        _unmix(rgba[box], ground[box], rim)
    return replace(picture, rgba=rgba)


def cropped(picture: Picture, crop: tuple[float, ...], cut_off: bool = False) -> Picture:
    """The part of the picture in a box, without what crosses the box's sides, unless that is `cut_off` there."""
    height, width = picture.alpha.shape
    left, top = int(crop[0] * width + 0.5), int(crop[1] * height + 0.5)
    right, bottom = max(left + 1, int(crop[2] * width + 0.5)), max(top + 1, int(crop[3] * height + 0.5))
    rgba = picture.rgba[top:bottom, left:right].copy()
    if cut_off:
        return replace(picture, rgba=rgba)
    labels = labelled(rgba[:, :, 3] >= _DRAWN_ALPHA, corners=True)
    sides = (
        (top > 0, labels[0]),
        (bottom < height, labels[-1]),
        (left > 0, labels[:, 0]),
        (right < width, labels[:, -1]),
    )
    crossing = np.concatenate([np.zeros(1, labels.dtype), *(row for inner, row in sides if inner)])
    rgba[chosen(labels, crossing), 3] = 0
    return replace(picture, rgba=rgba)


def _near(rgba: Pixels, colour: Rgb, tolerance: float) -> Mask:
    """Where the picture is within ΔE `tolerance` of a colour, or transparent already."""
    target = lab_of_one(colour)
    near = np.empty(rgba.shape[:2], dtype=bool)
    for top in range(0, rgba.shape[0], _ROWS_AT_ONCE):
        rows = slice(top, top + _ROWS_AT_ONCE)
        near[rows] = difference(lab_of(rgba[rows, :, :3]), target) <= tolerance
    return near | (rgba[:, :, 3] < _DRAWN_ALPHA)


def _joined_to_rim(near: Mask) -> Mask:
    labels = labelled(near)
    return chosen(labels, np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]]))


def _box_of(mask: Mask) -> tuple[slice, slice] | None:
    rows, columns = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    if not rows.size:
        return None
    reach = 2 * _MIXED_PX
    return (
        slice(max(0, rows[0] - reach), rows[-1] + reach + 1),
        slice(max(0, columns[0] - reach), columns[-1] + reach + 1),
    )


def _unmix(rgba: Pixels, ground: Mask, rim: Rgb) -> None:
    """Give the pixels next to the ground the alpha and the colour that explain their mixture, in place."""
    mixed = widened(ground, _MIXED_PX) & ~ground
    pure = ~ground & ~mixed
    if not pure.any():
        return
    rows, columns = ndimage.distance_transform_edt(~pure, return_distances=False, return_indices=True)
    own = rgba[:, :, :3][mixed].astype(np.float32)
    drawn = rgba[rows[mixed], columns[mixed], :3].astype(np.float32)
    away = drawn - np.array(rim, dtype=np.float32)
    length = np.maximum((away**2).sum(axis=1), 1.0)
    alpha = np.clip(((own - np.array(rim, dtype=np.float32)) * away).sum(axis=1) / length, 0.0, 1.0)
    # Where the drawing's own colour changes near its rim, a pixel unlike both is drawing.
    alien = np.abs(own - (alpha[:, None] * away + rim)).max(axis=1) > 40
    alpha[alien] = 1.0
    drawn[alien] = own[alien]
    rgba[mixed] = np.column_stack([np.round(drawn), np.round(alpha * 255)]).astype(np.uint8)
