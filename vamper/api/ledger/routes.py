"""Logging runs, what they say, and what went wrong."""

from dataclasses import replace
from typing import Annotated

from fastapi import File, Form, Query, Response, UploadFile

from vamper.api.dependencies import (
    DesignerHere,
    JobsHere,
    MadeHere,
    MakingHere,
    PhotoChecksHere,
    PicturesHere,
    PlansHere,
    RunsHere,
    SessionsHere,
    ShopHere,
    SuppliesHere,
)
from vamper.api.downloads import download
from vamper.api.ledger.schemas import (
    CameOutIn,
    CameOutQuestion,
    DiagnosisIn,
    DiagnosisOut,
    DiagnosisStartOut,
    FoundIn,
    LaterIn,
    LedgerOut,
    MadeAgainIn,
    NewId,
    SentenceOut,
    SpoiltInPicture,
    TakenOut,
)
from vamper.api.ledger.views import diagnosis_out, ledger_out, question_out
from vamper.api.places import CORNERS, corners_of
from vamper.api.request_checks import MOST_FILE_BODY, Id, Number, in_turn
from vamper.api.request_checks import router as door_router
from vamper.api.sheet_number import sheet_place
from vamper.api.twin.schemas import PhotoKind
from vamper.api.was_set import set_as
from vamper.core.ledger.diagnosis import FACTS, SYMPTOMS, Seen, diagnose
from vamper.core.ledger.facts import facts_of
from vamper.core.values.findings import BadInput
from vamper.formats.ledger_file import Ledger, read_ledger_json, write_ledger_json
from vamper.formats.runs_file import read_runs_csv, write_runs_csv
from vamper.services.brief.seen_words import found
from vamper.services.brief.words import plural
from vamper.services.jobs.jobs import Jobs
from vamper.services.ledger.from_photo import spoilt_in
from vamper.services.ledger.logging import Said, is_simulated
from vamper.services.planning.plans import Plans
from vamper.services.twin.comparing import read_picture
from vamper.services.twin.samples import sample_photo, sample_weeded
from vamper.services.work.not_found import NotFound
from vamper.store.tables import now

_SAMPLES = {PhotoKind.PRINT: sample_photo, PhotoKind.WEEDED: sample_weeded}

router = door_router("ledger")


@router.get("/jobs/{job_id}/came-out")
async def get_question(runs: RunsHere, supplies: SuppliesHere, made: MadeHere, job_id: Id) -> CameOutQuestion:
    """The questions still open on a job's sheets, and the pieces that can be tapped."""

    def ask() -> CameOutQuestion:
        handed = made.last_handed(job_id)
        shelf = supplies.of(handed.document.stock)
        return question_out(handed, runs.of_job(job_id), () if shelf is None else shelf.lots)

    return await in_turn(ask)


@router.post("/jobs/{job_id}/came-out", status_code=201)
async def log_outcome(made: MadeHere, job_id: Id, asked: CameOutIn) -> NewId:
    """How a sheet came out: kept, and belief, blade, mat and misses follow."""
    said = Said(
        sheet=asked.sheet,
        sheets=asked.sheets,
        came_out=asked.came_out,
        spoilt=tuple(asked.spoilt),
        note=asked.note,
        minutes=asked.minutes,
        lot=asked.lot.strip(),
        was_set=set_as(asked.was_set),
        read=asked.read,
    )
    return NewId(id=await in_turn(lambda: made.log_outcome(job_id, said, asked.again)))


@router.post("/jobs/{job_id}/came-out/{sheet}/photo", max_body_size=MOST_FILE_BODY)
async def look_at_photo(
    pictures: PicturesHere,
    made: MadeHere,
    photo_checks: PhotoChecksHere,
    designer: DesignerHere,
    job_id: Id,
    sheet: Number,
    kind: Annotated[PhotoKind, Form()],
    file: UploadFile | None = None,
    corners: Annotated[str | None, Form(pattern=CORNERS, max_length=200)] = None,
) -> SpoiltInPicture:
    """The spoilt pieces of a sheet as a photo or scan of it shows them; without a file, as the practice bench made it.
    `corners` are shares of the picture, top left first, clockwise.
    """

    def look() -> SpoiltInPicture:
        plan, checks = made.last_handed(job_id).plan, photo_checks
        place = sheet_place(plan, sheet)
        if file is not None:
            picture = read_picture(file.file.read(), file.filename or "picture", designer.room)
        elif is_simulated(plan.asked):
            picture = _SAMPLES[kind](plan, place, pictures.shown)
        else:
            raise BadInput("choose a picture of the sheet", "file")
        at = corners_of(corners)
        if kind is PhotoKind.WEEDED:
            spoilt = spoilt_in(checks.check_weeded(job_id, plan, place, pictures.shown, picture, at))
        else:
            spoilt = spoilt_in(checks.check_print(job_id, plan, place, pictures.shown, picture, None, at))
        seen = plural(len(plan.sheets[place].placements), "piece")
        words = f"{len(spoilt)} of {seen} look spoilt in this picture." if spoilt else f"All {seen} look good."
        return SpoiltInPicture(words=f"{words} Look them over before you log them.", spoilt=list(spoilt))

    return await in_turn(look)


