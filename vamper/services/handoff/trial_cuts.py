"""What is cut to try: the tell-tale of a sheet, and ladders in its waste or on an offcut; and the bench card.

Places are found on the sheet as the finished piece reads; files are in the frame in which the sheet is loaded.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from vamper.core.bench_card import bench_steps, loading_picture, used_settings
from vamper.core.cutting.drops import DROP_MM, Drop, TestCut, ladder_places, offcut_places
from vamper.core.cutting.setting import CutSetting
from vamper.core.plan import Plan
from vamper.core.tell_tale import tell_tale_of
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.lengths import Unit, size_mm
from vamper.core.values.paper import Paper
from vamper.formats.out.bench_card_pdf import write_bench_card
from vamper.formats.out.drops_file import TEST_CUT_FILES, tell_tale_names

CARD_NAME = "bench-card.pdf"


@dataclass(frozen=True, slots=True)
class LadderPlace:
    """Where the drops of a ladder lie, as the finished sheet reads; on an offcut of its own where `on` says so."""

    on: Paper
    is_offcut: bool
    places: tuple[tuple[float, float], ...]


def _first_cut(plan: Plan) -> CutSetting:
    used = used_settings(plan)
    return used[0] if used else next(iter(plan.settings.values()))


def tell_tale(plan: Plan, sheet: int) -> TestCut | None:
    """The tell-tale of one sheet (from 0), cut as the job's pieces are; None where no waste is left for it."""
    place = tell_tale_of(plan, sheet) if plan.job.cutter.is_machine else None
    if place is None:
        return None
    setting = _first_cut(plan)
    ((x, y),) = _loaded(plan, [place])
    drop = Drop(x, y, setting.force_gf, setting.passes)
    title = f"{plan.job.title}, tell-tale of sheet {sheet + 1}"
    return TestCut(plan.job.paper, setting.cut, setting.speed_mm_s, (drop,), title, plan.job.calibration)


def _loaded(plan: Plan, places: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """Places of drops as the sheet is loaded."""
    if not plan.mirror:
        return list(places)
    return [(plan.job.paper.width_mm - x - DROP_MM, y) for x, y in places]


def ladder_place(plan: Plan, sheet: int, before: int, offcut: Paper | None = None) -> LadderPlace:
    """Where a ladder lies: in the waste of a sheet (from 0) beside so many ladders `before`, or on an offcut.

    Raises
    ------
    BadInput
        Where there is no room for it.
    """
    if offcut is not None:
        return LadderPlace(offcut, True, tuple(offcut_places(offcut)))
    if not plan.sheets:
        raise BadInput("nothing lies on a sheet yet, so there is no waste; take an offcut", "offcut")
    laid = plan.sheets[sheet]
    marks = [mark.shape.buffer(plan.job.marks.clear_mm) for mark in plan.setup.marks_seen]
    places = ladder_places(laid.live.shape, [*laid.edges, *marks], marks, before)
    if places is None:
        raise BadInput("this sheet has no waste left for six drops; take an offcut of the same stock", "offcut")
    return LadderPlace(plan.job.paper, False, tuple(places))


def ladder_test(plan: Plan, cut: Cut, passes: int, forces_gf: Sequence[float], place: LadderPlace) -> TestCut:
    """The ladder as it is cut."""
    places = list(place.places) if place.is_offcut else _loaded(plan, place.places)
    drops = tuple(
        Drop(x, y, force, passes, number)
        for number, (force, (x, y)) in enumerate(zip(forces_gf, places, strict=False), 1)
    )
    calibration = None if place.is_offcut else plan.job.calibration
    title = f"{plan.job.title}, ladder on {plan.job.stock.name}"
    return TestCut(place.on, cut, plan.settings[cut].speed_mm_s, drops, title, calibration)


def tell_tale_files(plan: Plan, sheet: int) -> dict[str, bytes]:
    """The files of the tell-tale of one sheet (from 0), by name; none where no waste is left for it."""
    test = tell_tale(plan, sheet)
    if test is None:
        return {}
    return {name: TEST_CUT_FILES[kind][1](test) for kind, name in tell_tale_names(sheet).items()}


def bench_card(plan: Plan, unit: Unit = Unit.MM) -> bytes:
    """The bench card as one page.

    Raises
    ------
    BadInput
        If nothing lies on a sheet yet.
    """
    steps = bench_steps(plan)
    if not steps:
        raise BadInput("nothing lies on a sheet yet, so there is nothing to do at the bench; add art first", "items")
    job = plan.job
    pieces = f"{plan.layout.pieces} pieces on {len(plan.sheets)} sheet{'s' if len(plan.sheets) > 1 else ''}"
    about = f"{job.stock.title}, {size_mm(job.paper.width_mm, job.paper.height_mm)}; {pieces}"
    return write_bench_card(steps, loading_picture(plan), job.paper, job.title, about, unit)
