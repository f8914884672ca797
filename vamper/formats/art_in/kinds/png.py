"""PNG pictures."""

from vamper.formats.art_in.kind import ArtKind
from vamper.formats.art_in.raster import read_pixels

KIND = ArtKind("png", 1, "PNG", "image/png", (".png",), lambda data: data.startswith(b"\x89PNG\r\n\x1a\n"), read_pixels)
