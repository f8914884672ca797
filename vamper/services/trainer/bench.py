"""The bench of a lesson: its job planned, printed, read and cut by the twin, and pictures of what came of it.

What becomes of a sheet is worked out once for each state of the job and of the devices, `RUNS` times at a go; a play
then takes its own run of it.
"""

import json
import threading
from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from PIL import Image
from pydantic import TypeAdapter

from vamper.core.art.picture import Picture
from vamper.core.cutting.setting import CutSetting
from vamper.core.design import DesignedItem
from vamper.core.marks.program_marks import marks_or_usual
from vamper.core.marks.sensor_view import sensor_view
from vamper.core.plan import Plan
from vamper.core.printing.proof import BAR_MM
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.trainer.lesson import BENCHES, Lesson, LookPicture
from vamper.core.trainer.play import BORDER_HOLE, LETTERS_LOOSE, RUNS, SheetOdds
from vamper.core.trainer.world import LessonWorld
from vamper.core.twin.close_up import drop_close_up, outcome_at, ruler_close_up
from vamper.core.twin.cutter import depths, sample
from vamper.core.twin.devices import Devices, devices_of
from vamper.core.twin.faults import with_faults
from vamper.core.twin.program_cutter import force_of, passes_of
from vamper.core.twin.remedies import after_remedy
from vamper.core.twin.sensor import COVER_GLOSS, seen_scene
from vamper.core.twin.simulate import GOOD
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.job import Job
from vamper.core.values.twin import TwinSpec
from vamper.formats.job_file import read_job
from vamper.formats.lesson_art import lesson_art
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.jobs.document import JobDocument, document_json
from vamper.services.packing.planning import plan_job
from vamper.services.twin.dry_runs import DryRunFiles, dry_run
from vamper.services.twin.pictures import scanned
from vamper.services.twin.practice import DROP_PX, RULER_MM, RULER_PX_A_MM
from vamper.services.work.cache import Cache

# A lesson's sheets are few and plain: rows do, and a search would only make a play differ from the next.
_PACKING_S = 1.0
_SHEET_PPI, _PIECE_PPI, _BESIDE_MM = 110, 220, 3.0
# Sheets with all that their pictures are drawn from, and plans.
_KEPT, _KEPT_PLANS = 6, 12
_MARK_PX = 336
_SEED = 1
_TWIN: TypeAdapter[TwinSpec] = TypeAdapter(TwinSpec)

# A path of a field of all designs.
_EACH = "items.*."

# The job of a world, and its art file by file.
JobOf = Callable[[LessonWorld], tuple[Job, Sequence[ArtFile]]]


def lesson_job(lesson: Lesson, changes: Mapping[str, Any] | None = None) -> Job:
    """The job of a lesson with some of its fields changed, on the lesson's bench."""
    bench = BENCHES[lesson.bench]
    raw = {"format": "vamper-job", "version": 1, "title": lesson.title, **bench, **lesson.job}
    data: dict[str, Any] = json.loads(json.dumps(raw))
    for path, value in (changes or {}).items():
        _set(data, path.split("."), value)
    return read_job(json.dumps(data))


def _set(data: Any, path: Sequence[str], value: Any) -> None:
    if path[0] == "*":
        for one in data:
            _set(one, path[1:], value)
    elif len(path) == 1:
        data[path[0]] = value
    else:
        _set(data.setdefault(path[0], {}), path[1:], value)


def changed_document(document: JobDocument, changes: Mapping[str, Any]) -> JobDocument:
    """A lesson's job in the workshop with some of its fields changed, as `lesson_job` changes its file."""
    numbers = tuple(item.number for item in document.items)
    for path, value in changes.items():
        if path.startswith(_EACH):
            document = document.items_changed(numbers, {path.removeprefix(_EACH): value})
        elif isinstance(value, list):
            kept = [one for one in _at(document_json(document), path) if one not in value]
            document = document.changed({path: [*kept, *value]})
        else:
            document = document.changed({path: value})
    return document


def _at(data: Any, path: str) -> Any:
    for name in path.split("."):
        data = data.get(name, {})
    return data or []


def lesson_files(job: Job) -> list[ArtFile]:
    """The art of a lesson's job, file by file."""
    return [ArtFile.of(item.art, lesson_art(item.art)) for item in job.items]


@dataclass(frozen=True)
class _Planned:
    plan: Plan
    arts: Mapping[str, ArtFile]


