"""Jobs, their changes, their art coming in, and their packing."""

import asyncio
from collections.abc import AsyncIterator
from contextlib import suppress
from dataclasses import replace
from typing import Annotated

from annotated_types import Ge, Le, Len
from fastapi import Request, UploadFile
from sse_starlette.sse import EventSourceResponse

from vamper.api.dependencies import (
    ArtsHere,
    ArtZipsHere,
    BriefingHere,
    FixesHere,
    JobsHere,
    PackingHere,
    PlansHere,
    RepackingHere,
    RunsHere,
    Shown,
    WorkshopHere,
)
from vamper.api.jobs.glance import glance_out
from vamper.api.jobs.schemas import (
    NOTHING_KNOWN,
    AddedArt,
    AnswerIn,
    ArtZipOut,
    Change,
    FixEachIn,
    FixIn,
    GlanceOut,
    ItemNumbers,
    JobId,
    KnownParts,
    NewJob,
    PackingEvent,
    ShelfIn,
    ViewOut,
)
from vamper.api.jobs.views import last_run_words
from vamper.api.request_checks import MOST_FILE_BODY, MOST_ZIP_BODY, Id, in_turn
from vamper.api.request_checks import router as door_router
from vamper.api.sheet.schemas import FiguresPart
from vamper.core.bench_card import bench_steps
from vamper.core.bench_step import BenchStep
from vamper.core.values.findings import BadInput
from vamper.demo.workshop import add_example
from vamper.services.brief.phrase import Choice
from vamper.services.design.arts import Imported
from vamper.services.jobs.document import UNTITLED
from vamper.services.jobs.job_state import JobState, JobSummary
from vamper.services.jobs.jobs import Jobs

router = door_router()

# A picture's place in its zip.
Place = Annotated[int, Ge(0), Le(100_000)]
# So many names of what is no picture are told.
MOST_LEFT_OUT = 40
Revision = Annotated[str, Len(1, 64)]
_HEARTBEAT_S = 10.0
# How long a page that is gone may go unnoticed.
_LOOK_AGAIN_S = 5.0


@router.get("/jobs", tags=["jobs"])
def list_jobs(runs: RunsHere, jobs: JobsHere) -> list[JobSummary]:
    ran = {one.job_id: last_run_words(one) for one in runs.all()}
    return [replace(job, last_run=ran.get(job.id)) for job in jobs.all()]


@router.post("/jobs", tags=["jobs"], status_code=201)
def create_job(jobs: JobsHere, new: NewJob) -> JobId:
    return JobId(id=jobs.create(new.title or UNTITLED))


@router.get("/jobs/{job_id}", tags=["jobs"])
def get_view(jobs: JobsHere, shown: Shown, job_id: Id) -> ViewOut:
    """The job as the screen shows it. Where nobody has searched for a layout yet, pieces lie in rows."""
    return shown.view(jobs.get(job_id))


@router.post("/jobs/{job_id}/view", tags=["jobs"])
def get_view_beside(jobs: JobsHere, shown: Shown, job_id: Id, known: KnownParts) -> ViewOut:
    """The job as the screen shows it, without the parts that are known already."""
    return shown.view(jobs.get(job_id), known)


@router.get("/jobs/{job_id}/parts/figures/{revision}", tags=["jobs"])
async def get_figures(jobs: JobsHere, shown: Shown, job_id: Id, revision: Revision) -> FiguresPart | None:
    """How good the layout is, by the layout's revision; it takes longer than to draw it, so it comes after it."""
    return await in_turn(lambda: shown.figures(jobs.get(job_id), revision))


@router.get("/jobs/{job_id}/glance", tags=["jobs"])
def get_glance(jobs: JobsHere, plans: PlansHere, job_id: Id) -> GlanceOut | None:
    """The job's fullest sheet, small; nothing where it cannot be planned as it stands."""
    try:
        return glance_out(*plans.glance(jobs.get(job_id)))
    except BadInput:
        return None


@router.get("/jobs/{job_id}/bench", tags=["jobs"])
def get_bench(jobs: JobsHere, plans: PlansHere, job_id: Id) -> list[BenchStep]:
    """The steps at the bench, in order; empty while nothing is laid on a sheet."""
    plan = plans.of(jobs.get(job_id)).plan
    return list(bench_steps(plan))


