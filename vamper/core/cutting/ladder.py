"""A ladder of small cuts: which forces to try next, what is proposed, and what another ladder would be worth.

Proposed is the force with the best outlook (`outlook`), in as few passes as keep it within 90 % of the machine. The
first ladder spans what is believed possible, 5 to 95 of 100; later ones stand at the rims of the clean window, where
the outcome is least known. The worth of another is worked out over all outcomes that it may have: what the best choice
will then be worth on average, less what it is worth now. Under one point the ladder is done.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import reduce

import numpy as np

from vamper.core.cutting.belief import MISREAD, SEEN_SIGMA, HardnessBelief, landing_chance
from vamper.core.cutting.outlook import Floats, outlook
from vamper.core.values.cutter import ForceRange
from vamper.core.values.tried import MOST_PASSES, Outcome, Try

COMFORTABLE_SHARE = 0.9
RUNGS = 6
DONE_AT = 0.01
# Forces that are weighed against each other, and hardnesses, where all outcomes are gone through.
_MOST_FORCES = 60
_COARSE = 8
_MOST_OUTCOMES = 4096
TORN_ADVICE = (
    "fewer gf and one more pass",
    "brush the tuft off the blade’s tip, or change the blade",
    "a mat that holds better, or tape on the rim",
    "larger detail: a smoother edge, or the design in a larger size",
)


@dataclass(frozen=True, slots=True)
class ForceProposal:
    """A force with its passes, and what is to be expected of it.

    Parameters
    ----------
    force_gf : float
        The pressure, gf.
    passes : int
        How often the blade goes over every line.
    chance : float
        The chance of a clean cut at the first go.
    at_first : float
        The chance of a usable cut at the first go.
    usable : float
        The chance of a usable sheet where it is looked at before it is unloaded.
    worth : float
        What the outcome is worth on average, by `outlook`.
    """

    force_gf: float
    passes: int
    chance: float
    at_first: float
    usable: float
    worth: float


@dataclass(frozen=True, slots=True)
class LadderAdvice:
    """The advice that follows from a belief; see `ladder_advice`."""

    proposal: ForceProposal
    chance_if_known: float
    gain_of_another: float
    next_gf: tuple[float, ...]
    advice: tuple[str, ...]

    @property
    def done(self) -> bool:
        return self.gain_of_another < DONE_AT


def settable(force: ForceRange) -> Floats:
    """Every force that the machine can be set to, ascending."""
    steps = int((force.max - force.min) / force.step + 1e-9)
    found: Floats = force.min + np.arange(steps + 1, dtype=np.float64) * force.step
    return found


def proposed(belief: HardnessBelief, force: ForceRange, least_passes: int = 1) -> ForceProposal:
    """The best setting: in as few passes as keep its force within 90 % of the machine's."""
    every = list[ForceProposal]()
    for passes in range(least_passes, MOST_PASSES + 1):
        every.append(best_at(belief, force, passes))
        if every[-1].force_gf <= COMFORTABLE_SHARE * force.max:
            return every[-1]
    return max(every, key=_worth_of)


def _worth_of(one: ForceProposal) -> float:
    return one.worth


def best_at(belief: HardnessBelief, force: ForceRange, passes: int, most_gf: float = math.inf) -> ForceProposal:
    """The force with the best outlook in so many passes, no greater than `most_gf`."""
    forces = settable(force)
    return best_of(belief, forces[: max(1, int((forces <= most_gf).sum()))], passes)


def best_of(belief: HardnessBelief, forces: Floats, passes: int) -> ForceProposal:
    """The one of some ascending forces (gf) with the best outlook in so many passes."""
    # The worth has one hill over ln force, so a fine scale is looked through coarsely first.
    every = math.ceil(len(forces) / _MOST_FORCES)
    if every > 1:
        near = every * int(belief.outlook(forces[::every], passes).worth.argmax())
        forces = forces[max(0, near - every) : near + every + 1]
    found = belief.outlook(forces, passes)
    place = int(found.worth.argmax())
    return ForceProposal(
        float(forces[place]),
        passes,
        float(found.clean[place]),
        float(found.at_first[place]),
        float(found.usable[place]),
        float(found.worth[place]),
    )


def proposal_at(belief: HardnessBelief, force_gf: float, passes: int) -> ForceProposal:
    """The proposal for one force, with its chances."""
    return best_of(belief, np.array([force_gf]), passes)


