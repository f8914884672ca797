"""A job as it stands, as a list shows it, and whether it is a real job or a practice job."""

from dataclasses import dataclass
from datetime import datetime

import pydantic.dataclasses

from vamper.core.values.findings import BadInput
from vamper.services.jobs.document import JobDocument


# Of pydantic, which builds its schema once: fourteen routes answer with it.
@pydantic.dataclasses.dataclass(frozen=True, slots=True)
class JobState:
    """A job with its place in its history.

    Parameters
    ----------
    id : int
        Its number.
    document : JobDocument
        How it stands.
    changed_at, handed_off_at : datetime, datetime or None
        When it was last changed, and last handed off.
    undo, redo : str or None
        What would be undone and done again; None where nothing is.
    play : int or None
        The lesson's play that it belongs to.
    """

    id: int
    document: JobDocument
    changed_at: datetime
    handed_off_at: datetime | None
    undo: str | None
    redo: str | None
    play: int | None = None
    """The play of a lesson that it is made for; a real job has none."""

    @property
    def revision(self) -> str:
        return self.document.revision


@dataclass(frozen=True, slots=True)
class JobSummary:
    """A job in the list.

    Parameters
    ----------
    id, title, customer : int, str, str
        Its number, what it is called, and for whom it is made.
    pieces, designs : int
        How many there are.
    stock, stock_key : str
        The stock's name and its key.
    changed_at, handed_off_at, archived_at : datetime, or None
        When it was last changed, last handed off, and put away.
    arts, names : tuple of str
        Keys of its designs' art, and what the designs are called.
    is_template : bool
        Whether jobs are begun from it.
    last_run : str or None
        How its last sheet came out, where whoever lists it knows.
    """

    id: int
    title: str
    pieces: int
    designs: int
    stock: str
    stock_key: str
    changed_at: datetime
    handed_off_at: datetime | None
    arts: tuple[str, ...]
    customer: str
    names: tuple[str, ...]
    is_template: bool
    archived_at: datetime | None
    last_run: str | None = None


def check_real(state: JobState) -> None:
    """See that a job is no practice job: things made in a lesson stay there.

    Raises
    ------
    BadInput
        If a job is practised on.
    """
    if state.play is not None:
        raise BadInput("this job belongs to a lesson; make its sheets on the lesson’s page", "job")