@router.post("/example", tags=["jobs"], status_code=201)
async def add_example_job(workshop: WorkshopHere) -> JobId:
    """A job to look at."""
    return JobId(id=await in_turn(lambda: add_example(workshop)))


@router.delete("/jobs/{job_id}", tags=["jobs"], status_code=204)
def remove_job(jobs: JobsHere, job_id: Id) -> None:
    jobs.remove(job_id)


@router.post("/jobs/{job_id}/put-back", tags=["jobs"], status_code=204)
def put_back_job(jobs: JobsHere, job_id: Id) -> None:
    jobs.put_back(job_id)


@router.post("/jobs/{job_id}/copy", tags=["jobs"], status_code=201)
def copy_job(jobs: JobsHere, job_id: Id) -> JobId:
    return JobId(id=jobs.copy(job_id))


@router.post("/jobs/{job_id}/shelf", tags=["jobs"], status_code=204)
def put_on_shelf(jobs: JobsHere, job_id: Id, asked: ShelfIn) -> None:
    """Put a job aside or get it back; make it a template or a job again."""
    if asked.archived is not None:
        jobs.put_aside(job_id, asked.archived)
    if asked.is_template is not None:
        jobs.make_template(job_id, asked.is_template)


@router.post("/jobs/{job_id}/changes", tags=["changes"])
def change_job(jobs: JobsHere, shown: Shown, job_id: Id, change: Change) -> ViewOut:
    """Set fields; the answer is the job as it is then."""
    if change.numbers is None:
        state = jobs.change(job_id, change.label, change.changes, change.each)
    else:
        state = jobs.change_items(job_id, change.label, tuple(change.numbers), change.changes)
    return shown.view(state, change.known)


@router.post("/jobs/{job_id}/fixes", tags=["changes"])
def take_fix(jobs: JobsHere, fixes: FixesHere, shown: Shown, job_id: Id, fix: FixIn) -> ViewOut:
    """Do what a finding offers; the answer is the job as it is then."""
    jobs.get(job_id)
    return shown.view(fixes.take(job_id, fix.target, fix.item_number, fix.label, fix.changes), fix.known)


@router.post("/jobs/{job_id}/fixes/each", tags=["changes"])
def take_fix_each(jobs: JobsHere, fixes: FixesHere, shown: Shown, job_id: Id, fix: FixEachIn) -> ViewOut:
    """Do what a finding offers for several designs, as one step."""
    jobs.get(job_id)
    each = [(one.item_number, one.changes) for one in fix.each]
    return shown.view(fixes.take_each(job_id, fix.code, fix.label, each, fix.keep, fix.fix_is_meant), fix.known)


@router.post("/jobs/{job_id}/answers", tags=["changes"])
def answer(jobs: JobsHere, fixes: FixesHere, shown: Shown, job_id: Id, answer: AnswerIn) -> ViewOut:
    """Say that what was found is meant so, or take that back."""
    jobs.get(job_id)
    return shown.view(fixes.answer(job_id, answer.code, answer.item_numbers, answer.meant, answer.keep), answer.known)


@router.post("/jobs/{job_id}/undo", tags=["changes"])
def undo(jobs: JobsHere, shown: Shown, job_id: Id, known: KnownParts = NOTHING_KNOWN) -> ViewOut:
    return shown.view(jobs.undo(job_id), known)


@router.post("/jobs/{job_id}/redo", tags=["changes"])
def redo(jobs: JobsHere, shown: Shown, job_id: Id, known: KnownParts = NOTHING_KNOWN) -> ViewOut:
    return shown.view(jobs.redo(job_id), known)


@router.get("/jobs/{job_id}/choices/{phrase}", tags=["changes"])
def get_choices(jobs: JobsHere, briefing: BriefingHere, job_id: Id, phrase: str) -> list[Choice]:
    return briefing.choices(jobs.get(job_id), phrase)


@router.post("/jobs/{job_id}/art", tags=["art"], status_code=201, max_body_size=MOST_FILE_BODY)
async def add_art(arts: ArtsHere, jobs: JobsHere, job_id: Id, file: UploadFile) -> AddedArt:
    """Take in one art file and add it to the job as a design."""

    def add() -> AddedArt:
        jobs.get(job_id)
        return _added(jobs, job_id, arts.take_in(file.filename or "", file.file.read()))

    return await in_turn(add)


