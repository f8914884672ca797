"""Where the steps of a machine's dialect lie on the scale of force, and a proposal in their words.

Each step has an unknown ln force, even over what the machine is assumed to span, and the steps of a list do not fall.
What a step did on a stock is a reading of its force as a drop is one of hardness, with the stock's hardness known as
far as it is believed. Steps in order are a chain, so their forces are had exactly, forward and backward along it; what
was seen on the very stock that is to be cut binds its hardness and the steps together, so that chain is run for every
hardness of the belief, thinned out.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vamper.core.cutting.belief import MISREAD, RUN_SIGMA, SEEN_SIGMA, Belief, Floats, first_belief, landing
from vamper.core.cutting.depth import EFFORT, bands_of, passes_factor
from vamper.core.values.blade import Blade, sharpness_of
from vamper.core.values.cutter import ForceRange
from vamper.core.values.dialect import Step, StepSeen
from vamper.core.values.tried import Outcome

_CELLS = 161
_HARDNESSES = 41
# A notch less or more is taken as this share of the way to the next step, and that as so much where there is none (ln).
_NOTCH = 1 / 3
_USUAL_GAP = 0.25
# Nearer to a step than this share of the way to the next, a force is no longer called between the two.
_BESIDE = 0.2
_TINY = 1e-300


@dataclass(frozen=True, slots=True)
class PlacedStep:
    """A step on the scale: its force (gf) as it is believed, and its chance of a clean cut."""

    name: str
    low_gf: float
    force_gf: float
    high_gf: float
    chance: float
    seen: int


@dataclass(frozen=True, slots=True)
class Spoken:
    """All steps, and what is proposed in their words: a sentence, the step with its notch, and its chance of a clean
    cut. No words where nothing was seen yet.
    """

    steps: tuple[PlacedStep, ...]
    words: str = ""
    step: str = ""
    chance: float = 0.0


def placed(steps: Sequence[Step], belief: Belief, force: ForceRange, passes: int) -> Spoken:
    """Where the steps lie, and which of them to take for what is believed of a stock.

    Parameters
    ----------
    belief : Belief
        The stock that is to be cut.
    passes : int
        How often it will be run over.
    """
    if not steps:
        return Spoken(())
    ln = np.linspace(np.log(force.min), np.log(force.max), _CELLS)
    hardness = _thinned(belief)
    own = [[one for one in step.seen if one.stock.key == belief.stock.key] for step in steps]
    others = [[one for one in step.seen if one.stock.key != belief.stock.key] for step in steps]
    seen = np.stack([_on_hardness(mine, ln, hardness) for mine in own], axis=1)
    seen *= np.array([_likelihood(theirs, ln) for theirs in others])[None]
    every, evidence = _in_order(seen)
    weight = evidence / evidence.sum()
    clean = _clean(belief, ln, hardness, passes)
    chances = np.einsum("h,hsf,hf->s", weight, every, clean)
    shares = np.einsum("h,hsf->sf", weight, every)
    quantiles = [np.exp(np.interp((0.05, 0.5, 0.95), np.cumsum(one) - one / 2, ln)).tolist() for one in shares]
    found = tuple(
        PlacedStep(step.name, low, middle, high, float(chance), len(step.seen))
        for step, (low, middle, high), chance in zip(steps, quantiles, chances, strict=True)
    )
    if not any(one.seen for one in found):
        return Spoken(found)
    # The hardness that is believed once the steps have had their say.
    middle = float(np.exp(weight @ np.log(hardness)))
    return _spoken(steps, found, belief, passes, middle)


def _thinned(belief: Belief) -> Floats:
    """Hardnesses that stand for equal shares of a belief."""
    found: Floats = belief.quantile((np.arange(_HARDNESSES) + 0.5) / _HARDNESSES)
    return found


def _factor(passes: int, sharpness: float, blade: Blade) -> float:
    return passes_factor(passes) * sharpness / EFFORT[blade]


def _clean(belief: Belief, ln: Floats, hardness: Floats, passes: int) -> Floats:
    """The chance of a clean cut, shape (hardness, force)."""
    depths = np.exp(ln)[None] * _factor(passes, belief.sharpness, belief.blade) / hardness[:, None]
    return landing(depths, belief.bands.of(Outcome.CLEAN), RUN_SIGMA)


def _on_hardness(seen: Sequence[StepSeen], ln: Floats, hardness: Floats) -> Floats:
    """How likely what a step did on one stock is, shape (hardness, force)."""
    found = np.ones((len(hardness), len(ln)))
    for one in seen:
        bands = bands_of(one.stock, one.cut)
        outcomes = [outcome for outcome, _, _ in bands.outcomes]
        if one.outcome not in outcomes:
            continue
        factor = _factor(one.passes, sharpness_of(one.metres), Blade.GENERAL)
        depths = np.exp(ln)[None] * factor / hardness[:, None]
        lands = landing(depths, bands.of(one.outcome), SEEN_SIGMA)
        found *= (1 - MISREAD) * lands + MISREAD / len(outcomes)
    return found


def _likelihood(seen: Sequence[StepSeen], ln: Floats) -> Floats:
    """How likely what a step did on other stocks is at each force, over what is believed of their hardness."""
    found = np.ones_like(ln)
    for key in dict.fromkeys(one.stock.key for one in seen):
        mine = [one for one in seen if one.stock.key == key]
        hardness = _thinned(first_belief(mine[0].stock, mine[0].cut))
        found = found * _on_hardness(mine, ln, hardness).mean(axis=0)
    return found


def _in_order(seen: Floats) -> tuple[Floats, Floats]:
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


def _spoken(
    steps: Sequence[Step], found: tuple[PlacedStep, ...], belief: Belief, passes: int, hardness: float
) -> Spoken:
    """Which step to take, a notch up or down where it has any; the chance is that of the step itself."""
    aim = float(np.log(belief.bands.target_um * hardness / _factor(passes, belief.sharpness, belief.blade)))
    at = [float(np.log(one.force_gf)) for one in found]
    best = max(range(len(steps)), key=lambda place: found[place].chance)
    away, notch = aim - at[best], ""
    beside = best + (1 if away > 0 else -1)
    if steps[best].notches and abs(away) > _NOTCH / 2 * _gap(at, best, beside):
        notch = ", one notch up" if away > 0 else ", one notch down"
    between = ""
    if 0 <= beside < len(steps) and abs(away) > _BESIDE * abs(at[beside] - at[best]):
        low, high = sorted((best, beside))
        between = f"between “{steps[low].name}” and “{steps[high].name}”: "
    times = f", {passes} passes" if passes > 1 else ""
    step = f"“{steps[best].name}”{notch}"
    return Spoken(found, f"{between}take {step}{times}", step, found[best].chance)


def _gap(at: Sequence[float], place: int, beside: int) -> float:
    """How far it is from one step to the next one; a usual way where there is none."""
    return abs(at[beside] - at[place]) if 0 <= beside < len(at) else _USUAL_GAP
