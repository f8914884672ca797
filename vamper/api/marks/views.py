"""From readings and measurements to what goes over the wire."""

import numpy as np
import shapely

from vamper.api.marks.schemas import (
    ArrowOut,
    FitOut,
    MissPart,
    MissPieceOut,
    ReadingOut,
    RecordOut,
    RemedyOut,
    SceneOut,
    SeenOut,
)
from vamper.core.edge.inspect import even_border_mm
from vamper.core.effective_job import effective_job
from vamper.core.marks.calibrate import CalibrationFit
from vamper.core.marks.program_marks import marks_or_usual
from vamper.core.marks.reading import CAUSE_WORDS, REMEDIES, MarkReading, Scene, reading_of
from vamper.core.marks.sensor_view import SensorView, sensor_view
from vamper.core.marks.vernier import VernierSheet, expected_side
from vamper.core.plan import Plan, worst_miss_mm
from vamper.core.values.calibration import Calibration, landing
from vamper.core.values.chances import in_100, in_100_short
from vamper.core.values.job import Job
from vamper.core.values.lengths import mm
from vamper.core.values.miss import STARTER_SIGMA_MM
from vamper.core.values.paper import Paper
from vamper.services.shop.measured import KeptRecord

_MAP_CELLS = 24
_ARROWS = (4, 5)
# A misread tick is off by at least so much, mm.
_MISREAD_MM = 0.35
_DIGITS = 4


def reading_out(asked: Job) -> ReadingOut | None:
    """The reading of a job, with what the sensor sees; None where nothing looks for marks."""
    job = effective_job(asked)
    reading = reading_of(job)
    if reading is None:
        return None
    taken = [
        RemedyOut(
            key=remedy,
            name=REMEDIES[remedy].name,
            text=REMEDIES[remedy].text,
            chance=reading.chance,
            words=in_100_short(reading.chance),
            taken=True,
        )
        for remedy in job.marks.remedies
    ]
    helping = [
        RemedyOut(
            key=one.remedy,
            name=REMEDIES[one.remedy].name,
            text=REMEDIES[one.remedy].text,
            chance=one.chance,
            words=in_100_short(one.chance),
            taken=False,
        )
        for one in reading.remedies
    ]
    return ReadingOut(
        chance=reading.chance,
        words=in_100(reading.chance),
        short=in_100_short(reading.chance),
        marks=list(reading.marks),
        cause=reading.cause,
        cause_words=CAUSE_WORDS[reading.cause],
        remedies=taken + helping,
        scene=_scene_out(reading.scene),
        seen=_seen_out(sensor_view(marks_or_usual(job)[0], reading.scene)),
        by_runs=_by_runs(job, reading),
    )


# Offsets beyond this are worth a word.
_WORTH_A_WORD = 0.3


def _by_runs(job: Job, reading: MarkReading) -> str:
    """The reading of marks by the maker's runs: "your machine reads gloss label paper worse than most: 71 of 100, by 9
    runs".
    """
    offsets = reading.offsets
    if not offsets.all_runs:
        return ""
    how = "better" if offsets.total > 0 else "worse"
    than = f"{how} than most" if abs(offsets.total) > _WORTH_A_WORD else "about as most do"
    mine = offsets.runs or offsets.all_runs
    of = "" if offsets.runs else " of other stocks"
    return (
        f"Your machine reads {job.stock.name} {than}: {in_100(reading.chance)} of 100, "
        f"by {mine} run{'s' if mine > 1 else ''}{of}."
    )


def _scene_out(scene: Scene) -> SceneOut:
    sensor = scene.sensor
    figures = {
        "lamp": sensor.lamp,
        "room": scene.room,
        "light": scene.light,
        "face": scene.face,
        "ink": scene.ink,
        "gloss": scene.gloss,
        "n0": sensor.n0,
        "k": sensor.k,
        "t": sensor.t,
        "signal": scene.signal,
        "noise": scene.noise,
        "threshold": scene.threshold,
    }
    return SceneOut(**{name: round(value, _DIGITS) for name, value in figures.items()})


def _seen_out(view: SensorView) -> SeenOut:
    def rounded(values: np.ndarray[tuple[int, ...], np.dtype[np.float64]]) -> list[float]:
        return [round(value, _DIGITS) for value in values.tolist()]

    return SeenOut(
        side_px=len(view.picture),
        grey=np.round(view.picture * 255).astype(int).ravel().tolist(),
        left_mm=view.left_mm,
        top_mm=view.top_mm,
        side_mm=view.side_mm,
        from_mm=list(view.from_mm),
        to_mm=list(view.to_mm),
        at_mm=rounded(view.at_mm),
        mean=rounded(view.mean),
        one_pass=rounded(view.one_pass),
        sigma=round(view.sigma, _DIGITS),
        threshold=round(view.threshold, _DIGITS),
    )


