"""SVG drawings."""

from vamper.core.art.picture import Picture
from vamper.core.values.art import SizeSpec
from vamper.formats.art_in.kind import ArtKind
from vamper.formats.art_in.svg import read_svg, sketch_svg


def _is_it(data: bytes) -> bool:
    head = data[:4096].lstrip(b"\xef\xbb\xbf \t\r\n")
    return head.startswith(b"<") and b"<svg" in data[:65536]


def _read(data: bytes, size: SizeSpec, _page: int) -> Picture:
    return read_svg(data, size)


def _sketch(data: bytes, longest_px: int, _page: int) -> Picture:
    return sketch_svg(data, longest_px)


KIND = ArtKind(
    key="svg",
    place=4,
    name="SVG",
    media_type="image/svg+xml",
    endings=(".svg",),
    is_it=_is_it,
    read=_read,
    sketch=_sketch,
)