@router.get("/ledger")
async def get_ledger(shop: ShopHere, runs: RunsHere) -> LedgerOut:
    """The newest runs, all recipes, and what is due to be looked at again."""
    return await in_turn(lambda: ledger_out(shop, runs, now()))


@router.post("/ledger/runs/{run_id}/later", status_code=204)
def look_later(runs: RunsHere, run_id: Id, asked: LaterIn) -> None:
    """How it held when somebody looked again."""
    runs.looked_later(run_id, asked.kind, asked.held, asked.note)


@router.post("/ledger/runs/{run_id}/cause", status_code=204)
def found_cause(runs: RunsHere, run_id: Id, asked: FoundIn) -> None:
    """Count the cause that turned out to be at work; it is thought of sooner from then on."""
    runs.found(run_id, asked.cause)


@router.post("/ledger/runs/{run_id}/again", status_code=201)
async def make_again(making: MakingHere, run_id: Id, asked: MadeAgainIn) -> NewId:
    """Begin a new job from the job of a run, exactly as it was handed over."""
    return NewId(id=await in_turn(lambda: making.again(run_id, asked.sheets)))


@router.delete("/ledger/runs/{run_id}", status_code=204)
async def remove_run(made: MadeHere, run_id: Id) -> None:
    """A run was none, after all: what it taught goes with it."""
    await in_turn(lambda: made.remove(run_id))


@router.get("/ledger/runs.csv", response_class=Response)
def get_csv(runs: RunsHere) -> Response:
    """All runs as a table."""
    dated = [(one.made_at, one.run) for one in runs.all()]
    return download(write_runs_csv(dated), "text/csv; charset=utf-8", "runs.csv")


@router.get("/ledger/ledger.json", response_class=Response)
def get_json(runs: RunsHere, supplies: SuppliesHere) -> Response:
    """All of the ledger."""
    dated = tuple((one.made_at, one.run) for one in runs.all())
    ledger = replace(supplies.written(), runs=dated)
    return download(write_ledger_json(ledger), "application/json", "ledger.json")


@router.post("/ledger/runs", status_code=201)
async def take_runs(
    sessions: SessionsHere, shop: ShopHere, runs: RunsHere, supplies: SuppliesHere, file: Annotated[UploadFile, File()]
) -> TakenOut:
    """Runs from a CSV, or a whole ledger from a JSON; what is here already stays as it is."""
    data = await file.read()

    def take() -> TakenOut:
        is_json = data.lstrip().startswith(b"{")
        ledger = read_ledger_json(data) if is_json else Ledger(tuple(read_runs_csv(data)))
        # All of it or nothing.
        with sessions.together():
            on_shelf = supplies.take_in(ledger, shop.stocks.all())
            taken = runs.add_all(list(ledger.runs))
        return TakenOut(taken=taken, known=len(ledger.runs) - taken, on_shelf=on_shelf)

    return await in_turn(take)


@router.get("/diagnosis/found")
def find_seen(words: Annotated[str, Query(max_length=100)]) -> list[str]:
    """The codes of what can be seen or known that a maker's words mean."""
    return found(words)


@router.get("/diagnosis")
async def begin_diagnosis(
    runs: RunsHere,
    jobs: JobsHere,
    plans: PlansHere,
    made: MadeHere,
    run: Annotated[int | None, Query(ge=1, le=2**63 - 1)] = None,
    job: Annotated[int | None, Query(ge=1, le=2**63 - 1)] = None,
) -> DiagnosisStartOut:
    """All symptoms and facts that a diagnosis can be told; those known already of a run or a job are ticked."""

    def begin() -> DiagnosisStartOut:
        kept = None if run is None else runs.get(run)
        number = job if kept is None else kept.job_id
        return DiagnosisStartOut(
            symptoms=[SentenceOut(key=key, words=words) for key, words in SYMPTOMS.items()],
            facts=[SentenceOut(key=key, words=words) for key, words in FACTS.items()],
            seen=[] if kept is None else list(made.symptoms_of(kept)),
            known=[] if number is None else _facts(jobs, plans, number),
            title=None if kept is None else f"{kept.run.title}, sheet {kept.run.sheet}",
        )

    return await in_turn(begin)


def _facts(jobs: Jobs, plans: Plans, job_id: int) -> list[str]:
    try:
        return list(facts_of(plans.of(jobs.get(job_id)).plan))
    except NotFound:
        return []


@router.post("/diagnosis")
def ask_diagnosis(runs: RunsHere, asked: DiagnosisIn) -> DiagnosisOut:
    """Causes with their chances, and the check that is worth its minutes."""
    seen = Seen(tuple(asked.seen), tuple(asked.facts), asked.checked, runs.causes_found())
    return diagnosis_out(diagnose(seen), asked.checked)
