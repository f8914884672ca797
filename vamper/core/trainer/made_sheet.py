"""One sheet that was made in a lesson: how many pieces are good, what spoiled the others, and what shows it."""

from collections.abc import Mapping
from dataclasses import dataclass

from vamper.core.trainer.lesson import LookPicture
from vamper.core.trainer.sheet_words import spoiling_text
from vamper.core.twin.simulate import Spoiling


@dataclass(frozen=True, slots=True)
class SpoiltPieces:
    """So many pieces of a sheet that one thing spoiled; `text` goes with the count: "5 torn at the points"."""

    code: str
    text: str
    pieces: int


@dataclass(frozen=True, slots=True)
class MadeSheet:
    """One sheet.

    Parameters
    ----------
    run : int
        Which of the twin's runs it is.
    marks_read : bool
        Whether it was cut at all.
    pieces, good : int
        How many it holds, and how many of them are good.
    spoiled : tuple of SpoiltPieces
        What spoiled the others.
    """

    run: int
    marks_read: bool
    pieces: int
    good: int
    spoiled: tuple[SpoiltPieces, ...]

    @property
    def shows(self) -> tuple[LookPicture, ...]:
        """The pictures that there are of it."""
        if not self.marks_read:
            return LookPicture.SHEET, LookPicture.MARK
        seen = {one.code for one in self.spoiled}
        piece = (LookPicture.PIECE,) if seen & set(Spoiling) else ()
        depth = (LookPicture.DROP,) if seen & {Spoiling.NOT_THROUGH, Spoiling.BACKING_CUT} else ()
        return LookPicture.SHEET, *piece, *depth


def spoilt_pieces(counts: Mapping[str, int]) -> tuple[SpoiltPieces, ...]:
    """The spoilt pieces of a sheet, by code."""
    return tuple(SpoiltPieces(code, spoiling_text(code), pieces) for code, pieces in counts.items())
