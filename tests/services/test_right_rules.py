"""Rules of the job that were wrong once, each tried from the outside: what is planned is what is made."""

import io
import json
import threading
import zipfile
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import replace
from pathlib import Path

import pytest
import shapely

from tests.conftest import disc_png
from tests.services.test_jobs import job_with_disc
from vamper.core.cutting.setting import EdgeDetail, propose
from vamper.core.edge.kind import KINDS
from vamper.core.inspect import findings_of
from vamper.core.plan import Plan, cut_of, pack_problem, page_of
from vamper.core.sheet.layout import Layout
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput, FixTarget
from vamper.core.values.geometry import mirrored
from vamper.core.values.stock import STARTER_STOCKS
from vamper.demo.art_files import ART
from vamper.formats.job_file import read_job
from vamper.services.brief.brief import brief
from vamper.services.design.designer import Designer
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.packing.packing_service import PackingState
from vamper.services.packing.scaling import ScaleState
from vamper.services.workshop import Workshop


def packed(workshop: Workshop, job: int) -> Plan:
    workshop.repacking.begin(workshop.jobs.get(job))
    workshop.packing.stop(job)
    return workshop.plans.of(workshop.jobs.get(job)).plan


def ended(told_done: Callable[[], bool]) -> None:
    for _ in range(300):
        if told_done():
            return
        threading.Event().wait(0.1)
    raise AssertionError("it never ended")


# Mirrored stock


@pytest.fixture
def lopsided(workshop: Workshop) -> int:
    """A job on a printer with a wide left margin, on a sheet whose left part is used up."""
    job = job_with_disc(workshop)
    kept = workshop.shop.printers.get(1)
    margins = replace(kept.value.margins_mm, left=20.0)
    workshop.shop.printers.keep(kept.name, replace(kept.value, margins_mm=margins), 1)
    workshop.jobs.change_items(job, "many", (1,), {"quantity": 40, "longest_mm": 20})
    workshop.jobs.change(job, "used", {"paper.spent": {"width_mm": 60, "height_mm": 120}})
    return job


@pytest.mark.parametrize("stock", ["light-transfer", "dye-paper", "satin-vinyl"])
def test_everything_is_printed_and_cut_where_the_sheet_as_loaded_allows_it(
    workshop: Workshop, lopsided: int, stock: str
) -> None:
    workshop.jobs.change(lopsided, "stock", {"stock": stock})
    plan = packed(workshop, lopsided)
    assert plan.layout.pieces == 40
    paper = plan.job.paper
    printable = shapely.box(20, 3, paper.width_mm - 3, paper.height_mm - 5).buffer(1e-6)
    gone = shapely.box(0, 0, 60, 120)
    for picture in page_of(plan, 0).pictures:
        assert printable.covers(picture.clip)
        assert picture.clip.intersection(gone).area < 1e-6
    for loop in cut_of(plan, 0).loops:
        assert shapely.Polygon(loop.points).intersection(gone).area < 1e-6
    # The plan is as the finished piece reads: its live area is the mirror image of the sheet's.
    seen = plan.setup.live_of(0).shape
    loaded = mirrored(seen, paper.width_mm) if plan.mirror else seen
    assert printable.covers(loaded)
    assert loaded.intersection(gone).area < 1e-6
    assert seen.is_valid


def test_marks_keep_clear_of_a_mirrored_layout_where_they_are_printed(workshop: Workshop, lopsided: int) -> None:
    workshop.jobs.change(lopsided, "stock", {"stock": "light-transfer", "marks.family": "ring", "marks.count": 3})
    plan = packed(workshop, lopsided)
    page = page_of(plan, 0)
    for mark in page.marks:
        clear = shapely.box(*shapely.MultiPoint(mark.rings[0]).bounds).buffer(plan.job.marks.clear_mm - 1e-6)
        assert not any(picture.clip.intersects(clear) for picture in page.pictures)
    seen = plan.setup.marks_seen
    assert [round(mark.x_mm, 6) for mark in seen] == [
        round(plan.job.paper.width_mm - mark.x_mm, 6) for mark in plan.setup.marks
    ]


