"""Remedies: each is tried on the twin before it is proposed, so its chance afterwards is known.

A remedy puts a figure of a device right, or widens what a miss may take. Remedies that change nothing, or help nothing,
are not proposed.
"""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from vamper.core.cutting.depth import depth_um
from vamper.core.edge.kind import kind_of
from vamper.core.marks.reading import REMEDIES as READING_REMEDIES
from vamper.core.plan import Plan
from vamper.core.twin.devices import Devices, TwinCutter, TwinPrinter, TwinSensor
from vamper.core.twin.dry_run import DryRun
from vamper.core.twin.program_cutter import force_of, passes_of
from vamper.core.twin.simulate import NOT_WIDER, Spoiling, Wider
from vamper.core.values.calibration import NO_CHANGE, Calibration
from vamper.core.values.cut import Cut
from vamper.core.values.findings import Station
from vamper.core.values.reading import Black, Remedy
from vamper.core.values.tables import table

_TABLE = table(__package__, "remedies.toml")
CAUSE_NAMES: dict[Spoiling, str] = {Spoiling(key): words for key, words in _TABLE["causes"].items()}
CAUSE_WORDS: dict[Spoiling, str] = {Spoiling(key): words for key, words in _TABLE["what"].items()}

# What a sheet that was read by a good eye leaves over.
_FRESH = Calibration(residual_mm=0.05)
_LEAST_WIDER_MM, _MOST_WIDER_MM = 0.2, 3.0
# A design that is spoiled in fewer runs than this is left as it is.
_NOW_AND_THEN = 0.02
_WORN = 0.9


@dataclass(frozen=True, slots=True)
class RemedyTrial:
    """A trial of a remedy: the devices to run, and how much wider borders and bleed would be."""

    devices: Devices
    wider: Wider = NOT_WIDER


@dataclass(frozen=True, slots=True)
class RemedyStep:
    """A change of the job, or of the designs with these `numbers`: the fields to set, dotted where nested."""

    label: str
    numbers: tuple[int, ...]
    changes: Mapping[str, object]


@dataclass(frozen=True, slots=True)
class TwinRemedy:
    """A remedy that the twin can try.

    Parameters
    ----------
    key, text : str
        Its code, and what is done, in words.
    causes : tuple of Spoiling
        The spoilings that it may answer.
    at : Station
        Where it is taken.
    trial : RemedyTrial
        What it makes of the devices.
    steps : tuple of RemedyStep
        How the job takes it, where it can.
    """

    key: str
    causes: tuple[Spoiling, ...]
    text: str
    at: Station
    trial: RemedyTrial
    steps: tuple[RemedyStep, ...] = ()


Change = Callable[[Plan, Devices], RemedyTrial]


def _printer(change: Callable[[Plan, TwinPrinter], TwinPrinter]) -> Change:
    return lambda plan, devices: RemedyTrial(replace(devices, printer=change(plan, devices.printer)))


def _sensor(change: Callable[[Plan, TwinSensor], TwinSensor]) -> Change:
    return lambda plan, devices: RemedyTrial(replace(devices, sensor=change(plan, devices.sensor)))


def _cutter(change: Callable[[Plan, TwinCutter], TwinCutter]) -> Change:
    return lambda plan, devices: RemedyTrial(replace(devices, cutter=change(plan, devices.cutter)))


def _calibrated(plan: Plan, devices: Devices) -> RemedyTrial:
    """Cut files corrected for what the cutter really does; its map is then the one the files are made for."""
    known = plan.job.calibration.map if plan.job.calibration is not None else NO_CHANGE
    slip = min(devices.cutter.slip_mm or _FRESH.slip_mm, _FRESH.slip_mm)
    cutter = replace(devices.cutter, map=known, far_share=0.0, slip_mm=slip, blend=(1.0, 1.0))
    read = (_FRESH.read_mm**2 + (_FRESH.residual_mm or 0.0) ** 2) ** 0.5
    return RemedyTrial(
        replace(devices, cutter=cutter, sensor=replace(devices.sensor, read_mm=min(devices.sensor.read_mm, read)))
    )


