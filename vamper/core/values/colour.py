"""Colours and how far apart the eye sees them: sRGB to CIE Lab (D65), and ΔE as plain distance there (CIE 1976)."""

import numpy as np
import numpy.typing as npt

Lab = npt.NDArray[np.float32]
Rgb = tuple[int, int, int]

_TO_XYZ = np.array(
    [[0.4124564, 0.3575761, 0.1804375], [0.2126729, 0.7151522, 0.0721750], [0.0193339, 0.1191920, 0.9503041]],
    dtype=np.float32,
)
# How much of what is seen as brightness each of red, green and blue is.
BRIGHTNESS = _TO_XYZ[1]
_WHITE = np.array([0.95047, 1.0, 1.08883], dtype=np.float32)
_LINEAR = np.array(
    [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in np.arange(256) / 255.0], dtype=np.float32
)
_KAPPA, _EPSILON = 903.2963, 0.008856452


def lab_of(rgb: npt.NDArray[np.uint8]) -> Lab:
    """Lab of 8-bit sRGB colours; shape (…, 3) to (…, 3), L from 0 to 100."""
    xyz = (_LINEAR[rgb] @ _TO_XYZ.T) / _WHITE
    f = np.where(xyz > _EPSILON, np.cbrt(xyz), (_KAPPA * xyz + 16) / 116)
    x, y, z = f[..., 0], f[..., 1], f[..., 2]
    return np.stack([116 * y - 16, 500 * (x - y), 200 * (y - z)], axis=-1).astype(np.float32)


def difference(first: Lab, second: Lab) -> npt.NDArray[np.float32]:
    """ΔE (CIE 1976) between colours in Lab."""
    apart = first - second
    return np.asarray(np.sqrt(np.einsum("...i,...i", apart, apart)), np.float32)


def luminance(rgb: Rgb) -> float:
    """How bright a colour is beside white: its relative luminance, 0..1."""
    return float(_LINEAR[list(rgb)] @ BRIGHTNESS)


def rgb_of(text: str) -> Rgb:
    """The colour that `#RRGGBB` names."""
    return int(text[1:3], 16), int(text[3:5], 16), int(text[5:7], 16)


def lab_of_one(rgb: Rgb) -> Lab:
    """Lab of a single colour, shape (3,)."""
    return lab_of(np.array(rgb, dtype=np.uint8))
