"""What the simulated devices really do: figures that a maker does not know, beside those of the machine's profile.

Without anything else said they do what the profile believes: the map that was calibrated, the misses of the budget
(craft: miss budget), the sensor and the light of the job, the hardness of the stock. Printers lay a sheet a little
askew each time; a sensor that reads the marks undoes that. The figures of the feed are assumptions of our own: σ of
0.3 mm and 0.05° are what a desk printer's guide allows.
"""

from dataclasses import dataclass, replace

import numpy as np

from vamper.core.cutting.outlook import RUN_SIGMA
from vamper.core.cutting.setting import CutSetting
from vamper.core.plan import Plan
from vamper.core.twin.program_cutter import force_of
from vamper.core.values.calibration import NO_CHANGE, AffineMap
from vamper.core.values.cut import Cut
from vamper.core.values.printer import TRUE_SCALE, Margins, PrintScale
from vamper.core.values.reading import AnySensor, Black, Light, Remedy

FEED_MM, FEED_DEG = 0.3, 0.05
# How many places of a belief are kept to draw from.
_QUANTILES = 201


NO_MARGINS = Margins(0.0, 0.0, 0.0, 0.0)


@dataclass(frozen=True, slots=True)
class TwinPrinter:
    """A simulated printer.

    Parameters
    ----------
    scale, fit : PrintScale, float
        Printed / meant length about the sheet's middle, and what "fit to page" makes of it, from the top left.
    feed_mm, turn_deg, askew_deg : float
        How a sheet lies off (σ) and askew (σ), and how askew it always lies.
    black, density : Black, float
        How black its black is, and the share of ink that stays where it belongs.
    lost, lines_mm : int, float
        Pictures that are not printed; the distance of lines that are missing, 0 for none.
    margins : Margins
        What stays blank.
    bleeds_mm : float
        How far the machine's own program carries colour out over white borders.
    """

    scale: PrintScale = TRUE_SCALE
    fit: float = 1.0
    feed_mm: float = FEED_MM
    turn_deg: float = FEED_DEG
    askew_deg: float = 0.0
    black: Black = Black.FULL
    density: float = 1.0
    lost: int = 0
    lines_mm: float = 0.0
    margins: Margins = NO_MARGINS
    bleeds_mm: float = 0.0


@dataclass(frozen=True, slots=True)
class TwinSensor:
    """The twin's sensor, in the light of its room.

    Parameters
    ----------
    sensor : Sensor
        The cutter's eye.
    room : Light
        The room's light.
    read_mm : float
        How far off a sheet's marks are read, σ an axis.
    covered : int
        How many marks lie under something that shines.
    remedies : tuple of Remedy
        What was done for the marks beside what the job says.
    search_mm : float
        How far from where a mark should be it is looked for.
    """

    sensor: AnySensor
    room: Light
    read_mm: float = 0.0
    covered: int = 0
    remedies: tuple[Remedy, ...] = ()
    search_mm: float = 6.0


@dataclass(frozen=True, slots=True)
class TwinCutter:
    """Where cuts land and how deep they go.

    Parameters
    ----------
    map : affine map
        Where a cut lands that is meant for a place, in the frame of the print.
    slip_mm, along_mm, far_share : float
        σ an axis of each piece and pass, what the feed adds along it, and of a distance from the marks' middle.
    blend : pair of float
        Factors on these, from logged runs.
    hardness : tuple of float
        Factors on the stock's hardness, equally likely; one where it is known.
    sharpness, pressed, spread : float
        Of the blade; the force beside that of the file; and σ of ln depth from run to run.
    drag_mm : float
        How far the tip trails behind where the machine believes it.
    tuft : float
        Chance that a sharp corner tears.
    hold : float
        How firmly the mat holds, 1 as it should.
    lint : int
        How many places something lies under the stock.
    drift_mm, blocked_share : float
        How far the stock has slid when the last loop is cut; the share that a way past the middle is cut short by
        something behind the mat.
    reload_mm : float
        How far off a sheet lies that was taken out between passes.
    done_share : float
        The share of all loops after which the sheet is let go.
    crease : bool
        Whether a roller runs across print.
    """

    map: AffineMap = NO_CHANGE
    slip_mm: float = 0.0
    along_mm: float = 0.0
    far_share: float = 0.0
    blend: tuple[float, float] = (1.0, 1.0)
    hardness: tuple[float, ...] = (1.0,)
    sharpness: float = 1.0
    pressed: float = 1.0
    spread: float = RUN_SIGMA
    drag_mm: float = 0.0
    tuft: float = 0.0
    hold: float = 1.0
    lint: int = 0
    drift_mm: float = 0.0
    blocked_share: float = 0.0
    reload_mm: float = 0.0
    done_share: float = 1.0
    crease: bool = False


