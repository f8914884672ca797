"""From how far a drawing's letters are read, and how large it has to be to be read from there."""

import statistics
from dataclasses import dataclass

from vamper.core.art.lettering import lines_of
from vamper.core.art.outline import Outline

# At a glance, letters are read at so many mm of height for each metre (a starter).
LETTER_MM_A_METRE = 2.5


def letter_mm(distance_m: float) -> float:
    """How high letters are at least, mm, to be read at a glance from so many metres."""
    return LETTER_MM_A_METRE * distance_m


@dataclass(frozen=True, slots=True)
class Legibility:
    """How high the lowest line of a drawing's letters is, mm. Where no line was told from the drawing, `as_whole`: it
    is taken for one line as high as the drawing.
    """

    letters_mm: float
    as_whole: bool

    @property
    def from_m(self) -> float:
        """From how far it is read at a glance, m."""
        return self.letters_mm / LETTER_MM_A_METRE

    def grown_for(self, distance_m: float) -> float:
        """By which factor the drawing has to grow to be read from so far; less than 1 where it could be smaller."""
        return letter_mm(distance_m) / self.letters_mm


def legibility(outline: Outline) -> Legibility:
    """How legible a drawing is at its size. Letters that do not lie apart from the drawing round them are not seen."""
    lines = lines_of(outline.shape)
    if not lines:
        return Legibility(outline.size_mm[1], as_whole=True)
    # Half of the letters of a line are as high as this or higher: an accent or a dot is none.
    heights = [statistics.median(part.bounds[3] - part.bounds[1] for part in line) for line in lines]
    return Legibility(min(heights), as_whole=False)