# What is really made


def test_card_that_is_asked_to_be_kissed_is_cut_through_everywhere(workshop: Workshop) -> None:
    job = job_with_disc(workshop)
    workshop.jobs.change(job, "stock", {"stock": "card"})
    state = workshop.jobs.get(job)
    assert state.document.items[0].cut is Cut.KISS
    plan = packed(workshop, job)
    assert set(plan.settings) == {Cut.THROUGH}
    sentence = "".join(phrase.text for phrase in brief(workshop.briefing.facts(state)))
    assert "cut through" in sentence
    assert "kiss" not in sentence
    archive = zipfile.ZipFile(io.BytesIO(workshop.handing_over.bundle(state)))
    written = json.loads(archive.read("plan.json"))
    assert [item["cut"] for item in written["items"]] == ["through"]
    assert set(written["settings"]) == {"through"}


def test_the_tip_looks_out_as_far_as_the_cut_is_deep(workshop: Workshop) -> None:
    cutter = workshop.jobs.core_job(workshop.jobs.get(job_with_disc(workshop))).cutter
    for stock in STARTER_STOCKS:
        through = propose(stock, Cut.THROUGH, cutter, EdgeDetail(3.0, 3.0))
        assert through.exposure_mm == pytest.approx(stock.thickness_um / 1000 + 0.1, abs=0.006), stock.key
        kiss = propose(stock, Cut.KISS, cutter, EdgeDetail(3.0, 3.0))
        assert kiss.exposure_mm == pytest.approx((stock.face_um + stock.backing_um / 2) / 1000, abs=0.006), stock.key


@pytest.mark.parametrize(
    ("kind", "side"),
    [
        ("follow", "width_mm"),
        ("circle", "longest_mm"),
        ("rectangle", "height_mm"),
        ("hull", "longest_mm"),
    ],
)
def test_the_largest_that_fits_fits_and_hardly_anything_larger_does(workshop: Workshop, kind: str, side: str) -> None:
    job = workshop.jobs.create("Tall")
    tall = b'<svg xmlns="http://www.w3.org/2000/svg" width="4mm" height="90mm"><rect width="12" height="330"/></svg>'
    art = workshop.arts.take_in("tall.svg", tall)
    workshop.jobs.add_item(job, art.digest, "tall", 60, {"kind": kind, "distance_mm": 4})
    wanted = {"width_mm": 14, "height_mm": 385, "longest_mm": 385}[side]
    workshop.jobs.change_items(job, "size", (1,), {side: wanted})

    def too_big() -> list[tuple[float, dict[str, object]]]:
        found = [f for f in findings_of(packed(workshop, job)) if f.code == "art.too-big"]
        return [(f.figures["largest_mm"], dict(f.fixes[0].changes)) for f in found]

    ((largest, fix),) = too_big()
    workshop.jobs.change_items(job, "larger", (1,), {side: largest + 0.5})
    assert too_big()
    workshop.jobs.change_items(job, "fits", (1,), fix)
    assert not too_big()
    assert packed(workshop, job).layout.pieces == 1


def test_the_stock_picker_tells_what_the_cut_station_will_say(workshop: Workshop) -> None:
    job = job_with_disc(workshop)
    workshop.jobs.change_items(job, "tiny", (1,), {"longest_mm": 3, "edge.distance_mm": 0.3})
    for choice in workshop.briefing.choices(workshop.jobs.get(job), "stock"):
        workshop.jobs.change(job, "stock", choice.changes)
        plan = workshop.plans.of(workshop.jobs.get(job)).plan
        cut = Cut.KISS if Cut.KISS in plan.settings else Cut.THROUGH
        setting = plan.settings[cut]
        assert choice.consequence.startswith(f"{cut} cut, {setting.force_gf:g} gf × {setting.passes};"), choice.label


