"""The plan of an evening that ends soonest, found by a constraint solver (OR-tools CP-SAT).

Each step is an interval; the person's do not overlap, and those of a place are `cumulative`. Batches with the same
steps are put in order, so that plans which differ only in which is which are looked at once. Of all plans that end
soonest, one whose steps begin early is taken, so that nothing waits without a reason. The solver takes half a second to
load: who may never plan an evening loads this when one is planned.
"""

import math
from collections import Counter
from collections.abc import Callable, Sequence
from typing import Any

from ortools.sat.python import cp_model

from vamper.core.finishing.timetable import Evening, PlannedStep, TimedStep, Timetable, check
from vamper.core.values.findings import BadInput

SECONDS = 10.0
_WORKERS = 2
_EVEN, _TIDY_S = 1e-6, 1.0


def plan_evening(evening: Evening, seconds: float = SECONDS, stopped: Callable[[], bool] = lambda: False) -> Timetable:
    """The plan that ends soonest, as far as `seconds` suffice.

    Raises
    ------
    BadInput
        If nothing is to be planned, a wait or a place cannot be, or no plan is found in time.
    """
    check(evening)
    if not evening.batches:
        raise BadInput("there is nothing to plan; add a batch with its steps", "batches")
    model = _Model(evening)
    solver = _solver(seconds)
    watch = _Watch(stopped)
    status = solver.solve(model.model, watch)
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        # After all away hours one thing after the other is a plan, so there always is one.
        raise BadInput(f"no plan was found within {seconds:g} s; give it longer, or fewer batches", "batches")
    steps = model.read(solver)
    ends = max(one.end for one in steps)
    bound = ends if status == cp_model.OPTIMAL else min(ends, math.ceil(solver.best_objective_bound - _EVEN))
    # Nothing waits without a reason: the same end, everything as early as may be.
    model.early(ends, steps)
    finer = _solver(_TIDY_S)
    if not stopped() and finer.solve(model.model, watch) in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        steps = model.read(finer)
    return Timetable(evening, steps, ends, bound)


def _solver(seconds: float) -> cp_model.CpSolver:
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = _WORKERS
    solver.parameters.random_seed = 1
    return solver


class _Watch(cp_model.CpSolverSolutionCallback):
    def __init__(self, stopped: Callable[[], bool]) -> None:
        super().__init__()
        self._stopped = stopped

    def on_solution_callback(self) -> None:
        if self._stopped():
            self.stop_search()


class _Model:
    """The evening as the solver sees it."""

    def __init__(self, evening: Evening) -> None:
        self._evening = evening
        self.model = cp_model.CpModel()
        self._late = list[Any]()
        self._has_begun = any(step.began is not None for batch in evening.batches for step in batch.steps)
        self._starts: list[list[Any]] = []
        self._ends: list[list[Any]] = []
        horizon = _horizon(evening)
        person, places = list[Any](), dict[str, list[tuple[Any, int]]]()
        for number, batch in enumerate(evening.batches):
            starts, ends = list[Any](), list[Any]()
            for place, step in enumerate(batch.steps):
                start, end, interval = self._interval(step, f"{number}.{place}", horizon)
                if place:
                    self._after(step, start, ends[-1])
                starts.append(start)
                ends.append(end)
                if step.hands_on and interval is not None:
                    person.append(interval)
                for one, many in Counter(step.occupies).items() if interval is not None else ():
                    places.setdefault(one, []).append((interval, many))
            self._starts.append(starts)
            self._ends.append(ends)
        self.model.add_no_overlap([*person, *self._gone()])
        for one, taken in places.items():
            if evening.places[one] == 1 and all(many == 1 for _, many in taken):
                self.model.add_no_overlap([interval for interval, _ in taken])
            else:
                self.model.add_cumulative(
                    [interval for interval, _ in taken], [many for _, many in taken], evening.places[one]
                )
        self._alike_in_order()
        self._makespan = self.model.new_int_var(0, horizon, "ends")
        self.model.add_max_equality(self._makespan, [ends[-1] for ends in self._ends])
        # A greatest wait that cannot be kept any more costs more than any delay.
        self.model.minimize(self._makespan + (horizon + 1) * sum(self._late))

    def _interval(self, step: TimedStep, name: str, horizon: int) -> tuple[Any, Any, Any]:
        """Start, end and interval of a step; what is over has times and takes nothing any more."""
        if step.began is not None and step.ended is not None:
            return step.began, step.ended, None
        if step.began is not None:
            length = max(step.minutes, self._evening.now - step.began)
            interval = self.model.new_fixed_size_interval_var(step.began, length, name)
            return step.began, step.began + length, interval
        start = self.model.new_int_var(self._evening.now, horizon, name)
        interval = self.model.new_fixed_size_interval_var(start, step.minutes, name)
        return start, start + step.minutes, interval

    def _after(self, step: TimedStep, start: Any, before: Any) -> None:
        if step.began is not None:
            return
        self.model.add(start >= before + step.wait_least)
        if step.wait_most is None:
            return
        if not self._has_begun:
            self.model.add(start <= before + step.wait_most)
            return
        late = self.model.new_int_var(0, _horizon(self._evening), "late")
        self.model.add(start <= before + step.wait_most + late)
        self._late.append(late)

    def _gone(self) -> list[Any]:
        """Away hours as intervals that do not overlap each other."""
        merged = list[list[int]]()
        for start, end in sorted((max(0, one.start), one.end) for one in self._evening.away if one.end > 0):
            if merged and start <= merged[-1][1]:
                merged[-1][1] = max(merged[-1][1], end)
            else:
                merged.append([start, end])
        return [
            self.model.new_fixed_size_interval_var(start, end - start, f"away {n}")
            for n, (start, end) in enumerate(merged)
        ]

    def _alike_in_order(self) -> None:
        """Batches with the same steps, none begun, come in their order."""
        seen = dict[tuple[TimedStep, ...], int]()
        for number, batch in enumerate(self._evening.batches):
            if any(step.began is not None for step in batch.steps):
                continue
            before = seen.get(batch.steps)
            if before is not None:
                self.model.add(self._starts[before][0] <= self._starts[number][0])
            seen[batch.steps] = number

    def early(self, ends: int, steps: Sequence[PlannedStep]) -> None:
        """Look for the plan with the least sum of starts among those that end by `ends`."""
        self.model.add(self._makespan <= ends)
        self.model.clear_objective()  # type: ignore[no-untyped-call]
        free = [start for starts in self._starts for start in starts if not isinstance(start, int)]
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        for one in steps:
            start = self._starts[one.batch][one.step]
            if not isinstance(start, int):
                self.model.add_hint(start, one.start)
        self.model.minimize(sum(free) + (_horizon(self._evening) + 1) * len(free) * sum(self._late))

    def read(self, solver: cp_model.CpSolver) -> tuple[PlannedStep, ...]:
        return tuple(
            PlannedStep(batch, step, int(solver.value(start)), int(solver.value(end)))
            for batch, (starts, ends) in enumerate(zip(self._starts, self._ends, strict=True))
            for step, (start, end) in enumerate(zip(starts, ends, strict=True))
        )


def _horizon(evening: Evening) -> int:
    """By then everything could be done one after the other."""
    work = sum(step.minutes + step.wait_least for batch in evening.batches for step in batch.steps)
    over = max((one.end for one in evening.away), default=0)
    began = max((step.began or 0 for batch in evening.batches for step in batch.steps), default=0)
    return max(evening.now, began) + work + max(0, over) + sum(max(0, one.end - one.start) for one in evening.away)
