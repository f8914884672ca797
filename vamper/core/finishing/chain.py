"""The chain: everything that is done to pieces after the print, composed from what a job is.

A stage is one table of rows (`stages/*.toml`); each row says by the facts of a job when it is done. The chain is the
rows that fit, stage after stage. `work.py` makes the steps of one batch of it; the minutes are starters until the
product's label says otherwise. Source: craft/finish.md.
"""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import cache
from typing import Any

from vamper.core.finishing.chain_facts import FACT_NAMES, ChainFacts, facts_of
from vamper.core.finishing.dangers import HEATS, Act
from vamper.core.finishing.goes_on import name_of
from vamper.core.values.findings import BadInput
from vamper.core.values.job import Job
from vamper.core.values.lengths import figure
from vamper.core.values.tables import row, table
from vamper.core.values.wrap import WrapSpec

_TABLE = table(__package__, "chain.toml")
_FIGURES = _TABLE["figures"]
USUAL_COATS: int = _FIGURES["coats"]


class ChainStage(StrEnum):
    """The parts of the chain, in the order in which they are usually done."""

    DRY = "dry"
    BY_HAND = "by-hand"
    COVER = "cover"
    CUT = "cut"
    PART = "part"
    CARRY = "carry"
    APPLY = "apply"
    SET = "set"
    LATER = "later"


class StepCount(StrEnum):
    """The unit that a step is done for, once each."""

    BATCH = "batch"
    SHEET = "sheet"
    PIECE = "piece"
    COAT = "coat"
    PLATE = "plate"


@dataclass(frozen=True, slots=True)
class ChainStep:
    """A step of the chain.

    Parameters
    ----------
    stage, key, do : ChainStage, str, str
        Its stage, its name in the tables, and what is done, in a sentence.
    minutes, least : int
        How long one takes, and how long at the very least.
    hands_on : bool
        Whether hands are at it all the time.
    each : StepCount
        What the minutes are counted for: a piece, a sheet, a plate, all at once.
    places : tuple of str
        Where it happens; a place holds one step at a time.
    within : int or None
        How soon after the step before it must begin, min.
    check : str
        What is looked at before it is done.
    label, lasts : tuple of str, str or None
        The label's figures that it needs, and which of them says how long it takes.
    does, need : tuple of Act, tuple of str
        What of it can hurt, and what must be at hand.
    begun : bool
        A rest that begins with a hand.
    together : bool
        Follows the step before it piece by piece.
    own : bool
        A step that the maker added.
    """

    stage: ChainStage
    key: str
    do: str
    minutes: int
    least: int
    hands_on: bool
    each: StepCount
    places: tuple[str, ...]
    within: int | None
    check: str
    label: tuple[str, ...]
    lasts: str | None
    does: tuple[Act, ...]
    need: tuple[str, ...] = ()
    begun: bool = False
    together: bool = False
    own: bool = False

    @property
    def is_attended(self) -> bool:
        """Whether somebody stays near while it goes on by itself: heat is never left alone."""
        return not self.hands_on and bool(HEATS & set(self.does))


@dataclass(frozen=True, slots=True)
class Chain:
    """The steps for the pieces of one job, in order; a step that is looked at `later` is not waited for."""

    facts: ChainFacts
    every: tuple[ChainStep, ...]

    @property
    def key(self) -> str:
        """A short name of the way it is finished, the same for all that is finished so."""
        return self.facts.key

    @property
    def name(self) -> str:
        return name_of(self.facts.stock, self.facts.way)

    @property
    def steps(self) -> tuple[ChainStep, ...]:
        """The steps until the job is done; steps that only look at the pieces later are left out."""
        return tuple(step for step in self.every if step.stage is not ChainStage.LATER)

    @property
    def later(self) -> tuple[ChainStep, ...]:
        return tuple(step for step in self.every if step.stage is ChainStage.LATER)

    @property
    def needs(self) -> tuple[str, ...]:
        """The things that must be at hand."""
        return tuple(dict.fromkeys(one for step in self.every for one in step.need))

    def takes(self, place: str) -> bool:
        """Whether one of its steps takes a place: the oven, the press."""
        return any(place in step.places for step in self.steps)

    def label_keys(self) -> tuple[str, ...]:
        """The figures that its products' labels must say."""
        return tuple(dict.fromkeys(key for step in self.steps for key in step.label))


