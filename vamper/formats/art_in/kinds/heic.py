"""HEIC pictures, as phones make them."""

from vamper.formats.art_in.kind import ArtKind
from vamper.formats.art_in.raster import brands_of, read_heic

_BRANDS = {"heic", "heix", "heim", "heis", "mif1", "msf1"}

KIND = ArtKind(
    "heic",
    10,
    "HEIC",
    "image/heic",
    (".heic", ".heif"),
    lambda data: bool(brands_of(data) & _BRANDS) and "avif" not in brands_of(data),
    read_heic,
)
