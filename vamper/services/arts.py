"""Art in the workshop: files come in, are read once to see that they can be used, and are kept by their content."""

from dataclasses import dataclass

from sqlalchemy.orm import undefer

from vamper.core.art.prepare import prepared, rim_of
from vamper.core.findings import BadInput
from vamper.core.job import EdgeKind, Preparation, SizeSpec
from vamper.formats.art_file import MOST_BYTES, format_of, page_count, read_sketch
from vamper.formats.raster import png_bytes
from vamper.services.cache import Cache
from vamper.services.design import AS_IT_CAME, ArtFile, Designer
from vamper.services.jobs import NotFound
from vamper.store.database import Sessions
from vamper.store.models import ArtRow

# The longest side that a new design starts with.
START_MM = 60.0
_START = SizeSpec(longest_mm=START_MM)
_PREVIEW_BYTES = 60 * 2**20


@dataclass(frozen=True, slots=True)
class Imported:
    """What came in, and how a new design of it should start."""

    digest: str
    name: str
    start_mm: float
    start_edge: dict[str, object]


class Arts:
    """The art of one workshop."""

    def __init__(self, sessions: Sessions, designer: Designer) -> None:
        self._sessions = sessions
        self._designer = designer
        self._files: Cache[ArtFile] = Cache(4 * MOST_BYTES, lambda art: len(art.data))
        self._previews: Cache[bytes] = Cache(_PREVIEW_BYTES, len)
        self._pages: Cache[int] = Cache(1000)

    def take_in(self, name: str, data: bytes) -> Imported:
        """Keep an art file, the same content only once.

        Raises
        ------
        BadInput
            If it cannot be read or holds nothing to print; nothing is kept then.
        """
        media_type = format_of(data, name).media_type
        art = ArtFile.of(name, data)
        outline = self._designer.outline(art, _START)
        picture = self._designer.picture(art, _START)
        self.keep(art, media_type, (picture.width_px, picture.height_px))
        # Where there is no background to lift off, the picture's rectangle is all there is; round corners lift least.
        only_its_box = outline.opaque and not rim_of(picture).is_one_colour
        edge: dict[str, object] = {"kind": EdgeKind.ROUNDED.value} if only_its_box else {}
        return Imported(art.digest, _readable(name), START_MM, edge)

    def keep(self, art: ArtFile, media_type: str, size_px: tuple[int, int]) -> None:
        """Store an art file, the same content only once."""
        width, height = size_px
        with self._sessions.begin() as session:
            if session.get(ArtRow, art.digest) is None:
                row = ArtRow(
                    digest=art.digest,
                    name=art.name,
                    media_type=media_type,
                    width_px=width,
                    height_px=height,
                    data=art.data,
                )
                session.add(row)

    def file(self, digest: str) -> ArtFile:
        """An art file with its bytes."""

        def load() -> ArtFile:
            with self._sessions() as session:
                row = session.get(ArtRow, digest, options=[undefer(ArtRow.data)])
                if row is None:
                    raise NotFound("there is no such art in the workshop")
                return ArtFile(row.name, row.data, digest)

        return self._files.get(digest, load)

    def preview(self, digest: str, longest_px: int, preparation: Preparation = AS_IT_CAME) -> bytes:
        """The prepared picture as PNG, at most `longest_px` at its longer side."""
        if not 16 <= longest_px <= 4000:
            raise BadInput("a preview has between 16 and 4000 pixels", "px")

        def make() -> bytes:
            art = self.file(digest)
            # A cropped drawing is sketched larger, so that what is left of it is as sharp.
            crop = preparation.crop or (0.0, 0.0, 1.0, 1.0)
            whole_px = min(4000, round(longest_px / max(crop[2] - crop[0], crop[3] - crop[1], 0.05)))
            sketch = read_sketch(art.data, art.name, whole_px, preparation.page)
            if sketch is None:
                # Twice as fine as it will be shown; preparing all pixels would make a slider wait.
                sketch, _ = self._designer.decoded(art, _START).thinned(2 * whole_px)
            return png_bytes(prepared(sketch, preparation), longest_px)

        return self._previews.get((digest, longest_px, preparation), make)

    def pages(self, digest: str) -> int:
        """How many pages an art file has."""
        art = self.file(digest)
        return self._pages.get(digest, lambda: page_count(art.data, art.name))


def _readable(name: str) -> str:
    """A file's name as the name of a design: without ending and underscores."""
    stem = name.replace("\\", "/").rpartition("/")[2].rpartition(".")[0] or name
    return " ".join(stem.replace("_", " ").replace("-", " ").split())[:200] or "design"
