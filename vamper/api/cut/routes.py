"""The window of force and its ladders, the path played back, blades and mats, and the bench card."""

from typing import Annotated, Literal

from annotated_types import Ge, Le
from fastapi import Response

from vamper.api.cut.schemas import (
    BladeProfile,
    CutReadingIn,
    CutterId,
    ForceOut,
    JudgedIn,
    LadderIn,
    LadderPlaceOut,
    MatProfile,
    OffcutIn,
    ReplayOut,
    RunIn,
    SettingChangeIn,
    SettingPlaceIn,
    SettingsOut,
    SettingToldIn,
    ThingId,
    TypedIn,
    WorkshopCareOut,
)
from vamper.api.cut.views import care_out, force_out, ladder_place_out, no_place, replay_out, settings_out
from vamper.api.dependencies import JobsHere, MakingHere, PlansHere, ShopHere, UnitHere
from vamper.api.downloads import download
from vamper.api.request_checks import Id, Number, in_turn
from vamper.api.request_checks import router as door_router
from vamper.api.sheet_number import sheet_place
from vamper.api.was_set import set_as
from vamper.core.bench_card import loading_picture
from vamper.core.cutting.ladder import ladder_advice
from vamper.core.effective_job import effective_cut
from vamper.core.plan import Plan
from vamper.core.values.blade import Blade
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.limits import Length
from vamper.core.values.paper import Paper
from vamper.core.values.tried import MOST_PASSES
from vamper.formats.out.drawing_svg import write_drawing_svg
from vamper.formats.out.drops_file import TEST_CUT_FILES
from vamper.formats.out.whole_png import trial_drop_png
from vamper.formats.settings_lines import settings_of_lines
from vamper.services.handoff.trial_cuts import CARD_NAME, bench_card, ladder_place, ladder_test, tell_tale
from vamper.services.jobs.jobs import Jobs
from vamper.services.planning.plans import Plans
from vamper.services.shop.shop import Shop
from vamper.services.shop.tried import CutRecord, JudgedDrop, KeptCutRecord, RecordKind, blade_then
from vamper.services.work.not_found import NotFound

router = door_router("cut")

FileKind = Literal["svg", "dxf", "hpgl"]
AskedPasses = Annotated[int, Ge(1), Le(MOST_PASSES)]


def _plan(jobs: Jobs, plans: Plans, job_id: int, sheet: int | None = None) -> Plan:
    plan = plans.of(jobs.get(job_id)).plan
    if not plan.job.cutter.is_machine:
        raise BadInput("no machine cuts this job; take the bench card for scissors", "cutter")
    if sheet is not None:
        sheet_place(plan, sheet)
    return plan


def _offered(plan: Plan, cut: Cut) -> Cut:
    """The cut as it can be made on the job's stock."""
    return cut if cut in plan.settings else Cut.THROUGH


@router.get("/jobs/{job_id}/force")
async def get_force(
    shop: ShopHere, jobs: JobsHere, plans: PlansHere, job_id: Id, cut: Cut = Cut.KISS, passes: AskedPasses | None = None
) -> ForceOut:
    """The window of force of a cut; in other passes than are set, as it would be."""

    def weigh() -> ForceOut:
        document = jobs.get(job_id).document
        plan = _plan(jobs, plans, job_id)
        return force_out(plan, _offered(plan, cut), passes, shop.tried.of(document.cutter_id, document.stock))

    return await in_turn(weigh)


@router.post("/jobs/{job_id}/ladders", status_code=201)
async def begin_ladder(shop: ShopHere, jobs: JobsHere, plans: PlansHere, job_id: Id, ladder: LadderIn) -> ThingId:
    """A ladder of six drops where the outcome is least known; it waits to be judged."""

    def begin() -> ThingId:
        document = jobs.get(job_id).document
        plan = _plan(jobs, plans, job_id)
        cut, force = _offered(plan, ladder.cut), plan.job.cutter.force_gf
        setting = plan.settings[cut]
        tried = shop.tried.of(document.cutter_id, document.stock)
        seen = [*tried.tries, *tried.runs]
        rungs = ladder_advice(setting.belief, force, seen, ladder.passes, exact=True).next_gf
        blade, metres = blade_then(plan.job.blade, setting.blade)
        record = CutRecord(RecordKind.LADDER, cut, tuple(JudgedDrop(gf, ladder.passes) for gf in rungs), blade, metres)
        return ThingId(id=shop.tried.keep(document.cutter_id, plan.job.stock, force, record))

    return await in_turn(begin)


