"""Pictures that the twin made, as files: PNG with its pixels an inch, JPEG where it should be small."""

import io

import numpy as np
import numpy.typing as npt
from PIL import Image

Pixels = npt.NDArray[np.uint8]


def write_png(rgb: Pixels, ppi: float) -> bytes:
    """Pixels (h, w, 3) as PNG."""
    out = io.BytesIO()
    Image.fromarray(rgb).save(out, format="PNG", dpi=(ppi, ppi), compress_level=3)
    return out.getvalue()


def write_jpeg(rgb: Pixels, ppi: float, quality: int = 88) -> bytes:
    """Pixels (h, w, 3) as JPEG."""
    out = io.BytesIO()
    Image.fromarray(rgb).save(out, format="JPEG", dpi=(ppi, ppi), quality=quality)
    return out.getvalue()
