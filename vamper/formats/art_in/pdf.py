"""One page of a PDF as art, rendered on transparency so that its inked area has `PPI` at the wanted size.

The page is rendered twice, like a drawing: small, to find how much of it is inked, then at the size that is wanted.
"""

import threading

import numpy as np
import numpy.typing as npt
import pypdfium2

from vamper.core.art.picture import Picture
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.units import pixels_at
from vamper.formats.art_in.raster import MOST_DRAWN_PX

PPI = 600.0
_SCOUT_PX = 700
# The renderer is not safe to use from two threads at once.
_ONE_AT_A_TIME = threading.Lock()


def pages_of(data: bytes) -> int:
    """How many pages a PDF has."""
    with _ONE_AT_A_TIME:
        document = _open(data)
        try:
            return len(document)
        finally:
            document.close()


def read_pdf(data: bytes, size: SizeSpec, page: int = 1) -> Picture:
    """Render a page so that its inked area has `PPI` pixels an inch at the wanted size.

    Raises
    ------
    BadInput
        If it is no PDF, is locked, has no such page, or the page draws nothing.
    """
    scout = sketch_pdf(data, _SCOUT_PX, page).rgba
    inked = scout[:, :, 3] >= 128
    rows, columns = np.flatnonzero(inked.any(axis=1)), np.flatnonzero(inked.any(axis=0))
    if not rows.size:
        raise BadInput(f"page {page} of the PDF draws nothing that would be printed")
    inked_width, inked_height = columns[-1] - columns[0] + 1, rows[-1] - rows[0] + 1
    width_mm = size.of(float(inked_width), float(inked_height)) * scout.shape[1]
    longest_mm = width_mm * max(scout.shape[:2]) / scout.shape[1]
    most = int((MOST_DRAWN_PX * max(scout.shape[:2]) / min(scout.shape[:2])) ** 0.5)
    return sketch_pdf(data, min(pixels_at(longest_mm, PPI), most), page)


def sketch_pdf(data: bytes, longest_px: int, page: int = 1) -> Picture:
    """A whole page, its longer side about `longest_px`."""
    with _ONE_AT_A_TIME:
        document = _open(data)
        try:
            if page > len(document):
                raise BadInput(f"the PDF has {len(document)} pages, there is no page {page}")
            pixels = _render(document, page, longest_px)
            across = _embedded_px(document[page - 1])
            return Picture(pixels, is_vector=True, embedded=None if across is None else across / pixels.shape[1])
        except pypdfium2.PdfiumError:
            raise BadInput(f"page {page} of the PDF cannot be drawn; export it again") from None
        finally:
            document.close()


def _open(data: bytes) -> pypdfium2.PdfDocument:
    try:
        document = pypdfium2.PdfDocument(data)
    except pypdfium2.PdfiumError as error:
        if "assword" in str(error):
            raise BadInput("the PDF is locked with a password; save a copy without one") from None
        raise BadInput("the PDF is cut short or damaged; export it again") from None
    if len(document) == 0:
        document.close()
        raise BadInput("the PDF has no pages")
    return document


def _render(document: pypdfium2.PdfDocument, page: int, longest_px: int) -> npt.NDArray[np.uint8]:
    sheet = document[page - 1]
    width, height = sheet.get_size()
    if not (0 < width < 20_000 and 0 < height < 20_000) or max(width, height) > 60 * min(width, height):
        raise BadInput(f"page {page} of the PDF is {width / 72:.0f} × {height / 72:.0f} inches; export it at its size")
    bitmap = sheet.render(
        scale=longest_px / max(width, height),
        fill_color=(255, 255, 255, 0),
        force_bitmap_format=pypdfium2.raw.FPDFBitmap_BGRA,
        rev_byteorder=True,
        maybe_alpha=False,
    )
    return np.array(bitmap.to_numpy(), dtype=np.uint8)


def _embedded_px(sheet: pypdfium2.PdfPage) -> float | None:
    """The page's width at the resolution of its coarsest picture, px; None where it holds none."""
    densities = []
    for found in sheet.get_objects(filter=[pypdfium2.raw.FPDF_PAGEOBJ_IMAGE]):
        a, b, c, d = found.get_matrix().get()[:4]
        across, down = np.hypot(a, b), np.hypot(c, d)
        width, height = found.get_px_size()
        if across > 0 and down > 0:
            densities.append(min(width / across, height / down))
    return float(min(densities)) * sheet.get_width() if densities else None
