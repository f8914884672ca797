"""All routes, grouped by subject: jobs, their changes, art, packing, hand-off, and the catalog."""

import asyncio
from collections.abc import AsyncIterator
from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response, UploadFile
from sse_starlette.sse import EventSourceResponse

from vamper.api.schemas import (
    AddedArt,
    CatalogOut,
    Change,
    ChoiceOut,
    ItemNumbers,
    JobId,
    JobOut,
    JobSummaryOut,
    Limits,
    NamedOut,
    NewJob,
    PackingEvent,
    ViewOut,
)
from vamper.api.views import job_out, view
from vamper.core.art.resolution import VIEWING_DISTANCE_MM, needed_ppi
from vamper.core.edge.inspect import EVEN_LOOKING_FACTOR, STARTER_MISS_MM
from vamper.core.findings import BadInput
from vamper.core.job import Cut, EdgeKind, MarkFamily, Purpose, Turn
from vamper.core.plan import Plan
from vamper.formats.art_file import ENDINGS, MOST_BYTES
from vamper.formats.raster import MOST_PIXELS
from vamper.services.choices import choices
from vamper.services.hand_off import cut_dxf_file, cut_svg_file, print_file
from vamper.services.jobs import NotFound
from vamper.services.overview import EDGE_PHRASES, PURPOSE_PHRASES, TURN_PHRASES, viewing
from vamper.services.workshop import Workshop

router = APIRouter(prefix="/api")
_HEARTBEAT_S = 10.0


def workshop_of(request: Request) -> Workshop:
    workshop: Workshop = request.app.state.workshop
    return workshop


Here = Annotated[Workshop, Depends(workshop_of)]


@router.get("/jobs", tags=["jobs"])
def list_jobs(here: Here) -> list[JobSummaryOut]:
    return [
        JobSummaryOut(
            **{name: getattr(job, name) for name in JobSummaryOut.model_fields if name != "arts"}, arts=list(job.arts)
        )
        for job in here.jobs.all()
    ]


@router.post("/jobs", tags=["jobs"], status_code=201)
def create_job(here: Here, new: NewJob) -> JobId:
    return JobId(id=here.jobs.create(new.title))


@router.get("/jobs/{job_id}", tags=["jobs"])
def get_view(here: Here, job_id: int) -> ViewOut:
    """The job with its plan, as the screen shows it. Starts packing where there is no layout yet."""
    return view(here, here.jobs.get(job_id))


@router.delete("/jobs/{job_id}", tags=["jobs"], status_code=204)
def remove_job(here: Here, job_id: int) -> None:
    here.desk.stop(job_id)
    here.jobs.remove(job_id)


@router.post("/jobs/{job_id}/put-back", tags=["jobs"], status_code=204)
def put_back_job(here: Here, job_id: int) -> None:
    here.jobs.put_back(job_id)


@router.post("/jobs/{job_id}/copy", tags=["jobs"], status_code=201)
def copy_job(here: Here, job_id: int) -> JobId:
    return JobId(id=here.jobs.copy(job_id))


@router.post("/jobs/{job_id}/changes", tags=["changes"])
def change_job(here: Here, job_id: int, change: Change) -> JobOut:
    if change.numbers is None:
        return job_out(here.jobs.change(job_id, change.label, change.changes))
    return job_out(here.jobs.change_items(job_id, change.label, tuple(change.numbers), change.changes))


@router.post("/jobs/{job_id}/undo", tags=["changes"])
def undo(here: Here, job_id: int) -> JobOut:
    return job_out(here.jobs.undo(job_id))


@router.post("/jobs/{job_id}/redo", tags=["changes"])
def redo(here: Here, job_id: int) -> JobOut:
    return job_out(here.jobs.redo(job_id))


@router.get("/jobs/{job_id}/choices/{phrase}", tags=["changes"])
def get_choices(here: Here, job_id: int, phrase: str) -> list[ChoiceOut]:
    return [
        ChoiceOut(
            label=c.label, consequence=c.consequence, changes=dict(c.changes), chosen=c.chosen, proposed=c.proposed
        )
        for c in choices(here, here.jobs.get(job_id), phrase)
    ]


@router.post("/jobs/{job_id}/art", tags=["art"], status_code=201)
def add_art(here: Here, job_id: int, file: UploadFile) -> AddedArt:
    """Take in one art file and add it to the job as a design."""
    here.jobs.get(job_id)
    taken = here.arts.take_in(file.filename or "", file.file.read())
    state = here.jobs.add_item(job_id, taken.digest, taken.name, taken.start_width_mm, taken.start_edge)
    return AddedArt(number=state.document.items[-1].number, name=taken.name)


@router.post("/jobs/{job_id}/remove-items", tags=["art"])
def remove_items(here: Here, job_id: int, items: ItemNumbers) -> JobOut:
    return job_out(here.jobs.remove_items(job_id, tuple(items.numbers)))


@router.get("/art/{digest}.png", tags=["art"], response_class=Response)
def art_preview(here: Here, digest: str, px: int = 1200) -> Response:
    """The whole picture, at most `px` at its longer side. Content never changes under a digest."""
    return Response(
        here.arts.preview(digest, px),
        media_type="image/png",
        headers={"cache-control": "private, max-age=31536000, immutable"},
    )


@router.post("/jobs/{job_id}/pack", tags=["packing"], status_code=202)
def pack_again(here: Here, job_id: int) -> None:
    """Search again from another seed; the best layout so far stays until it is beaten."""
    here.pack_again(here.jobs.get(job_id))


