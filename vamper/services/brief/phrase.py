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
    """What the brief is told from: the document, the job by value, what its machines are called, and whether each was
    only taken for now because nobody named one; `sheets_left` of its stock, where that is known, and how many the job
    takes, 0 where nobody has planned it.
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
    """What choices are worked out from; `design` is None where the job cannot be designed as it stands, `offcuts` are
    those of its stock. `recent` are the stocks that were used last, `prices` what a piece takes of each stock whose
    price is known, in words, for whoever asks for them.
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
    """One answer to a question that a choice asks: `each` are fields to set on every design besides, `changes` those of
    the job.
    """

    label: str
    effect: str
    each: Mapping[str, Any]
    changes: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class PhraseQuestion:
    """What has to be decided with a choice; the first answer is the proposed one."""

    sentence: str
    answers: tuple[PhraseAnswer, ...]


@dataclass(frozen=True, slots=True)
class Choice:
    """One way to say a phrase: `changes` are the job's fields to set, `consequence` what follows, `group` and `use`
    where it stands in a longer list and what it is for; `each` are fields to set on every design besides.
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
