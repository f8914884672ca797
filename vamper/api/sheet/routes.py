"""What can be asked of a job's sheets: how many fit, layouts side by side, scale to fill, fillers, backs, colours."""

from typing import Annotated

from fastapi import Query

from vamper.api.dependencies import (
    CountingHere,
    InksHere,
    JobsHere,
    LayoutsHere,
    NesterHere,
    PlansHere,
    RepackingHere,
    RunsHere,
    ScalingsHere,
    SuppliesHere,
    VariantsHere,
)
from vamper.api.ledger.cost_views import cost_a_piece
from vamper.api.request_checks import Id, Number, in_turn
from vamper.api.request_checks import router as door_router
from vamper.api.sheet.schemas import (
    ComparedOut,
    FillWith,
    LayoutName,
    ScaleToFill,
    ScalingOut,
    Wish,
)
from vamper.api.sheet.views import PINS, pieces_out
from vamper.core.values.findings import BadInput
from vamper.services.jobs.job_state import JobState
from vamper.services.jobs.variants import Source
from vamper.services.packing.counting import Counted, PlainShape, Together
from vamper.services.packing.scaling import Scaling

router = door_router()

Millimetres = Annotated[float, Query(ge=3, le=1000)]


@router.get("/jobs/{job_id}/how-many/{number}", tags=["sheets"])
async def count_design(
    jobs: JobsHere,
    counting: CountingHere,
    plans: PlansHere,
    job_id: Id,
    number: Number,
    size_mm: Millimetres | None = None,
    quick: bool = False,
) -> Counted:
    """How many of one design fit on a sheet, at its size and at others; `quick` figures are of plain rows alone."""

    def count() -> Counted:
        state = jobs.get(job_id)
        state.document.item(number)
        return counting.design(plans.design(state), number, size_mm, quick)

    return await in_turn(count)


@router.get("/jobs/{job_id}/how-many", tags=["sheets"])
async def count_plain(
    jobs: JobsHere,
    counting: CountingHere,
    plans: PlansHere,
    job_id: Id,
    shape: PlainShape,
    size_mm: Millimetres,
    border_mm: Annotated[float, Query(ge=0, le=50)] = 3.0,
    quick: bool = False,
) -> Counted:
    """How many of a plain shape fit on the job's sheet, before there is any art."""

    def count() -> Counted:
        return counting.plain(plans.sheet_design(jobs.get(job_id)), shape, size_mm, border_mm, quick)

    return await in_turn(count)


@router.get("/jobs/{job_id}/how-many-together", tags=["sheets"])
async def count_together(
    jobs: JobsHere,
    counting: CountingHere,
    plans: PlansHere,
    nester: NesterHere,
    job_id: Id,
    numbers: Annotated[list[Number], Query(min_length=1, max_length=1000)],
    quick: bool = False,
) -> Together:
    """How many whole sets of some designs go on one sheet: at once from plain rows, or after a short search."""

    def count() -> Together:
        state = jobs.get(job_id)
        for number in numbers:
            state.document.item(number)
        return counting.together(plans.design(state), tuple(sorted(set(numbers))), None if quick else nester)

    return await in_turn(count)


@router.get("/jobs/{job_id}/layouts", tags=["sheets"])
async def get_layouts(
    runs: RunsHere,
    jobs: JobsHere,
    layouts: LayoutsHere,
    plans: PlansHere,
    inks: InksHere,
    supplies: SuppliesHere,
    job_id: Id,
) -> list[ComparedOut]:
    """The layout on the table, those kept under a name, and straight rows, with the same figures for each."""

    def compare() -> list[ComparedOut]:
        state = jobs.get(job_id)
        plan = plans.of(state).plan
        return [
            ComparedOut(
                name=one.name,
                origin=one.origin,
                sheets=[pieces_out(sheet) for sheet in one.layout.sheets],
                pins=PINS,
                pieces=one.pieces,
                used=one.used,
                cut_length_mm=one.cut_length_mm,
                cost_a_piece=cost_a_piece(runs, inks, supplies, plan, one.plan),
                broken=one.broken,
                saved_at=one.saved_at,
            )
            for one in layouts.all(job_id, plans.design(state), plan)
        ]

    return await in_turn(compare)


