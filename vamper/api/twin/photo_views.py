"""What a photo or scan told, as the screen shows it."""

import math
from collections.abc import Iterator, Mapping, Sequence

from shapely.geometry.base import BaseGeometry

from vamper.api.twin.schemas import CheckedPieceOut, LooseOut, PhotoCheckOut, PhotoKind, PrintState
from vamper.core.values.geometry import placed
from vamper.core.values.lengths import mm
from vamper.core.values.miss import LoggedMiss, miss_on_sheet
from vamper.core.values.units import MM_PER_INCH
from vamper.core.vision.loose_pieces import LoosePiece, UnsureReason
from vamper.core.vision.print_comparison import PrintedPiece
from vamper.core.vision.weeded_sheet import PX_A_MM as WEEDED_PX_A_MM
from vamper.core.vision.weeded_sheet import WeededSheet
from vamper.formats.svg_path import shape_path
from vamper.services.brief.words import plural
from vamper.services.twin.photo_checks import AnyCheck, PiecesCheck, PrintCheck, WeededCheck

_FAR_MM = 0.5


def photo_check_out(check: AnyCheck) -> PhotoCheckOut:
    if isinstance(check, PrintCheck):
        return _print_out(check)
    return _weeded_out(check) if isinstance(check, WeededCheck) else _pieces_out(check)


def _print_out(check: PrintCheck) -> PhotoCheckOut:
    found, planned = check.found, check.planned
    lines = []
    if check.ppi is not None:
        x, y = found.straightened.scale(planned, check.ppi)
        lines.append(f"Printed at {x * 100:.2f} % across and {y * 100:.2f} % down, if the scan has {check.ppi:g} ppi.")
    if found.colour_shift_de is not None:
        fair = "fair" if found.colour_shift_de < 6 else "off: compare it with the real thing"
        lines.append(f"Colours are {fair} (ΔE {found.colour_shift_de:.1f} in the middle).")
    straight = found.straightened
    if straight.marks_found < straight.marks:
        lines.append(f"{straight.marks_found} of {straight.marks} marks were found; one more would place it better.")
    if abs(straight.turn_deg) > 90:
        lines.append("The picture is upside down; it was turned.")
    missing, pale = len(found.missing), len(found.pale)
    wrong = [f"{plural(missing, 'piece')} without print" if missing else "", f"{pale} pale" if pale else ""]
    verdict = f"All {len(found.pieces)} pieces are printed."
    if missing or pale:
        verdict = f"{' and '.join(words for words in wrong if words)}."
    return PhotoCheckOut(
        number=check.number,
        kind=PhotoKind.PRINT,
        sheet=check.sheet + 1,
        verdict=verdict,
        lines=lines,
        width_mm=planned.width_mm,
        height_mm=planned.height_mm,
        pieces=[
            CheckedPieceOut(
                placement=piece.placement,
                item_number=piece.item,
                state=_state(piece),
                words=_printed_words(piece),
                path=shape_path(planned.pieces[piece.placement].edge),
            )
            for piece in found.pieces
        ],
        loose=[],
        unknown=0,
        misses=[],
    )


def _state(piece: PrintedPiece) -> PrintState:
    if piece.ink_there is None:
        return PrintState.UNSEEN
    if piece.is_missing:
        return PrintState.MISSING
    return PrintState.PALE if piece.is_pale else PrintState.THERE


def _printed_words(piece: PrintedPiece) -> str:
    if piece.ink_there is None:
        return "nothing of it could be told from the stock"
    if piece.is_missing:
        return f"{piece.ink_there * 100:.0f} % of its ink is there"
    words = "printed"
    if piece.is_pale and piece.strength is not None:
        words = f"pale: {piece.strength * 100:.0f} % of its contrast"
    if piece.off_mm is not None and math.hypot(*piece.off_mm) > _FAR_MM:
        words += f", {mm(math.hypot(*piece.off_mm), 1)} off its place"
    return words


# What a piece that is not whole looks like, by the list that it is in.
_NOT_WHOLE = {
    "gone": "not there any more",
    "torn": "a part of it is not there any more",
    "unclear": "its outline could not be told",
}


def _weeded_verdict(found: WeededSheet) -> str:
    said = []
    if found.gone:
        said.append(f"{plural(len(found.gone), 'piece')} came off with the waste.")
    if found.torn:
        said.append(f"{plural(len(found.torn), 'piece')} lost a part of it.")
    return " ".join(said) or "Every piece is still in its place."


