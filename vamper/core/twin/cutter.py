"""The simulated cutter: where a stroke of the cut file lands beside the print, and how deep it goes.

A cut meant for a place lands on the cutter's own map of it, in the frame that the marks gave; on top come what a
sheet's reading errs by (shared by the sheet), what a distance errs by, and what each pass moves the stock (each piece's
own, pass after pass). With three marks an error of reading carries farther, as in the miss budget. Depth is that of
the belief's model, z = F · sharp / (hardness · b) for one pass, its spread a share of each run.

Assumptions of our own, in the figures below: what lies under the stock raises it into the blade and takes its hold
away; what the mat does not hold creeps, small pieces most; a tip that trails cuts corners short (a tractrix).
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from scipy import special

from vamper.core.cutting.depth import EFFORT, passes_factor
from vamper.core.marks.budget import ErrorBudget
from vamper.core.twin.devices import TwinCutter
from vamper.core.values.blade import Blade
from vamper.core.values.calibration import landing
from vamper.core.values.geometry import Points
from vamper.core.values.paper import Paper
from vamper.core.values.stock import Stock

Floats = npt.NDArray[np.float64]

# Round something that lies under the stock: how far it reaches, what it adds to depth, what hold it leaves.
LINT_MM, LINT_DEEPER, LINT_HOLD = 14.0, 2.0, 0.45
# A piece of this area creeps by so much (σ) on a mat that holds nothing; larger ones by the root of it less.
_CREEP_MM, _CREEP_AREA_MM2 = 0.6, 400.0
# Pieces under this area may come off a mat that holds too little.
_LIFTS_AREA_MM2 = 500.0
# A stroke is trailed in steps so short.
_TRAIL_STEP_MM = 0.08
# Of the way past here a cable behind the mat takes its share.
_BLOCKED_FROM = 0.45
# Reading, distance, depth and hardness: what a sheet shares beside its marks.
_SHARED = 10


@dataclass(frozen=True, slots=True)
class RandomDraws:
    """What differs from run to run, drawn once: normal numbers (σ 1), or even numbers in 0..1. The first axis is the
    run.

    Parameters
    ----------
    shift, askew : array (runs, 2), (runs,)
        How the printed sheet lies off, and askew; normal.
    marks, edges : array (runs, marks)
        Chances of each mark, and of where its strokes are found; even.
    read, far : array (runs, 3, 2), (runs, 2)
        How far off the marks are read, and how that grows away from the middle; normal.
    slip, along : array (runs, pieces, passes, 2), (runs, pieces)
        How the stock slips in each pass, and how a piece is off along the feed; normal.
    depth, hardness : array (runs,)
        How deep the blade goes (normal), and which of the hardnesses that are believed is true (even).
    drift, reload : array (runs,), (runs, 2)
        The way a sheet drifts (even), and how it lies after it was loaded again (normal).
    lint : array (runs, places, 2)
        Where lint lies, in shares of the sheet.
    tears, lifts : array (runs, pieces)
        Chances that a piece is torn, and that it lifts; even.
    """

    shift: Floats
    askew: Floats
    marks: Floats
    edges: Floats
    read: Floats
    far: Floats
    slip: Floats
    along: Floats
    depth: Floats
    hardness: Floats
    drift: Floats
    reload: Floats
    lint: Floats
    tears: Floats
    lifts: Floats

    @property
    def runs(self) -> int:
        return len(self.shift)


def sample(seed: tuple[int, ...], runs: int, pieces: int, passes: int, marks: int, lint: int) -> RandomDraws:
    """The luck of so many runs of a sheet; the same for the same seed.

    What a whole sheet shares is drawn from a scrambled Sobol sequence, which covers what may happen far more evenly
    than plain lots do, so that a few hundred runs tell a chance to a point or two.
    """
    even_lots = _sobol(seed, runs, _SHARED + 2 * marks)
    lots = special.ndtri(even_lots)
    # Each quantity has a stream of its own, so that a fault that needs one more leaves the others as they were.
    streams = [np.random.default_rng((*seed, number)) for number in range(15)]

    def normal(stream: int, *shape: int) -> Floats:
        return streams[stream].standard_normal((runs, *shape))

    def even(stream: int, *shape: int) -> Floats:
        return streams[stream].random((runs, *shape))

    return RandomDraws(
        shift=normal(0, 2),
        askew=normal(1),
        marks=even_lots[:, _SHARED : _SHARED + marks],
        edges=even_lots[:, _SHARED + marks :],
        read=lots[:, :6].reshape(runs, 3, 2),
        far=lots[:, 6:8],
        slip=normal(6, pieces, passes, 2),
        along=normal(7, pieces),
        depth=lots[:, 8],
        hardness=even_lots[:, 9],
        drift=even(10),
        reload=normal(11, 2),
        lint=0.12 + 0.76 * even(12, max(lint, 1), 2)[:, :lint],
        tears=even(13, pieces),
        lifts=even(14, pieces),
    )


def _sobol(seed: tuple[int, ...], runs: int, wide: int) -> Floats:
    """Numbers strictly between 0 and 1, shape (runs, wide)."""
    # Brings all of SciPy's statistics along, which would be a second of every start.
    from scipy.stats import qmc

    sequence = qmc.Sobol(wide, scramble=True, rng=np.random.default_rng((*seed, 0)))
    # The sequence is even in powers of two.
    found = sequence.random_base2(max(1, math.ceil(math.log2(max(runs, 2)))))[:runs]
    return np.asarray(np.clip(found, 1e-9, 1 - 1e-9))


def lands_on(cutter: TwinCutter, paper: Paper, points: Points) -> Points:
    """Where cuts meant for points (n, 2) land in the print's frame, before anything that differs from run to run."""
    found = landing(np.array(cutter.map, dtype=float), points)
    if cutter.blocked_share:
        past = np.maximum(0.0, found[:, 1] - _BLOCKED_FROM * paper.height_mm)
        found = found - np.column_stack([np.zeros(len(found)), past * cutter.blocked_share])
    return found


