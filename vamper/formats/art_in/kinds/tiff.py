"""TIFF pictures; of several in one file the first is taken, and that is told."""

from vamper.formats.art_in.kind import ArtKind
from vamper.formats.art_in.raster import read_pixels

KIND = ArtKind(
    "tiff",
    7,
    "TIFF",
    "image/tiff",
    (".tif", ".tiff"),
    lambda data: data[:4] in (b"II*\x00", b"MM\x00*", b"II+\x00", b"MM\x00+"),
    read_pixels,
)
