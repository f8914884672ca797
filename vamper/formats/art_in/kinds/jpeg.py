"""JPEG pictures."""

from vamper.formats.art_in.kind import ArtKind
from vamper.formats.art_in.raster import read_pixels

KIND = ArtKind(
    "jpeg", 2, "JPEG", "image/jpeg", (".jpg", ".jpeg"), lambda data: data.startswith(b"\xff\xd8\xff"), read_pixels
)
