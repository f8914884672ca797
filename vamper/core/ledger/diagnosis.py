"""What went wrong: from what is seen and known to causes with their chances, and the check that is worth its minutes.

One cause at a time is taken to be at work. By Bayes its chance is proportional to its prior times how often it shows
each symptom that was seen, comes with each fact that is known, and answers each check as it was answered; a symptom
that a cause does not name is a slip of the eye, a fact that it does not name is as common as anywhere. What was not
seen is not held against a cause: makers tell what struck them.

Only causes that explain something of what was seen are answers, and beside them that it is something else: a cause that
no list has, which shows anything now and then and which no check speaks for. It is what is left when the checks say no.
The next check is the one that is expected to take away most uncertainty (entropy, bits) for a minute of effort, of
those that ask for a cause that is still likely; where none would tell enough, the questions end.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from vamper.core.values.findings import BadInput
from vamper.core.values.tables import table

_TABLE = table(__package__, "causes.toml")
# How often a symptom is told of a cause that does not show it.
SLIP = 0.006
# How often a check answers yes where its cause is at work, and where another one is.
YES, FALSE_YES = 0.9, 1 / 14
# A check answers yes for another cause than its own where it is expected to at least so often.
_ALSO_YES = 0.5
# Priors weigh as much as so many causes that were found here.
_PRIOR_RUNS = 30.0
_DECIMALS = 6
# Of all that goes wrong, so much is in no list; how often it shows a given symptom.
_OTHER_PRIOR, _OTHER_SHOWS = 0.05, 0.08
# A check is asked for a cause that is at least so likely, and where it is expected to tell so many bits.
_STILL_LIKELY, _LEAST_BITS = 0.01, 0.02

Floats = npt.NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Cause:
    """A cause in the network.

    Parameters
    ----------
    key, text : str
        Its code, and what it is, in a sentence.
    prior : float
        How often it is at work, beside the others.
    seen, facts : mapping of str to (float, str)
        Symptoms and facts with the share of cases that show them, and the reason.
    check : str
        The check that speaks for it.
    also : mapping of str to float
        Other causes for which that check is answered yes, too, with the share of cases.
    remedy, keep : str
        What helps, and how to keep it from coming back.
    """

    key: str
    text: str
    prior: float
    seen: Mapping[str, tuple[float, str]]
    facts: Mapping[str, tuple[float, str]]
    check: str
    also: Mapping[str, float]
    remedy: str
    keep: str


@dataclass(frozen=True, slots=True)
class Check:
    """A question that a maker can answer in so many minutes; yes speaks for a cause."""

    key: str
    ask: str
    minutes: float


SYMPTOMS: dict[str, str] = dict(_TABLE["symptoms"])
FACTS: dict[str, str] = {key: fact["text"] for key, fact in _TABLE["facts"].items()}
USUAL: dict[str, float] = {key: fact["usual"] for key, fact in _TABLE["facts"].items()}
CHECKS: dict[str, Check] = {key: Check(key, **check) for key, check in _TABLE["checks"].items()}
CAUSES: tuple[Cause, ...] = tuple(
    Cause(
        key=key,
        text=data["text"],
        prior=float(data["prior"]),
        seen={one: (float(share), why) for one, (share, why) in data["seen"].items()},
        facts={one: (float(share), why) for one, (share, why) in data["facts"].items()},
        check=data["check"],
        also=dict(data.get("also", {})),
        remedy=data["remedy"],
        keep=data["keep"],
    )
    for key, data in _TABLE["cause"].items()
)
OTHER = Cause(key="something-else", seen={}, facts={}, check="", also={}, **_TABLE["other"])
# All that may be at work.
HYPOTHESES: tuple[Cause, ...] = (*CAUSES, OTHER)
CAUSE_BY_KEY = {cause.key: cause for cause in HYPOTHESES}


def answers_yes(check: str, cause: str) -> bool:
    """Whether a check, by its key, truly says yes where a cause, by its key, is at work; no for a cause of no list."""
    if cause not in CAUSE_BY_KEY:
        return False
    asked = (one for one in HYPOTHESES if one.check == check)
    return any(one.key == cause or one.also.get(cause, 0.0) >= _ALSO_YES for one in asked)


@dataclass(frozen=True)
class Seen:
    """The observations on a spoiled sheet: symptoms, facts, and checks with their answers; `found` counts what it
    turned out to be in this workshop before.
    """

    symptoms: tuple[str, ...]
    facts: tuple[str, ...] = ()
    checked: Mapping[str, bool] = field(default_factory=dict)
    found: Mapping[str, int] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Suspect:
    """A cause with its chance (0..1), what speaks for it, and what would tell."""

    cause: Cause
    chance: float
    why: tuple[str, ...]
    next_check: Check | None


@dataclass(frozen=True)
class Diagnosis:
    """The causes that explain something of what was seen, and something else, the likeliest first; and the check to do
    next, None where none would tell more.
    """

    suspects: tuple[Suspect, ...]
    next_check: Check | None


def diagnose(seen: Seen) -> Diagnosis:
    """The causes that may have spoiled a sheet, and the checks to tell them apart.

    Raises
    ------
    BadInput
        If nothing was seen, or a code is unknown.
    """
    _known(seen)
    chances = _chances(seen)
    order = [place for place in np.argsort(-chances, kind="stable").tolist() if chances[place] > 0]
    rounded = _adding_up(chances[order])
    suspects = tuple(
        Suspect(HYPOTHESES[place], chance, _why(HYPOTHESES[place], seen), _own_check(HYPOTHESES[place], seen.checked))
        for place, chance in zip(order, rounded, strict=True)
    )
    return Diagnosis(suspects, _next_check(chances, seen.checked))


def priors(found: Mapping[str, int]) -> Floats:
    """How common each cause is here: the table's, shifted by what it turned out to be (a Dirichlet's mean)."""
    listed = sum(cause.prior for cause in CAUSES) / (1 - _OTHER_PRIOR)
    common = np.array([*(cause.prior / listed for cause in CAUSES), _OTHER_PRIOR])
    counts = np.array([float(found.get(cause.key, 0)) for cause in HYPOTHESES])
    shifted = common * _PRIOR_RUNS + counts
    return np.asarray(shifted / shifted.sum())


def yes_chances(check: str) -> Floats:
    """How often a check answers yes, for each cause."""
    return np.array(
        [
            YES
            if cause.check == check
            else max(
                FALSE_YES,
                max((one.also.get(cause.key, 0.0) for one in CAUSES if one.check == check), default=0.0),
            )
            for cause in HYPOTHESES
        ]
    )


_YES = {key: yes_chances(key) for key in CHECKS}


def _known(seen: Seen) -> None:
    if not seen.symptoms:
        raise BadInput("say at least one thing that is seen; `vamper diagnose --codes` lists them", "seen")
    for codes, there, name in (
        (seen.symptoms, SYMPTOMS, "seen"),
        (seen.facts, FACTS, "fact"),
        (tuple(seen.checked), CHECKS, "checked"),
    ):
        for code in codes:
            if code not in there:
                raise BadInput(f"“{code[:40]}” is none of its codes; `vamper diagnose --codes` lists them", name)


def _chances(seen: Seen) -> Floats:
    logs = np.log(priors(seen.found))
    for code in dict.fromkeys(seen.symptoms):
        logs += np.log([*(cause.seen.get(code, (SLIP, ""))[0] for cause in CAUSES), _OTHER_SHOWS])
    for code in dict.fromkeys(seen.facts):
        logs += np.log([cause.facts.get(code, (USUAL[code], ""))[0] for cause in HYPOTHESES])
    for code, answer in seen.checked.items():
        logs += np.log(_YES[code] if answer else 1 - _YES[code])
    explains = np.array([cause is OTHER or any(code in cause.seen for code in seen.symptoms) for cause in HYPOTHESES])
    weights = np.where(explains, np.exp(logs - logs[explains].max()), 0.0)
    return np.asarray(weights / weights.sum())


def _adding_up(chances: Floats) -> list[float]:
    """Chances rounded so that they still add up to 1, in the same order: the remainder goes to the chances that lost
    the most by rounding.
    """
    whole = 10**_DECIMALS
    exact = chances * whole
    units = np.floor(exact).astype(np.int64)
    left = whole - int(units.sum())
    units[np.argsort(units - exact, kind="stable")[:left]] += 1
    return [int(one) / whole for one in units]


def _why(cause: Cause, seen: Seen) -> tuple[str, ...]:
    """The observations that speak for a cause, the strongest first."""
    reasons = [(cause.seen[one][0] / SLIP, cause.seen[one][1]) for one in seen.symptoms if one in cause.seen]
    reasons += [
        (share / USUAL[one], why)
        for one in seen.facts
        if one in cause.facts
        for share, why in (cause.facts[one],)
        if share > USUAL[one]
    ]
    if seen.checked.get(cause.check):
        reasons.append((YES / FALSE_YES, f"checked: {CHECKS[cause.check].ask.rpartition(': ')[2].rstrip('?')}"))
    return tuple(why for _, why in sorted(reasons, key=lambda one: -one[0]))


def _own_check(cause: Cause, checked: Mapping[str, bool]) -> Check | None:
    return None if not cause.check or cause.check in checked else CHECKS[cause.check]


def _next_check(chances: Floats, checked: Mapping[str, bool]) -> Check | None:
    before = _entropy(chances)
    likely = {cause.check for cause, chance in zip(HYPOTHESES, chances, strict=True) if chance >= _STILL_LIKELY}
    told = {key: before - _after(chances, _YES[key]) for key in CHECKS if key in likely and key not in checked}
    worth = {key: bits / CHECKS[key].minutes for key, bits in told.items() if bits >= _LEAST_BITS}
    best = max(worth, key=lambda key: worth[key], default=None)
    return None if best is None else CHECKS[best]


def _entropy(chances: Floats) -> float:
    there = chances[chances > 0]
    return float(-(there * np.log2(there)).sum())


def _after(chances: Floats, yes: Floats) -> float:
    """The uncertainty that is expected to be left once a check is answered."""
    left = 0.0
    for answer in (yes, 1 - yes):
        weights = chances * answer
        total = float(weights.sum())
        if total > 0:
            left += total * _entropy(weights / total)
    return left
