"""Free play: a spoilt sheet, everything that is seen of it, and one cause to find with the fewest checks.

The cause is one that the twin can show. What is seen and known is drawn by the network's own shares; how hard it is
goes by how alike the causes are that are left: e to the power of their entropy, the number of causes that would be as
puzzling if they were equally likely. A good hand asks what the network asks, until one cause is sure enough.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from typing import Any

import numpy as np

from vamper.core.ledger.diagnosis import (
    CAUSE_BY_KEY,
    CHECKS,
    FACTS,
    Cause,
    Check,
    Diagnosis,
    Seen,
    answers_yes,
    diagnose,
)
from vamper.core.trainer.lesson import LookPicture
from vamper.core.values.findings import BadInput
from vamper.core.values.tables import row, table
from vamper.core.values.twin import FaultKey

SURE = 0.8
# Causes that are offered for a spoilt sheet, the likeliest first.
_MOST_CAUSES = 12
MOST_CHECKS = 8
# A second thing is seen or known of it this often at most.
_MOST_SEEN, _MOST_FACTS = 2, 2
_TRIES = 400


@dataclass(frozen=True, slots=True)
class ShownCause:
    """How the twin shows a cause, the move that mends it, and whether it takes a stock that shines."""

    faults: tuple[FaultKey, ...]
    mends: str
    gloss: bool = False


SHOWN: Mapping[str, ShownCause] = {
    key: row(ShownCause, data) for key, data in table(__package__, "spoilt.toml")["causes"].items()
}


class PuzzleLevel(StrEnum):
    """How alike the causes are."""

    EASY = "easy"
    MIDDLE = "middle"
    HARD = "hard"


# How many causes look alike, from and to.
_ALIKE: Mapping[PuzzleLevel, tuple[float, float]] = {
    PuzzleLevel.EASY: (0.0, 3.0),
    PuzzleLevel.MIDDLE: (3.0, 6.0),
    PuzzleLevel.HARD: (6.0, 99.0),
}


# What is seen in the cut itself.
_SEEN_IN_DEPTH = frozenset({"not-through", "backing-cut", "not-through-places"})


@dataclass(frozen=True, slots=True)
class Puzzle:
    """One spoilt sheet: its hidden cause, and what is seen and known."""

    level: PuzzleLevel
    seed: int
    cause: str
    symptoms: tuple[str, ...]
    facts: tuple[str, ...]

    @property
    def shown(self) -> ShownCause:
        return SHOWN[self.cause]

    @property
    def shows(self) -> tuple[LookPicture, ...]:
        """The pictures that there are of it."""
        if "marks-not-found" in self.symptoms:
            return LookPicture.SHEET, LookPicture.MARK
        depth = (LookPicture.DROP,) if _SEEN_IN_DEPTH & set(self.symptoms) else ()
        return LookPicture.SHEET, LookPicture.PIECE, *depth

    def offered(self, checked: Sequence[str]) -> tuple[tuple[Cause, ...], tuple[Check, ...]]:
        """Causes that are still thinkable after some checks, and the checks that speak for any of them. Neither is in
        the order of the chances: that would give the way out away.
        """
        suspects = [one.cause for one in self.diagnosed(tuple(checked)).suspects if one.cause.check][:_MOST_CAUSES]
        checks = sorted({one.check for one in suspects} - set(checked))
        return tuple(sorted(suspects, key=lambda one: one.key)), tuple(CHECKS[one] for one in checks)

    def says(self, check: str) -> bool:
        """The true answer of a check."""
        if check not in CHECKS:
            raise BadInput("there is no such check", "check")
        return answers_yes(check, self.cause)

    def diagnosed(self, checks: tuple[str, ...] = ()) -> Diagnosis:
        """The diagnosis that the network gives after some checks."""
        return diagnose(Seen(self.symptoms, self.facts, {one: self.says(one) for one in checks}))


def alike(puzzle: Puzzle) -> float:
    """How many causes look alike before anything is checked."""
    chances = np.array([one.chance for one in puzzle.diagnosed().suspects])
    chances = chances[chances > 0]
    return float(np.exp(-(chances * np.log(chances)).sum()))


@cache
def puzzle_of(level: PuzzleLevel, seed: int) -> Puzzle:
    """The spoilt sheet of a level and a seed; the nearest to the level where none of many is of it."""
    random = np.random.default_rng((seed, list(PuzzleLevel).index(level), 5))
    low, high = _ALIKE[level]
    best: tuple[float, Puzzle] | None = None
    for _ in range(_TRIES):
        found = _drawn(level, seed, random)
        if found is None:
            continue
        many = alike(found)
        off = max(low - many, many - high, 0.0)
        if best is None or off < best[0]:
            best = off, found
        if not off:
            break
    assert best is not None
    return best[1]


def _drawn(level: PuzzleLevel, seed: int, random: Any) -> Puzzle | None:
    keys = list(SHOWN)
    weights = np.array([CAUSE_BY_KEY[one].prior for one in keys]) ** 0.5
    cause = CAUSE_BY_KEY[keys[int(random.choice(len(keys), p=weights / weights.sum()))]]
    seen = _some(cause, random)
    known = [one for one, (share, _) in cause.facts.items() if random.random() < share]
    known += [one for one in FACTS if one not in cause.facts and random.random() < 0.04]
    return Puzzle(level, seed, cause.key, seen, tuple(known[:_MOST_FACTS])) if seen else None


def _some(cause: Cause, random: Any) -> tuple[str, ...]:
    found = [one for one, (share, _) in cause.seen.items() if random.random() < share]
    return tuple(found[:_MOST_SEEN])


def best_checks(puzzle: Puzzle) -> tuple[str, ...]:
    """The checks of a good hand, until the cause is sure enough or no check would tell more."""
    done = list[str]()
    while len(done) < MOST_CHECKS:
        found = puzzle.diagnosed(tuple(done))
        if found.next_check is None or found.suspects[0].chance >= SURE:
            break
        done.append(found.next_check.key)
    return tuple(done)