@dataclass(frozen=True, slots=True)
class Devices:
    """The three of them, and whether their maker `looks` before a sheet is unloaded and runs it once more where it is
    not through.
    """

    printer: TwinPrinter
    sensor: TwinSensor
    cutter: TwinCutter
    looks: bool = True


# What a tuft on the tip does to a sharp corner.
TUFT_TEARS = 0.25


def devices_of(plan: Plan, unsure: bool = False) -> Devices:
    """The devices of a plan, as its job's `twin` says, else as its profile believes.

    `unsure` draws the stock's hardness anew for each run from what is believed of it, instead of taking the likeliest.
    """
    job, twin, budget = plan.job, plan.job.twin, plan.budget
    sharp = next((one.belief.sharpness for one in _used(plan)), 1.0)
    printer = TwinPrinter(scale=job.printer.scale, black=job.printer.black, margins=job.printer.margins_mm)
    sensor = TwinSensor(job.cutter.sensor, job.room_light, budget.own_mm)
    (a, b, c), (d, e, f) = job.calibration.map if job.calibration is not None else NO_CHANGE
    cutter = TwinCutter(
        ((a, b, c + budget.bias_mm[0]), (d, e, f + budget.bias_mm[1])),
        budget.slip_mm,
        budget.along_mm,
        budget.far_share,
        budget.blend,
        _hardness(plan, unsure),
        sharp,
        tuft=TUFT_TEARS if job.blade is not None and job.blade.tuft else 0.0,
    )
    if twin is None:
        return Devices(printer, sensor, cutter)
    if twin.scale is not None:
        printer = replace(printer, scale=twin.scale)
    if twin.sensor is not None:
        sensor = replace(sensor, sensor=twin.sensor)
    if twin.map is not None:
        # A map that is known leaves nothing over for a fit to err by.
        read = job.calibration.read_mm if job.calibration is not None else sensor.read_mm
        cutter, sensor = replace(cutter, map=twin.map), replace(sensor, read_mm=read)
    if twin.read_mm is not None:
        left = job.calibration.residual_mm if job.calibration is not None and twin.map is None else 0.0
        sensor = replace(sensor, read_mm=float(np.hypot(twin.read_mm, left or 0.0)))
    if twin.slip_mm is not None:
        cutter = replace(cutter, slip_mm=twin.slip_mm)
    known = twin.hardness_of(job.stock.key)
    if known is not None:
        cutter = replace(cutter, hardness=(known,))
    if twin.sharpness is not None:
        cutter = replace(cutter, sharpness=twin.sharpness)
    return Devices(printer, sensor, cutter)


def _used(plan: Plan) -> list[CutSetting]:
    cuts = {item.spec.cut for item in plan.items} or set(plan.settings)
    return [plan.settings[cut] for cut in Cut if cut in cuts]


def _hardness(plan: Plan, unsure: bool) -> tuple[float, ...]:
    setting = next(iter(_used(plan)), None)
    starter = plan.job.stock.hardness_gf_per_um
    if setting is not None and setting.spoken.choice is not None and plan.job.cutter.practice is None:
        # What a named setting presses is known together with the stock only.
        press = setting.spoken.press_um
        force = force_of(plan, setting)
        return tuple(force / one / starter for one in (press if unsure else press[len(press) // 2 :][:1]))
    if setting is None or not (setting.seen or unsure):
        return (1.0,)
    shares = (np.arange(_QUANTILES) + 0.5) / _QUANTILES if unsure else np.array([0.5])
    return tuple((setting.belief.quantile(shares) / starter).tolist())