# Searches that end badly, or too late


@pytest.fixture
def patient(tmp_path: Path, nester: ProcessNester, designer: Designer) -> Iterator[Workshop]:
    """A workshop whose searches have time for more than plain rows, on a busy machine as well."""
    opened = Workshop(tmp_path / "patient.db", nester, search_seconds=6, designer=designer)
    yield opened
    opened.close()


def test_kits_show_rows_at_once_and_fill_three_quarters_of_a_sheet(patient: Workshop) -> None:
    workshop = patient
    job = job_with_disc(workshop)
    workshop.jobs.change_items(job, "many", (1,), {"quantity": 26, "longest_mm": 37})
    workshop.jobs.change(job, "kits", {"packing.mode": "kits"})
    packing = workshop.repacking.begin(workshop.jobs.get(job))
    assert packing.layout.pieces == 26
    ended(lambda: workshop.plans.of(workshop.jobs.get(job)).packing.state is PackingState.DONE)
    sheets = workshop.plans.of(workshop.jobs.get(job)).plan.layout.sheets
    assert len({len(sheet) for sheet in sheets}) == 1


def test_a_search_that_breaks_down_says_so_keeps_its_best_and_can_be_tried_again(
    workshop: Workshop, monkeypatch: pytest.MonkeyPatch
) -> None:
    job = job_with_disc(workshop)
    workshop.jobs.change_items(job, "many", (1,), {"quantity": 30})

    def breaks_down(*_: object) -> None:
        raise RuntimeError("the search fell over")

    with monkeypatch.context() as broken:
        broken.setattr("vamper.services.packing.packing_service.pack", breaks_down)
        workshop.repacking.begin(workshop.jobs.get(job))
        ended(lambda: workshop.packing.state(job) == (PackingState.BROKEN, 0.0))
    planned = workshop.plans.of(workshop.jobs.get(job))
    plan, packing = planned.plan, planned.packing
    assert packing.state is PackingState.BROKEN
    assert plan.layout.pieces == 30
    workshop.repacking.again(workshop.jobs.get(job))
    ended(lambda: workshop.plans.of(workshop.jobs.get(job)).packing.state is PackingState.DONE)


def test_a_scale_that_was_found_for_an_older_job_is_refused(workshop: Workshop) -> None:
    job = job_with_disc(workshop)
    told = workshop.repacking.scale_to_fill(workshop.jobs.get(job), 1)
    art = workshop.arts.take_in("second.png", disc_png(200))
    workshop.jobs.add_item(job, art.digest, "second", 30, {})
    changed = workshop.jobs.get(job).document
    workshop.scalings.stop(job)
    ended(lambda: told.state is not ScaleState.WORKING)
    if told.state is ScaleState.FAILED:
        assert "changed in the meantime" in told.problem
    assert workshop.jobs.get(job).document == changed


def test_a_removed_job_ends_its_work(workshop: Workshop) -> None:
    job = job_with_disc(workshop)
    workshop.jobs.change_items(job, "many", (1,), {"quantity": 60})
    workshop.repacking.begin(workshop.jobs.get(job))
    told = workshop.repacking.scale_to_fill(workshop.jobs.get(job), 2)
    workshop.jobs.remove(job)
    ended(lambda: told.state in (ScaleState.STOPPED, ScaleState.FAILED))
    assert workshop.packing.state(job) is None
    workshop.jobs.put_back(job)
    assert workshop.plans.of(workshop.jobs.get(job)).packing.state is not PackingState.SEARCHING


