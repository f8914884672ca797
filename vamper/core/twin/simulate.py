"""One sheet, run many times: printed, loaded, read, cut and looked at.

What differs from run to run is drawn first; each device then follows its model, for all runs at once. What became of a
piece is the first of the spoilings below that holds, in the order in which a person would name it.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
import numpy.typing as npt

from vamper.core.cutting.depth import bands_of
from vamper.core.marks.program_marks import LOOKED_FOR, marks_or_usual
from vamper.core.plan import Plan
from vamper.core.twin.cutter import (
    Floats,
    RandomDraws,
    depths,
    held,
    lifted,
    near_lint,
    own_error,
    sample,
    shared_error,
    slid,
    torn,
)
from vamper.core.twin.devices import Devices
from vamper.core.twin.pieces import PieceFacts, SheetFacts
from vamper.core.twin.printer import PrintedRaster, after, at, from_nominal, printed_scale, printings
from vamper.core.twin.sensor import SightedMark, look, read
from vamper.core.twin.shift_margins import is_passed
from vamper.core.values.cut import Cut
from vamper.core.vision.print_comparison import WHOLE_FROM

Booleans = npt.NDArray[np.bool_]

# A print this far from its size is not what was planned (craft: print.scale).
MOST_SCALE_OFF = 0.005
_PALE = 0.8
_OPEN_MM = 0.15


class Spoiling(StrEnum):
    """The ways a piece can be spoilt, in the order in which they are named."""

    MARKS_NOT_READ = "marks-not-read"
    PRINT_MISSING = "print-missing"
    PRINT_FAULT = "print-fault"
    PRINT_SCALE = "print-scale"
    TORN = "torn"
    LIFTED = "lifted"
    NOT_THROUGH = "not-through"
    BACKING_CUT = "backing-cut"
    SLIPPED = "slipped"
    BITTEN = "bitten"
    BARE_RIM = "bare-rim"


SPOILINGS = tuple(Spoiling)
GOOD = 0


@dataclass(frozen=True, slots=True)
class Wider:
    """How much wider borders and bleed would be, mm, to try a remedy before it is taken."""

    border_mm: float = 0.0
    bleed_mm: float = 0.0


NOT_WIDER = Wider()


@dataclass(frozen=True)
class SimulationResult:
    """The result of a sheet (from 0) in each run.

    Parameters
    ----------
    sheet, facts, luck : int, SheetFacts, RandomDraws
        Which sheet, from 0, what is known of it, and what differed from run to run.
    prints, found : array (runs, 2, 3)
        Maps from where things should be to where they were printed, and to where the cutter believes them.
    read : array (runs,)
        Whether the marks were read; all else only counts where they were.
    miss_mm : array (runs, pieces, 2)
        How far off each piece was cut, at its farthest edge point.
    bitten, clean : array (runs, pieces)
        Whether the drawing was cut into, and whether the depth was as wanted.
    spoiled : array (runs, pieces)
        0 for a good piece, else the place of its spoiling in `SPOILINGS`, from 1.
    depth_um : array (runs, pieces)
        Of its shallowest loop.
    happened : mapping to array (runs, pieces)
        Whether each spoiling befell a piece, whatever it is named for.
    crease_mm : float
        Where a roller ran across the print, None where none did.
    sighted : SightedMark or None
        What the sensor found where; None where nothing was looked for.
    """

    sheet: int
    facts: SheetFacts
    luck: RandomDraws
    read: Booleans
    prints: Floats
    found: Floats
    miss_mm: Floats
    bitten: Booleans
    clean: Booleans
    spoiled: npt.NDArray[np.uint8]
    depth_um: Floats
    happened: Mapping[Spoiling, Booleans]
    crease_mm: float | None
    sighted: SightedMark | None

    @property
    def runs(self) -> int:
        return len(self.read)

    @property
    def good(self) -> Booleans:
        """Which pieces are good, (runs, pieces)."""
        return np.asarray(self.spoiled == GOOD)

    @property
    def sheet_good(self) -> Booleans:
        """In which runs all of them are."""
        return np.asarray(self.good.all(axis=1))


def lost_pieces(devices: Devices, seed: int, sheet: int, pieces: int) -> list[int]:
    """The pictures that the printer leaves out: the same in every run, as the same file is sent again."""
    if not devices.printer.lost or not pieces:
        return []
    chosen = np.random.default_rng((seed, sheet, 99)).permutation(pieces)
    return sorted(int(one) for one in chosen[: devices.printer.lost])


def crease_mm(plan: Plan, seed: int, sheet: int) -> float:
    """Where a roller runs across the print, mm from the left."""
    share = np.random.default_rng((seed, sheet, 98)).uniform(0.3, 0.7)
    return float(share) * plan.job.paper.width_mm


def simulate_sheet(
    plan: Plan,
    sheet: int,
    page: PrintedRaster | None,
    facts: SheetFacts,
    devices: Devices,
    runs: int,
    seed: int,
    wider: Wider = NOT_WIDER,
    sighted: SightedMark | None = None,
    on_run: Callable[[], None] = lambda: None,
) -> SimulationResult:
    """Run one sheet (from 0) so many times.

    Parameters
    ----------
    page : PrintedRaster or None
        The print file with its ink as it comes out; None for stock that is not printed.
    wider : Wider
        What borders and bleed would be wider by.
    sighted : SightedMark or None
        What the sensor found in these very printings, where that is known already.
    on_run : callable
        Called now and then; it may raise to end the runs.
    """
    pieces, marks = facts.pieces, marks_or_usual(plan.job)
    passes = max((piece.passes for piece in pieces), default=1) or 1
    looks = LOOKED_FOR if plan.job.cutter.has_own_program else max(len(marks), 1)
    luck = sample((seed, sheet), runs, len(pieces), passes, looks, devices.cutter.lint)
    prints = np.tile(np.eye(2, 3), (runs, 1, 1))
    maps, are_read = prints, np.ones(runs, bool)
    if page is not None:
        printed = printings(devices.printer, plan.job.paper, luck.shift, luck.askew)
        prints = maps = after(from_nominal(page), printed)
        if marks:
            sighted = sighted or look(marks, page, printed, devices.sensor.search_mm, on_run)
            seen = read(plan, sighted, devices.printer, devices.sensor, luck.marks, luck.edges)
            maps, are_read = seen.maps, seen.read
    found = SimulationResult(
        sheet=sheet,
        facts=facts,
        luck=luck,
        read=are_read,
        prints=prints,
        found=maps,
        miss_mm=np.zeros((runs, len(pieces), 2)),
        bitten=np.zeros((runs, len(pieces)), bool),
        clean=np.zeros((runs, len(pieces)), bool),
        spoiled=np.zeros((runs, len(pieces)), np.uint8),
        depth_um=np.zeros((runs, len(pieces))),
        happened={one: np.zeros((runs, len(pieces)), bool) for one in SPOILINGS},
        crease_mm=crease_mm(plan, seed, sheet) if devices.cutter.crease else None,
        sighted=sighted,
    )
    for place, piece in enumerate(pieces):
        _run_piece(plan, page, devices, found, place, piece, wider)
    return found


def _run_piece(
    plan: Plan,
    page: PrintedRaster | None,
    devices: Devices,
    found: SimulationResult,
    place: int,
    piece: PieceFacts,
    wider: Wider,
) -> None:
    cutter, luck, runs, paper = devices.cutter, found.luck, found.runs, plan.job.paper
    where = np.array([piece.at_mm])
    lint = near_lint(luck, paper, where[0])
    hold = held(cutter, lint)
    passes = max(piece.passes, 1)
    shared = shared_error(cutter, devices.sensor.read_mm, plan.budget, luck, where)[:, 0]
    # What the marks told of the sheet, beside where the print really lies.
    frame = (at(found.found, where) - at(found.prints, where))[:, 0]
    moved = own_error(cutter, luck, place, passes, piece.area_mm2, hold)[:, -1] + slid(cutter, luck, piece.last)
    whole = shared + frame + moved - piece.print_off_mm
    found.miss_mm[:, place] = whole + piece.landed_mm

    def bites(shift: Floats) -> Booleans:
        return is_passed(piece.bite, shift, piece.spare_mm + wider.border_mm)

    def bares(shift: Floats) -> Booleans:
        return is_passed(piece.rim, -shift, wider.bleed_mm)

    bitten, bare = bites(whole), bares(whole)
    still = whole - moved
    slipped = (bitten & ~bites(still)) | (bare & ~bares(still))
    shallow, deep, least = _depth(plan, devices, luck, piece, lint, len(found.facts.strokes), devices.looks)
    # What is not cut all round hangs by what is left.
    shallow |= piece.open_mm > _OPEN_MM
    found.depth_um[:, place] = least
    came_off = lifted(luck, place, piece.area_mm2, hold) & (hold < 1)
    tore = torn(cutter, luck, place, piece.corners) & (cutter.tuft > 0)
    of: dict[Spoiling, Booleans] = {
        Spoiling.MARKS_NOT_READ: ~found.read,
        Spoiling.TORN: tore,
        Spoiling.LIFTED: came_off,
        Spoiling.NOT_THROUGH: shallow,
        Spoiling.BACKING_CUT: deep,
        Spoiling.SLIPPED: slipped,
        Spoiling.BITTEN: bitten,
        Spoiling.BARE_RIM: bare,
        **_print_spoilings(plan, page, devices, piece, found),
    }
    spoiled = np.zeros(runs, np.uint8)
    for number in range(len(SPOILINGS), 0, -1):
        cause = SPOILINGS[number - 1]
        spoiled[of[cause]] = number
        found.happened[cause][:, place] = of[cause]
    found.spoiled[:, place] = spoiled
    found.bitten[:, place] = bitten & found.read
    found.clean[:, place] = ~(shallow | deep | tore) & found.read


def _print_spoilings(
    plan: Plan, page: PrintedRaster | None, devices: Devices, piece: PieceFacts, found: SimulationResult
) -> dict[Spoiling, Booleans]:
    """The spoilings of the print of a piece: the same in every run."""
    wrong = dict.fromkeys((Spoiling.PRINT_MISSING, Spoiling.PRINT_FAULT, Spoiling.PRINT_SCALE), False)
    if page is not None:
        off = max(abs(side - 1) for side in printed_scale(devices.printer, page))
        left, _, right, _ = found.facts.edges[piece.placement].bounds
        smeared = devices.printer.bleeds_mm > 0 and plan.job.cutter.has_own_program
        creased = found.crease_mm is not None and left < found.crease_mm < right
        wrong[Spoiling.PRINT_MISSING] = piece.ink_there < WHOLE_FROM and not devices.printer.lines_mm
        wrong[Spoiling.PRINT_FAULT] = (
            devices.printer.lines_mm > 0 or devices.printer.density < _PALE or creased or smeared
        )
        wrong[Spoiling.PRINT_SCALE] = off > MOST_SCALE_OFF + 1e-9
    return {one: np.full(found.runs, value) for one, value in wrong.items()}


def _depth(
    plan: Plan, devices: Devices, luck: RandomDraws, piece: PieceFacts, lint: Booleans, strokes: int, looks: bool
) -> tuple[Booleans, Booleans, Floats]:
    """Whether any loop of a piece is not through, or goes too deep into its backing; and the least depth."""
    shallow, deep = np.zeros(luck.runs, bool), np.zeros(luck.runs, bool)
    least = np.full(luck.runs, np.inf)
    seen: dict[tuple[Cut, float, int], Floats] = {}
    if not plan.job.cutter.is_machine:
        # Scissors go through whatever it is.
        return shallow, deep, least
    if not piece.loops:
        return ~shallow, deep, np.zeros(luck.runs)
    for loop, force in zip(piece.loops, piece.forces, strict=True):
        done = sum(1 for one in loop.strokes if max(one) < devices.cutter.done_share * strokes)
        key = (loop.cut, force, done)
        if key not in seen:
            blade, bands = plan.settings[loop.cut].blade, bands_of(plan.job.stock, loop.cut)
            seen[key] = depths(devices.cutter, luck, plan.job.stock, blade, force, done, lint)
            if looks and done == loop.passes:
                # What the first drop showed not to be through is run once more, all of it, before it is unloaded.
                drop = depths(devices.cutter, luck, plan.job.stock, blade, force, done, np.zeros_like(lint))
                more = depths(devices.cutter, luck, plan.job.stock, blade, force, done + 1, lint)
                seen[key] = np.where(drop < bands.least_um, more, seen[key])
            shallow |= seen[key] < bands.least_um
            # A marked backing still peels.
            deep |= seen[key] >= bands.usable_um
            least = np.minimum(least, seen[key])
    return shallow, deep, least
