"""Zips of pictures on their way in: each lies in a file of its own until its pictures are in, or newer ones came."""

import itertools
import tempfile
import threading
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO

from vamper.core.values.findings import BadInput
from vamper.formats.art_in.art_zip import MOST_ZIP_BYTES, ZipContents, is_zip, zip_contents, zipped_picture
from vamper.services.design.arts import Arts, Imported
from vamper.services.work.not_found import NotFound
from vamper.services.work.reading_room import ReadingRoom

# So many are kept; the oldest goes.
_KEPT = 4
_PIECE = 2**20


@dataclass(frozen=True, slots=True)
class ArtZip:
    """A zip that came in: its number, and what is in it."""

    number: int
    held: ZipContents


class ArtZips:
    """The zips of one workshop."""

    def __init__(self, arts: Arts, room: ReadingRoom) -> None:
        self._arts = arts
        self._room = room
        self._folder = tempfile.TemporaryDirectory(prefix="vamper-")
        self._kept: dict[int, ZipContents] = {}
        self._numbers = itertools.count(1)
        self._guard = threading.Lock()

    def close(self) -> None:
        self._folder.cleanup()

    def take_in(self, file: BinaryIO) -> ArtZip:
        """Keep a zip; what is in it is told, and nothing unpacked yet.

        Raises
        ------
        BadInput
            If it is no zip, too large, or holds no picture.
        """
        number = next(self._numbers)
        path = self._path(number)
        try:
            self._write(path, file)
            held = self._room.run(zip_contents, str(path))
        except BaseException:
            path.unlink(missing_ok=True)
            raise
        with self._guard:
            self._kept[number] = held
            for old in list(self._kept)[:-_KEPT]:
                del self._kept[old]
                self._path(old).unlink(missing_ok=True)
        return ArtZip(number, held)

    def picture(self, number: int, place: int) -> Imported:
        """One of its pictures as art.

        Raises
        ------
        NotFound
            If the zip is gone, or holds no such picture.
        BadInput
            If the picture cannot be used.
        """
        held = self._kept.get(number)
        entry = next((one for one in held.pictures if one.place == place), None) if held is not None else None
        if entry is None:
            raise NotFound("this zip is gone; drop it again")
        try:
            data = self._room.run(zipped_picture, str(self._path(number)), place)
        except BadInput as bad:
            raise BadInput(bad.sentence, entry.name) from None
        return self._arts.take_in(entry.name, data)

    def _path(self, number: int) -> Path:
        return Path(self._folder.name) / f"{number}.zip"

    def _write(self, path: Path, file: BinaryIO) -> None:
        head, size = file.read(_PIECE), 0
        if not is_zip(head):
            raise BadInput("this is named .zip but is not a zip inside; drop the pictures themselves", "file")
        with path.open("wb") as out:
            while head:
                size += len(head)
                if size > MOST_ZIP_BYTES:
                    most = f"{MOST_ZIP_BYTES // 2**20} MB"
                    raise BadInput(f"this zip is more than the {most} that come in at once; part it", "file")
                out.write(head)
                head = file.read(_PIECE)
