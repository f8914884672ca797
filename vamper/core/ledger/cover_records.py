"""Coats and laminates side by side, by the names a maker gives them: what each took, and whether it held."""

import math
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass

from vamper.core.ledger.run import CameOut, Run
from vamper.core.values.sheen import Sheen

_COVERS = ("coat-before", "coat-after", "laminate")
_WAITS = ("coat_minutes", "cure_minutes")


@dataclass(frozen=True, slots=True)
class CoverRecord:
    """A product on a stock, as the ledger knows it.

    Parameters
    ----------
    product, stock_name : str
        The product's name, and the stock's.
    look : Sheen or None
        How its face looks; None where nobody said.
    when : str
        When it was laid, as a code of the chain.
    runs : int
        In how many runs it was used.
    coats : float or None
        Coats in the mean; None for a laminate.
    coat_minutes, cure_minutes : float or None
        The waits between coats and at the end; None where nobody said.
    good, made : int
        Pieces that came out well, of those made.
    held, failed : int
        Later looks that it held, and that it did not.
    """

    product: str
    look: Sheen | None
    stock_name: str
    when: str
    runs: int
    coats: float | None
    coat_minutes: float | None
    cure_minutes: float | None
    good: int
    made: int
    held: int
    failed: int


def cover_records(runs: Iterable[Run]) -> tuple[CoverRecord, ...]:
    """The covers of real runs, with the most runs first; a cover without a name counts by how it was laid."""
    found = defaultdict[tuple[str, Sheen | None, str, str], list[Run]](list)
    for run in runs:
        when = next((code for code in run.process.split() if code in _COVERS), None)
        if when is None or run.simulated or run.came_out is CameOut.NOT_RUN:
            continue
        found[run.cover, run.look, run.stock_name, when].append(run)
    records = (_record(*key, made) for key, made in found.items())
    return tuple(sorted(records, key=lambda one: (-one.runs, one.product, one.stock_name)))


def _record(product: str, look: Sheen | None, stock_name: str, when: str, runs: list[Run]) -> CoverRecord:
    looks = [check.held for run in runs for check in run.later if check.held is not None]
    waits = {key: _mean([one.value for run in runs for one in run.figures if one.key == key]) for key in _WAITS}
    return CoverRecord(
        product=product,
        look=look,
        stock_name=stock_name,
        when=when,
        runs=len(runs),
        coats=None if when == "laminate" else _mean([float(run.coats) for run in runs if run.coats is not None]),
        coat_minutes=waits["coat_minutes"],
        cure_minutes=waits["cure_minutes"],
        good=sum(run.good_pieces for run in runs),
        made=sum(run.made_pieces for run in runs),
        held=sum(looks),
        failed=len(looks) - sum(looks),
    )


def _mean(values: list[float]) -> float | None:
    return math.fsum(values) / len(values) if values else None