def _added(jobs: Jobs, job_id: int, taken: Imported) -> AddedArt:
    state = jobs.add_item(job_id, taken.digest, taken.name, None, taken.start_edge, taken.based)
    return AddedArt(number=state.document.items[-1].number, name=taken.name)


@router.post("/jobs/{job_id}/art-zips", tags=["art"], status_code=201, max_body_size=MOST_ZIP_BODY)
async def add_art_zip(art_zips: ArtZipsHere, jobs: JobsHere, job_id: Id, file: UploadFile) -> ArtZipOut:
    """Take in a zip of pictures: what is in it. Each picture is then asked for by itself."""

    def add() -> ArtZipOut:
        jobs.get(job_id)
        taken = art_zips.take_in(file.file)
        return ArtZipOut(
            number=taken.number, pictures=list(taken.held.pictures), left_out=list(taken.held.left_out)[:MOST_LEFT_OUT]
        )

    return await in_turn(add)


@router.post("/jobs/{job_id}/art-zips/{number}/{place}", tags=["art"], status_code=201)
async def add_from_zip(art_zips: ArtZipsHere, jobs: JobsHere, job_id: Id, number: Id, place: Place) -> AddedArt:
    """One picture of a zip as a design."""

    def add() -> AddedArt:
        jobs.get(job_id)
        return _added(jobs, job_id, art_zips.picture(number, place))

    return await in_turn(add)


@router.post("/jobs/{job_id}/remove-items", tags=["art"])
def remove_items(jobs: JobsHere, job_id: Id, items: ItemNumbers) -> JobState:
    return jobs.remove_items(job_id, tuple(items.numbers))


@router.post("/jobs/{job_id}/pack/begin", tags=["packing"], status_code=202)
def begin_packing(jobs: JobsHere, repacking: RepackingHere, job_id: Id) -> None:
    """Search for a layout of the job as it is now, unless that was done or is being done."""
    repacking.begin(jobs.get(job_id))


@router.post("/jobs/{job_id}/pack", tags=["packing"], status_code=202)
def pack_again(jobs: JobsHere, repacking: RepackingHere, job_id: Id, everything: bool = False) -> None:
    """Pack again round what was placed by hand, or `everything` that is not locked.

    Where nothing was held, the search begins from another seed; the best layout so far stays until it is beaten.
    """
    repacking.again(jobs.get(job_id), everything)


@router.post("/jobs/{job_id}/stop", tags=["packing"], status_code=202)
def stop_packing(packing: PackingHere, job_id: Id) -> None:
    """End the search and keep the best layout so far."""
    packing.stop(job_id)


@router.post("/jobs/{job_id}/take-up", tags=["packing"], status_code=202)
def take_up(packing: PackingHere, job_id: Id, layout: str) -> None:
    """End the search and keep the `layout` that was in sight, so that nothing moves under the hand."""
    packing.freeze(job_id, layout)


@router.get("/jobs/{job_id}/events", tags=["packing"], response_class=EventSourceResponse)
async def events(
    request: Request, packing: PackingHere, job_id: Id, version: Annotated[int, Ge(0)] = 0
) -> EventSourceResponse:
    """One `packing` event for every better layout and for the end of a search."""

    async def stream() -> AsyncIterator[dict[str, str]]:
        # Waited for in the loop: a page that is open for an evening takes no worker thread away.
        loop, changed = asyncio.get_running_loop(), asyncio.Event()

        def tell() -> None:
            # At the very end of a server the loop may be gone before its streams are.
            with suppress(RuntimeError):
                loop.call_soon_threadsafe(changed.set)

        with packing.listening(job_id, tell):
            seen = version
            while not await request.is_disconnected():
                changed.clear()
                newest = packing.version(job_id)
                if newest == seen:
                    with suppress(TimeoutError):
                        await asyncio.wait_for(changed.wait(), _LOOK_AGAIN_S)
                    continue
                seen = newest
                state = packing.state(job_id)
                if state is not None:
                    event = PackingEvent(state=state[0], seconds_left=state[1], version=seen)
                    yield {"event": "packing", "data": event.model_dump_json()}

    return EventSourceResponse(stream(), ping=int(_HEARTBEAT_S))
