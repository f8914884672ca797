"""A print page as pixels: transparent where nothing is printed.

The page is drawn from its PDF, so that it is what the printer gets. The renderer must not be used by two threads at
once.
"""

import io
import threading

import numpy as np
import numpy.typing as npt
import pypdfium2
from PIL import Image

from vamper.core.printing.ink import InkUse, ink_of
from vamper.core.values.findings import BadInput
from vamper.core.values.units import MM_PER_INCH

MOST_PAGE_PIXELS = 120_000_000
# Fine enough for areas of ink.
INK_PPI = 100
_POINTS_AN_INCH = 72
_ONE_AT_A_TIME = threading.Lock()


def page_pixels(pdf: bytes, ppi: float) -> npt.NDArray[np.uint8]:
    """The first page of a PDF, shape (h, w, 4), its colours not multiplied by its opacity."""
    with _ONE_AT_A_TIME:
        document = pypdfium2.PdfDocument(pdf)
        try:
            bitmap = document[0].render(
                scale=ppi / _POINTS_AN_INCH,
                fill_color=(0, 0, 0, 0),
                force_bitmap_format=pypdfium2.raw.FPDFBitmap_BGRA,
                rev_byteorder=True,
            )
            pixels: npt.NDArray[np.uint8] = bitmap.to_numpy().copy()
        finally:
            document.close()
    return pixels


def page_in(pdf: bytes, ppi: float, finer: int) -> npt.NDArray[np.uint8]:
    """The same, drawn so many times finer and brought together: the renderer lays pictures on whole pixels."""
    if finer == 1:
        return page_pixels(pdf, ppi)
    image = Image.fromarray(page_pixels(pdf, ppi * finer)).convert("RGBa").reduce(finer)
    return np.asarray(image.convert("RGBA"))


def page_png(pdf: bytes, size_mm: tuple[float, float], ppi: int) -> bytes:
    """A page as PNG at so many pixels an inch.

    Raises
    ------
    BadInput
        If that would be more pixels than can be drawn.
    """
    width, height = (side * ppi / MM_PER_INCH for side in size_mm)
    if width * height > MOST_PAGE_PIXELS:
        raise BadInput(f"a page of this size has too many pixels at {ppi} ppi; take fewer", "ppi")
    out = io.BytesIO()
    Image.fromarray(page_pixels(pdf, ppi)).save(out, format="PNG", dpi=(ppi, ppi), compress_level=6)
    return out.getvalue()


def page_ink(pdf: bytes, ml_per_cm2: float) -> InkUse:
    """The ink that a page takes."""
    return ink_of(page_pixels(pdf, INK_PPI), INK_PPI, ml_per_cm2)
