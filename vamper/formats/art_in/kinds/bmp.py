"""BMP pictures."""

from vamper.formats.art_in.kind import ArtKind
from vamper.formats.art_in.raster import read_pixels

KIND = ArtKind("bmp", 8, "BMP", "image/bmp", (".bmp",), lambda data: data.startswith(b"BM"), read_pixels)
