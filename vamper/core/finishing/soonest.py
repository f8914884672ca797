"""The plan of an evening that ends soonest, found by a constraint solver (OR-tools CP-SAT).

Each step is an interval; the person's do not overlap, and those of a place are `cumulative`. Batches with the same
steps are put in order, so that plans which differ only in which is which are looked at once. Of all plans that end
soonest, one whose steps begin early is taken, so that nothing waits without a reason. What goes on already
is a fact: all that it takes together is laid out as it is, and only what is still to come keeps clear of it. The solver
takes half a second to load: who may never plan an evening loads this when one is planned.
"""

import math
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any

from ortools.sat.python import cp_model

from vamper.core.finishing.timetable import (
    Evening,
    PlannedStep,
    Span,
    TimedStep,
    Timetable,
    check,
    horizon_of,
    levels,
    merged,
    soonest_alone,
)
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
    if model.is_late(solver):
        # The bound is one of lateness and end together, and says nothing of either.
        bound = min(ends, soonest_alone(evening))
    else:
        bound = ends if status == cp_model.OPTIMAL else min(ends, math.ceil(solver.best_objective_bound - _EVEN))
    # Nothing waits without a reason: the same end, everything as early as may be.
    model.early(ends, steps)
    finer = _solver(min(_TIDY_S, seconds))
    if not stopped() and finer.solve(model.model, watch) in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        steps = model.read(finer)
    return Timetable(evening, steps, ends, bound)


def _solver(seconds: float) -> cp_model.CpSolver:
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = _WORKERS
    solver.parameters.random_seed = 1
    return solver


@dataclass
class _Taken:
    """What takes one place, and how much of it: intervals still to be laid, those of what lies there already (while it
    is worked on, and all the while), and spans that are facts.
    """

    free: list[tuple[Any, int]] = field(default_factory=list)
    lying: list[tuple[Any, Any, int]] = field(default_factory=list)
    facts: list[tuple[Span, int]] = field(default_factory=list)


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
        horizon = horizon_of(evening)
        gone = merged((max(0, one.start), one.end) for one in evening.away if one.end > 0)
        at_work, person, near = list[Span](gone), list[Any](), list[Any]()
        places = {place: _Taken() for place in evening.places}
        for number, batch in enumerate(evening.batches):
            starts, ends = list[Any](), list[Any]()
            for place, step in enumerate(batch.steps):
                start, end, interval = self._interval(step, f"{number}.{place}", horizon)
                if place:
                    self._after(step, start, ends[-1])
                starts.append(start)
                ends.append(end)
                if interval is not None and step.hands_on:
                    person.append(interval)
                elif interval is not None and step.needs_somebody:
                    near.append(interval)
                elif interval is None and step.ended is None and step.hands_on:
                    at_work.append((start, end))
                for one, many in Counter(step.occupies).items() if step.ended is None else ():
                    if interval is None:
                        places[one].facts.append(((start, end), many))
                    elif step.lies_since is None:
                        places[one].free.append((interval, many))
                    else:
                        places[one].lying.append((interval, self._lies(end, f"{number}.{place} lies"), many))
            self._starts.append(starts)
            self._ends.append(ends)
        self.model.add_no_overlap([*person, *self._fixed(merged(at_work), "at work")])
        for one in near:
            self.model.add_no_overlap([one, *self._fixed(gone, "away")])
        for name, taken in places.items():
            self._share(taken, evening.places[name], name)
        self._alike_in_order()
        self._makespan = self.model.new_int_var(0, horizon, "ends")
        self.model.add_max_equality(self._makespan, [ends[-1] for ends in self._ends])
        # A greatest wait that cannot be kept any more costs more than any delay.
        self.model.minimize(self._makespan + (horizon + 1) * sum(self._late))

    def is_late(self, solver: cp_model.CpSolver) -> bool:
        """Whether a greatest wait is not kept in what was found."""
        return any(solver.value(one) > 0 for one in self._late)

    def _interval(self, step: TimedStep, name: str, horizon: int) -> tuple[Any, Any, Any]:
        """Start, end and interval of a step; what has begun has times and no interval of its own."""
        if step.began is not None and step.ended is not None:
            return step.began, step.ended, None
        if step.began is not None:
            return step.began, step.began + max(step.minutes, self._evening.now - step.began), None
        start = self.model.new_int_var(self._evening.now, horizon, name)
        interval = self.model.new_fixed_size_interval_var(start, step.minutes, name)
        return start, start + step.minutes, interval

    def _lies(self, end: Any, name: str) -> Any:
        """How long a step takes its places that lies there already, though nobody is at it: from now to its end."""
        size = self.model.new_int_var(0, horizon_of(self._evening), name)
        return self.model.new_interval_var(self._evening.now, size, end, name)

    def _share(self, taken: "_Taken", holds: int, name: str) -> None:
        """A place holds so many at once; what lies in it already may be more, and then there is no room for others."""
        facts = [(span, min(many, holds)) for span, many in levels(taken.facts)]
        room = holds - max((many for (_, end), many in facts if end > self._evening.now), default=0)
        free = list(taken.free)
        for works, lies, many in taken.lying:
            # Where more lies than the place holds, the rest of it takes its turn.
            free.append((lies if many <= room else works, many))
            room -= min(many, room)
        if not free:
            return
        intervals = [one for one, _ in free] + self._fixed([span for span, _ in facts], name)
        takes = [one for _, one in free] + [one for _, one in facts]
        if holds == 1 and all(one == 1 for one in takes):
            self.model.add_no_overlap(intervals)
        else:
            self.model.add_cumulative(intervals, takes, holds)

    def _fixed(self, spans: Sequence[Span], name: str) -> list[Any]:
        return [
            self.model.new_fixed_size_interval_var(start, end - start, f"{name} {n}")
            for n, (start, end) in enumerate(spans)
        ]

    def _after(self, step: TimedStep, start: Any, before: Any) -> None:
        if step.began is not None:
            return
        self.model.add(start >= before + step.wait_least)
        if step.wait_most is None:
            return
        if not self._has_begun:
            self.model.add(start <= before + step.wait_most)
            return
        late = self.model.new_int_var(0, horizon_of(self._evening), "late")
        self.model.add(start <= before + step.wait_most + late)
        self._late.append(late)

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
        self.model.minimize(sum(free) + (horizon_of(self._evening) + 1) * len(free) * sum(self._late))

    def read(self, solver: cp_model.CpSolver) -> tuple[PlannedStep, ...]:
        return tuple(
            PlannedStep(batch, step, int(solver.value(start)), int(solver.value(end)))
            for batch, (starts, ends) in enumerate(zip(self._starts, self._ends, strict=True))
            for step, (start, end) in enumerate(zip(starts, ends, strict=True))
        )
