"""Lessons of the runs for a new job: how it is printed, how its marks are read, and how it is finished.

The cut follows by itself, from the belief in the stock. These are the other ways of a recipe, and they are taken over
when a job gets its stock or its cutter, as one would do it from memory.
"""

from typing import Any

from vamper.core.finishing.chain import chain_of_job
from vamper.core.finishing.work import WAITS
from vamper.core.ledger.recipe import Recipe, RecipeKind, standing
from vamper.core.ledger.run import CameOut, Run
from vamper.core.printing.advice import LearntPrinting
from vamper.core.values.finish import CoverKind, CoverWhen, LabelFigure
from vamper.core.values.job import Job
from vamper.core.values.reading import Remedy, RoomLight
from vamper.services.jobs.document import JobDocument
from vamper.services.ledger.logging import is_simulated
from vamper.services.ledger.runs import Runs
from vamper.services.shop.shop import Shop

# How the name of a way says when its coat was laid.
_COATS = {"coat-before": CoverWhen.BEFORE_CUT, "coat-after": CoverWhen.AFTER_CUT}


class LearntFromRuns:
    """The lessons that the runs of one workshop have for its jobs."""

    def __init__(self, runs: Runs, shop: Shop) -> None:
        self._runs = runs
        self._shop = shop

    def changes(self, document: JobDocument, job: Job) -> dict[str, Any]:
        """Fields of a job as the runs on its stock and machines would have them; nothing where nothing was learnt."""
        stock, cutter = document.stock, self._shop.cutters.get(document.cutter_id).name
        changes: dict[str, Any] = {}
        marks = _standing(self._runs, RecipeKind.MARKS, stock, cutter, is_simulated(job))
        if marks is not None:
            known = {str(one) for one in Remedy}
            changes["marks.remedies"] = [one for one in marks.remedies if one in known]
            if marks.light in {str(one) for one in RoomLight}:
                changes["room_light"] = marks.light
        finish = _standing(self._runs, RecipeKind.FINISH, stock, "", is_simulated(job))
        if finish is not None and (cover := _cover_of(finish, job)) is not None:
            changes["finish.cover"] = cover
        return changes

    def waits(self, stock: str) -> tuple[LabelFigure, ...]:
        """How long the runs of a stock waited between coats and for them to harden, by the newest that held."""
        held = (
            one.run
            for one in reversed(self._runs.all())
            if one.run.stock == stock and not one.run.simulated and one.run.came_out is not CameOut.NOT_RUN
            if not any(check.held is False for check in one.run.later)
        )
        found = dict[str, float]()
        for run in held:
            for one in run.figures:
                if one.key in WAITS:
                    found.setdefault(one.key, one.value)
        return tuple(LabelFigure(key, value) for key, value in sorted(found.items()))


def print_learnt(runs: Runs, stock: str, printer: str, simulated: bool) -> LearntPrinting | None:
    """Print settings that went clearly better than the settings that are used now."""
    found = _recipe(runs, RecipeKind.PRINT, stock, printer, simulated)
    if found is None or found.better is None:
        return None
    run, success = runs.get(found.better.newest).run, found.better.success
    worse = f"{found.success.good} of {found.success.good + found.success.bad}"
    source = f"good in {success.good} of {success.good + success.bad} runs here; “{found.way}” in {worse}"
    return LearntPrinting(run.media, run.quality, source)


def _recipe(runs: Runs, kind: RecipeKind, stock: str, machine: str, simulated: bool) -> Recipe | None:
    for one in runs.recipes():
        what = one.what
        if (what.kind, what.stock, what.machine, what.simulated) == (kind, stock, machine, simulated):
            return one
    return None


def _standing(runs: Runs, kind: RecipeKind, stock: str, machine: str, simulated: bool) -> Run | None:
    """The run that is to be followed; none where the newest way never went well and nothing better is known."""
    found = _recipe(runs, kind, stock, machine, simulated)
    if found is None or (found.better is None and not found.success.good):
        return None
    return runs.get(standing(found)).run


def _cover_of(run: Run, job: Job) -> dict[str, Any] | None:
    """The coat that a run of the same way had, as a job takes it; None where it says nothing of that."""
    way, *codes = run.process.split()
    coat = next((code for code in codes if code in _COATS), None)
    if coat is None or way != chain_of_job(job).facts.way:
        return None
    return {
        "kind": CoverKind.COAT.value,
        "when": _COATS[coat].value,
        "coats": run.coats,
        "product": run.cover,
        "look": run.look,
    }
