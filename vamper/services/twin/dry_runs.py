"""A dry run of a plan: the very files of each sheet go to the simulated devices, many times over.

Sheets on which the same pieces lie the same way are printed and cut from the same files, so these are read once.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

from vamper.core.plan import Plan, cut_of, page_of
from vamper.core.printing.page_box import page_for
from vamper.core.twin.devices import Devices, TwinCutter, TwinPrinter, devices_of
from vamper.core.twin.dry_run import DryRun, summed_up
from vamper.core.twin.faults import with_faults
from vamper.core.twin.pieces import SheetFacts, facts_of
from vamper.core.twin.practice import practice_cutter, practice_printer, practice_sensor
from vamper.core.twin.printer import Page, with_ink
from vamper.core.twin.rehearse import SheetRuns, Wider, lost_pieces, rehearse
from vamper.core.twin.remedies import Trial, TwinRemedy, remedies_for
from vamper.core.twin.sensor import Found
from vamper.core.twin.strokes import Stroke
from vamper.core.values.findings import BadInput
from vamper.core.values.units import MM_PER_INCH
from vamper.formats.cut_in.hpgl import read_hpgl
from vamper.formats.out.page_png import page_in
from vamper.services.handoff.drafts import Pictures, drafted
from vamper.services.handoff.files import PRINT_KEY, sheet_file

CUT_KEY = "cut_hpgl"
# Fine enough for a sensor to find a mark to a hundredth of a millimetre.
SENSED_PPI = 150
MOST_RUNS = 2000
# Pictures are laid on whole pixels of the renderer; what is looked at closely is drawn finer.
_FINER = 2
# A remedy that gains less than this is not worth a word.
_WORTH = 0.01
# After the best remedy so many more are looked for, until the sheet is as good as this.
_MOST_THEN, _GOOD_ENOUGH = 3, 0.95


class Stopped(Exception):
    """The person who asked for a dry run does not want it any more."""


@dataclass(frozen=True)
class Rehearsal:
    """A dry run with all that its pictures are drawn from, sheet by sheet; `plan` is a draft on `pictures`."""

    plan: Plan
    pictures: Pictures
    devices: Devices
    pages: tuple[Page | None, ...]
    sheets: tuple[SheetRuns, ...]
    outcome: DryRun
    seed: int
    number: int = 0


def devices_for(plan: Plan, unsure: bool = False) -> Devices:
    """The devices of a plan: simulated ones with their own errors, and the faults that its job switches on."""
    return with_faults(practised(devices_of(plan, unsure), plan), plan.job.twin.faults if plan.job.twin else ())


def practised(devices: Devices, plan: Plan) -> Devices:
    """Devices with the errors of the practice bench, where the job is made on it."""
    job = plan.job
    if job.printer.practice is not None:
        devices = replace(devices, printer=practice_printer(devices.printer, job.printer.practice))
    if job.cutter.practice is not None:
        seed = job.cutter.practice
        devices = replace(
            devices,
            cutter=practice_cutter(devices.cutter, seed, job.stock.key, job.paper),
            sensor=practice_sensor(devices.sensor, seed),
        )
    return devices


def sheet_page(plan: Plan, sheet: int, pictures: Pictures, ppi: float = SENSED_PPI) -> Page | None:
    """The print file of a sheet (from 0) as the printer gets it; None for stock that is not printed."""
    if not plan.job.stock.printable:
        return None
    paper, box = plan.job.paper, page_for(plan.job.paper, plan.job.printer)
    rgba = page_in(sheet_file(plan, sheet, PRINT_KEY, pictures), ppi, 1 if ppi <= SENSED_PPI else _FINER)
    left, top = (round(side * ppi / MM_PER_INCH) for side in (box.left_mm, box.top_mm))
    width, height = (round(side * ppi / MM_PER_INCH) for side in (paper.width_mm, paper.height_mm))
    return Page(rgba[top : top + height, left : left + width], ppi, paper, plan.job.printer.scale)


def sheet_strokes(plan: Plan, sheet: int, pictures: Pictures) -> tuple[Stroke, ...]:
    """The cut file of a sheet (from 0) as the cutter reads it; scissors follow the guide lines."""
    if not plan.job.cutter.is_machine:
        loops = cut_of(plan, sheet).loops
        return tuple(Stroke(loop.cut, 0.0, 0.0, run) for loop in loops for run in loop.runs(0.0))
    return read_hpgl(sheet_file(plan, sheet, CUT_KEY, pictures), plan.job.paper)


def dry_run(
    plan: Plan,
    pictures: Pictures,
    runs: int,
    seed: int,
    devices: Devices | None = None,
    on_sheet: Callable[[int, int], None] = lambda _done, _all: None,
) -> Rehearsal:
    """Run every sheet of a plan so many times.

    Parameters
    ----------
    on_sheet : callable
        Told how many of how many sheets are done; it may raise `Stopped`.

    Raises
    ------
    BadInput
        If nothing lies on a sheet.
    """
    if not plan.sheets:
        raise BadInput("nothing lies on a sheet, so there is nothing to run; add art first", "items")
    devices = devices or devices_for(plan)
    plan, pictures = drafted(plan, pictures)
    known: dict[int, tuple[Page | None, SheetFacts]] = {}
    pages, found = list[Page | None](), list[SheetRuns]()
    for number, sheet in enumerate(plan.sheets):
        on_sheet(number, len(plan.sheets))
        if id(sheet.lying) not in known:
            printed = inked(plan, number, sheet_page(plan, number, pictures), devices, seed)
            known[id(sheet.lying)] = printed, _facts(plan, number, pictures, printed, devices)
        page, facts = known[id(sheet.lying)]
        pages.append(page)
        found.append(rehearse(plan, number, page, facts, devices, runs, seed))
    on_sheet(len(plan.sheets), len(plan.sheets))
    return Rehearsal(
        plan,
        pictures,
        devices,
        tuple(pages),
        tuple(found),
        summed_up(tuple(item.number for item in plan.items), found),
        seed,
    )


def inked(plan: Plan, sheet: int, page: Page | None, devices: Devices, seed: int) -> Page | None:
    """The page of a sheet (from 0) as it comes out of the printer."""
    if page is None:
        return None
    clips = [picture.clip for picture in page_of(plan, sheet).pictures]
    return with_ink(page, devices.printer, clips, lost_pieces(devices, seed, sheet, len(clips)))


def _facts(plan: Plan, sheet: int, pictures: Pictures, page: Page | None, devices: Devices) -> SheetFacts:
    return facts_of(plan, sheet, page_of(plan, sheet), page, sheet_strokes(plan, sheet, pictures), devices.cutter)


@dataclass(frozen=True, slots=True)
class Chances:
    """The shares of good sheets and good pieces."""

    sheet_good: float
    pieces_good: float


@dataclass(frozen=True, slots=True)
class Helps:
    """Remedies with what each was seen to do once it is taken, best first; and what to take after the best one, one
    after the other, with the chances once all before it were taken too.
    """

    each: tuple[tuple[TwinRemedy, Chances], ...] = ()
    then: tuple[tuple[TwinRemedy, Chances], ...] = ()


NOTHING_HELPS = Helps()


def what_helps(found: Rehearsal, on_tried: Callable[[int, int], None] = lambda _done, _all: None) -> Helps:
    """The remedies that make a dry run better, tried on the sheet that suffers most; best first, cheapest first among
    equals. One trouble may hide another, so after the best one it is looked once more.
    """
    plan, before = found.plan, min(found.sheets, key=lambda sheet: float(sheet.good.mean()))
    number = next(place for place, sheet in enumerate(found.sheets) if sheet is before)
    items = tuple(item.number for item in plan.items)

    # What the sensor finds hangs on the printer alone and how far it looks; most remedies leave both.
    sighted: dict[tuple[TwinPrinter, float], tuple[Page | None, Found | None]] = {}

    def seen_by(devices: Devices) -> tuple[TwinPrinter, float]:
        return devices.printer, devices.sensor.search_mm

    sighted[seen_by(found.devices)] = found.pages[number], before.sighted

    def tried(trial: Trial) -> SheetRuns:
        devices, facts = trial.devices, before.facts
        page, places = sighted.get(seen_by(devices), (None, None))
        if page is None:
            page = inked(plan, number, sheet_page(plan, number, found.pictures), devices, found.seed)
        if devices.printer != found.devices.printer or _is_led_otherwise(devices.cutter, found.devices.cutter):
            facts = _facts(plan, number, found.pictures, page, devices)
        runs = rehearse(plan, number, page, facts, devices, before.runs, found.seed, trial.wider, places)
        sighted[seen_by(devices)] = page, runs.sighted
        return runs

    taken = set[str]()

    def round_from(trial: Trial, runs: SheetRuns, first: bool) -> list[tuple[TwinRemedy, SheetRuns, Trial]]:
        helped = []
        remedies = [one for one in remedies_for(plan, trial.devices, summed_up(items, [runs])) if one.key not in taken]
        for done, remedy in enumerate(remedies):
            if first:
                on_tried(done, len(remedies) + _MOST_THEN)
            more = Wider(
                trial.wider.border_mm + remedy.trial.wider.border_mm, trial.wider.bleed_mm + remedy.trial.wider.bleed_mm
            )
            next_trial = Trial(remedy.trial.devices, more)
            after = tried(next_trial)
            if _gain(after, runs) > _WORTH:
                helped.append((remedy, after, next_trial))
        helped.sort(key=lambda one: (-round(float(one[1].sheet_good.mean()), 2), -round(float(one[1].good.mean()), 2)))
        return helped

    helped = round_from(Trial(found.devices), before, first=True)
    each = tuple((remedy, _chances(runs)) for remedy, runs, _ in helped)
    then = list[tuple[TwinRemedy, Chances]]()
    while helped and len(then) < _MOST_THEN and float(helped[0][1].sheet_good.mean()) < _GOOD_ENOUGH:
        on_tried(len(each) + len(then), len(each) + _MOST_THEN)
        best, runs, trial = helped[0]
        taken.add(best.key)
        helped = round_from(trial, runs, first=False)
        then += [(remedy, _chances(after)) for remedy, after, _ in helped[:1]]
    return Helps(each, tuple(then))


def _gain(after: SheetRuns, before: SheetRuns) -> float:
    sheets = float(after.sheet_good.mean()) - float(before.sheet_good.mean())
    return max(sheets, float(after.good.mean()) - float(before.good.mean()))


def _chances(runs: SheetRuns) -> Chances:
    return Chances(float(runs.sheet_good.mean()), float(runs.good.mean()))


def _is_led_otherwise(one: TwinCutter, other: TwinCutter) -> bool:
    """Whether strokes land elsewhere before anything that differs from run to run."""
    return (one.map, one.drag_mm, one.blocked_share) != (other.map, other.drag_mm, other.blocked_share)
