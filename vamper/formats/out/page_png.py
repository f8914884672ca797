"""A print page as pixels: transparent where nothing is printed.

The page is drawn from its PDF, so that it is what the printer gets. The renderer must not be used by two threads at
once.
"""

import io
import math
import threading

import numpy as np
import numpy.typing as npt
import pypdfium2
from PIL import Image
from pypdfium2 import raw

from vamper.core.printing.ink import InkUse, ink_of
from vamper.core.values.findings import BadInput
from vamper.core.values.units import MM_PER_INCH

MOST_PAGE_PIXELS = 120_000_000
# Fine enough for areas of ink.
INK_PPI = 100
_POINTS_AN_INCH = 72
_ONE_AT_A_TIME = threading.Lock()

# Left, top, width and height of a part of a page, pixels.
Part = tuple[int, int, int, int]


def page_pixels(pdf: bytes, ppi: float, part: Part | None = None) -> npt.NDArray[np.uint8]:
    """The first page of a PDF or a part of it, shape (h, w, 4), its colours not multiplied by its opacity.

    The page is drawn by a matrix: left to itself the renderer stretches it to whole pixels, which is half a pixel in a
    thousand on most papers.
    """
    scale = ppi / _POINTS_AN_INCH
    with _ONE_AT_A_TIME:
        document = pypdfium2.PdfDocument(pdf)
        try:
            page = document[0]
            whole = (max(1, math.ceil(round(side * scale, 3))) for side in page.get_size())
            left, top, width, height = part or (0, 0, *whole)
            bitmap = pypdfium2.PdfBitmap.new_native(width, height, raw.FPDFBitmap_BGRA, rev_byteorder=True)
            bitmap.fill_rect((0, 0, 0, 0), 0, 0, width, height)
            matrix, clip = raw.FS_MATRIX(scale, 0, 0, scale, -left, -top), raw.FS_RECTF(0, 0, width, height)
            raw.FPDF_RenderPageBitmapWithMatrix(bitmap, page, matrix, clip, raw.FPDF_REVERSE_BYTE_ORDER)
            pixels: npt.NDArray[np.uint8] = bitmap.to_numpy().copy()
        finally:
            document.close()
    return pixels


def page_in(pdf: bytes, ppi: float, finer: int, part: Part | None = None) -> npt.NDArray[np.uint8]:
    """The same, drawn so many times finer and brought together: the renderer lays pictures on whole pixels."""
    if finer == 1:
        return page_pixels(pdf, ppi, part)
    fine = None if part is None else (part[0] * finer, part[1] * finer, part[2] * finer, part[3] * finer)
    image = Image.fromarray(page_pixels(pdf, ppi * finer, fine)).convert("RGBa").reduce(finer)
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
