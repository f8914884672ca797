"""A sheet as a request names it, from 1: held against the plan here, once for all routes."""

from vamper.core.plan import Plan
from vamper.services.work.not_found import NotFound


def sheet_place(plan: Plan, sheet: int, *, before_any: bool = False) -> int:
    """The place of a sheet in its plan, from 0; with `before_any` the first is there before a piece lies on it.

    Raises
    ------
    NotFound
        If the job has no such sheet.
    """
    if not 1 <= sheet <= max(len(plan.sheets), 1 if before_any else 0):
        count = len(plan.sheets)
        have = "no sheet yet" if count == 0 else "one sheet" if count == 1 else f"{count} sheets"
        raise NotFound(f"there is no sheet {sheet}: this job has {have}")
    return sheet - 1
