"""GIF pictures; of a moving one the first picture is taken, and that is told."""

from vamper.formats.art_in.kind import ArtKind
from vamper.formats.art_in.raster import read_pixels

KIND = ArtKind("gif", 6, "GIF", "image/gif", (".gif",), lambda data: data[:6] in (b"GIF87a", b"GIF89a"), read_pixels)