def _weeded_out(check: WeededCheck) -> PhotoCheckOut:
    found, planned = check.found, check.planned
    edges = {item.item: item.edge for item in planned.items}
    turns = {piece.placement: piece.turn_deg for piece in planned.pieces}
    lines = _cut_lines([piece for _, piece in found.pieces])
    if found.unclear:
        lines.append(
            f"{plural(len(found.unclear), 'piece')} told nothing of their cut: too like the backing, or at the rim."
        )
    height, width = found.sheet_picture.shape[:2]
    return PhotoCheckOut(
        number=check.number,
        kind=PhotoKind.WEEDED,
        sheet=check.sheet + 1,
        verdict=_weeded_verdict(found),
        lines=lines,
        width_mm=width / WEEDED_PX_A_MM,
        height_mm=height / WEEDED_PX_A_MM,
        pieces=[
            CheckedPieceOut(
                placement=piece.placement,
                item_number=piece.item,
                state=PrintState.UNSEEN if piece.placement in found.unclear else PrintState.MISSING,
                words=_NOT_WHOLE[next(key for key in _NOT_WHOLE if piece.placement in getattr(found, key))],
                path=shape_path(placed(edges[piece.item], piece.x_mm, piece.y_mm, piece.turn_deg)),
            )
            for piece in planned.pieces
            if piece.placement in (*found.gone, *found.torn, *found.unclear)
        ],
        loose=[_loose_out(piece, edges) for _, piece in found.pieces],
        unknown=0,
        misses=[
            miss_on_sheet(piece.surely_off_mm, turns[placement])
            for placement, piece in found.pieces
            if piece.surely_off_mm is not None and not planned.mirror
        ],
    )


_UNSURE = {
    UnsureReason.FAINT: "its print too faint to tell how far off",
    UnsureReason.TURNED: "which way cannot be told, for it looks the same turned",
}


def _cut_lines(pieces: Sequence[LoosePiece]) -> list[str]:
    """How far cuts lie from their prints, and what border they left."""
    offs = [piece.away_mm for piece in pieces if piece.away_mm is not None]
    faint = sum(piece.unsure is UnsureReason.FAINT for piece in pieces)
    lines = []
    if offs:
        mean = sum(offs) / len(offs)
        lines.append(f"The farthest was cut {mm(max(offs), 2)} off its print, in the mean {mm(mean, 2)}.")
    if faint:
        lines.append(f"{plural(faint, 'print')} too faint in this picture to tell how far off the cut is.")
    told = [piece.border_least_mm for piece in pieces if piece.unsure is not UnsureReason.FAINT]
    if told:
        least = min(told)
        bitten = f"A drawing is bitten by {mm(-least, 2)}."
        lines.append(f"The least border left is {mm(least, 2)}." if least >= 0 else bitten)
    return lines


def _loose_out(piece: LoosePiece, edges: Mapping[int, BaseGeometry]) -> LooseOut:
    return LooseOut(
        item_number=piece.item,
        path=shape_path(piece.outline),
        edge_path=shape_path(piece.pose.of(edges[piece.item])),
        words=_loose_words(piece),
        dx_mm=None if piece.surely_off_mm is None else piece.surely_off_mm[0],
        dy_mm=None if piece.surely_off_mm is None else piece.surely_off_mm[1],
        border_least_mm=piece.border_least_mm,
        area_share=piece.area_share,
    )


def _pieces_out(check: PiecesCheck) -> PhotoCheckOut:
    found = check.found
    edges = {item.item: item.edge for item in check.planned.items}
    lines = _cut_lines(found.pieces)
    if found.unknown:
        lines.append(f"{plural(len(found.unknown), 'thing')} fit no design of this sheet.")
    height, width = check.picture.shape[:2]
    return PhotoCheckOut(
        number=check.number,
        kind=PhotoKind.PIECES,
        sheet=check.sheet + 1,
        verdict=f"{plural(len(found.pieces), 'piece')} told by shape and print.",
        lines=lines,
        width_mm=width / check.ppi * MM_PER_INCH,
        height_mm=height / check.ppi * MM_PER_INCH,
        pieces=[],
        loose=[_loose_out(piece, edges) for piece in found.pieces],
        unknown=len(found.unknown),
        misses=list(_misses(check)),
    )


def _loose_words(piece: LoosePiece) -> str:
    off = "" if piece.away_mm is None else f"cut {mm(piece.away_mm, 2)} off, "
    if piece.unsure is not None:
        off += f"{_UNSURE[piece.unsure]}, "
    if piece.unsure is UnsureReason.FAINT:
        return off.removesuffix(", ")
    border = f"least border {mm(piece.border_least_mm, 2)}"
    return off + (border if piece.border_least_mm >= 0 else f"drawing bitten by {mm(-piece.border_least_mm, 2)}")


def _misses(check: PiecesCheck) -> Iterator[LoggedMiss]:
    """Misses in the sheet's frame: known where all pieces of a design lie the same way on it."""
    for piece in check.found.pieces:
        turns = {round(one.turn_deg, 1) for one in check.planned.pieces if one.item == piece.item}
        if piece.surely_off_mm is None or len(turns) != 1 or check.planned.mirror:
            continue
        yield miss_on_sheet(piece.surely_off_mm, turns.pop())
