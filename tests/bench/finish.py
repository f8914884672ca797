"""Timetables: how many are proven, how soon, and how much they save beside two rules of hand; bending of pictures."""

import random
import time
from dataclasses import replace
from itertools import pairwise

import numpy as np
import shapely

from tests.bench.table import Row
from vamper.core.art.bent import bent_picture
from vamper.core.finishing.chain import usual_chain
from vamper.core.finishing.round_things import RoundThing, bend_on
from vamper.core.finishing.soonest import plan_evening
from vamper.core.finishing.timetable import Away, Batch, Evening, Proof, TimedStep
from vamper.core.finishing.work import BatchWork, batch_of

INSTANCES = 50
_PLACES = {"oven": 1, "press": 1, "spray": 1, "rack": 4}


def instance(batches: int, seed: int) -> Evening:
    """Batches of 3 to 8 steps over four places, with waits, and a night in between."""
    luck = random.Random(seed)
    found = []
    for number in range(batches):
        steps = []
        for place in range(luck.randint(3, 8)):
            hands = luck.random() < 0.6
            least = luck.choice([0, 0, 0, 5, 20])
            steps.append(
                TimedStep(
                    f"{number}.{place}",
                    luck.randint(2, 15) if hands else luck.randint(5, 45),
                    hands,
                    (luck.choice(list(_PLACES)),) if luck.random() < 0.6 else (),
                    least,
                    luck.choice([None, None, least + 2, least + 15]),
                )
            )
        found.append(Batch(f"b{number}", tuple(steps)))
    return Evening(tuple(found), _PLACES, (Away(270, 780),))


def one_after_the_other(evening: Evening) -> int:
    """When all is done where each batch is finished before the next begins."""
    ends = 0
    for batch in evening.batches:
        alone = plan_evening(replace(evening, batches=(batch,), now=ends), 2)
        ends = alone.ends
    return ends


def first_come(evening: Evening) -> int | None:
    """When all is done where whatever can begin first does, minute by minute; None where a greatest wait breaks."""
    at = [0] * len(evening.batches)
    ready = [0] * len(evening.batches)
    latest: list[int | None] = [None] * len(evening.batches)
    person, taken = 0, dict[str, list[int]]()
    ends = 0
    while any(step < len(batch.steps) for step, batch in zip(at, evening.batches, strict=True)):
        best: tuple[int, int] | None = None
        for number, batch in enumerate(evening.batches):
            if at[number] >= len(batch.steps):
                continue
            step = batch.steps[at[number]]
            start = max(ready[number], person if step.hands_on else 0)
            for place in step.occupies:
                busy = sorted(taken.get(place, []))
                if len(busy) >= evening.places[place]:
                    start = max(start, busy[-evening.places[place]])
            if step.hands_on:
                for hours in evening.away:
                    if start < hours.end and start + step.minutes > hours.start:
                        start = max(start, hours.end)
            if best is None or start < best[0]:
                best = (start, number)
        assert best is not None
        start, number = best
        step = evening.batches[number].steps[at[number]]
        if latest[number] is not None and start > latest[number]:  # type: ignore[operator]
            return None
        end = start + step.minutes
        if step.hands_on:
            person = end
        for place in step.occupies:
            taken.setdefault(place, []).append(end)
        at[number] += 1
        ends = max(ends, end)
        if at[number] < len(evening.batches[number].steps):
            after = evening.batches[number].steps[at[number]]
            ready[number] = end + after.wait_least
            latest[number] = None if after.wait_most is None else end + after.wait_most
    return ends


def timetables() -> list[Row]:
    proven, spent, saved, against, broke = dict[int, int](), dict[int, list[float]](), [], [], 0
    sizes = [2 + number % 7 for number in range(INSTANCES)]
    for number, size in enumerate(sizes):
        evening = instance(size, number)
        started = time.perf_counter()
        found = plan_evening(evening, 15)
        spent.setdefault(size, []).append(time.perf_counter() - started)
        proven[size] = proven.get(size, 0) + (found.proof is Proof.OPTIMAL)
        saved.append(found.ends / one_after_the_other(evening))
        dispatched = first_come(evening)
        if dispatched is None:
            broke += 1
        else:
            against.append(found.ends / dispatched)
    rows = [
        Row(
            f"{size} batches: proven, median and slowest",
            f"{proven[size]} of {len(spent[size])}, {np.median(spent[size]):.2f} s, {max(spent[size]):.2f} s",
            "all up to 6" if size <= 6 else "most",
        )
        for size in sorted(spent)
    ]
    rows.append(Row("ends beside one batch after the other (mean ratio)", f"{np.mean(saved):.2f}"))
    rows.append(Row("ends beside first come, first done (mean ratio)", f"{np.mean(against):.2f}"))
    rows.append(Row("  of which broke a greatest wait", f"{broke} of {INSTANCES}"))
    return rows


def slipped() -> list[Row]:
    """The club's evening, planned again after every step that came ten minutes late."""
    keys = (("water-slide", 4), ("dark-transfer", 2), ("shrink", 8), ("sealed-coat", 8))
    batches = tuple(batch_of(key, usual_chain(key), BatchWork(pieces=pieces, plate=8)) for key, pieces in keys)
    evening = Evening(batches, {"oven": 1, "press": 1, "spray": 1, "mat": 1, "rack": 9})
    found, spent = plan_evening(evening), []
    for _ in range(12):
        todo = min(
            (one for one in found.steps if evening.batches[one.batch].steps[one.step].began is None),
            key=lambda one: one.start,
        )
        late = max(todo.start, evening.now) + 10
        steps = list(evening.batches[todo.batch].steps)
        steps[todo.step] = replace(steps[todo.step], began=late, ended=late + steps[todo.step].minutes)
        for place in range(todo.step):
            if steps[place].ended is None:
                steps[place] = replace(steps[place], began=steps[place].began or 0, ended=late)
        one = replace(evening.batches[todo.batch], steps=tuple(steps))
        evening = replace(
            evening,
            batches=(*evening.batches[: todo.batch], one, *evening.batches[todo.batch + 1 :]),
            now=late + steps[todo.step].minutes,
        )
        started = time.perf_counter()
        found = plan_evening(evening, 2)
        spent.append(time.perf_counter() - started)
    return [
        Row("planned again after a slip: median, slowest of 12", f"{np.median(spent):.2f}, {max(spent):.2f} s", "2 s")
    ]


def bending() -> list[Row]:
    rgba = np.random.default_rng(1).integers(0, 255, (3000, 3000, 4), dtype=np.uint8)
    bend = bend_on(RoundThing(84, 60, 105), (37.5, 37.5), 50.0)
    started = time.perf_counter()
    bent_picture(rgba, (0.0, 0.0), 75 / 3000, bend)
    spent = time.perf_counter() - started
    ring = shapely.get_coordinates(bend.shape(shapely.box(0, 0, 75, 60)).exterior)
    centre = np.array([37.5, 37.5 + bend.radius_mm])
    off = []
    for a, b in pairwise(ring):
        radii = np.hypot(*(np.array([a, b]) - centre).T)
        if abs(radii[0] - radii[1]) < 1e-9:
            off.append(abs(float(np.hypot(*((a + b) / 2 - centre))) - radii[0]))
    return [
        Row("bending a picture of 9 megapixels", f"{spent:.2f} s", "1 s"),
        Row("its outline off the analytic arc, at most", f"{max(off):.5f} mm", "0.02 mm"),
    ]
