"""The spoilt pieces of a sheet from a photo or scan of it: what a maker would tap, filled in for them to look over."""

import math
from collections.abc import Iterator

from vamper.core.ledger.run import Spoilt, SpoiltPiece
from vamper.core.values.miss import LoggedMiss, miss_on_sheet
from vamper.core.vision.loose_pieces import UnsureReason
from vamper.services.twin.photo_checks import AnyCheck, PiecesCheck, PrintCheck, WeededCheck

# A print that lies farther off than this is seen as a fault of the print, and a cut as one of the cut.
_PRINT_OFF_MM, _CUT_OFF_MM = 1.0, 0.5
_MOST_MM = 20.0


def spoilt_in(check: AnyCheck) -> tuple[SpoiltPiece, ...]:
    """The spoilt pieces that a picture shows. Loose pieces do not say where they lay, and tell nothing here."""
    if isinstance(check, PiecesCheck):
        return ()
    return tuple(_printed(check) if isinstance(check, PrintCheck) else _cut(check))


def _printed(check: PrintCheck) -> Iterator[SpoiltPiece]:
    for piece in check.found.pieces:
        aside = piece.off_mm is not None and math.hypot(*piece.off_mm) > _PRINT_OFF_MM
        if piece.is_missing or piece.is_pale or aside:
            yield SpoiltPiece(piece.placement, Spoilt.PRINT_FAULT)


def _cut(check: WeededCheck) -> Iterator[SpoiltPiece]:
    for placement in check.found.gone:
        yield SpoiltPiece(placement, Spoilt.LIFTED)
    for placement in check.found.torn:
        yield SpoiltPiece(placement, Spoilt.TORN)
    turns = {piece.placement: piece.turn_deg for piece in check.planned.pieces}
    for placement, piece in check.found.pieces:
        far = piece.surely_off_mm is not None and math.hypot(*piece.surely_off_mm) > _CUT_OFF_MM
        # Of a print too faint to be placed nothing is told.
        if piece.unsure is UnsureReason.FAINT or (not far and piece.border_least_mm > 0):
            continue
        off = None
        if piece.surely_off_mm is not None and math.hypot(*piece.surely_off_mm) < _MOST_MM:
            miss = miss_on_sheet(piece.surely_off_mm, turns[placement])
            off = LoggedMiss(round(miss.dx_mm, 2), round(miss.dy_mm, 2))
        yield SpoiltPiece(placement, Spoilt.OFF, off)
