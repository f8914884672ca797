"""WebP pictures."""

from vamper.formats.art_in.kind import ArtKind
from vamper.formats.art_in.raster import read_pixels

KIND = ArtKind(
    "webp", 3, "WebP", "image/webp", (".webp",), lambda data: data[:4] == b"RIFF" and data[8:12] == b"WEBP", read_pixels
)