def _after_ladder(plan: Plan, devices: Devices) -> RemedyTrial:
    """The force with which the middle hardness is cut to the depth that is aimed at."""
    cutter = devices.cutter
    hard = sorted(cutter.hardness)[len(cutter.hardness) // 2]
    used = {item.spec.cut for item in plan.items}
    setting = next(plan.settings[cut] for cut in Cut if cut in used)
    by_name = plan.job.cutter.has_own_program
    force, passes = (force_of(plan, setting), passes_of(setting)) if by_name else (setting.force_gf, setting.passes)
    reached = depth_um(force, passes, plan.job.stock, setting.blade, cutter.sharpness) / hard
    wanted = setting.bands.target_um / reached
    most = plan.job.cutter.force_gf.max / force
    return RemedyTrial(replace(devices, cutter=replace(cutter, hardness=(hard,), pressed=min(wanted, most))))


_CHANGES: Mapping[str, Change] = {
    "clean-tip": _cutter(lambda _, one: replace(one, tuft=0.0)),
    "clear-behind": _cutter(lambda _, one: replace(one, blocked_share=0.0)),
    "leave-loaded": _cutter(lambda _, one: replace(one, reload_mm=0.0)),
    "let-finish": _cutter(lambda _, one: replace(one, done_share=1.0)),
    "uncover-marks": _sensor(lambda _, one: replace(one, covered=0)),
    "lamp-away": _sensor(lambda plan, one: replace(one, room=plan.job.room_light)),
    "roll-down": _cutter(lambda _, one: replace(one, drift_mm=0.0)),
    "clean-mat": _cutter(lambda _, one: replace(one, hold=1.0, lint=0)),
    "print-again": _printer(lambda _, one: replace(one, lost=0)),
    "right-side": _printer(lambda _, one: replace(one, density=1.0)),
    "bleed-off": _printer(lambda _, one: replace(one, bleeds_mm=0.0)),
    "clean-nozzles": _printer(lambda _, one: replace(one, lines_mm=0.0)),
    "rollers-off": _cutter(lambda _, one: replace(one, crease=False)),
    "new-ink": _printer(lambda _, one: replace(one, black=Black.FULL)),
    "measure-scale": _printer(lambda plan, one: replace(one, fit=1.0, scale=plan.job.printer.scale)),
    "set-offset": _cutter(lambda _, one: replace(one, drag_mm=0.0)),
    "new-blade": _cutter(lambda plan, one: replace(one, sharpness=max(one.sharpness, _sharp(plan)))),
    "ladder": _after_ladder,
    "calibrate": _calibrated,
}


def _sharp(plan: Plan) -> float:
    """The sharpness of a new blade where the settings count on a new blade, else as sharp as they count on."""
    believed = plan.job.blade.sharpness if plan.job.blade is not None else 1.0
    return believed if believed >= _WORN else 1.0


def remedy_text(key: str, by_program: bool) -> str:
    """The words for a remedy, where the machine's own program leads the cut or not."""
    data = _TABLE["remedies"][key]
    return str(data.get("by_program", data["text"]) if by_program else data["text"])


def after_remedy(key: str, plan: Plan, devices: Devices) -> Devices:
    """The devices once a remedy that changes devices was taken."""
    return _CHANGES[key](plan, devices).devices


def remedies_for(plan: Plan, devices: Devices, outcome: DryRun) -> list[TwinRemedy]:
    """Remedies against the spoilings of a dry run, each with the devices after it; from cheap to dear."""
    causes, found = {one.cause for one in outcome.causes}, list[TwinRemedy]()
    for key, data in _TABLE["remedies"].items():
        answers = tuple(Spoiling(cause) for cause in data["causes"])
        words = remedy_text(key, plan.job.cutter.has_own_program)
        if not words or not causes & set(answers):
            continue
        widened = _WIDENED.get(key)
        trial, steps = (_CHANGES[key](plan, devices), ()) if widened is None else widened(plan, devices, outcome)
        if trial != RemedyTrial(devices):
            found.append(TwinRemedy(key, answers, words, Station(data["at"]), trial, steps))
    if Spoiling.MARKS_NOT_READ in causes and plan.reading is not None:
        found += [_read(plan, devices, one.remedy) for one in plan.reading.remedies if one.remedy not in _DRAWN]
    return found


_DRAWN = {Remedy.THICKER_STROKE, Remedy.MORE_INSET}
"""These change the print, so the twin cannot try them on the sheet as it is printed."""


def _read(plan: Plan, devices: Devices, remedy: Remedy) -> TwinRemedy:
    sensor = replace(devices.sensor, remedies=(*devices.sensor.remedies, remedy))
    taken = [str(one) for one in (*plan.job.marks.remedies, remedy)]
    words = READING_REMEDIES[remedy]
    step = RemedyStep(words.name.lower(), (), {"marks.remedies": taken})
    trial = RemedyTrial(replace(devices, sensor=sensor))
    return TwinRemedy(str(remedy), (Spoiling.MARKS_NOT_READ,), words.name, Station.MARKS, trial, (step,))


def _spoiled_designs(outcome: DryRun, causes: set[Spoiling]) -> dict[int, float]:
    """The designs that some causes spoil more than now and then, with the largest miss of their pieces."""
    found: dict[int, float] = {}
    for piece in outcome.pieces:
        share = sum(part for cause, part in piece.causes if cause in causes)
        if share > _NOW_AND_THEN and piece.miss_p95_mm is not None:
            found[piece.item] = max(found.get(piece.item, 0.0), piece.miss_p95_mm)
    return found


def _wider_border(plan: Plan, devices: Devices, outcome: DryRun) -> tuple[RemedyTrial, tuple[RemedyStep, ...]]:
    misses = _spoiled_designs(outcome, {Spoiling.BITTEN, Spoiling.SLIPPED})
    items = [plan.item(number) for number in misses]
    bordered = [item for item in items if kind_of(item.spec.edge).has_border]
    if not bordered:
        return RemedyTrial(devices), ()
    needed = max(misses[item.number] - item.edge.least_border_mm for item in bordered)
    more = _in_tenths(min(max(needed, _LEAST_WIDER_MM), _MOST_WIDER_MM))
    steps = tuple(
        RemedyStep("wider borders", (item.number,), {"edge.distance_mm": round(item.spec.edge.distance_mm + more, 2)})
        for item in bordered
    )
    return RemedyTrial(devices, Wider(border_mm=more)), steps


def _wider_bleed(plan: Plan, devices: Devices, outcome: DryRun) -> tuple[RemedyTrial, tuple[RemedyStep, ...]]:
    misses = _spoiled_designs(outcome, {Spoiling.BARE_RIM, Spoiling.SLIPPED})
    items = [plan.item(number) for number in misses if plan.item(number).bleed.width_mm]
    if not items:
        return RemedyTrial(devices), ()
    needed = max(misses[item.number] - item.bleed.width_mm for item in items)
    # Between two pieces each has half of the gap.
    room = max(0.0, plan.job.packing.gap_mm / 2 - max(item.bleed.width_mm for item in items))
    more = _in_tenths(min(max(needed, _LEAST_WIDER_MM), _MOST_WIDER_MM))
    if min(more, room) < _LEAST_WIDER_MM / 2:
        return RemedyTrial(devices), ()
    steps = tuple(
        RemedyStep("wider bleed", (item.number,), {"bleed_mm": _in_tenths(item.bleed.width_mm + min(more, room))})
        for item in items
    )
    return RemedyTrial(devices, Wider(bleed_mm=min(more, room))), steps


def _in_tenths(length_mm: float) -> float:
    return math.ceil(length_mm * 10 - 1e-9) / 10


_WIDENED: Mapping[str, Callable[[Plan, Devices, DryRun], tuple[RemedyTrial, tuple[RemedyStep, ...]]]] = {
    "wider-border": _wider_border,
    "wider-bleed": _wider_bleed,
}
