"""What is finished and on hand, and the coats and laminates of this workshop side by side."""

from typing import Annotated

from annotated_types import Ge, Le
from pydantic import BaseModel, ConfigDict

from vamper.api.dependencies import OnHandHere, RunsHere
from vamper.api.request_checks import router as door_router
from vamper.core.ledger.cover_records import CoverRecord, cover_records
from vamper.services.ledger.on_hand import Finished, FinishedMove, FinishedName

router = door_router("ledger")


class FinishedOut(BaseModel):
    """One product: what was made, given and sold of it, and what is left."""

    name: str
    made: int
    given: int
    sold: int
    left: int


class FinishedIn(BaseModel):
    """So many were made, given or sold; fewer than none takes some of that back."""

    model_config = ConfigDict(extra="forbid")

    name: FinishedName
    move: FinishedMove
    count: Annotated[int, Ge(-100_000), Le(100_000)] = 1


def _out(one: Finished) -> FinishedOut:
    return FinishedOut(name=one.name, made=one.made, given=one.given, sold=one.sold, left=one.left)


@router.get("/finished")
def get_finished(on_hand: OnHandHere) -> list[FinishedOut]:
    """Finished pieces on hand."""
    return [_out(one) for one in on_hand.all()]


@router.post("/finished")
def count_finished(on_hand: OnHandHere, move: FinishedIn) -> list[FinishedOut]:
    """Count what was made, given away or sold."""
    return [_out(one) for one in on_hand.count(move.name, move.move, move.count)]


@router.get("/covers")
def get_covers(runs: RunsHere) -> list[CoverRecord]:
    """Coats and laminates by name, as the runs tell of them."""
    return list(cover_records(kept.run for kept in runs.all()))
