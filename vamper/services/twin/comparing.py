"""Pictures of what was made, held against its plan."""

import numpy as np

from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput
from vamper.core.vision.print_comparison import Comparison, compare_print
from vamper.core.vision.rectify import RectifiedPicture, rectify
from vamper.core.vision.reference import Pixels, SheetReference
from vamper.formats.art_in.art_file import read_art
from vamper.services.work.reading_room import ReadingRoom

# Below this print and plan have little to do with each other.
_SAME_SHEET = 0.3
# One that agrees so well is not looked at from behind; and so much better must the other way round be.
_SURELY, _CLEARLY_BETTER = 0.92, 0.1
MIRRORED = (
    "this picture shows the sheet as in a mirror: it was flipped by a program, or taken through the back; flip it, and "
    "try again"
)
ANOTHER_SHEET = (
    "this picture shows a sheet, but not this one: its print does not lie where this plan has it; choose the job and "
    "the sheet that it is of"
)


def read_picture(data: bytes, name: str, room: ReadingRoom | None = None) -> Pixels:
    """The pixels of a scan or photo, shape (h, w, 3), on white where it is transparent.

    Raises
    ------
    BadInput
        If it cannot be read, or has too many pixels.
    """
    rgba = (room or ReadingRoom()).run(read_art, data, name, SizeSpec(longest_mm=100.0), 1).rgba
    share = rgba[..., 3:].astype(np.float32) / 255
    if share.min() >= 1:
        return np.ascontiguousarray(rgba[..., :3])
    return np.asarray(np.round(rgba[..., :3] * share + 255 * (1 - share)), dtype=np.uint8)


def found_as_it_reads(picture: Pixels, sheet: SheetReference) -> RectifiedPicture:
    """Where a sheet lies in a picture of its printed side.

    Raises
    ------
    BadInput
        If it is not in sight, or shows as in a mirror.
    """
    try:
        found = rectify(picture, sheet)
    except BadInput:
        if _agrees(np.ascontiguousarray(picture[:, ::-1]), sheet) > _SAME_SHEET:
            raise BadInput(MIRRORED, "picture") from None
        raise
    if found.agrees is None or found.agrees > _SURELY:
        return found
    if _agrees(np.ascontiguousarray(picture[:, ::-1]), sheet) > found.agrees + _CLEARLY_BETTER:
        raise BadInput(MIRRORED, "picture")
    return found


def _agrees(picture: Pixels, sheet: SheetReference) -> float:
    try:
        return rectify(picture, sheet).agrees or 0.0
    except BadInput:
        return 0.0


def compared_print(picture: Pixels, sheet: SheetReference) -> Comparison:
    """A print held against its plan.

    Raises
    ------
    BadInput
        If the sheet is not in sight, or it is another sheet.
    """
    if not sheet.marks:
        raise BadInput("this sheet has no marks to find it by; only its cut pieces can be looked at", "picture")
    found = found_as_it_reads(picture, sheet)
    compared = compare_print(picture, sheet, found)
    looked = [piece for piece in compared.pieces if piece.ink_there is not None]
    lost = sum(piece.is_missing for piece in looked)
    # A sheet on which most is missing and nothing agrees is not a bad print of this plan.
    if found.agrees is not None and found.agrees < _SAME_SHEET and lost > len(looked) / 2:
        raise BadInput(ANOTHER_SHEET, "picture")
    return compared