def test_hands_on_a_layout_of_an_older_job_move_nothing(workshop: Workshop) -> None:
    job = job_with_disc(workshop)
    workshop.jobs.change_items(job, "many", (1,), {"quantity": 3})
    packed(workshop, job)
    planned = workshop.plans.of(workshop.jobs.get(job))
    plan, packing = planned.plan, planned.packing
    table = workshop.plans.table(job, packing.layout_id)
    # The same shapes in the same order, but another design.
    art = workshop.arts.take_in("twin.png", disc_png())
    workshop.jobs.add_item(job, art.digest, "twin", 40, {})
    workshop.jobs.change_items(job, "many", (2,), {"quantity": 3})
    workshop.jobs.remove_items(job, (1,))
    before = workshop.jobs.get(job).document
    with pytest.raises(BadInput, match="changed in the meantime"):
        workshop.by_hand.lock(job, table, 0, [0], True)
    assert workshop.jobs.get(job).document == before
    assert plan.layout.pieces == 3


def test_numbers_of_designs_are_never_given_twice(workshop: Workshop) -> None:
    job = job_with_disc(workshop)
    art = workshop.arts.take_in("second.png", disc_png(200))
    assert workshop.jobs.add_item(job, art.digest, "second", 30, {}).document.items[-1].number == 2
    plan = packed(workshop, job)
    workshop.layouts.save(job, "both", plan)
    workshop.jobs.undo(job)
    third = workshop.arts.take_in("third.png", disc_png(210))
    assert workshop.jobs.add_item(job, third.digest, "third", 30, {}).document.items[-1].number == 3
    with pytest.raises(BadInput, match="no longer in the job"):
        workshop.layouts.keep(job, "both")


def test_a_back_of_itself_or_in_a_circle_is_refused_at_the_door(workshop: Workshop) -> None:
    job = job_with_disc(workshop)
    art = workshop.arts.take_in("second.png", disc_png(200))
    workshop.jobs.add_item(job, art.digest, "second", 30, {})
    with pytest.raises(BadInput, match="its own back"):
        workshop.jobs.change_items(job, "back", (1,), {"back_of": 1})
    workshop.jobs.change_items(job, "back", (1,), {"back_of": 2})
    with pytest.raises(BadInput, match="is itself a back"):
        workshop.jobs.change_items(job, "back", (2,), {"back_of": 1})
    assert packed(workshop, job).layout.pieces >= 1


# On real art; `test_fixes` tries them on drawn scenes of all kinds.
EDGES: list[dict[str, object]] = [
    {"kind": "bare", "distance_mm": -1.0},
    {"rings": [{"width_mm": 1}, {"width_mm": 2, "colour": "#112233"}]},
    {"kind": "follow", "distance_mm": 0.2, "smooth_mm": 0},
]


def test_every_fix_that_is_offered_is_accepted(workshop: Workshop) -> None:
    job = workshop.jobs.create("Everything")
    for name in ("seabird-on-white.jpg", "reach-lettering.svg", "harbour-set.png", "paddles-small.png"):
        art = workshop.arts.take_in(name, ART[name]())
        workshop.jobs.add_item(job, art.digest, name, 300 if name == "paddles-small.png" else 40, {})
    numbers = tuple(item.number for item in workshop.jobs.get(job).document.items)
    for stock, edges in (("satin-vinyl", EDGES), ("plain-vinyl", EDGES[:1])):
        workshop.jobs.change(job, "stock", {"stock": stock})
        assert _fixes_accepted(workshop, job, numbers, edges) >= 3 * len(edges)


def _fixes_accepted(
    workshop: Workshop, job: int, numbers: tuple[int, ...], edges: Sequence[Mapping[str, object]]
) -> int:
    """How many fixes are offered over some edges; each must be one that the document takes."""
    tried = 0
    for edge in edges:
        start = {"kind": "follow", "rings": [], **edge}
        changes = {f"edge.{name}": value for name, value in start.items()}
        document = workshop.jobs.change_items(job, "edge", numbers, changes).document
        for finding in workshop.plans.of(workshop.jobs.get(job)).findings:
            for fix in finding.fixes:
                tried += 1
                if fix.target is FixTarget.ITEM:
                    assert finding.item is not None
                    document.items_changed((finding.item,), fix.changes).consistent()
                elif fix.target is FixTarget.JOB:
                    document.changed(fix.changes)
        for kind in KINDS:
            changed = document.items_changed(numbers, {"edge.kind": kind.key})
            assert all(item.edge.kind == kind.key for item in changed.items)
    return tried


