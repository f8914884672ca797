"""The club's season: runs of three stocks over a summer, made by the simulated devices with a seed, and marked as such.

Two recipes drift (a blade that wears, a stock whose second package is harder), and one machine cuts more and more to
the right. `python -m vamper.demo.season` makes it anew and writes it beside this file, so that nobody waits for it when
the demo starts.
"""

import json
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from functools import partial
from importlib import resources
from pathlib import Path

import numpy as np

from vamper.core.art.picture import Picture
from vamper.core.design import DesignedItem
from vamper.core.ledger.run import CameOut, LaterCheck, LaterKind, Run, Spoilt, SpoiltPiece, UsedSetting
from vamper.core.plan import Plan
from vamper.core.printing.advice import advice_for
from vamper.core.twin.simulate import SPOILINGS, SimulationResult, Spoiling
from vamper.core.values.miss import LoggedMiss
from vamper.core.values.twin import TwinSpec
from vamper.demo.drawings import lighthouse, seabird, svg
from vamper.formats.job_file import read_job
from vamper.formats.ledger_file import Ledger, read_ledger_json, write_ledger_json
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.handoff.ink import Inks
from vamper.services.ledger.costing import took_of
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.packing.planning import plan_job
from vamper.services.twin.dry_runs import dry_run

FILE = "season.json"
_BEGAN = datetime(2026, 5, 2, 18, 30, tzinfo=UTC)
_ART = {"seabird.svg": svg(seabird()), "lighthouse.svg": svg(lighthouse())}
_SECONDS, _SEED = 1.0, 20
# A cut that lies farther off than this is seen, also where nothing is bitten.
_SEEN_MM = 0.6
# What simulation calls it, in the words of the ledger; what is not named here no maker would tap.
_SPOILT = {
    Spoiling.NOT_THROUGH: Spoilt.NOT_THROUGH,
    Spoiling.BACKING_CUT: Spoilt.BACKING_THROUGH,
    Spoiling.TORN: Spoilt.TORN,
    Spoiling.LIFTED: Spoilt.LIFTED,
    Spoiling.PRINT_MISSING: Spoilt.PRINT_FAULT,
    Spoiling.PRINT_FAULT: Spoilt.PRINT_FAULT,
    Spoiling.PRINT_SCALE: Spoilt.PRINT_FAULT,
    Spoiling.BITTEN: Spoilt.OFF,
    Spoiling.BARE_RIM: Spoilt.OFF,
    Spoiling.SLIPPED: Spoilt.OFF,
}


@dataclass(frozen=True, slots=True)
class _Spell:
    """Some runs of one stock in a row, with what the devices really did then."""

    title: str
    stock: str
    cutter: str
    printer: str
    lot: str
    runs: int
    every_days: float
    twin: TwinSpec
    note: str = ""


def _right(mm: float) -> TwinSpec:
    """A machine that cuts so far to the right."""
    return TwinSpec(map=((1.0, 0.0, mm), (0.0, 1.0, 0.0)))


_MACHINES = {"cutter": "practice cutter (simulated)", "printer": "practice printer (simulated)"}
_OLD = {"cutter": "old practice cutter (simulated)", "printer": "practice printer (simulated)"}
_SEASON = (
    _Spell(
        "Regatta stickers", "satin-vinyl", lot="May", runs=9, every_days=6, twin=TwinSpec(sharpness=1.0), **_MACHINES
    ),
    _Spell(
        "Regatta stickers",
        "satin-vinyl",
        lot="May",
        runs=6,
        every_days=5,
        twin=TwinSpec(sharpness=0.84),
        note="the blade has done the whole season",
        **_MACHINES,
    ),
    _Spell("Jar labels", "matte-label", lot="first package", runs=8, every_days=9, twin=TwinSpec(), **_MACHINES),
    _Spell(
        "Jar labels",
        "matte-label",
        lot="second package",
        runs=6,
        every_days=7,
        twin=TwinSpec(hardness=(("matte-label", 1.12),)),
        **_MACHINES,
    ),
    *(
        _Spell("Kit tags", "gloss-vinyl", lot="spring", runs=2, every_days=12, twin=_right(0.15 * step), **_OLD)
        for step in range(1, 7)
    ),
)


