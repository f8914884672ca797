"""AVIF pictures."""

from vamper.formats.art_in.kind import ArtKind
from vamper.formats.art_in.raster import brands_of, read_pixels

KIND = ArtKind("avif", 9, "AVIF", "image/avif", (".avif",), lambda data: "avif" in brands_of(data), read_pixels)
