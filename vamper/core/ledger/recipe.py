"""Recipes: how often a setting went well for a stock on a machine, with a blade, for a kind of cut.

A recipe is never written by anybody: it is what the runs say. Real and simulated runs are counted apart, and the newest
run is what stands now.
"""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from vamper.core.ledger.run import CameOut, Run, UsedSetting
from vamper.core.ledger.success import Success, success_of
from vamper.core.values.cut import Cut

# So many of the newest runs are held against those before.
_NEWEST = 5
# Lower by so much than before, and it has drifted.
_DRIFT = 0.25


@dataclass(frozen=True, slots=True)
class RecipeFor:
    """What a recipe is for."""

    stock: str
    stock_name: str
    cutter: str
    blade: str
    cut: Cut
    simulated: bool


@dataclass(frozen=True, slots=True)
class Recipe:
    """`setting` is the one that was used last; `success` counts all its runs, `drifted` says that the newest went worse
    than those before.
    """

    what: RecipeFor
    setting: UsedSetting
    success: Success
    lately: Success
    drifted: bool
    runs: tuple[int, ...]
    pieces: int


def recipes_of(runs: Iterable[tuple[int, Run]]) -> tuple[Recipe, ...]:
    """The recipes of numbered runs, the oldest first; those that were used last come first."""
    groups = defaultdict[RecipeFor, list[tuple[int, Run, UsedSetting]]](list)
    for number, run in runs:
        if run.came_out is CameOut.NOT_RUN:
            continue
        for setting in run.settings:
            key = RecipeFor(run.stock, run.stock_name, run.cutter, setting.blade, setting.cut, run.simulated)
            groups[key].append((number, run, setting))
    found = [_recipe(what, entries) for what, entries in groups.items()]
    return tuple(sorted(found, key=lambda one: -one.runs[-1]))


def _recipe(what: RecipeFor, entries: Sequence[tuple[int, Run, UsedSetting]]) -> Recipe:
    good = [run.cut_is_good for _, run, _ in entries]
    lately, before = good[-_NEWEST:], good[:-_NEWEST]
    whole, new = success_of(sum(good), len(good) - sum(good)), success_of(sum(lately), len(lately) - sum(lately))
    drifted = bool(before) and sum(lately) / len(lately) < sum(before) / len(before) - _DRIFT
    numbers = tuple(number for number, _, _ in entries)
    return Recipe(what, entries[-1][2], whole, new, drifted, numbers, sum(run.made_pieces for _, run, _ in entries))
