"""Any art file: what it is by its content, held against what its name says, and read by the module for it."""

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from vamper.core.art.picture import Picture
from vamper.core.findings import BadInput
from vamper.core.job import SizeSpec
from vamper.formats.pdf_art import pages_of, read_pdf, sketch_pdf
from vamper.formats.raster import read_raster
from vamper.formats.svg_art import read_svg, sketch_svg

MOST_BYTES = 64 * 1024 * 1024


class ArtFormat(StrEnum):
    PNG = "png"
    JPEG = "jpeg"
    WEBP = "webp"
    SVG = "svg"
    PDF = "pdf"

    @property
    def media_type(self) -> str:
        special = {ArtFormat.SVG: "image/svg+xml", ArtFormat.PDF: "application/pdf"}
        return special.get(self, f"image/{self}")

    @property
    def is_drawn(self) -> bool:
        """Whether it is rendered for the size it is wanted in, rather than made of pixels."""
        return self in (ArtFormat.SVG, ArtFormat.PDF)


@dataclass(frozen=True, slots=True)
class _Kind:
    endings: tuple[str, ...]
    is_it: Callable[[bytes], bool]


def _looks_like_svg(data: bytes) -> bool:
    head = data[:4096].lstrip(b"\xef\xbb\xbf \t\r\n")
    return head.startswith(b"<") and b"<svg" in data[:65536]


_KINDS: dict[ArtFormat, _Kind] = {
    ArtFormat.PNG: _Kind((".png",), lambda data: data.startswith(b"\x89PNG\r\n\x1a\n")),
    ArtFormat.JPEG: _Kind((".jpg", ".jpeg"), lambda data: data.startswith(b"\xff\xd8\xff")),
    ArtFormat.WEBP: _Kind((".webp",), lambda data: data[:4] == b"RIFF" and data[8:12] == b"WEBP"),
    ArtFormat.SVG: _Kind((".svg",), _looks_like_svg),
    ArtFormat.PDF: _Kind((".pdf",), lambda data: b"%PDF-" in data[:1024]),
}
ENDINGS = tuple(ending for kind in _KINDS.values() for ending in kind.endings)


def format_of(data: bytes, name: str) -> ArtFormat:
    """The format of an art file.

    Raises
    ------
    BadInput
        If it is empty, too large, of a format not read here, or not what its name says.
    """
    if not data:
        raise BadInput("the file is empty; copy or export it again", name)
    if len(data) > MOST_BYTES:
        raise BadInput(
            f"the file is {len(data) / 2**20:.0f} MB, more than the {MOST_BYTES // 2**20} that fit; export it smaller",
            name,
        )
    found = next((art_format for art_format, kind in _KINDS.items() if kind.is_it(data)), None)
    ending = f".{name.rpartition('.')[2].lower()}" if "." in name else ""
    named = next((art_format for art_format, kind in _KINDS.items() if ending in kind.endings), None)
    if found is None:
        if named is None:
            raise BadInput("this is no picture that can be read; bring a PNG, JPEG, WebP, SVG or PDF", name)
        raise BadInput(f"the file is named {ending} but its content is not; export it again", name)
    if named is not found:
        raise BadInput(
            f"the file is named “{ending[:10] or 'without ending'}” but is a {found.upper()} inside; rename it to "
            f"{_KINDS[found].endings[0]} or export it again",
            name,
        )
    return found


def read_art(data: bytes, name: str, size: SizeSpec, page: int = 1) -> Picture:
    """The picture in an art file; `size` matters for drawings, which are rendered for it, `page` for a PDF."""
    art_format = format_of(data, name)
    try:
        if art_format is ArtFormat.SVG:
            return read_svg(data, size)
        return read_pdf(data, size, page) if art_format is ArtFormat.PDF else read_raster(data)
    except BadInput as bad:
        raise BadInput(bad.sentence, name) from None


def read_sketch(data: bytes, name: str, longest_px: int, page: int = 1) -> Picture | None:
    """A drawing at about `longest_px`, quickly; None for pictures made of pixels, which are read whole anyway."""
    art_format = format_of(data, name)
    if art_format is ArtFormat.SVG:
        return sketch_svg(data, longest_px)
    return sketch_pdf(data, longest_px, page) if art_format is ArtFormat.PDF else None


def page_count(data: bytes, name: str) -> int:
    """How many pages an art file has; 1 for everything but a PDF."""
    return pages_of(data) if format_of(data, name) is ArtFormat.PDF else 1
