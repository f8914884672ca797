"""A dry run: every sheet of a plan run so many times, and what came of it.

Shares are of all runs. What was not good is told apart by cause; each cause's share is of all pieces, in all runs, that
were not good.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vamper.core.twin.simulate import SPOILINGS, SimulationResult, Spoiling

NINETEEN = 95.0


@dataclass(frozen=True, slots=True)
class PieceOutcome:
    """The results of one piece in all runs.

    Parameters
    ----------
    sheet, placement : int
        Its sheet and its place on it, from 0.
    item : int
        The design's number.
    miss_p95_mm : float or None
        In 19 of 20 runs it is cut no further off; None where no run was read.
    bitten, cut_clean, good : float
        Shares of runs in which the cut bites into ink, in which it is clean, and in which the piece is good.
    causes : tuple of (Spoiling, float)
        What spoils it, each with its share of runs.
    """

    sheet: int
    placement: int
    item: int
    miss_p95_mm: float | None
    bitten: float
    cut_clean: float
    good: float
    causes: tuple[tuple[Spoiling, float], ...]


@dataclass(frozen=True, slots=True)
class CauseShare:
    cause: Spoiling
    share: float
    pieces: int
    """How many pieces it spoils in some run."""


@dataclass(frozen=True, slots=True)
class DryRun:
    """The results of all runs of all sheets.

    Parameters
    ----------
    runs : int
        How many there were.
    items : tuple of int
        The numbers of all designs.
    marks_read, sheet_good : float
        Shares of runs in which marks are read, and in which a whole sheet is good.
    pieces : tuple of PieceOutcome
        Every piece of every sheet.
    causes : tuple of CauseShare
        What spoils pieces, with its share.
    pieces_good_mean : float
        How many pieces are good on average.
    miss_p50_mm, miss_p95_mm : float or None
        How far off pieces are cut at most in half of the runs, and in 19 of 20; None where no run was read.
    """

    runs: int
    items: tuple[int, ...]
    marks_read: float
    sheet_good: float
    pieces: tuple[PieceOutcome, ...]
    causes: tuple[CauseShare, ...]
    pieces_good_mean: float
    miss_p50_mm: float | None
    miss_p95_mm: float | None

    def of_sheet(self, sheet: int) -> list[PieceOutcome]:
        return [piece for piece in self.pieces if piece.sheet == sheet]


def summed_up(items: tuple[int, ...], sheets: Sequence[SimulationResult]) -> DryRun:
    """The results of the sheets of a job with such `items` (numbers of designs), each run equally often."""
    runs = sheets[0].runs if sheets else 0
    pieces, misses = list[PieceOutcome](), []
    spoiled = np.zeros(len(SPOILINGS) + 1)
    touched: dict[int, int] = {}
    for number, sheet in enumerate(sheets):
        lengths = np.hypot(*np.moveaxis(sheet.miss_mm, -1, 0))[sheet.read]
        if lengths.size:
            misses.append(lengths.ravel())
        counts = np.stack([(sheet.spoiled == code).sum(axis=0) for code in range(len(SPOILINGS) + 1)])
        spoiled += counts.sum(axis=1)
        for code in range(1, len(SPOILINGS) + 1):
            touched[code] = touched.get(code, 0) + int((counts[code] > 0).sum())
        for place, piece in enumerate(sheet.facts.pieces):
            mine = counts[1:, place]
            own = [(SPOILINGS[code], float(mine[code] / runs)) for code in np.argsort(-mine) if mine[code]]
            pieces.append(
                PieceOutcome(
                    sheet=number,
                    placement=piece.placement,
                    item=piece.item,
                    miss_p95_mm=float(np.percentile(lengths[:, place], NINETEEN)) if len(lengths) else None,
                    bitten=float(sheet.bitten[:, place].mean()),
                    cut_clean=float(sheet.clean[:, place].mean()),
                    good=float(sheet.good[:, place].mean()),
                    causes=tuple(own),
                )
            )
    bad = spoiled[1:]
    order = [code for code in np.argsort(-bad, kind="stable") if bad[code]]
    causes = tuple(CauseShare(SPOILINGS[code], float(bad[code] / bad.sum()), touched[code + 1]) for code in order)
    every = np.concatenate(misses) if misses else np.zeros(0)
    return DryRun(
        runs=runs,
        items=items,
        marks_read=float(np.mean([sheet.read.mean() for sheet in sheets])) if sheets else 0.0,
        sheet_good=float(np.mean([sheet.sheet_good.mean() for sheet in sheets])) if sheets else 0.0,
        pieces=tuple(pieces),
        causes=causes,
        pieces_good_mean=float(np.mean([piece.good for piece in pieces])) if pieces else 0.0,
        miss_p50_mm=float(np.percentile(every, 50)) if every.size else None,
        miss_p95_mm=float(np.percentile(every, NINETEEN)) if every.size else None,
    )