class TwinBench:
    """The maker of the sheets of one lesson; see `LessonBench`.

    Parameters
    ----------
    job_of : callable
        The job as it stands in a world; the lesson's own, changed, where none is given.
    """

    def __init__(self, lesson: Lesson, designer: Designer, nester: Nester, job_of: JobOf | None = None) -> None:
        self._lesson = lesson
        self._designer = designer
        self._nester = nester
        self._job_of = job_of or self._own_job
        self._odds: dict[Hashable, SheetOdds] = {}
        self._runs: Cache[DryRunFiles] = Cache(_KEPT)
        self._plans: Cache[_Planned] = Cache(_KEPT_PLANS)
        self._lock = threading.Lock()

    def odds(self, world: LessonWorld, possibility: int, looks: bool) -> SheetOdds:
        """The odds of a sheet; see `LessonBench`."""
        planned, devices = self._standing(world, possibility, looks)
        key = (planned.plan.asked, devices)
        with self._lock:
            if key not in self._odds:
                self._odds[key] = self._odds_of(planned, devices)
            return self._odds[key]

    def picture(self, world: LessonWorld, looks: bool, run: int, what: LookPicture) -> np.ndarray[Any, Any]:
        """The picture of a thing that can be looked at, as it really is, RGB."""
        planned, devices = self._standing(world, 0, looks)
        if what is LookPicture.SHEET:
            return scanned(self._run_of(planned, devices), 0, _SHEET_PPI, run)
        plan = planned.plan
        if what is LookPicture.PIECE:
            return self._spoilt_piece(self._run_of(planned, devices), run)
        if what is LookPicture.MARK:
            marks = marks_or_usual(plan.job)
            if not marks:
                raise BadInput("there are no marks on this sheet", "marks")
            scene = seen_scene(plan, devices.printer, devices.sensor)
            if devices.sensor.covered:
                scene = replace(scene, gloss=COVER_GLOSS)
            grey = np.asarray(
                Image.fromarray(np.uint8(sensor_view(marks[0], scene).picture * 255)).resize((_MARK_PX,) * 2)
            )
            return np.repeat(grey[..., None], 3, axis=2)
        if what is LookPicture.DROP:
            return self._drop(plan, devices, run)
        scale = devices.printer.scale.x * devices.printer.fit / plan.job.printer.scale.x
        return ruler_close_up(BAR_MM * scale, *RULER_MM, RULER_PX_A_MM, 5)

    def _spoilt_piece(self, found: DryRunFiles, run: int) -> np.ndarray[Any, Any]:
        """One spoilt piece, seen closely; the first piece where all are good."""
        runs = found.sheets[0]
        place = int(np.argmax(runs.spoiled[run] != GOOD))
        left, top, right, bottom = runs.facts.edges[runs.facts.pieces[place].placement].bounds
        box = (left - _BESIDE_MM, top - _BESIDE_MM, right - left + 2 * _BESIDE_MM, bottom - top + 2 * _BESIDE_MM)
        return scanned(found, 0, _PIECE_PPI, run, box)

    def _drop(self, plan: Plan, devices: Devices, run: int) -> np.ndarray[Any, Any]:
        setting = _setting(plan)
        by_name = plan.job.cutter.has_own_program
        force, passes = (force_of(plan, setting), passes_of(setting)) if by_name else (setting.force_gf, setting.passes)
        luck = sample((_SEED, run), 1, 1, 1, 1, 0)
        depth = depths(devices.cutter, luck, plan.job.stock, setting.blade, force, passes, np.zeros(1, bool))
        return drop_close_up(outcome_at(plan.job.stock, setting.cut, float(depth[0])), plan.job.stock, DROP_PX, run + 1)

    def _standing(self, world: LessonWorld, possibility: int, looks: bool) -> tuple[_Planned, Devices]:
        planned = self._planned(world)
        spec = _TWIN.validate_python({**self._lesson.twin, **self._lesson.might[possibility].twin})
        plan = planned.plan
        devices = devices_of(replace(plan, job=replace(plan.job, twin=spec)))
        devices = with_faults(devices, (*spec.faults, *world.broken))
        for remedy in world.remedies:
            devices = after_remedy(remedy, plan, devices)
        return planned, replace(devices, looks=looks)

    def _planned(self, world: LessonWorld) -> _Planned:
        job, arts = self._job_of(world)

        def make() -> _Planned:
            plan = plan_job(job, arts, self._designer, self._nester, _PACKING_S, _SEED)
            return _Planned(plan, {item.art: art for item, art in zip(job.items, arts, strict=True)})

        return self._plans.get((job, tuple(art.digest for art in arts)), make)

    def _own_job(self, world: LessonWorld) -> tuple[Job, Sequence[ArtFile]]:
        job = lesson_job(self._lesson, world.job)
        return job, lesson_files(job)

    def _run_of(self, planned: _Planned, devices: Devices) -> DryRunFiles:
        def pictures(item: DesignedItem) -> Picture:
            return self._designer.picture_of(item, planned.arts[item.spec.art])

        return self._runs.get(
            (planned.plan.asked, devices), lambda: dry_run(planned.plan, pictures, RUNS, _SEED, devices)
        )

    def _odds_of(self, planned: _Planned, devices: Devices) -> SheetOdds:
        found = self._run_of(planned, devices).sheets[0]
        return SheetOdds(found.read, found.spoiled, self._unwanted(planned.plan), (planned.plan.asked, devices.printer))

    def _unwanted(self, plan: Plan) -> dict[str, int]:
        """Pieces of the first sheet that are not as the lesson wants them."""
        wanted, found = self._lesson.wanted, {BORDER_HOLE: 0, LETTERS_LOOSE: 0}
        for placed in plan.sheets[0].lying.placements:
            shape = plan.item(placed.item).edge.shape
            holes = sum(len(part.interiors) for part in shape.geoms)
            if wanted.holes is not None and holes != wanted.holes:
                found[BORDER_HOLE] += 1
            elif wanted.parts is not None and len(shape.geoms) != wanted.parts:
                found[LETTERS_LOOSE] += 1
        return {what: many for what, many in found.items() if many}


def _setting(plan: Plan) -> CutSetting:
    used = {item.spec.cut for item in plan.items}
    return next(plan.settings[cut] for cut in Cut if cut in used)