def _record(shop: Shop, jobs: Jobs, job_id: int, record_id: int) -> tuple[KeptCutRecord, int]:
    """A record of a job's stock and cutter, and how many ladders came before it."""
    document = jobs.get(job_id).document
    tried = shop.tried.of(document.cutter_id, document.stock)
    found = next((kept for kept in tried.records if kept.id == record_id), None)
    if found is None:
        raise NotFound("there is no such record on this stock and cutter; it may have been removed")
    return found, sum(1 for kept in tried.ladders if kept.id < record_id)


@router.put("/jobs/{job_id}/records/{record_id}/drops/{drop}", status_code=204)
def judge_drop(shop: ShopHere, jobs: JobsHere, job_id: Id, record_id: Id, drop: int, judged: JudgedIn) -> None:
    """Say what a drop (from 0) looks like; the belief follows."""
    _record(shop, jobs, job_id, record_id)
    stock = shop.stock(jobs.get(job_id).document.stock)
    shop.tried.judge(record_id, stock, drop, judged.outcome)


@router.delete("/jobs/{job_id}/records/{record_id}", status_code=204)
def forget_record(shop: ShopHere, jobs: JobsHere, job_id: Id, record_id: Id) -> None:
    """Take a ladder, a reading or a run away, as if it had never been."""
    _record(shop, jobs, job_id, record_id)
    shop.tried.forget(record_id)


@router.post("/jobs/{job_id}/readings", status_code=201)
def add_reading(shop: ShopHere, jobs: JobsHere, plans: PlansHere, job_id: Id, reading: CutReadingIn) -> ThingId:
    """A reading without a ladder: what a force did once on this stock."""
    document = jobs.get(job_id).document
    plan = _plan(jobs, plans, job_id)
    cut = _offered(plan, reading.cut)
    blade, metres = blade_then(plan.job.blade, plan.settings[cut].blade)
    drop = JudgedDrop(reading.force_gf, reading.passes, reading.outcome)
    record = CutRecord(RecordKind.READING, cut, (drop,), blade, metres)
    return ThingId(id=shop.tried.keep(document.cutter_id, plan.job.stock, plan.job.cutter.force_gf, record))


@router.post("/jobs/{job_id}/runs", status_code=204)
async def log_run(shop: ShopHere, jobs: JobsHere, plans: PlansHere, making: MakingHere, job_id: Id, run: RunIn) -> None:
    """Log sheets that were cut, and how their cuts look; belief, blade and mat follow.

    Where the workshop knows a blade in this machine, it must be the one that was confirmed.
    """

    def log() -> None:
        state = jobs.get(job_id)
        inside = shop.care.blades.in_machine(state.document.cutter_id)
        if inside is not None and run.blade_id != inside.id:
            raise BadInput(f"confirm first that “{inside.name}” is the blade in the machine", "blade_id")
        if inside is None and run.blade_id is not None:
            raise NotFound("there is no such blade in this machine; put it in first, or log the run without one")
        _plan(jobs, plans, job_id)
        making.log_run(state, run.sheets, run.outcomes, set_as(run.was_set), run.read)
        if inside is not None:
            shop.care.blades.put_in(inside.id, state.document.cutter_id)

    await in_turn(log)


def _offcut(width_mm: float | None, height_mm: float | None) -> Paper | None:
    if width_mm is None or height_mm is None:
        return None
    size = OffcutIn(width_mm=width_mm, height_mm=height_mm)
    return Paper(size.width_mm, size.height_mm)


@router.get("/jobs/{job_id}/sheets/{sheet}/ladder-place")
async def get_ladder_place(
    jobs: JobsHere,
    plans: PlansHere,
    job_id: Id,
    sheet: Number,
    before: Annotated[int, Ge(0), Le(50)] = 0,
    width_mm: Length | None = None,
    height_mm: Length | None = None,
) -> LadderPlaceOut:
    """Where six drops lie in the waste of a sheet, beside so many ladders before; or on an offcut of a size."""

    def find() -> LadderPlaceOut:
        plan = plans.of(jobs.get(job_id)).plan
        number = sheet_place(plan, sheet, before_any=True)
        try:
            return ladder_place_out(ladder_place(plan, number, before, _offcut(width_mm, height_mm)))
        except BadInput as bad:
            return no_place(bad.sentence)

    return await in_turn(find)


