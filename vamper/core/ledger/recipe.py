"""Recipes: how often a way of doing something went well, for a stock on a machine.

A recipe is never written by anybody: it is what the runs say. Real and simulated runs are counted apart. Each way of
doing something is counted by itself, a cut by what is set on the machine for it with one blade; printing, marks and
finishing by what was chosen, in words. The one that stands is the one that was taken last, by the date of its run. What
a cut changes to is for the belief in the stock to say; of all else a way that went clearly better comes before it.
"""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum

from vamper.core.ledger.drift import has_drifted
from vamper.core.ledger.run import CameOut, Run, Spoilt, UsedSetting
from vamper.core.ledger.success import Success, success_of
from vamper.core.values.cut import Cut
from vamper.core.values.named_settings import SettingChoice

# So many of the newest runs are told by themselves.
_NEWEST = 5
# A way is better where it was taken so often, and its share is higher by so much.
_TAKEN, _BETTER = 2, 0.15
NO_REMEDY = "no remedy"


class RecipeKind(StrEnum):
    """The kinds of recipes, by what they set."""

    PRINT = "print"
    MARKS = "marks"
    CUT = "cut"
    FINISH = "finish"


@dataclass(frozen=True, slots=True)
class RecipeFor:
    """The subject of a recipe: a print, a cut or a finish of a stock.

    Parameters
    ----------
    kind : RecipeKind
        Whether it is of a print, of marks, of a cut or of a finish.
    stock, stock_name : str
        The stock's key, and its name.
    machine : str
        The printer, or the cutter.
    simulated : bool
        Whether its runs were dry.
    cut : Cut or None
        How deep the cut goes; None for other kinds.
    blade : str
        The cut's blade; empty for other kinds.
    """

    kind: RecipeKind
    stock: str
    stock_name: str
    machine: str
    simulated: bool
    cut: Cut | None = None
    blade: str = ""


@dataclass(frozen=True, slots=True)
class WorkingWay:
    """One way of doing it, in words, and how often it went well; `newest` is the last run that took it."""

    words: str
    success: Success
    newest: int


@dataclass(frozen=True, slots=True)
class Recipe:
    """The settings that work on a stock: the way that was taken last, and how that has gone.

    Parameters
    ----------
    what : RecipeFor
        What it is for.
    way : str
        The way in words.
    setting : UsedSetting or None
        The way of a cut.
    success, lately : Success
        How this way came out, over all its runs and over the last of them.
    drifted : bool
        Whether it has become worse.
    better : WorkingWay or None
        Another way that went clearly better.
    runs : tuple of int
        Numbers of this way's runs.
    pieces : int
        How many pieces they made.
    """

    what: RecipeFor
    way: str
    setting: UsedSetting | None
    success: Success
    lately: Success
    drifted: bool
    better: WorkingWay | None
    runs: tuple[int, ...]
    pieces: int


@dataclass(frozen=True, slots=True)
class _Entry:
    number: int
    run: Run
    way: str
    good: bool
    setting: UsedSetting | None = None


class Tally:
    """Runs counted by what they are of, the oldest first; one more only touches its own recipes."""

    def __init__(self, runs: Iterable[tuple[int, Run]] = ()) -> None:
        self._entries = defaultdict[RecipeFor, list[_Entry]](list)
        self._found: dict[RecipeFor, Recipe] = {}
        # When each was taken last, as its place in the row of all runs.
        self._taken: dict[RecipeFor, int] = {}
        self._count = 0
        for number, run in runs:
            self.add(number, run)

    def add(self, number: int, run: Run) -> None:
        """One more run, newer than all before."""
        if run.came_out is CameOut.NOT_RUN:
            return
        self._count += 1
        for what, entry in _entries(number, run):
            self._taken[what] = self._count
            self._entries[what].append(entry)
            self._found.pop(what, None)

    def recipes(self) -> tuple[Recipe, ...]:
        """All recipes, with the recipe used last first."""
        for what, entries in self._entries.items():
            if what not in self._found:
                self._found[what] = _recipe(what, entries)
        return tuple(sorted(self._found.values(), key=lambda one: -self._taken[one.what]))


