"""A picture in memory: pixels with alpha, and what was noticed while it was read.

Readers of every format end here, so that all later stations see one kind of picture.
"""

from dataclasses import dataclass, field, replace
from enum import StrEnum

import numpy as np
import numpy.typing as npt

Pixels = npt.NDArray[np.uint8]


class Conversion(StrEnum):
    """A change that a reader had to make to bring a picture to 8-bit RGBA."""

    CMYK = "cmyk"
    DEEP = "deep"
    TURNED = "turned"
    ANIMATED = "animated"
    PROFILE = "profile"
    PALETTE = "palette"
    GREY = "grey"


CONVERSION_WORDS = {
    Conversion.CMYK: "in printing colours (CMYK) and was turned into RGB",
    Conversion.DEEP: "16 bits deep and was brought to 8",
    Conversion.TURNED: "stored on its side and was turned upright",
    Conversion.ANIMATED: "animated; its first frame is used",
    Conversion.PROFILE: "in a colour space of its own and was turned into sRGB",
    Conversion.PALETTE: "in a palette of few colours and was turned into RGB",
    Conversion.GREY: "grey and was turned into RGB",
}
"""What completes “The picture was …”."""


@dataclass(frozen=True, slots=True)
class Picture:
    """`rgba` has shape (height, width, 4), straight (not premultiplied) alpha.

    `is_vector` tells a rendering of a drawing (SVG or PDF), which can be made again at any size; `embedded` how many
    pixels of the coarsest picture inside it there are to one of its own, None where it holds none. `other_fonts` are
    fonts that a drawing asked for and another stood in for.
    """

    rgba: Pixels
    is_vector: bool = False
    conversions: tuple[Conversion, ...] = field(default=())
    other_fonts: tuple[str, ...] = field(default=())
    embedded: float | None = None

    @property
    def width_px(self) -> int:
        return int(self.rgba.shape[1])

    @property
    def height_px(self) -> int:
        return int(self.rgba.shape[0])

    @property
    def alpha(self) -> Pixels:
        return self.rgba[:, :, 3]

    @property
    def is_opaque(self) -> bool:
        """No transparent pixel anywhere, so the picture has no boundary of its own."""
        return bool(self.alpha.min() == 255)

    def thinned(self, longest_px: int) -> tuple["Picture", int]:
        """Every n-th pixel, so that the longer side has about `longest_px`; and n."""
        every = thinning((self.width_px, self.height_px), longest_px)
        if every == 1:
            return self, 1
        embedded = None if self.embedded is None else self.embedded * every
        return replace(self, rgba=self.rgba[every // 2 :: every, every // 2 :: every].copy(), embedded=embedded), every


def thinning(size_px: tuple[int, int], longest_px: int) -> int:
    """Which n-th pixels to keep, so that the longer side has about `longest_px`."""
    return max(1, max(size_px) // longest_px)
