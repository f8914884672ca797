"""The layout that a maker has in hand: looked up by its name, kept ready for checks many times a second.

A check names the layout that was seen. As long as that is the job's newest one, nothing is read from the workshop's
file: the placed edges and their index are kept, one set for each group of pieces that is moved.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

from vamper.core.sheet.lay.clearance import Clearance
from vamper.core.sheet.layout import Layout, Piece
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.values.findings import BadInput
from vamper.core.values.placement import Placement

_CLEARANCES = 8


@dataclass(frozen=True, slots=True)
class Hand:
    """A piece in hand: which one of its sheet, and where it is now."""

    index: int
    x_mm: float
    y_mm: float
    turn_deg: float


@dataclass
class Table:
    """One layout of a job with what it was packed from.

    Parameters
    ----------
    layout_id, revision : str
        The layout's key, and the revision of the job that it was made on.
    problem, layout : PackProblem, Layout
        What was to be packed, and how it lies.
    by_item : dict of int to Piece
        The problem's pieces by their design's number.
    """

    layout_id: str
    revision: str
    problem: PackProblem
    layout: Layout
    by_item: dict[int, Piece] = field(init=False)
    _clearances: dict[tuple[int, frozenset[int]], Clearance] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.by_item = self.problem.by_item

    def sheet(self, number: int) -> tuple[Placement, ...]:
        if not 0 <= number < len(self.layout.sheets):
            raise BadInput("that sheet is no longer there", "sheet")
        return self.layout.sheets[number]

    def placement(self, sheet: int, index: int) -> Placement:
        pieces = self.sheet(sheet)
        if not 0 <= index < len(pieces):
            raise BadInput("this piece is no longer on the sheet", "index")
        return pieces[index]

    def others(self, sheet: int, indexes: Sequence[int]) -> Clearance:
        """The pieces of a sheet without the pieces in hand."""
        key = (sheet, frozenset(indexes))
        lying = self.sheet(sheet)
        found = self._clearances.get(key)
        if found is None:
            staying = [one for index, one in enumerate(lying) if index not in key[1]]
            found = Clearance(self.problem.live_of(sheet), self.problem.spec.gap_mm, staying, self.by_item)
            while len(self._clearances) >= _CLEARANCES:
                del self._clearances[next(iter(self._clearances))]
            self._clearances[key] = found
        return found


class Tables:
    """The newest layout of each job that was looked at."""

    def __init__(self) -> None:
        self._tables: dict[int, Table] = {}

    def put(self, job_id: int, layout_id: str, revision: str, problem: PackProblem, layout: Layout) -> None:
        kept = self._tables.get(job_id)
        if kept is None or (kept.layout_id, kept.revision) != (layout_id, revision):
            self._tables[job_id] = Table(layout_id, revision, problem, layout)

    def get(self, job_id: int, layout_id: str, renew: Callable[[], object]) -> Table:
        """The table that was seen.

        Raises
        ------
        BadInput
            If there is a newer layout by now.
        """
        table = self._tables.get(job_id)
        if table is None or table.layout_id != layout_id:
            renew()
            table = self._tables.get(job_id)
        if table is None or table.layout_id != layout_id:
            raise BadInput("a better layout came in meanwhile; nothing was moved, try again", "layout")
        return table
