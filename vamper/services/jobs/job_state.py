"""A job as it stands, as a list shows it, and whether it is a real one."""

from dataclasses import dataclass
from datetime import datetime

import pydantic.dataclasses

from vamper.core.values.findings import BadInput
from vamper.services.jobs.document import JobDocument


# Of pydantic, which builds its schema once: fourteen routes answer with it.
@pydantic.dataclasses.dataclass(frozen=True, slots=True)
class JobState:
    """A job with its place in its history."""

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
    """A job in the list: how many pieces of how many designs, what those are called and their art, the stock, and how
    its last sheet came out, where whoever lists it knows.
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
    """What is made in a lesson stays there.

    Raises
    ------
    BadInput
        If a job is practised on.
    """
    if state.play is not None:
        raise BadInput("this job belongs to a lesson; make its sheets on the lesson’s page", "job")
