"""The practice bench: simulated machines among the workshop's own, and what comes off them.

The pair is made when it is first asked for, with a seed of its own. What is read off its sheets goes the same way as
that of any machine, so it counts for these machines alone.
"""

import secrets

import numpy as np

from vamper.core.marks.vernier import VernierSheet
from vamper.core.plan import Plan
from vamper.core.printing.proof import BAR_MM
from vamper.core.twin.close_up import drop_close_up, outcome_at, ruler_close_up, vernier_scan
from vamper.core.twin.cutter import depths, sample
from vamper.core.twin.devices import Devices, devices_of
from vamper.core.twin.printer import PrintedRaster
from vamper.core.twin.program_cutter import hidden_force_gf
from vamper.core.twin.scan import Pixels
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Route
from vamper.core.values.findings import BadInput
from vamper.core.values.named_settings import NamedSetting, SettingChoice
from vamper.core.values.printer import Printer
from vamper.core.values.program import Program
from vamper.core.values.tried import Outcome, Pressure
from vamper.formats.out.page_png import page_in
from vamper.services.handoff.measuring import vernier_file, vernier_of
from vamper.services.shop.shop import Shop
from vamper.services.shop.tried import JudgedDrop
from vamper.services.twin.dry_runs import practised

PRINTER_NAME, CUTTER_NAME = "practice printer (simulated)", "practice cutter (simulated)"
PROGRAM_NAME = "practice machine with its own program (simulated)"
# What its list says; the forces behind them are hidden.
_PROGRAM_SETTINGS = tuple(
    NamedSetting(name, tuple(Pressure))
    for name in ("plain paper", "label paper", "thick label paper", "vinyl", "card", "thick card", "poster board")
)
VERNIER_PPI = 400
_SEEDS = 2**30
DROP_PX = 132
# What the ruler shows of a bar: its last millimetres.
RULER_MM, RULER_PX_A_MM = (88.5, 107.0), 26.0


def practice_machines(shop: Shop, seed: int | None = None, route: Route = Route.FILES) -> tuple[int, int]:
    """The simulated printer and cutter of a workshop, made if they are not there, from a seed of their own where none
    is given: their keys. The cutter takes files or has its own program, as the maker's own cutter.
    """
    printers, cutters = shop.printers.all(), shop.cutters.all()
    printer = next((key for key, kept in printers.items() if kept.value.practice is not None), None)
    by_program = route is Route.PROGRAM
    cutter = next(
        (
            key
            for key, kept in cutters.items()
            if kept.value.practice is not None and kept.value.has_own_program is by_program
        ),
        None,
    )
    seed = seed or 1 + secrets.randbelow(_SEEDS)
    if printer is None:
        name = _free(PRINTER_NAME, {kept.name for kept in printers.values()})
        printer = shop.printers.keep(name, Printer(practice=seed))
    if cutter is None:
        name = _free(PROGRAM_NAME if by_program else CUTTER_NAME, {kept.name for kept in cutters.values()})
        made = Cutter(practice=seed)
        if by_program:
            made = Cutter(
                route=Route.PROGRAM, practice=seed, program=Program(tell_tale=True), settings=_PROGRAM_SETTINGS
            )
        cutter = shop.cutters.keep(name, made)
    return printer, cutter


def _free(name: str, taken: set[str]) -> str:
    number, found = 1, name
    while found in taken:
        number += 1
        found = f"{name} {number}"
    return found


def _bench(plan: Plan) -> Devices:
    """The simulated devices of a job on the practice bench.

    Raises
    ------
    BadInput
        If it is made on real machines.
    """
    if plan.job.cutter.practice is None and plan.job.printer.practice is None:
        raise BadInput("this job is made on real machines; choose the practice bench for it first", "cutter")
    return practised(devices_of(plan), plan)


def practice_vernier(plan: Plan) -> Pixels:
    """The vernier sheet of a job as its practice machines printed and cut it."""
    devices, sheet = _bench(plan), vernier_of(plan.job, plan.setup)
    data = vernier_file(plan.job, plan.setup, "pdf").data
    page = PrintedRaster(page_in(data, VERNIER_PPI, 1), VERNIER_PPI, plan.job.paper, plan.job.printer.scale)
    return _scan(sheet, page, devices, plan)


def _scan(sheet: VernierSheet, page: PrintedRaster, devices: Devices, plan: Plan) -> Pixels:
    seed = plan.job.cutter.practice or 1
    luck = sample((seed, 77), 1, 1, 1, 1, 0)
    return vernier_scan(sheet, page, devices, luck, plan.job.stock, VERNIER_PPI, devices.sensor.read_mm)


def practice_drop(plan: Plan, cut: Cut, drop: JudgedDrop, number: int) -> Pixels:
    """One test drop as the practice cutter cut it."""
    devices = _bench(plan)
    seed = plan.job.cutter.practice or 1
    choice = SettingChoice(drop.setting, drop.pressure, drop.passes)
    force = hidden_force_gf(plan.job.cutter, choice) if drop.force_gf is None else drop.force_gf
    luck = sample((seed, 78, number, round(force * 10), drop.passes), 1, 1, 1, 1, 0)
    blade = plan.settings[cut].blade
    none = np.zeros(1, bool)
    depth = depths(devices.cutter, luck, plan.job.stock, blade, force, drop.passes, none)
    outcome = Outcome(outcome_at(plan.job.stock, cut, float(depth[0])))
    return drop_close_up(outcome, plan.job.stock, DROP_PX, number + 1)


def practice_ruler(plan: Plan, down: bool) -> Pixels:
    """The end of one bar of a proof that the practice printer printed, a ruler along it."""
    devices = _bench(plan)
    scale = devices.printer.scale
    length = BAR_MM * (scale.y if down else scale.x)
    return ruler_close_up(length, *RULER_MM, RULER_PX_A_MM, 5 if down else 4)