@dataclass(frozen=True, slots=True)
class _When:
    """All of `when`, none of `unless`, by the codes of the facts."""

    when: Mapping[str, frozenset[str]]
    unless: Mapping[str, frozenset[str]]

    def fits(self, codes: Mapping[str, frozenset[str]]) -> bool:
        return all(codes[name] & wanted for name, wanted in self.when.items()) and not any(
            codes[name] & barred for name, barred in self.unless.items()
        )


@dataclass(frozen=True, slots=True)
class _Row:
    step: ChainStep
    when: _When


@dataclass(frozen=True, slots=True)
class _Note:
    key: str
    say: str
    when: _When


@dataclass(frozen=True, slots=True)
class _Stage:
    rows: tuple[_Row, ...]
    notes: tuple[_Note, ...]


_SIDES = ("when", "unless")


def _when(data: Mapping[str, Any]) -> _When:
    found = {
        side: {name: frozenset(codes) for name, codes in data.get(side, {}).items()} for side in ("when", "unless")
    }
    strange = {name for side in found.values() for name in side} - FACT_NAMES
    if strange:
        raise LookupError(f"no fact is called {', '.join(sorted(strange))}")
    return _When(found["when"], found["unless"])


def _step(stage: ChainStage, data: Mapping[str, Any]) -> ChainStep:
    hands = "hands" in data
    minutes = int(data["hands"] if hands else data["rest"])
    return ChainStep(
        stage=stage,
        key=data["key"],
        do=data["do"],
        minutes=minutes,
        least=int(data.get("least", minutes)),
        hands_on=hands,
        each=StepCount(data.get("each", StepCount.BATCH)),
        places=tuple(data.get("at", ())),
        within=data.get("within"),
        check=data["check"].format(**{name: figure(value, "°C") for name, value in _FIGURES.items()}),
        label=tuple(data.get("label", ())),
        lasts=data.get("lasts"),
        does=tuple(Act(one) for one in data.get("does", ())),
        need=tuple(data.get("need", ())),
        begun=bool(data.get("begun", False)),
        together=bool(data.get("together", False)),
    )


@cache
def _stage(stage: ChainStage) -> _Stage:
    data = table(f"{__package__}.stages", f"{stage.value}.toml")
    return _Stage(
        tuple(_Row(_step(stage, one), _when(one)) for one in data["rows"]),
        tuple(_Note(one["key"], one["say"], _when(one)) for one in data.get("notes", ())),
    )


_ORDER = tuple((ChainStage(one["stage"]), _when(one)) for one in _TABLE["order"])
CUPS: dict[str, WrapSpec] = {
    cup["name"]: WrapSpec(float(cup["top_mm"]), float(cup["bottom_mm"]), float(cup["slant_mm"]))
    for cup in _TABLE["cups"].values()
}
PLACES: dict[str, str] = {key: place["name"] for key, place in _TABLE["places"].items()}
STARTER_PLACES: dict[str, int] = {key: place["holds"] for key, place in _TABLE["places"].items()}
ALWAYS = "The label of your product and your local rules come before this."
USUAL_CHAINS: dict[str, ChainFacts] = {name: row(ChainFacts, data) for name, data in _TABLE["usual"].items()}


@cache
def chain_of(facts: ChainFacts) -> Chain:
    """The chain that follows from some facts."""
    codes = facts.codes()
    steps = tuple(step for stage, when in _ORDER if when.fits(codes) for step in _fitting(_stage(stage), codes))
    return Chain(facts, steps)


def chain_of_job(job: Job) -> Chain:
    """How a job is finished, as it was asked for."""
    return chain_of(facts_of(job))


def usual_chain(name: str) -> Chain:
    """A usual chain by its name.

    Raises
    ------
    BadInput
        If there is none.
    """
    if name not in USUAL_CHAINS:
        raise BadInput(f'there is no process "{name[:40]}"; there are {", ".join(USUAL_CHAINS)}', "process")
    return chain_of(USUAL_CHAINS[name])


def _fitting(stage: _Stage, codes: Mapping[str, frozenset[str]]) -> Iterator[ChainStep]:
    """The rows of a stage that are done, of each key the first that fits, with what is to be noted."""
    taken = set[str]()
    for one in stage.rows:
        if one.step.key in taken or not one.when.fits(codes):
            continue
        taken.add(one.step.key)
        said = [note.say for note in stage.notes if note.key == one.step.key and note.when.fits(codes)]
        yield _noted(one.step, said)


def _noted(step: ChainStep, said: Iterable[str]) -> ChainStep:
    check = "; ".join((step.check, *said))
    return step if check == step.check else replace(step, check=check)
