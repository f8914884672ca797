"""From art bytes to outline and edge, every step kept by the content of its inputs.

A change of distance computes an edge only; a change of size brings the kept tracing to another scale; nothing is
decoded or traced twice. Drawings are the exception: they are rendered anew for each size.
"""

import hashlib
from dataclasses import dataclass

from vamper.core.art.outline import Outline, Tracing, outline_at, trace
from vamper.core.art.picture import Picture
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.findings import BadInput
from vamper.core.job import ItemSpec, SizeSpec
from vamper.core.plan import DesignedItem
from vamper.formats.art_file import ArtFormat, format_of, read_art
from vamper.services.cache import Cache

_PICTURE_BYTES = 400 * 2**20
_SHAPES = 2000


@dataclass(frozen=True, slots=True)
class ArtFile:
    """An art file as it came in. `digest` identifies its content."""

    name: str
    data: bytes
    digest: str

    @classmethod
    def of(cls, name: str, data: bytes) -> "ArtFile":
        return cls(name, data, hashlib.sha256(data).hexdigest())


class Designer:
    """Designs items; safe to share between threads."""

    def __init__(self) -> None:
        self._pictures: Cache[Picture] = Cache(_PICTURE_BYTES, lambda picture: picture.rgba.nbytes)
        self._tracings: Cache[Tracing] = Cache(_SHAPES / 10)
        self._outlines: Cache[Outline] = Cache(_SHAPES)
        self._edges: Cache[Edge] = Cache(_SHAPES)

    def picture(self, art: ArtFile, size: SizeSpec) -> Picture:
        """The art's pixels, for drawings rendered at `size`."""
        return self._pictures.get(_pixels_key(art, size), lambda: read_art(art.data, art.name, size))

    def outline(self, art: ArtFile, size: SizeSpec) -> Outline:
        def make() -> Outline:
            try:
                tracing = self._tracings.get(_pixels_key(art, size), lambda: trace(self.picture(art, size)))
                return outline_at(tracing, size)
            except BadInput as bad:
                raise BadInput(bad.sentence, art.name) from None

        return self._outlines.get((art.digest, size), make)

    def design(self, index: int, spec: ItemSpec, art: ArtFile, least_neck_mm: float) -> DesignedItem:
        """Outline and edge of one item.

        Raises
        ------
        BadInput
            If the art cannot be read, holds nothing inked, or vanishes at the wanted size.
        """
        outline = self.outline(art, spec.size)
        # The border's colour does not move the edge.
        shape = (
            spec.edge.kind,
            spec.edge.distance_mm,
            spec.edge.smooth_mm,
            spec.edge.fill_holes,
            spec.edge.join,
        )
        key = (art.digest, spec.size, *shape, spec.edge.corner_mm, least_neck_mm)
        edge = self._edges.get(key, lambda: derive_edge(outline, spec.edge, least_neck_mm))
        return DesignedItem(index, spec, self.picture(art, spec.size), outline, edge)


def _pixels_key(art: ArtFile, size: SizeSpec) -> tuple[str, SizeSpec | None]:
    return art.digest, size if format_of(art.data, art.name) is ArtFormat.SVG else None