def planned(stock: str) -> tuple[Plan, dict[str, ArtFile], Designer]:
    """The sheet of the season on a stock, with its art and who designed it."""
    job = {
        "format": "vamper-job",
        "version": 1,
        "title": "Gannet Reach season",
        "paper": "a5",
        "stock": stock,
        "items": [
            {"art": "seabird.svg", "width_mm": 34, "quantity": 5, "edge": {"kind": "follow", "distance_mm": 2}},
            {"art": "lighthouse.svg", "height_mm": 40, "quantity": 4, "edge": {"kind": "follow", "distance_mm": 2}},
        ],
    }
    spec = read_job(json.dumps(job).encode())
    designer = Designer()
    arts = {name: ArtFile.of(name, data) for name, data in _ART.items()}
    plan = plan_job(spec, [arts[item.art] for item in spec.items], designer, ProcessNester(), _SECONDS, _SEED)
    return plan, arts, designer


def season() -> list[tuple[datetime, Run]]:
    """All runs, the oldest first."""
    found = list[tuple[datetime, Run]]()
    began = dict[tuple[str, str], datetime]()
    plans = dict[str, tuple[Plan, dict[str, ArtFile], Designer]]()
    for number, spell in enumerate(_SEASON):
        plan, arts, designer = plans.setdefault(spell.stock, planned(spell.stock))
        twin = replace(plan, job=replace(plan.job, twin=spell.twin))
        pictures = partial(picture_of, designer, arts)
        made = dry_run(twin, pictures, spell.runs, _SEED + number).sheets[0]
        at = began.get((spell.stock, spell.cutter), _BEGAN + timedelta(days=3 * number))
        ink_ml = round(Inks(pictures).of(plan, 0).ml, 3)
        for one in _runs(spell, plan, made, ink_ml):
            found.append((at, one))
            at += timedelta(days=spell.every_days, minutes=37)
        began[spell.stock, spell.cutter] = at
    return sorted(found, key=lambda dated: dated[0])


def picture_of(designer: Designer, arts: Mapping[str, ArtFile], item: DesignedItem) -> Picture:
    """The pixels of one of its designs."""
    return designer.picture_of(item, arts[item.spec.art])


def _runs(spell: _Spell, plan: Plan, made: SimulationResult, ink_ml: float) -> Iterator[Run]:
    job, advice = plan.job, advice_for(plan.job.stock, plan.job.printer)
    for run in range(made.runs):
        spoilt = tuple(
            SpoiltPiece(place, what, _off(made, run, place) if what is Spoilt.OFF else None)
            for place in range(made.spoiled.shape[1])
            for what in (_seen(made, run, place),)
            if what is not None
        )
        yield Run(
            title=spell.title,
            sheet=1,
            pieces=made.spoiled.shape[1],
            came_out=CameOut.SPOILED if spoilt else CameOut.GOOD,
            spoilt=spoilt,
            stock=job.stock.key,
            stock_name=job.stock.name,
            lot=spell.lot,
            printer=spell.printer,
            cutter=spell.cutter,
            settings=tuple(
                UsedSetting(cut, one.force_gf, one.passes, one.speed_mm_s, str(one.blade.value))
                for cut, one in plan.settings.items()
                if any(plan.item(piece.item).spec.cut is cut for piece in plan.sheets[0].placements)
            ),
            light="usual",
            marks=job.marks.family,
            media=advice.media,
            quality=advice.quality,
            process="hand-out",
            took=took_of(plan, (0,), 1, ink_ml),
            simulated=True,
            later=(LaterCheck(LaterKind.MONTH),) if run == 0 and spell is _SEASON[0] else (),
            note=spell.note if run == 0 else "",
        )


def _seen(made: SimulationResult, run: int, place: int) -> Spoilt | None:
    """The maker's name for what became of a piece; None for a good piece."""
    if spoiling := made.spoiled[run, place]:
        return _SPOILT.get(SPOILINGS[spoiling - 1])
    return Spoilt.OFF if np.hypot(*made.miss_mm[run, place]) > _SEEN_MM else None


def _off(made: SimulationResult, run: int, place: int) -> LoggedMiss:
    dx, dy = (float(one) for one in np.clip(made.miss_mm[run, place], -20, 20))
    return LoggedMiss(round(dx, 2), round(dy, 2))


def shipped_season() -> list[tuple[datetime, Run]]:
    """The season as it ships."""
    return list(read_ledger_json((resources.files(__package__) / FILE).read_bytes()).runs)


if __name__ == "__main__":
    (Path(__file__).parent / FILE).write_bytes(write_ledger_json(Ledger(tuple(season()))))