def ladder_advice(
    belief: HardnessBelief, force: ForceRange, tries: Sequence[Try], least_passes: int = 1, exact: bool = False
) -> LadderAdvice:
    """The force to set now, the ladder to try next, and whether it is worth it; in just so many passes where that is
    `exact`.
    """
    best = best_at(belief, force, least_passes) if exact else proposed(belief, force, least_passes)
    rungs = next_rungs(belief, force, best.passes, first=not tries)
    forces = _near(belief, force, best.passes)
    promised = outlook(belief.depths(forces, best.passes), belief.bands, best.passes)
    known = float(promised.clean[promised.worth.argmax(axis=0), np.arange(promised.worth.shape[1])] @ belief.weight)
    torn = any(one.outcome is Outcome.TORN for one in tries)
    return LadderAdvice(
        best,
        max(known, best.chance),
        _gain(belief, promised.worth, best.passes, rungs),
        tuple(rungs),
        TORN_ADVICE if torn else (),
    )


def _near(belief: HardnessBelief, force: ForceRange, passes: int) -> Floats:
    """Settable forces that could be right, thinned out to so many."""
    forces = settable(force)
    low, high = _forces_for(belief, belief.bands.target_um, np.array([0.002, 0.998]), passes)
    inside = forces[(forces >= low) & (forces <= high)]
    if not len(inside):
        inside = forces[[int(np.abs(forces - (low + high) / 2).argmin())]]
    places = np.unique(np.linspace(0, len(inside) - 1, min(_MOST_FORCES, len(inside))).round().astype(int))
    found: Floats = inside[places]
    return found


def _forces_for(belief: HardnessBelief, depth_um: float, shares: Floats, passes: int) -> Floats:
    """The forces that reach a depth on the hardnesses that are not exceeded with some chances."""
    per_gf = belief.depths(1.0, passes)[0] * belief.hardness
    found: Floats = depth_um * belief.quantile(shares) / per_gf[0]
    return found


def next_rungs(belief: HardnessBelief, force: ForceRange, passes: int, first: bool) -> list[float]:
    """The forces of the next ladder, ascending and all different, as far as the machine has so many."""
    low, high = belief.bands.wanted
    rims = [low] if len(belief.bands.outcomes) == 2 else [low, high]
    if first:
        least, most = _forces_for(belief, belief.bands.target_um, np.array([0.05, 0.95]), passes)
        wanted = np.geomspace(least, most, RUNGS)
    else:
        shares = np.linspace(0.15, 0.85, RUNGS // len(rims))
        wanted = np.concatenate([_forces_for(belief, rim, shares, passes) for rim in rims])
    return _apart(np.sort(wanted), settable(force))


def _apart(wanted: Floats, forces: Floats) -> list[float]:
    """The nearest settable forces, none of them twice."""
    places = np.searchsorted((forces[1:] + forces[:-1]) / 2, wanted)
    count = min(len(wanted), len(forces))
    found = [int(place) for place in places[:count]]
    for number in range(1, count):
        found[number] = max(found[number], found[number - 1] + 1)
    # What was pushed past the end is pushed back.
    for number in range(count - 1, -1, -1):
        found[number] = min(found[number], len(forces) - count + number)
    return [float(forces[place]) for place in found]


def _gain(belief: HardnessBelief, worth: Floats, passes: int, rungs: Sequence[float]) -> float:
    """The expected gain in the outcome from a ladder at these rungs; `worth` is the worth of each force there is to
    choose from on each hardness, shape (forces, grid).
    """
    outcomes = belief.bands.outcomes
    every = slice(None, None, _COARSE)
    weight = belief.weight[every] / belief.weight[every].sum()
    depths = belief.depths(np.array(rungs), passes)[:, every]
    seen = [
        np.stack(
            [
                (1 - MISREAD) * landing_chance(row[None], (low, high), SEEN_SIGMA)[0] + MISREAD / len(outcomes)
                for _, low, high in outcomes
            ]
        )
        for row in depths
    ]
    # Every combination of outcomes, drop by drop; those that hardly ever happen are left out.
    joint = reduce(_combined, seen, weight[None])
    worth = worth[:, every]
    after = float((joint @ worth.T).max(axis=1).sum()) / float(joint.sum())
    now = float((worth @ weight).max())
    return max(0.0, after - now)


def _combined(joint: Floats, seen: Floats) -> Floats:
    every = (joint[:, None] * seen[None]).reshape(-1, joint.shape[1])
    likely = every.sum(axis=1)
    kept = np.argsort(-likely)[:_MOST_OUTCOMES]
    found: Floats = every[kept[likely[kept] > 1e-7]]
    return found
