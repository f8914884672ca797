"""What a finding offers is taken: each kind of fix with what does it. A new kind is one line here."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from vamper.core.values.findings import BadInput, FixTarget
from vamper.services.jobs.answers import fixed, with_answer
from vamper.services.jobs.items import Items
from vamper.services.jobs.job_state import JobState
from vamper.services.jobs.jobs import Jobs
from vamper.services.jobs.variants import Variants

# The job as it stands, the number of the design, the step's label, and what the fix changes.
Handler = Callable[[JobState, int, str, Mapping[str, Any]], JobState]


class Fixes:
    """The fixes of one workshop's jobs."""

    def __init__(self, jobs: Jobs, items: Items, variants: Variants) -> None:
        self._jobs = jobs
        self._of_design: dict[FixTarget, Handler] = {
            FixTarget.ITEM: lambda state, number, label, changes: jobs.change_items(
                state.id, label, (number,), dict(changes)
            ),
            FixTarget.SPLIT: lambda state, number, _label, changes: items.split(
                state, number, _figure(changes, "apart_mm"), changes.get("together") is True
            ),
            FixTarget.TILES: lambda state, number, _label, changes: items.in_tiles(
                state, number, _figure(changes, "overlap_mm")
            ),
            FixTarget.CUP: lambda state, number, _label, _changes: items.in_cup_parts(state, number, []),
            FixTarget.COLOURS: lambda state, number, _label, changes: variants.by_colour(
                state, number, changes.get("keys") is not False
            ),
        }

    def take(
        self, job_id: int, target: FixTarget, item_number: int | None, label: str, changes: Mapping[str, Any]
    ) -> JobState:
        """Do what a fix says, as one step of the job's history.

        Raises
        ------
        BadInput
            If it is about a design and names none, or what it sets cannot be set.
        """
        if target is FixTarget.JOB:
            return self._jobs.change(job_id, label, dict(changes))
        if item_number is None:
            raise BadInput("this is about one design; say which", "item_number")
        return self._of_design[target](self._jobs.get(job_id), item_number, label, changes)

    def take_each(
        self,
        job_id: int,
        code: str,
        label: str,
        each: Sequence[tuple[int, Mapping[str, Any]]],
        keep: bool,
        meant: bool = False,
    ) -> JobState:
        """Take the fix of a finding for some designs, as one step; with `keep`, for designs that come in later too.
        Where it is `meant`, the finding stays, and is answered by it.
        """
        return self._jobs.edit(job_id, label, lambda document: fixed(document, code, each, keep, meant))

    def answer(self, job_id: int, code: str, numbers: Sequence[int] | None, meant: bool, keep: bool) -> JobState:
        """Say that a finding is meant so, or ask again.

        Raises
        ------
        BadInput
            If it is no matter of taste or knowledge, or a design is not there.
        """
        label = "meant so" if meant else "ask again"
        return self._jobs.edit(
            job_id, label, lambda document: with_answer(document, code, numbers, meant, keep), f"{code} {numbers}"
        )


def _figure(changes: Mapping[str, Any], name: str) -> float:
    value = changes.get(name)
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise BadInput(f"must say {name} as a number", "changes")
    return float(value)