def test_a_cutter_keeps_what_its_window_does_not_show(workshop: Workshop) -> None:
    cutters = workshop.shop.cutters
    cutters.keep(cutters.get(1).name, replace(cutters.get(1).value, acceleration_mm_s2=800.0), 1)
    shown = cutters.get(1)
    assert shown.value.acceleration_mm_s2 == 800.0
    cutters.keep("the slow one", shown.value, 1)
    job = workshop.jobs.core_job(workshop.jobs.get(job_with_disc(workshop)))
    assert job.cutter.acceleration_mm_s2 == 800.0


# Names


@pytest.mark.parametrize(
    ("names", "expected"),
    [
        (["a.png", "A.PNG"], {"a.png", "A-2.PNG"}),
        (["Sheet-01-Cut.SVG.png", "plan.json.png"], {"Sheet-01-Cut.SVG.png", "plan.json.png"}),
        (["C:x.png", "a*?|b.png"], {"C-x.png", "a---b.png"}),
        (["nul.png", "../../up.png"], {"_nul.png", "up.png"}),
        (["tern\u202egnp.png", "two\nlines.png"], {"terngnp.png", "two lines.png"}),
        (["x" * 300 + ".png", "y.png"], {"x" * 116 + ".png", "y.png"}),
    ],
)
def test_a_handed_off_job_unpacks_anywhere_and_plans_again(
    workshop: Workshop, names: list[str], expected: set[str]
) -> None:
    job = workshop.jobs.create("Names\u202e \x07and more")
    for place, name in enumerate(names):
        art = workshop.arts.take_in(name, disc_png(200 + place))
        workshop.jobs.add_item(job, art.digest, art.name, 30, {})
    packed(workshop, job)
    archive = zipfile.ZipFile(io.BytesIO(workshop.handing_over.bundle(workshop.jobs.get(job))))
    files = archive.namelist()
    assert len({name.lower() for name in files}) == len(files)
    assert expected <= set(files)
    again = read_job(archive.read("job.json"))
    assert {item.art for item in again.items} == expected
    assert again.title == "Names and more"


def test_an_art_named_as_one_of_our_files_does_not_replace_it(workshop: Workshop) -> None:
    job = workshop.jobs.create("Names")
    svg = b'<svg xmlns="http://www.w3.org/2000/svg" width="30mm" height="30mm"><circle cx="50" cy="50" r="40"/></svg>'
    art = workshop.arts.take_in("Sheet-01-CUT.svg", svg)
    workshop.jobs.add_item(job, art.digest, art.name, 30, {})
    packed(workshop, job)
    archive = zipfile.ZipFile(io.BytesIO(workshop.handing_over.bundle(workshop.jobs.get(job))))
    assert b"kiss" in archive.read("sheet-01-cut.svg")
    assert archive.read("Sheet-01-CUT-2.svg") == svg


def test_layouts_are_compared_by_equal_sets_only_where_kits_are_wanted(workshop: Workshop) -> None:
    job = job_with_disc(workshop)
    workshop.jobs.change_items(job, "many", (1,), {"quantity": 4})
    plan = packed(workshop, job)
    sheet = plan.layout.sheets[0]
    uneven, even = Layout((sheet[:3], sheet[3:]), (), False), Layout((sheet[:2], sheet[2:]), (), False)
    problem = pack_problem(plan.job, plan.setup, plan.items)
    kits = replace(problem, spec=replace(problem.spec, mode="kits"))
    assert kits.rank(even)[0] > kits.rank(uneven)[0]
    assert problem.rank(even)[0] == problem.rank(uneven)[0]