def misses_out(plan: Plan) -> MissPieceOut:
    """The miss of every piece, and as a map of the sheet."""
    budget, job = plan.budget, plan.job
    rows = max(2, round(_MAP_CELLS * job.paper.height_mm / job.paper.width_mm))
    x = (np.arange(_MAP_CELLS) + 0.5) * job.paper.width_mm / _MAP_CELLS
    y = (np.arange(rows) + 0.5) * job.paper.height_mm / rows
    points = np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2)
    passes = max(setting.passes for setting in plan.settings.values())
    corners = shapely.get_coordinates(plan.setup.live.shape.convex_hull)
    counted = len(plan.setup.marks) > 1
    worst = worst_miss_mm(job, plan.setup)
    each = [[round(miss, 3) for miss in plan.misses_mm(number).tolist()] for number in range(len(plan.sheets))]
    return MissPieceOut(
        sheets=each,
        worst_mm=worst,
        even_from_mm=even_border_mm(worst),
        starter=job.calibration is None and not job.misses,
        parts=_parts(job, float(np.hypot(*(corners - budget.centre_mm).T).max()), passes),
        with_three_mm=round(float(budget.miss_mm(corners, passes, 3).max()), 3) if counted else None,
        with_four_mm=round(float(budget.miss_mm(corners, passes, 4).max()), 3) if counted else None,
        columns=_MAP_CELLS,
        rows=rows,
        map_mm=[round(miss, 3) for miss in budget.miss_mm(points, passes).tolist()],
        bias_mm=list(budget.bias_mm),
        runs=len(job.misses),
    )


def _parts(job: Job, far_mm: float, passes: int) -> list[MissPart]:
    calibration = job.calibration
    if calibration is None:
        parts = [("everything, before anything was measured", STARTER_SIGMA_MM)]
    else:
        parts = [
            ("reading the marks", calibration.read_mm),
            ("left by the calibration", calibration.residual_mm or 0.0),
            ("stretch left, at the farthest place", calibration.stretch_left * far_mm),
            (f"slip in {passes} pass{'es' if passes > 1 else ''}", calibration.slip_mm * passes**0.5),
        ]
    if job.cutter.feed_mm:
        parts.append(("along the feed", job.cutter.feed_mm))
    return [MissPart(name=name, sigma_mm=round(sigma, 3)) for name, sigma in parts]


def fit_words(offset: tuple[float, float], stretch: tuple[float, float], turn_deg: float) -> str:
    """A calibration as a sentence: "cuts 0.40 mm right and 0.20 mm low; 0.10 % long along the feed"."""
    across = f"{mm(abs(round(offset[0], 2)), 2)} {'right' if offset[0] > 0 else 'left'}"
    down = f"{mm(abs(round(offset[1], 2)), 2)} {'low' if offset[1] > 0 else 'high'}"
    words = [f"Cuts {across} and {down}"]
    for share, where in zip(stretch, ("across", "along the feed"), strict=True):
        percent = (share - 1) * 100
        if abs(percent) >= 0.02:
            words.append(f"{abs(percent):.2f} % {'long' if percent > 0 else 'short'} {where}")
    if abs(turn_deg) >= 0.01:
        words.append(f"turned by {abs(turn_deg):.2f}° {'clockwise' if turn_deg > 0 else 'anticlockwise'}")
    return "; ".join(words)


def fit_out(fit: CalibrationFit, sheet: VernierSheet, numbers: list[int], paper: Paper) -> FitOut:
    worst = fit.worst
    return FitOut(
        words=fit_words(fit.offset_mm, fit.stretch, fit.turn_deg),
        residual_mm=None if fit.residual_mm is None else round(fit.residual_mm, 3),
        worst_scale=None if worst is None else numbers[worst.reading],
        worst_by_mm=None if worst is None else round(worst.by_mm, 2),
        suspicious=worst is not None and worst.by_mm > _MISREAD_MM,
        expected=expected_side(sheet, fit),
        arrows=arrows_out(Calibration(fit.map), paper),
    )


def arrows_out(calibration: Calibration, paper: Paper) -> list[ArrowOut]:
    """Where the cut lands from the print, at some places of the sheet."""
    columns, rows = _ARROWS
    x = (np.arange(columns) + 0.5) * paper.width_mm / columns
    y = (np.arange(rows) + 0.5) * paper.height_mm / rows
    points = np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2)
    off = landing(calibration.matrix, points) - points
    return [
        ArrowOut(x_mm=float(x), y_mm=float(y), dx_mm=round(float(dx), 4), dy_mm=round(float(dy), 4))
        for (x, y), (dx, dy) in zip(points, off, strict=True)
    ]


def record_out(kept: KeptRecord, holds: bool) -> RecordOut:
    record = kept.record
    return RecordOut(
        id=kept.id,
        made_at=kept.made_at,
        thickness=kept.thickness,
        holds=holds,
        words=fit_words(record.offset_mm, record.stretch, record.turn_deg),
        offset_x_mm=round(record.offset_mm[0], 3),
        offset_y_mm=round(record.offset_mm[1], 3),
        residual_mm=record.calibration.residual_mm,
        versions=record.versions,
        paper=record.paper,
        check=record.check,
    )
