"""Paper: a sheet's size, the part that is gone of a used sheet, and the sizes that have a name."""

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len

from vamper.core.values.limits import STRICT, Distance, Length

OnPaper = Annotated[float, Ge(-100), Le(3000)]
# Round what is gone, x and y of each corner in turn, mm from the sheet's top left.
MOST_CORNERS = 2000
Gone = Annotated[tuple[OnPaper, ...], Len(6, 2 * MOST_CORNERS)]


@dataclass(frozen=True, slots=True)
class Spent:
    """The rectangle of a part-used sheet that is gone, mm from the sheet's top left."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    width_mm: Length
    height_mm: Length
    left_mm: Distance = 0.0
    top_mm: Distance = 0.0


@dataclass(frozen=True)
class Paper:
    """A sheet's size, and the parts that are gone of the first sheet where it was used before.

    Parameters
    ----------
    width_mm, height_mm : float
        The size.
    spent : Spent or None
        The strip of the first sheet that is gone.
    gone : tuple of Gone
        Shapes that are gone of it.
    margin_mm : float
        What is kept clear round these, since no printer draws a sheet in twice alike.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    width_mm: Length
    height_mm: Length
    spent: Spent | None = None
    gone: Annotated[tuple[Gone, ...], Len(0, 500)] = ()
    margin_mm: Annotated[float, Ge(0), Le(20)] = 0.0

    def __post_init__(self) -> None:
        if any(len(ring) % 2 for ring in self.gone):
            raise ValueError("gone: each corner has two numbers, how far it is from the left and from the top")

    @cached_property
    def gone_rings(self) -> tuple[tuple[tuple[float, float], ...], ...]:
        """The corners of each shape that is gone."""
        return tuple(tuple(zip(ring[::2], ring[1::2], strict=True)) for ring in self.gone)

    @property
    def is_used(self) -> bool:
        return self.spent is not None or bool(self.gone)

    @property
    def whole(self) -> "Paper":
        """The sheet before anything of it was used."""
        return replace(self, spent=None, gone=(), margin_mm=0.0)


@dataclass(frozen=True, slots=True)
class NamedPaper:
    """A size that has a name: `key` in files, `words` for people."""

    key: str
    words: str
    paper: Paper


NAMED_PAPERS = (
    NamedPaper("letter", "letter", Paper(215.9, 279.4)),
    NamedPaper("legal", "legal", Paper(215.9, 355.6)),
    NamedPaper("tabloid", "tabloid", Paper(279.4, 431.8)),
    NamedPaper("a5", "A5", Paper(148.0, 210.0)),
    NamedPaper("a4", "A4", Paper(210.0, 297.0)),
    NamedPaper("a3", "A3", Paper(297.0, 420.0)),
    NamedPaper("4x6in", "4 × 6 in", Paper(101.6, 152.4)),
    NamedPaper("12x12in", "12 × 12 in", Paper(304.8, 304.8)),
)
PAPER_BY_KEY = {named.key: named.paper for named in NAMED_PAPERS}
USUAL_PAPER = PAPER_BY_KEY["letter"]


def named(paper: Paper) -> NamedPaper | None:
    """The name a size goes by, None for a size of its own."""
    size = paper.width_mm, paper.height_mm
    return next((one for one in NAMED_PAPERS if (one.paper.width_mm, one.paper.height_mm) == size), None)
