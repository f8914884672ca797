"""What was cut out of a sheet in one run: where each stroke landed, and the pieces between them.

A piece is what lies inside the strokes of its last pass; one that was held by tabs, or never cut, has the edge it was
to have, moved as its cut would have been.
"""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.plan import Plan
from vamper.core.twin.cutter import held, near_lint, own_error, shared_error, slid
from vamper.core.twin.devices import Devices
from vamper.core.twin.pieces import PieceFacts
from vamper.core.twin.printer import at
from vamper.core.twin.simulate import SPOILINGS, SimulationResult, Spoiling
from vamper.core.values.geometry import Points


@dataclass(frozen=True)
class CutPiece:
    """One piece of one run: what was cut out, where it lies on the sheet, and all that befell it."""

    facts: PieceFacts
    region: BaseGeometry
    happened: frozenset[Spoiling]


def spoiling_of(runs: SimulationResult, run: int, place: int) -> Spoiling | None:
    code = int(runs.spoiled[run, place])
    return SPOILINGS[code - 1] if code else None


def typical_run(runs: SimulationResult) -> int:
    """The run to show: a run that was read, its number of good pieces as near as can be to the median run's."""
    read = np.flatnonzero(runs.read)
    if not len(read):
        return 0
    counts = runs.good[read].sum(axis=1)
    return int(read[int(np.abs(counts - np.median(counts)).argmin())])


def strokes_in(plan: Plan, devices: Devices, runs: SimulationResult, run: int) -> dict[int, Points]:
    """Where each stroke that was cut in a run landed on the sheet, by its place in the file."""
    facts, found = runs.facts, dict[int, Points]()
    done = devices.cutter.done_share * len(facts.strokes)
    shifts = {piece.placement: _shifts(plan, devices, runs, run, piece) for piece in facts.pieces}
    for number, points in enumerate(facts.landed):
        if number >= done:
            continue
        placed = at(runs.found[run], points)
        if number in facts.owner:
            piece, passed = facts.owner[number]
            placed = placed + shifts[piece][min(passed, len(shifts[piece]) - 1)]
        found[number] = placed
    return found


def _shifts(plan: Plan, devices: Devices, runs: SimulationResult, run: int, piece: PieceFacts) -> Points:
    """The shift of a piece in each pass of a run, shape (passes, 2)."""
    cutter, luck = devices.cutter, runs.luck
    where = np.array([piece.at_mm])
    hold = held(cutter, near_lint(luck, plan.job.paper, where[0]))
    shared = shared_error(cutter, devices.sensor.read_mm, plan.budget, luck, where)[run, 0]
    own = own_error(cutter, luck, piece.placement, max(piece.passes, 1), piece.area_mm2, hold)[run]
    moved: Points = own + shared + slid(cutter, luck, piece.last)[run]
    return moved


def cut_pieces(plan: Plan, devices: Devices, runs: SimulationResult, run: int) -> list[CutPiece]:
    """The pieces that were cut out in a run."""
    landed = strokes_in(plan, devices, runs, run)
    found = list[CutPiece]()

    def on_sheet(points: Points) -> Points:
        return at(runs.found[run], points)

    for place, piece in enumerate(runs.facts.pieces):
        region = _cut_out(piece, landed)
        if region is None:
            # Held by tabs, or never cut: where its edge was to be.
            shift = _shifts(plan, devices, runs, run, piece)[-1]
            region = shapely.transform(shapely.transform(runs.facts.edges[place], on_sheet), shift.__add__)
        happened = frozenset(cause for cause, seen in runs.happened.items() if seen[run, place])
        found.append(CutPiece(piece, region, happened))
    return found


def _cut_out(piece: PieceFacts, landed: Mapping[int, Points]) -> BaseGeometry | None:
    outer, holes = list[BaseGeometry](), list[BaseGeometry]()
    for loop in piece.loops:
        if not loop.strokes or len(loop.strokes[-1]) != 1 or loop.strokes[-1][0] not in landed:
            return None
        points = landed[loop.strokes[-1][0]]
        if len(points) < 4:
            return None
        (holes if loop.is_hole else outer).append(shapely.make_valid(Polygon(points)))
    if not outer:
        return None
    shape = shapely.union_all(outer)
    return shapely.difference(shape, shapely.union_all(holes)) if holes else shape
