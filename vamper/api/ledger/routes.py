"""Logging runs, what they say, and what went wrong."""

from typing import Annotated

from fastapi import File, Query, Response, UploadFile

from vamper.api.door import Id, in_turn
from vamper.api.door import router as door_router
from vamper.api.downloads import download
from vamper.api.here import Here
from vamper.api.ledger.cost_views import check_stock, cost_out, supplies_out
from vamper.api.ledger.schemas import (
    CameOutIn,
    CameOutQuestion,
    CostOut,
    DiagnosisIn,
    DiagnosisOut,
    DiagnosisStartOut,
    FoundIn,
    LaterIn,
    LedgerOut,
    RatesIn,
    RunId,
    SentenceOut,
    SuppliesOut,
    TakenOut,
)
from vamper.api.ledger.views import diagnosis_out, ledger_out, question_out
from vamper.core.ledger.diagnosis import FACTS, SYMPTOMS, Seen, diagnose
from vamper.core.ledger.facts import facts_of
from vamper.core.ledger.run import symptoms_of
from vamper.core.ledger.supply import Pack
from vamper.formats.runs_file import read_ledger_json, read_runs_csv, write_ledger_json, write_runs_csv
from vamper.services.handoff.files import sheet_ink
from vamper.services.ledger.logging import run_of
from vamper.services.work.not_found import NotFound
from vamper.services.workshop import Workshop
from vamper.store.tables import now

router = door_router("ledger")


@router.get("/jobs/{job_id}/came-out")
async def get_question(here: Here, job_id: Id) -> CameOutQuestion:
    """What is still to be asked of a job's sheets, and what of them can be tapped."""

    def ask() -> CameOutQuestion:
        plan = here.plan(here.jobs.get(job_id)).plan
        return question_out(plan, here.runs.last_hand_off(job_id), here.runs.of_job(job_id))

    return await in_turn(ask)


@router.post("/jobs/{job_id}/came-out", status_code=201)
async def log_outcome(here: Here, job_id: Id, asked: CameOutIn) -> RunId:
    """How a sheet came out: kept, and belief, blade, mat and misses follow."""

    def log() -> RunId:
        state = here.jobs.get(job_id)
        plan = here.plan(state).plan
        run = run_of(
            plan,
            state.document,
            here.shop,
            asked.sheet,
            asked.sheets,
            asked.came_out,
            asked.spoilt,
            asked.note,
            asked.minutes,
            asked.lot,
        )
        return RunId(id=here.log_outcome(job_id, run, asked.again))

    return await in_turn(log)


@router.get("/ledger")
async def get_ledger(here: Here) -> LedgerOut:
    """The newest runs, all recipes, and what is due to be looked at again."""
    return await in_turn(lambda: ledger_out(here, now()))


@router.post("/ledger/runs/{run_id}/later", status_code=204)
def look_later(here: Here, run_id: Id, asked: LaterIn) -> None:
    """How it held when somebody looked again."""
    here.runs.looked_later(run_id, asked.kind, asked.held, asked.note)


@router.post("/ledger/runs/{run_id}/cause", status_code=204)
def found_cause(here: Here, run_id: Id, asked: FoundIn) -> None:
    """What turned out to be at work; it is thought of sooner from then on."""
    here.runs.found(run_id, asked.cause)


@router.get("/ledger/runs.csv", response_class=Response)
def get_csv(here: Here) -> Response:
    """All runs as a table."""
    dated = [(one.made_at, one.run) for one in here.runs.all()]
    return download(write_runs_csv(dated), "text/csv; charset=utf-8", "runs.csv")


@router.get("/ledger/ledger.json", response_class=Response)
def get_json(here: Here) -> Response:
    """All of the ledger."""
    dated = [(one.made_at, one.run) for one in here.runs.all()]
    return download(write_ledger_json(dated), "application/json", "ledger.json")


@router.post("/ledger/runs", status_code=201)
async def take_runs(here: Here, file: Annotated[UploadFile, File()]) -> TakenOut:
    """Runs from a CSV or JSON; those that are here already stay as they are."""
    data = await file.read()

    def take() -> TakenOut:
        runs = read_ledger_json(data) if data.lstrip().startswith(b"{") else read_runs_csv(data)
        taken = here.runs.add_all(runs)
        return TakenOut(taken=taken, known=len(runs) - taken)

    return await in_turn(take)


@router.get("/supplies")
def get_supplies(here: Here) -> SuppliesOut:
    """What is on the shelf, and what things cost."""
    return supplies_out(here)


@router.post("/supplies", status_code=201)
def buy(here: Here, pack: Pack) -> RunId:
    """A pack of stock comes onto the shelf."""
    check_stock(here, pack.stock)
    return RunId(id=here.supplies.buy(pack))


@router.delete("/supplies/{pack_id}", status_code=204)
def take_back(here: Here, pack_id: Id) -> None:
    """A pack was not bought after all."""
    here.supplies.remove(pack_id)


@router.put("/supplies/rates")
def change_rates(here: Here, asked: RatesIn) -> SuppliesOut:
    """Set what things cost."""
    here.supplies.change_rates(dict(asked.rates))
    return supplies_out(here)


@router.get("/jobs/{job_id}/cost")
async def get_cost(here: Here, job_id: Id) -> CostOut:
    """What a job's pieces cost, and what to ask for them."""

    def reckon() -> CostOut:
        plan = here.plan(here.jobs.get(job_id)).plan
        ink = 0.0
        if plan.job.stock.printable and here.supplies.rates().ink_ml:
            ink = sum(sheet_ink(plan, sheet, here.picture_of).ml for sheet in range(len(plan.sheets)))
        return cost_out(here, plan, ink)

    return await in_turn(reckon)


@router.get("/diagnosis")
async def begin_diagnosis(
    here: Here,
    run: Annotated[int | None, Query(ge=1, le=2**63 - 1)] = None,
    job: Annotated[int | None, Query(ge=1, le=2**63 - 1)] = None,
) -> DiagnosisStartOut:
    """What can be seen and known; what is known already of a run or a job is ticked."""

    def begin() -> DiagnosisStartOut:
        kept = None if run is None else here.runs.get(run)
        number = job if kept is None else kept.job_id
        return DiagnosisStartOut(
            symptoms=[SentenceOut(key=key, words=words) for key, words in SYMPTOMS.items()],
            facts=[SentenceOut(key=key, words=words) for key, words in FACTS.items()],
            seen=[] if kept is None else list(symptoms_of(kept.run)),
            known=[] if number is None else _facts(here, number),
            title=None if kept is None else f"{kept.run.title}, sheet {kept.run.sheet}",
        )

    return await in_turn(begin)


def _facts(here: Workshop, job_id: int) -> list[str]:
    try:
        return list(facts_of(here.plan(here.jobs.get(job_id)).plan))
    except NotFound:
        return []


@router.post("/diagnosis")
def ask_diagnosis(here: Here, asked: DiagnosisIn) -> DiagnosisOut:
    """Causes with their chances, and the check that is worth its minutes."""
    seen = Seen(tuple(asked.seen), tuple(asked.facts), asked.checked, here.runs.causes_found())
    return diagnosis_out(diagnose(seen), asked.checked)