def trailed(cutter: TwinCutter, strokes: Sequence[Points]) -> list[Points]:
    """Where the tip goes when the machine leads it along strokes, each (n, 2), one after the other: it is pulled behind
    by the drag, and stays turned as the stroke before left it while the blade is up.
    """
    if cutter.drag_mm <= 0:
        return list(strokes)
    found, behind = list[Points](), np.array([-cutter.drag_mm, 0.0])
    for points in strokes:
        line = shapely.get_coordinates(shapely.segmentize(shapely.LineString(points), _TRAIL_STEP_MM))
        x, y = (line[0] + behind).tolist()
        tips = []
        for px, py in line.tolist():
            dx, dy = x - px, y - py
            away = math.hypot(dx, dy) or 1.0
            x, y = px + dx / away * cutter.drag_mm, py + dy / away * cutter.drag_mm
            tips.append((x, y))
        found.append(np.array(tips))
        behind = np.array([x, y]) - line[-1]
    return found


def shared_error(cutter: TwinCutter, read_mm: float, budget: ErrorBudget, luck: RandomDraws, at: Points) -> Floats:
    """The error that reading and a distance give to a sheet's cuts, at points (n, 2), shape (runs, n, 2)."""
    away = at - budget.centre_mm
    if budget.marks == 3:
        x, y = (away / budget.half_mm).T
        u, v = (1 + x * budget.missing[0]) / 2, (1 + y * budget.missing[1]) / 2
        shares = np.column_stack([1 - u - v, u, v]) / np.sqrt((1 + x**2 + y**2) / 4)[:, None]
        read = np.einsum("nk,rkc->rnc", shares, luck.read)
    else:
        read = np.broadcast_to(luck.read[:, :1], (luck.runs, len(at), 2))
    far = np.hypot(*away.T)[None, :, None] * cutter.far_share * luck.far[:, None]
    found: Floats = (read * read_mm + far) * np.array(cutter.blend)
    return found


def own_error(cutter: TwinCutter, luck: RandomDraws, piece: int, passes: int, area_mm2: float, hold: Floats) -> Floats:
    """The displacement of one piece in each pass, pass after pass, shape (runs, passes, 2)."""
    creep = _CREEP_MM * math.sqrt(_CREEP_AREA_MM2 / max(area_mm2, 50.0)) * (1 - hold)
    sigma = np.hypot(cutter.slip_mm, creep)[:, None, None]
    steps = luck.slip[:, piece, :passes] * sigma
    moved = np.cumsum(steps, axis=1)
    moved[:, :, 1] += (luck.along[:, piece] * cutter.along_mm)[:, None]
    if cutter.reload_mm and passes > 1:
        moved[:, 1:] += (luck.reload * cutter.reload_mm)[:, None]
    found: Floats = moved * np.array(cutter.blend)
    return found


def slid(cutter: TwinCutter, luck: RandomDraws, share: float) -> Floats:
    """How far the whole stock has slid once a share of all loops is cut, shape (runs, 2): one way, run by run."""
    way = 2 * math.pi * luck.drift
    return np.column_stack([np.cos(way), np.sin(way)]) * cutter.drift_mm * share


def near_lint(luck: RandomDraws, paper: Paper, at: Points) -> npt.NDArray[np.bool_]:
    """Whether something lies under a place (2,), run by run."""
    if not luck.lint.shape[1]:
        return np.zeros(luck.runs, bool)
    places = luck.lint * (paper.width_mm, paper.height_mm)
    found: npt.NDArray[np.bool_] = (np.hypot(*np.moveaxis(places - at, -1, 0)) < LINT_MM).any(axis=1)
    return found


def held(cutter: TwinCutter, lint: npt.NDArray[np.bool_]) -> Floats:
    """How firmly a place is held, run by run."""
    return np.where(lint, min(cutter.hold, LINT_HOLD), cutter.hold)


def depths(
    cutter: TwinCutter,
    luck: RandomDraws,
    stock: Stock,
    blade: Blade,
    force_gf: float,
    passes: int,
    lint: npt.NDArray[np.bool_],
) -> Floats:
    """Depth (µm) of a loop that was cut so often, run by run."""
    if not passes:
        return np.zeros(luck.runs)
    hard = np.array(cutter.hardness)[
        np.minimum((luck.hardness * len(cutter.hardness)).astype(int), len(cutter.hardness) - 1)
    ]
    one = force_gf * cutter.pressed * cutter.sharpness / (stock.hardness_gf_per_um * hard * EFFORT[blade])
    found: Floats = one * passes_factor(passes) * np.exp(cutter.spread * luck.depth)
    return found * np.where(lint, LINT_DEEPER, 1.0)


def torn(cutter: TwinCutter, luck: RandomDraws, piece: int, corners: int) -> npt.NDArray[np.bool_]:
    """Whether a tip with a tuft tore a piece: each sharp corner is a chance, and its beginning one more."""
    found: npt.NDArray[np.bool_] = luck.tears[:, piece] < 1 - (1 - cutter.tuft) ** (1 + corners)
    return found


def lifted(luck: RandomDraws, piece: int, area_mm2: float, hold: Floats) -> npt.NDArray[np.bool_]:
    """Whether a piece came off the mat while it was cut: a small piece, where the mat holds too little."""
    found: npt.NDArray[np.bool_] = luck.lifts[:, piece] < (1 - hold) * math.exp(-area_mm2 / _LIFTS_AREA_MM2)
    return found