@router.get("/jobs/{job_id}/sheets/{sheet}/ladder-{record_id}.{kind}", response_class=Response)
async def get_ladder_file(
    shop: ShopHere,
    jobs: JobsHere,
    plans: PlansHere,
    job_id: Id,
    sheet: Number,
    record_id: Id,
    kind: FileKind,
    width_mm: Length | None = None,
    height_mm: Length | None = None,
) -> Response:
    """A ladder as a cut file of its own, in the waste of a sheet or on an offcut of a size."""

    def draw() -> Response:
        kept, before = _record(shop, jobs, job_id, record_id)
        offcut = _offcut(width_mm, height_mm)
        plan = _plan(jobs, plans, job_id, None if offcut is not None else sheet)
        place = ladder_place(plan, sheet - 1, before, offcut)
        drops = kept.record.drops
        test = ladder_test(plan, kept.record.cut, drops[0].passes, [one.force_gf or 0.0 for one in drops], place)
        media, write = TEST_CUT_FILES[kind]
        return download(write(test), media, f"{plan.job.title}-ladder-{record_id}.{kind}")

    return await in_turn(draw)


@router.get("/jobs/{job_id}/sheets/{sheet}/tell-tale.{kind}", response_class=Response)
async def get_tell_tale(jobs: JobsHere, plans: PlansHere, job_id: Id, sheet: Number, kind: FileKind) -> Response:
    """The tell-tale of a sheet, as a cut file of its own."""

    def draw() -> Response:
        plan = _plan(jobs, plans, job_id, sheet)
        test = tell_tale(plan, sheet - 1)
        if test is None:
            raise BadInput("no waste is left on this sheet for a tell-tale; look twice at the first piece", "sheet")
        media, write = TEST_CUT_FILES[kind]
        return download(write(test), media, f"{plan.job.title}-sheet-{sheet:02d}-tell-tale.{kind}")

    return await in_turn(draw)


@router.get("/jobs/{job_id}/sheets/{sheet}/replay")
async def get_replay(jobs: JobsHere, plans: PlansHere, job_id: Id, sheet: Number) -> ReplayOut:
    """A sheet as it is cut, run by run, with its times."""
    return await in_turn(lambda: replay_out(_plan(jobs, plans, job_id, sheet), sheet - 1))


@router.get("/jobs/{job_id}/settings")
async def get_settings(
    shop: ShopHere, jobs: JobsHere, plans: PlansHere, job_id: Id, cut: Cut = Cut.KISS
) -> SettingsOut:
    """The settings of the machine's own list, what is proposed of them, and what to try next on an offcut."""

    def weigh() -> SettingsOut:
        document = jobs.get(job_id).document
        plan = _plan(jobs, plans, job_id)
        return settings_out(plan, _offered(plan, cut), shop.tried.of(document.cutter_id, document.stock))

    return await in_turn(weigh)


@router.post("/jobs/{job_id}/settings", status_code=204)
def type_settings(shop: ShopHere, jobs: JobsHere, job_id: Id, typed: TypedIn) -> None:
    """Several settings of the machine's list, typed one a line."""
    shop.add_settings(jobs.get(job_id).document.cutter_id, settings_of_lines(typed.lines, typed.pressures))


@router.put("/jobs/{job_id}/settings", status_code=204)
def change_setting(shop: ShopHere, jobs: JobsHere, job_id: Id, change: SettingChangeIn) -> None:
    """A setting by another name, with other pressures, in another order; or taken away."""
    shop.change_setting(jobs.get(job_id).document.cutter_id, change.name, change.changed)


@router.put("/jobs/{job_id}/settings/place", status_code=204)
def place_setting(shop: ShopHere, jobs: JobsHere, job_id: Id, place: SettingPlaceIn) -> None:
    """A setting put where it belongs in the list, by how hard it presses."""
    shop.place_setting(jobs.get(job_id).document.cutter_id, place.name, place.above)


