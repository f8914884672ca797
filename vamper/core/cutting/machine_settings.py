"""Where a machine's named settings lie on the scale of force, and a proposal in their words.

Each step has an unknown ln force, even over what the machine is assumed to span, and the steps of a list do not fall.
What a step did on a stock is a reading of its force as a drop is one of hardness, with the stock's hardness known as
far as it is believed. Steps in order are a chain, so their forces are had exactly, forward and backward along it; what
was seen on the very stock that is to be cut binds its hardness and the steps together, so that chain is run for every
hardness of the belief, thinned out. What was told outright of that stock goes before all figures (`outright`).
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from vamper.core.cutting.belief import MISREAD, RUN_SIGMA, SEEN_SIGMA, Floats, HardnessBelief, landing_chance, prior
from vamper.core.cutting.depth import EFFORT, bands_of, passes_factor
from vamper.core.cutting.known_outcomes import KnownOutcome, holds_now, is_allowed, is_next, newest_of_each, that_worked
from vamper.core.values.blade import Blade, sharpness_of
from vamper.core.values.cutter import ForceRange
from vamper.core.values.named_settings import NamedSetting, SettingSeen
from vamper.core.values.tried import MOST_PASSES, Outcome

_CELLS = 161
_HARDNESSES = 41
# A notch less or more is taken as this share of the way to the next step, and that as so much where there is none (ln).
_NOTCH = 1 / 3
_USUAL_GAP = 0.25
# Nearer to a step than this share of the way to the next, a force is no longer called between the two.
_BESIDE = 0.2
_TINY = 1e-300
_NOTHING_LEFT = (
    "none of its settings is left: each went through, tore or did not get through; "
    "let the blade out less far, or take another blade or stock"
)


@dataclass(frozen=True, slots=True)
class PlacedSetting:
    """A step on the scale: its force (gf) as it is believed, and its chance of a clean cut."""

    name: str
    low_gf: float
    force_gf: float
    high_gf: float
    chance: float
    seen: int


@dataclass(frozen=True, slots=True)
class NamedProposal:
    """All steps, and what is proposed in their words: a sentence, the step with its notch, its passes, and its chance
    of a clean cut. No words where nothing was seen yet; no step where nothing is left to take.
    """

    steps: tuple[PlacedSetting, ...]
    words: str = ""
    step: str = ""
    chance: float = 0.0
    passes: int = 0
    worked: bool = False


def propose_setting(
    steps: Sequence[NamedSetting], belief: HardnessBelief, force: ForceRange, passes: int, only_these: bool = False
) -> NamedProposal:
    """Where the steps lie, and which of them to take for what is believed of a stock.

    Parameters
    ----------
    belief : Belief
        The stock that is to be cut.
    passes : int
        How often it is run over, unless more are known to be needed, or as many were clean; `only_these` where the
        maker chose them.
    """
    if not steps:
        return NamedProposal(())
    ln = np.linspace(np.log(force.min), np.log(force.max), _CELLS)
    hardness = _thinned(belief)
    own = [[one for one in step.seen if one.stock.key == belief.stock.key] for step in steps]
    others = [[one for one in step.seen if one.stock.key != belief.stock.key] for step in steps]
    seen = np.stack([_on_hardness(mine, ln, hardness) for mine in own], axis=1)
    seen *= np.array([_likelihood(theirs, ln) for theirs in others])[None]
    every, evidence = _ordered_posterior(seen)
    weight = evidence / evidence.sum()
    shares = np.einsum("h,hsf->sf", weight, every)
    quantiles = [np.exp(np.interp((0.05, 0.5, 0.95), np.cumsum(one) - one / 2, ln)).tolist() for one in shares]
    # The hardness that is believed once the steps have had their say.
    middle = float(np.exp(weight @ np.log(hardness)))

    def chances(count: int) -> list[float]:
        found: list[float] = np.einsum("h,hsf,hf->s", weight, every, _clean(belief, ln, hardness, count)).tolist()
        return found

    told = _outright(own, belief)
    taken = None
    if any(step.seen for step in steps):
        taken = _taken(told, passes, only_these, len(steps), chances)
        passes = passes if taken is None else taken.passes
    found = tuple(
        PlacedSetting(step.name, low, middle_gf, high, float(chance), len(step.seen))
        for step, (low, middle_gf, high), chance in zip(steps, quantiles, chances(passes), strict=True)
    )
    if not any(one.seen for one in found):
        return NamedProposal(found)
    if taken is None:
        return NamedProposal(found, _NOTHING_LEFT, passes=passes)
    return _as_setting(steps, found, belief, taken, middle)


@dataclass(frozen=True, slots=True)
class _Taken:
    """A step by its place, with its passes; `worked` where it was clean before."""

    place: int
    passes: int
    worked: bool


def _outright(own: Sequence[Sequence[SettingSeen]], belief: HardnessBelief) -> tuple[KnownOutcome, ...]:
    """What was told of this very stock, cut and blade."""
    return newest_of_each(
        KnownOutcome(place, one.passes, one.outcome)
        for place, mine in enumerate(own)
        for one in mine
        if one.cut is belief.cut and one.blade is belief.blade and holds_now(one.outcome, one.metres, belief.sharpness)
    )


def _taken(
    told: Sequence[KnownOutcome], passes: int, only_these: bool, count: int, chances: Callable[[int], list[float]]
) -> _Taken | None:
    """The step of those that may be taken with the best outlook, in as few passes as there are any; None where all of
    them were told not to do.
    """
    in_these = {one.passes for one in told if not only_these} | {passes}
    worked = [one for one in that_worked(told) if one.passes in in_these]
    if worked:
        best = max(worked, key=lambda one: chances(one.passes)[int(one.level)])
        return _Taken(int(best.level), best.passes, True)
    tries = [passes] if only_these else range(passes, MOST_PASSES + 1)
    for n in tries:
        open_to = [
            place for place in range(count) if is_allowed(place, n, told) and is_next(place, n, told, _after(told))
        ]
        if open_to:
            each = chances(n)
            return _Taken(max(open_to, key=lambda place: each[place]), n, False)
    return None


def _after(told: Sequence[KnownOutcome]) -> int:
    """The place of the step after the hardest that did not get through."""
    return 1 + max((int(one.level) for one in told if one.outcome is Outcome.NOT_THROUGH), default=-1)


def _thinned(belief: HardnessBelief) -> Floats:
    """Hardnesses that stand for equal shares of a belief."""
    found: Floats = belief.quantile((np.arange(_HARDNESSES) + 0.5) / _HARDNESSES)
    return found


def _factor(passes: int, sharpness: float, blade: Blade) -> float:
    return passes_factor(passes) * sharpness / EFFORT[blade]


def _clean(belief: HardnessBelief, ln: Floats, hardness: Floats, passes: int) -> Floats:
    """The chance of a clean cut, shape (hardness, force)."""
    depths = np.exp(ln)[None] * _factor(passes, belief.sharpness, belief.blade) / hardness[:, None]
    return landing_chance(depths, belief.bands.of(Outcome.CLEAN), RUN_SIGMA)


def _on_hardness(seen: Sequence[SettingSeen], ln: Floats, hardness: Floats) -> Floats:
    """How likely what a step did on one stock is, shape (hardness, force)."""
    found = np.ones((len(hardness), len(ln)))
    for one in seen:
        bands = bands_of(one.stock, one.cut)
        outcomes = [outcome for outcome, _, _ in bands.outcomes]
        if one.outcome not in outcomes:
            continue
        factor = _factor(one.passes, sharpness_of(one.metres), one.blade)
        depths = np.exp(ln)[None] * factor / hardness[:, None]
        lands = landing_chance(depths, bands.of(one.outcome), SEEN_SIGMA)
        found *= (1 - MISREAD) * lands + MISREAD / len(outcomes)
    return found


def _likelihood(seen: Sequence[SettingSeen], ln: Floats) -> Floats:
    """How likely what a step did on other stocks is at each force, over what is believed of their hardness."""
    found = np.ones_like(ln)
    for key in dict.fromkeys(one.stock.key for one in seen):
        mine = [one for one in seen if one.stock.key == key]
        hardness = _thinned(prior(mine[0].stock, mine[0].cut))
        found = found * _on_hardness(mine, ln, hardness).mean(axis=0)
    return found


def _ordered_posterior(seen: Floats) -> tuple[Floats, Floats]:
    """Each step's distribution over the scale where none lies below the one before it, and how likely all of it is.

    `seen` has the shape (hardness, step, force). Forward along the chain each step may lie at or above its predecessor,
    backward at or below its successor; both are scaled on the way, so that long chains do not vanish.
    """
    every, count, cells = seen.shape
    forward, backward = np.ones_like(seen), np.ones_like(seen)
    total = np.ones(every)
    for step in range(count):
        if step:
            forward[:, step] = np.cumsum(forward[:, step - 1] * seen[:, step - 1], axis=1)
        scale = np.maximum((forward[:, step] * seen[:, step]).sum(axis=1), _TINY)
        total *= scale / cells
        forward[:, step] /= scale[:, None]
    for step in range(count - 2, -1, -1):
        after = (backward[:, step + 1] * seen[:, step + 1])[:, ::-1]
        backward[:, step] = np.cumsum(after, axis=1)[:, ::-1]
        backward[:, step] /= np.maximum(backward[:, step].max(axis=1, keepdims=True), _TINY)
    found = forward * seen * backward
    return found / np.maximum(found.sum(axis=2, keepdims=True), _TINY), total


def _as_setting(
    steps: Sequence[NamedSetting],
    found: tuple[PlacedSetting, ...],
    belief: HardnessBelief,
    taken: _Taken,
    hardness: float,
) -> NamedProposal:
    """Which step to take, a notch up or down where it has any; the chance is that of the step itself. What worked is
    taken as it is.
    """
    best, passes = taken.place, taken.passes
    aim = float(np.log(belief.bands.target_um * hardness / _factor(passes, belief.sharpness, belief.blade)))
    at = [float(np.log(one.force_gf)) for one in found]
    away, notch = (0.0 if taken.worked else aim - at[best]), ""
    beside = best + (1 if away > 0 else -1)
    if steps[best].notches and abs(away) > _NOTCH / 2 * _gap(at, best, beside):
        notch = ", one notch up" if away > 0 else ", one notch down"
    between = ""
    if 0 <= beside < len(steps) and abs(away) > _BESIDE * abs(at[beside] - at[best]):
        low, high = sorted((best, beside))
        between = f"between “{steps[low].name}” and “{steps[high].name}”: "
    times = f", {passes} passes" if passes > 1 else ""
    step = f"“{steps[best].name}”{notch}"
    return NamedProposal(found, f"{between}take {step}{times}", step, found[best].chance, passes, taken.worked)


def _gap(at: Sequence[float], place: int, beside: int) -> float:
    """How far it is from one step to the next one; a usual way where there is none."""
    return abs(at[beside] - at[place]) if 0 <= beside < len(at) else _USUAL_GAP
