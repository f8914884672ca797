"""A phrase of the brief: how it is said, and what it can be changed to, each choice with what it would mean.

Each phrase is a module in `phrases`; adding one touches nothing else.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from vamper.core.effective_job import effective_job
from vamper.core.plan import set_up_sheet
from vamper.core.values.findings import BadInput
from vamper.core.values.job import Job
from vamper.core.values.lengths import size_mm
from vamper.core.values.registry import Registry
from vamper.services.design.job_design import Design
from vamper.services.jobs.document import JobDocument
from vamper.services.ledger.supplies import KeptOffcut
from vamper.services.shop.shop import Shop


@dataclass(frozen=True, slots=True)
class BriefFacts:
    """The facts that the brief is told from.

    Parameters
    ----------
    document, job : JobDocument, Job
        The job as it is kept, and by value.
    printer, cutter : str
        What its machines are called.
    for_now : mapping of str to bool
        By `printer` and `cutter`: whether it was only taken because nobody named one.
    sheets_left : int or None
        Sheets of its stock on the shelf, where that is known.
    sheets_needed : int
        How many the job takes; 0 where nobody has planned it.
    """

    document: JobDocument
    job: Job
    printer: str
    cutter: str
    for_now: Mapping[str, bool]
    sheets_left: int | None = None
    sheets_needed: int = 0

    def machine(self, kind: str, name: str) -> str:
        return f"{name} (assumed for now)" if self.for_now[kind] else name


@dataclass(frozen=True, slots=True)
class ChoiceContext:
    """The facts that choices are worked out from.

    Parameters
    ----------
    document, job : JobDocument, Job
        The job as it is kept, and by value.
    design : Design or None
        None where the job cannot be designed as it stands.
    shop : Shop
        The workshop's machines and stocks.
    offcuts : tuple of KeptOffcut
        The offcuts of the job's stock.
    recent : tuple of str
        Keys of the stocks that were used last.
    prices : callable
        What a piece takes of each stock whose price is known, in words, by the stock's key; worked out when called.
    """

    document: JobDocument
    job: Job
    design: Design | None
    shop: Shop
    offcuts: tuple[KeptOffcut, ...] = ()
    recent: tuple[str, ...] = ()
    prices: Callable[[], Mapping[str, str]] = dict

    @property
    def designed(self) -> Design | None:
        """The design, where there is anything in it."""
        return self.design if self.design is not None and self.design.items else None


@dataclass(frozen=True, slots=True)
class PhraseAnswer:
    """One answer to a question that a choice asks: `each` are fields to set on every design besides, `changes` are
    fields of the job.
    """

    label: str
    effect: str
    each: Mapping[str, Any]
    changes: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class PhraseQuestion:
    """A question to decide with a choice; the first answer is the proposed one."""

    sentence: str
    answers: tuple[PhraseAnswer, ...]


@dataclass(frozen=True, slots=True)
class Choice:
    """One way to say a phrase.

    Parameters
    ----------
    label, consequence : str
        What it is called, and what follows from it.
    changes : mapping
        The job's fields to set.
    chosen, proposed : bool
        Whether the job stands so, and whether it is recommended.
    group, use : str
        Where it stands in a longer list, and what it is for.
    each : mapping
        Fields to set on every design besides.
    question : PhraseQuestion or None
        What must be answered before it is set.
    """

    label: str
    consequence: str
    changes: Mapping[str, Any]
    chosen: bool
    proposed: bool = False
    group: str = ""
    use: str = ""
    each: Mapping[str, Any] = field(default_factory=dict)
    question: PhraseQuestion | None = None


def no_choices(_asked: ChoiceContext) -> list[Choice]:
    """For phrases that are not a choice from a list."""
    return []


@dataclass(frozen=True, slots=True)
class PhraseKind:
    """One phrase: the words that lead to it, and its own; without words of its own it is not to be changed."""

    key: str
    place: int
    say: Callable[[BriefFacts], tuple[str, str]]
    choices: Callable[[ChoiceContext], list[Choice]] = no_choices


PHRASES: Registry[PhraseKind] = Registry("vamper.services.brief.phrases")


def room(job: Job) -> str:
    """The live area of a job's sheet in words; of a used one what is left of it in one piece."""
    try:
        setup = set_up_sheet(effective_job(replace(job, items=(), held=())))
    except BadInput:
        return "too small for its marks"
    if setup.first is not None:
        return f"{size_mm(*setup.first.room_mm, 0)} of it free in one piece"
    return f"{size_mm(*setup.live.size_mm, 0)} to use"