@router.post("/jobs/{job_id}/settings/told", status_code=201)
def tell_setting(shop: ShopHere, jobs: JobsHere, plans: PlansHere, job_id: Id, told: SettingToldIn) -> ThingId:
    """Keep what one of the machine's named settings did to a stock; the belief follows."""
    document = jobs.get(job_id).document
    plan = _plan(jobs, plans, job_id)
    stock = plan.job.stock if told.stock is None else shop.stock(told.stock)
    cut = effective_cut(stock, told.cut)
    named = next((one for one in plan.job.cutter.settings if one.name == told.setting), None)
    if named is None:
        raise NotFound("there is no such setting on this machine; it may have been renamed")
    if not named.takes(told.pressure):
        raise BadInput(f"“{named.name}” has no “{told.pressure}” pressure; add that to it first", "pressure")
    blade, metres = blade_then(plan.job.blade, Blade.GENERAL)
    drop = JudgedDrop(None, told.passes, told.outcome, told.setting, told.pressure)
    record = CutRecord(RecordKind.READING, cut, (drop,), blade, metres)
    key = document.stock if told.stock is None else told.stock
    return ThingId(id=shop.tried.keep(document.cutter_id, shop.stock(key), plan.job.cutter.force_gf, record))


@router.get("/jobs/{job_id}/test-cut.png", response_class=Response)
def get_test_cut(jobs: JobsHere, job_id: Id) -> Response:
    """One small shape as a picture of its own, for a test cut on an offcut."""
    return download(trial_drop_png(), "image/png", f"{jobs.get(job_id).document.title}-test-cut.png")


@router.get("/jobs/{job_id}/care")
async def get_care(shop: ShopHere, jobs: JobsHere, plans: PlansHere, job_id: Id) -> WorkshopCareOut:
    """The blades and mats of the workshop, as this job would use them."""

    def look() -> WorkshopCareOut:
        state = jobs.get(job_id)
        return care_out(_plan(jobs, plans, job_id), state.document.cutter_id, shop.care)

    return await in_turn(look)


@router.post("/blades", status_code=201)
def add_blade(shop: ShopHere, profile: BladeProfile) -> ThingId:
    return ThingId(id=shop.care.blades.keep(profile.name, profile.blade))


@router.put("/blades/{number}", status_code=204)
def change_blade(shop: ShopHere, number: Id, profile: BladeProfile) -> None:
    shop.care.blades.keep(profile.name, profile.blade, number)


@router.post("/blades/{number}/put-in", status_code=204)
def put_in_blade(shop: ShopHere, number: Id, machine: CutterId) -> None:
    """This blade is in that machine now; what was in there comes out."""
    shop.care.blades.put_in(number, machine.cutter_id)


@router.delete("/blades/{number}", status_code=204)
def remove_blade(shop: ShopHere, number: Id) -> None:
    shop.care.blades.remove(number)


@router.post("/mats", status_code=201)
def add_mat(shop: ShopHere, profile: MatProfile) -> ThingId:
    return ThingId(id=shop.care.mats.keep(profile.name, profile.mat))


@router.put("/mats/{number}", status_code=204)
def change_mat(shop: ShopHere, number: Id, profile: MatProfile) -> None:
    shop.care.mats.keep(profile.name, profile.mat, number)


@router.post("/mats/{number}/put-in", status_code=204)
def put_in_mat(shop: ShopHere, number: Id, machine: CutterId) -> None:
    """This mat is used on that machine now."""
    shop.care.mats.put_in(number, machine.cutter_id)


@router.post("/mats/{number}/washed", status_code=204)
def wash_mat(shop: ShopHere, number: Id) -> None:
    """The mat was washed with mild soap and dried in air."""
    shop.care.washed(number)


@router.delete("/mats/{number}", status_code=204)
def remove_mat(shop: ShopHere, number: Id) -> None:
    shop.care.mats.remove(number)


@router.get("/jobs/{job_id}/bench-card.pdf", response_class=Response)
async def get_bench_card(jobs: JobsHere, plans: PlansHere, unit: UnitHere, job_id: Id) -> Response:
    """Everything to do at the machine, on one page."""

    def draw() -> Response:
        plan = plans.of(jobs.get(job_id)).plan
        return download(bench_card(plan, unit), "application/pdf", f"{plan.job.title}-{CARD_NAME}")

    return await in_turn(draw)


@router.get("/jobs/{job_id}/loading.svg", response_class=Response)
async def get_loading(jobs: JobsHere, plans: PlansHere, job_id: Id) -> Response:
    """How the sheet is loaded, as a picture."""

    def draw() -> Response:
        plan = plans.of(jobs.get(job_id)).plan
        return Response(write_drawing_svg(loading_picture(plan)), media_type="image/svg+xml")

    return await in_turn(draw)
