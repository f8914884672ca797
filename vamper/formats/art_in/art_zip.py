"""A zip of pictures, as bundles of art are sold: what is in it, and one picture of it at a time.

Nothing is unpacked before it is asked for, and never more of it than a picture may have, whatever the zip says of
itself.
"""

import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import PurePosixPath

from vamper.core.values.findings import BadInput
from vamper.formats.art_in.art_file import MOST_BYTES, endings

MOST_ZIP_BYTES = 512 * 1024 * 1024
MOST_ENTRIES = 500
# What systems put beside pictures, and nobody means.
_BESIDE = ("__MACOSX", "Thumbs.db", "desktop.ini")
_ENCRYPTED = 0x1


@dataclass(frozen=True, slots=True)
class ZippedPicture:
    """A picture in a zip: its place in the zip, and its name."""

    place: int
    name: str


@dataclass(frozen=True, slots=True)
class ZipContents:
    """The pictures of a zip in the order of their names, and the names of what is none."""

    pictures: tuple[ZippedPicture, ...]
    left_out: tuple[str, ...]


def is_zip(head: bytes) -> bool:
    """Whether a file that begins so is a zip."""
    return head[:4] in (b"PK\x03\x04", b"PK\x05\x06")


def zip_contents(path: str) -> ZipContents:
    """The contents of a zip, by its names alone.

    Raises
    ------
    BadInput
        If it cannot be read, holds no picture, or holds more than can be taken in at once.
    """
    known = endings()
    pictures, left_out = list[ZippedPicture](), list[str]()
    with _opened(path) as zipped:
        for place, info in enumerate(zipped.infolist()):
            name = PurePosixPath(info.filename.replace("\\", "/"))
            if info.is_dir() or any(part in _BESIDE or _is_hidden(part) for part in name.parts):
                continue
            if name.suffix.lower() in known:
                pictures.append(ZippedPicture(place, name.name))
            else:
                left_out.append(name.name)
    if not pictures:
        raise BadInput("this zip holds no picture; unpack it and look what is in it", "file")
    if len(pictures) > MOST_ENTRIES:
        many = f"{len(pictures)} pictures, more than the {MOST_ENTRIES} that come in at once"
        raise BadInput(f"this zip holds {many}; part it", "file")
    return ZipContents(tuple(sorted(pictures, key=lambda one: _in_order(one.name))), tuple(left_out))


def zipped_picture(path: str, place: int) -> bytes:
    """One picture of a zip.

    Raises
    ------
    BadInput
        If there is no such picture, it is locked, cannot be unpacked, or is larger than a picture may be.
    """
    with _opened(path) as zipped:
        every = zipped.infolist()
        if not 0 <= place < len(every):
            raise BadInput("there is no such picture in this zip", "place")
        info = every[place]
        if info.flag_bits & _ENCRYPTED:
            raise BadInput("this zip is locked with a password; unpack it first", "file")
        try:
            with zipped.open(info) as file:
                # One byte more tells what is too large, and no more than that is ever unpacked.
                data = file.read(MOST_BYTES + 1)
        except (zipfile.BadZipFile, NotImplementedError, OSError, EOFError, RuntimeError, ValueError) as error:
            raise BadInput("this picture cannot be unpacked; make the zip again", "file") from error
    if len(data) > MOST_BYTES:
        raise BadInput(f"unpacked it is more than the {MOST_BYTES // 2**20} MB that fit; export it smaller", "file")
    return data


def _is_hidden(part: str) -> bool:
    return part.startswith(".") and part not in (".", "..")


def _opened(path: str) -> zipfile.ZipFile:
    try:
        return zipfile.ZipFile(path)
    except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError) as error:
        raise BadInput("this zip is broken or cut short; download it again or make a new one", "file") from error


def _in_order(name: str) -> tuple[tuple[int, int | str], ...]:
    """Names with numbers in them in the order of the numbers."""
    return tuple(_runs(name.lower()))


def _runs(name: str) -> Iterator[tuple[int, int | str]]:
    text = ""
    digits = ""
    for letter in name + "\0":
        if letter.isdecimal() and letter.isascii():
            digits += letter
            continue
        if digits:
            yield (1, text)
            yield (0, int(digits))
            text = digits = ""
        text += letter
    yield (1, text)