@router.post("/jobs/{job_id}/layouts", tags=["sheets"], status_code=201)
def save_layout(jobs: JobsHere, layouts: LayoutsHere, plans: PlansHere, job_id: Id, new: LayoutName) -> None:
    """Keep the layout on the table under a name."""
    state = jobs.get(job_id)
    layouts.save(job_id, new.name, plans.of(state).plan)


@router.post("/jobs/{job_id}/layouts/keep", tags=["sheets"])
def keep_layout(layouts: LayoutsHere, job_id: Id, named: LayoutName) -> JobState:
    """Put a named layout back on the table."""
    return layouts.keep(job_id, named.name)


@router.post("/jobs/{job_id}/layouts/keep-rows", tags=["sheets"])
def keep_rows(layouts: LayoutsHere, job_id: Id) -> JobState:
    return layouts.keep_rows(job_id)


@router.post("/jobs/{job_id}/layouts/remove", tags=["sheets"], status_code=204)
def remove_layout(layouts: LayoutsHere, job_id: Id, named: LayoutName) -> None:
    layouts.remove(job_id, named.name)


def _scaling(told: Scaling) -> ScalingOut:
    return ScalingOut(
        state=told.state,
        sheets=told.sheets,
        fits=told.fits,
        trying=told.trying,
        share=told.share,
        problem=told.problem,
    )


@router.post("/jobs/{job_id}/scale-to-fill", tags=["sheets"], status_code=202)
def scale_to_fill(jobs: JobsHere, repacking: RepackingHere, job_id: Id, asked: ScaleToFill) -> ScalingOut:
    """Look for the largest common scale in the background; when it is found it is a step of the job."""
    state = jobs.get(job_id)
    if not state.document.items:
        raise BadInput("there is nothing to scale yet; add art first", "items")
    return _scaling(repacking.scale_to_fill(state, asked.sheets))


@router.get("/jobs/{job_id}/scale-to-fill", tags=["sheets"])
def get_scaling(scalings: ScalingsHere, job_id: Id) -> ScalingOut | None:
    told = scalings.state(job_id)
    return None if told is None else _scaling(told)


@router.post("/jobs/{job_id}/scale-to-fill/stop", tags=["sheets"], status_code=202)
def stop_scaling(scalings: ScalingsHere, job_id: Id) -> None:
    """End the search; the largest scale that fits so far is taken."""
    scalings.stop(job_id)


@router.get("/jobs/{job_id}/filler-sources", tags=["sheets"])
def get_sources(jobs: JobsHere, variants: VariantsHere, job_id: Id) -> list[Source]:
    """Designs that could fill the rest of a sheet: the job's own, and designs of other jobs on the same stock."""
    return variants.sources(jobs.get(job_id))


@router.post("/jobs/{job_id}/fillers", tags=["sheets"])
def fill_with(jobs: JobsHere, variants: VariantsHere, job_id: Id, asked: FillWith) -> JobState:
    """Fill what is left with a design in a range of sizes."""
    state = jobs.get(job_id)
    return variants.fill_with(state, asked.job_id, asked.number, asked.least_mm, asked.most_mm)


@router.post("/jobs/{job_id}/items/{number}/fill-priority", tags=["sheets"])
def set_fill_priority(jobs: JobsHere, variants: VariantsHere, job_id: Id, number: Number, asked: Wish) -> JobState:
    """Whether more copies of a design are fine, and before or after which others."""
    return variants.prioritise(jobs.get(job_id), number, asked.move)


@router.post("/jobs/{job_id}/items/{number}/back", tags=["sheets"])
def make_back(jobs: JobsHere, variants: VariantsHere, job_id: Id, number: Number) -> JobState:
    """A back for a design, cut to its mirrored edge."""
    return variants.make_back(jobs.get(job_id), number)


@router.post("/jobs/{job_id}/items/{number}/by-colour", tags=["sheets"])
def by_colour(jobs: JobsHere, variants: VariantsHere, job_id: Id, number: Number) -> JobState:
    """One design, and sheets of its own, for each flat colour of a drawing."""
    return variants.by_colour(jobs.get(job_id), number)