@router.post("/jobs/{job_id}/stop", tags=["packing"], status_code=202)
def stop_packing(here: Here, job_id: int) -> None:
    """End the search and keep the best layout so far."""
    here.desk.stop(job_id)


@router.get("/jobs/{job_id}/events", tags=["packing"], response_class=EventSourceResponse)
async def events(request: Request, here: Here, job_id: int, version: int = 0) -> EventSourceResponse:
    """One `packing` event for every better layout and for the end of a search."""

    async def stream() -> AsyncIterator[dict[str, str]]:
        seen = version
        while not await request.is_disconnected():
            newest = await asyncio.to_thread(here.desk.wait_for_change, job_id, seen, 1.0)
            if newest == seen:
                continue
            seen = newest
            state = here.desk.state(job_id)
            if state is not None:
                event = PackingEvent(state=state[0], seconds_left=state[1], version=seen)
                yield {"event": "packing", "data": event.model_dump_json()}

    return EventSourceResponse(stream(), ping=int(_HEARTBEAT_S))


def _planned(here: Workshop, job_id: int, sheet: int | None = None) -> Plan:
    plan, _ = here.plan(here.jobs.get(job_id))
    if not plan.layout.sheets:
        raise BadInput("nothing is placed on a sheet yet; add art that fits it first", "sheets")
    if sheet is not None and not 1 <= sheet <= len(plan.layout.sheets):
        raise NotFound("this job has no such sheet")
    return plan


def _file(data: bytes, media_type: str, name: str) -> Response:
    safe = "".join(c if c.isascii() and (c.isalnum() or c in "-._") else "-" for c in name)
    return Response(data, media_type=media_type, headers={"content-disposition": f'attachment; filename="{safe}"'})


@router.get("/jobs/{job_id}/sheets/{sheet}/print.pdf", tags=["hand-off"], response_class=Response)
def print_pdf(here: Here, job_id: int, sheet: int) -> Response:
    plan = _planned(here, job_id, sheet)
    return _file(print_file(plan, sheet - 1), "application/pdf", f"{plan.job.title}-sheet-{sheet:02d}-print.pdf")


@router.get("/jobs/{job_id}/sheets/{sheet}/cut.svg", tags=["hand-off"], response_class=Response)
def cut_svg(here: Here, job_id: int, sheet: int) -> Response:
    plan = _planned(here, job_id, sheet)
    return _file(cut_svg_file(plan, sheet - 1), "image/svg+xml", f"{plan.job.title}-sheet-{sheet:02d}-cut.svg")


@router.get("/jobs/{job_id}/sheets/{sheet}/cut.dxf", tags=["hand-off"], response_class=Response)
def cut_dxf(here: Here, job_id: int, sheet: int) -> Response:
    plan = _planned(here, job_id, sheet)
    return _file(cut_dxf_file(plan, sheet - 1), "image/vnd.dxf", f"{plan.job.title}-sheet-{sheet:02d}-cut.dxf")


@router.get("/jobs/{job_id}/hand-off.zip", tags=["hand-off"], response_class=Response)
def hand_off(here: Here, job_id: int) -> Response:
    """Every file of the job, the job file and its art."""
    _planned(here, job_id)
    data = here.hand_off(here.jobs.get(job_id))
    title = here.jobs.get(job_id).document.title
    return _file(data, "application/zip", f"{title}.zip")


_EDGE_HINTS = {
    EdgeKind.FOLLOW: "goes round the drawing",
    EdgeKind.CIRCLE: "the smallest that clears it",
    EdgeKind.RECTANGLE: "square corners, trims straight",
    EdgeKind.ROUNDED: "corners that do not lift",
}
_CUT_HINTS = {
    Cut.KISS: "through the face; pieces stay on the backing",
    Cut.THROUGH: "through everything; pieces come loose, 3 mm apart",
}
_FAMILY_NAMES = {
    MarkFamily.CORNER: ("corners", "an L at each corner of the sheet"),
    MarkFamily.FRAME: ("frame", "one rectangle round everything"),
    MarkFamily.NONE: ("none", "the cutter adds its own, or cuts by eye"),
}


@router.get("/catalog", tags=["catalog"])
def catalog() -> CatalogOut:
    return CatalogOut(
        edge_kinds=[NamedOut(key=k, name=EDGE_PHRASES[k], hint=_EDGE_HINTS[k]) for k in EdgeKind],
        cuts=[NamedOut(key=c, name=f"{c} cut", hint=_CUT_HINTS[c]) for c in Cut],
        turns=[NamedOut(key=t, name=TURN_PHRASES[t], hint="") for t in Turn],
        mark_families=[NamedOut(key=f, name=name, hint=hint) for f, (name, hint) in _FAMILY_NAMES.items()],
        purposes=[
            NamedOut(
                key=p,
                name=PURPOSE_PHRASES[p],
                hint=f"seen from {viewing(p)}, needs {needed_ppi(VIEWING_DISTANCE_MM[p]):.0f} ppi",
            )
            for p in Purpose
        ],
        least_border_mm=STARTER_MISS_MM,
        even_border_mm=STARTER_MISS_MM * EVEN_LOOKING_FACTOR,
        limits=Limits(
            most_megabytes=MOST_BYTES // 2**20, most_megapixels=MOST_PIXELS // 1_000_000, endings=list(ENDINGS)
        ),
    )
