"""Art in the workshop: files come in, are read once to see that they can be used, and are kept by their content."""

from dataclasses import dataclass, replace

from sqlalchemy.orm import undefer

from vamper.core.art.colours import flat_colours
from vamper.core.values.art import Preparation, SizeSpec
from vamper.core.values.findings import BadInput
from vamper.formats.art_in.art_file import kind_of
from vamper.formats.safe_file_name import safe_file_name
from vamper.services.design.art_reading import FirstLook
from vamper.services.design.designer import AS_IT_CAME, ArtFile, Designer
from vamper.services.work.cache import Cache
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.tables import ArtRow, PreviewRow

# The longest side that a new design starts with.
# The size at which it is first looked at.
_START = SizeSpec(longest_mm=60.0)
# Where there is no background to lift off.
_WHOLE_PICTURE = "rounded"
_FILE_BYTES = 40 * 2**20
_PREVIEW_BYTES = 30 * 2**20


@dataclass(frozen=True, slots=True)
class Imported:
    """An art that came in, and how a new design of it should start; `based` says whether it surely (True) or perhaps
    (False) has a border of its own.
    """

    digest: str
    name: str
    start_edge: dict[str, object]
    based: bool | None


class Arts:
    """The art of one workshop."""

    def __init__(self, sessions: Sessions, designer: Designer) -> None:
        self._sessions = sessions
        self._designer = designer
        self._files: Cache[ArtFile] = Cache(_FILE_BYTES, lambda art: len(art.data))
        self._previews: Cache[bytes] = Cache(_PREVIEW_BYTES, len)
        self._pages: Cache[int] = Cache(1000)

    def take_in(self, name: str, data: bytes) -> Imported:
        """Keep an art file, the same content only once.

        Raises
        ------
        BadInput
            If it cannot be read or holds nothing to print; nothing is kept then.
        """
        art = ArtFile.of(safe_file_name(name), data)
        seen = self.keep(art)
        # Where there is no background to lift off, the picture's rectangle is all there is; round corners lift least.
        rim, base = seen.facts.rim, seen.facts.surface.base
        only_its_box = rim is not None and not rim.is_one_colour
        edge: dict[str, object] = {"kind": _WHOLE_PICTURE} if only_its_box else {}
        return Imported(art.digest, _readable(art.name), edge, None if base is None else base.sure)

    def keep(self, art: ArtFile) -> FirstLook:
        """Read an art file and store it with what is shown of it, the same content only once."""
        art = replace(art, name=safe_file_name(art.name))
        media_type = kind_of(art.data, art.name).media_type
        seen = self._designer.first_look(art, _START)
        self._pages.get(art.digest, lambda: self._designer.pages(art, seen.pages))
        with self._sessions.begin() as session:
            if session.get(ArtRow, art.digest) is None:
                row = ArtRow(
                    digest=art.digest,
                    name=art.name,
                    media_type=media_type,
                    width_px=seen.picture.width_px,
                    height_px=seen.picture.height_px,
                    data=art.data,
                )
                session.add(row)
                session.flush()
            for px, png in seen.previews.items():
                session.merge(PreviewRow(digest=art.digest, longest_px=px, png=png))
        return seen

    def file(self, digest: str) -> ArtFile:
        """An art file with its bytes."""

        def load() -> ArtFile:
            with self._sessions() as session:
                row = session.get(ArtRow, digest, options=[undefer(ArtRow.data)])
                if row is None:
                    raise NotFound("there is no such art in the workshop")
                return ArtFile(row.name, row.data, digest)

        return self._files.get(digest, load)

    def colours(self, digest: str) -> tuple[str, ...]:
        """The flat colours of an art (#RRGGBB), the most used first; none of a photo."""
        art = self.file(digest)
        return tuple(self._designer.room.run(flat_colours, self._designer.decoded(art, _START)))

    def preview(self, digest: str, longest_px: int, preparation: Preparation = AS_IT_CAME) -> bytes:
        """The prepared picture as PNG, at most `longest_px` at its longer side."""
        if not 16 <= longest_px <= 4000:
            raise BadInput("a preview has between 16 and 4000 pixels", "px")

        def make() -> bytes:
            kept = self._kept_preview(digest, longest_px) if preparation == AS_IT_CAME else None
            return kept or self._designer.preview(self.file(digest), longest_px, preparation)

        return self._previews.get((digest, longest_px, preparation), make)

    def _kept_preview(self, digest: str, longest_px: int) -> bytes | None:
        with self._sessions() as session:
            row = session.get(PreviewRow, (digest, longest_px))
        return None if row is None else row.png

    def pages(self, digest: str) -> int:
        """How many pages an art file has."""
        return self._pages.get(digest, lambda: self._designer.pages(self.file(digest)))


def _readable(name: str) -> str:
    """A file's name as the name of a design: without ending and underscores."""
    stem = name.rpartition(".")[0] or name
    return " ".join(stem.replace("_", " ").replace("-", " ").split())[:200] or "design"
