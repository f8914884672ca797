"""Pieces in hand: checked while they move, and everything that is done to them on the drawing."""

from collections.abc import Callable
from typing import Any

from vamper.api.dependencies import ByHandHere, PlansHere
from vamper.api.request_checks import Id
from vamper.api.request_checks import router as door_router
from vamper.api.sheet.hand_schemas import (
    AlignPieces,
    AnyAction,
    DistanceOut,
    DropPieces,
    HandCheck,
    HandChecked,
    HandDone,
    HandPiece,
    LockPieces,
    Nudge,
    SendPieces,
    SlideOut,
    SpacePieces,
    TurnPieces,
)
from vamper.services.packing.by_hand import ByHand, HandResult, check
from vamper.services.packing.tables import Hand, Table

router = door_router()


def _hands(pieces: list[HandPiece]) -> list[Hand]:
    return [Hand(one.index, one.x_mm, one.y_mm, one.turn_deg) for one in pieces]


@router.post("/jobs/{job_id}/hand/check", tags=["by hand"])
def check_hand(plans: PlansHere, job_id: Id, asked: HandCheck) -> HandChecked:
    """Distances of pieces in hand to their neighbours and the rim; nothing is moved."""
    found = check(plans.table(job_id, asked.layout), asked.sheet, _hands(asked.pieces), asked.slide)
    return HandChecked(
        free=found.is_free,
        distances=[
            DistanceOut(
                other=one.other,
                mm=one.mm,
                needed_mm=one.needed_mm,
                broken=one.is_broken,
                from_x_mm=one.ends[0][0],
                from_y_mm=one.ends[0][1],
                to_x_mm=one.ends[1][0],
                to_y_mm=one.ends[1][1],
            )
            for one in found.distances
        ],
        slide=SlideOut(dx_mm=found.slide[0], dy_mm=found.slide[1]) if found.slide else None,
    )


Doer = Callable[[ByHand, int, Table, Any], HandResult]

_DOERS: dict[type, Doer] = {
    DropPieces: lambda hand, job, table, a: hand.drop(job, table, a.sheet, _hands(a.pieces)),
    Nudge: lambda hand, job, table, a: hand.nudge(job, table, a.sheet, a.indexes, a.dx_mm, a.dy_mm),
    TurnPieces: lambda hand, job, table, a: hand.turn(job, table, a.sheet, a.indexes, a.steps),
    AlignPieces: lambda hand, job, table, a: hand.align(job, table, a.sheet, a.indexes, a.side),
    SpacePieces: lambda hand, job, table, a: hand.space(job, table, a.sheet, a.indexes, a.way),
    LockPieces: lambda hand, job, table, a: hand.lock(job, table, a.sheet, a.indexes, a.locked),
    SendPieces: lambda hand, job, table, a: hand.send(job, table, a.sheet, a.indexes, a.to_sheet),
}
_PLAIN: dict[str, Doer] = {
    "swap": lambda hand, job, table, a: hand.swap(job, table, a.sheet, a.indexes),
    "duplicate": lambda hand, job, table, a: hand.duplicate(job, table, a.sheet, a.indexes),
    "grow": lambda hand, job, table, a: hand.grow(job, table, a.sheet, a.indexes),
    "take off": lambda hand, job, table, a: hand.take_off(job, table, a.sheet, a.indexes),
}


@router.post("/jobs/{job_id}/hand", tags=["by hand"])
def do_by_hand(by_hand: ByHandHere, plans: PlansHere, job_id: Id, asked: AnyAction) -> HandDone:
    """One action on the layout that was seen; it keeps every rule, or nothing is moved and a sentence says why."""
    doer = _DOERS.get(type(asked)) or _PLAIN[asked.action]
    done = doer(by_hand, job_id, plans.table(job_id, asked.layout), asked)
    return HandDone(job=done.state, sheet=done.sheet, indexes=list(done.indexes), note=done.note)