def recipes_of(runs: Iterable[tuple[int, Run]]) -> tuple[Recipe, ...]:
    """The recipes of numbered runs, the oldest first; recipes that were used last come first."""
    return Tally(runs).recipes()


def _entries(number: int, run: Run) -> Iterator[tuple[RecipeFor, _Entry]]:
    """The recipe entries that a run gives, station by station."""

    def on(kind: RecipeKind, machine: str) -> RecipeFor:
        return RecipeFor(kind, run.stock, run.stock_name, machine, run.simulated)

    for setting in run.settings:
        what = RecipeFor(
            RecipeKind.CUT, run.stock, run.stock_name, run.cutter, run.simulated, setting.cut, setting.blade
        )
        yield what, _Entry(number, run, setting_words(setting), run.cut_is_good, setting)
    if run.media:
        way = ", ".join(filter(None, (run.media, run.quality)))
        yield on(RecipeKind.PRINT, run.printer), _Entry(number, run, way, not run.has(Spoilt.PRINT_FAULT))
    if run.marks:
        yield on(RecipeKind.MARKS, run.cutter), _Entry(number, run, marks_way(run), not run.has(Spoilt.OFF))
    if run.process:
        # What was looked at later says more than the evening itself.
        held = not any(check.held is False for check in run.later)
        yield on(RecipeKind.FINISH, ""), _Entry(number, run, finish_way(run), held and not run.has(Spoilt.PRINT_FAULT))


def setting_words(one: UsedSetting) -> str:
    """The setting of a cut in words: a setting with its pressure, a force, or that nobody remembers."""
    if one.setting:
        choice = SettingChoice(one.setting, one.pressure, one.passes)
        return f"{one.cut.value} {choice.words}"
    what = "as nobody remembers" if one.force_gf is None else f"{one.force_gf:g} gf"
    return f"{one.cut.value} {what} × {one.passes}"


def marks_way(run: Run) -> str:
    """How a run's marks were read, in words."""
    return f"{run.light} light, {', '.join(run.remedies).replace('-', ' ') or NO_REMEDY}"


def finish_way(run: Run) -> str:
    """How a run was finished, in words, with the figures of its labels."""
    coats = f"{run.coats} coats" if run.coats else ""
    cover = f"with {run.cover}" if run.cover else ""
    figures = ", ".join(f"{one.key.replace('_', ' ')} {one.value:g}" for one in run.figures)
    return ", ".join(filter(None, (run.process.replace("-", " "), cover, coats, figures)))


def _recipe(what: RecipeFor, entries: Sequence[_Entry]) -> Recipe:
    newest = entries[-1]
    mine = [one for one in entries if one.way == newest.way]
    good = [one.good for one in mine]
    lately = good[-_NEWEST:]
    success = success_of(sum(good), len(good) - sum(good))
    return Recipe(
        what=what,
        way=newest.way,
        setting=newest.setting,
        success=success,
        lately=success_of(sum(lately), len(lately) - sum(lately)),
        drifted=has_drifted(good),
        better=None if what.kind is RecipeKind.CUT else _better(entries, newest.way, success),
        runs=tuple(one.number for one in mine),
        pieces=sum(one.run.made_pieces for one in mine),
    )


def _better(entries: Sequence[_Entry], way: str, success: Success) -> WorkingWay | None:
    """Another way that was taken more than once and went clearly better."""
    others = defaultdict[str, list[_Entry]](list)
    for one in entries:
        if one.way != way:
            others[one.way].append(one)
    ways = [
        WorkingWay(words, success_of(good := sum(one.good for one in those), len(those) - good), those[-1].number)
        for words, those in others.items()
        if len(those) >= _TAKEN
    ]
    best = max(ways, key=lambda one: one.success.share, default=None)
    return best if best is not None and best.success.share > success.share + _BETTER else None


def standing(recipe: Recipe) -> int:
    """The run whose way is to be taken from now on."""
    return recipe.runs[-1] if recipe.better is None else recipe.better.newest
