"""What a picture told of a print or of cut pieces, as JSON."""

from typing import Any

from vamper.core.vision.loose_pieces import LoosePiece, LoosePieces
from vamper.core.vision.print_comparison import Comparison, PrintedPiece
from vamper.core.vision.reference import SheetReference
from vamper.core.vision.weeded_sheet import WeededSheet


def print_document(found: Comparison, sheet: SheetReference, ppi: float | None) -> dict[str, Any]:
    """A print beside its plan; `ppi` is that of a flat scan, None for a photo, of which no size is known."""
    scale = None
    if ppi is not None:
        x, y = found.straightened.scale(sheet, ppi)
        scale = {"x": round(x, 5), "y": round(y, 5)}
    return {
        "marks_found": found.straightened.marks_found,
        "turn_deg": round(found.straightened.turn_deg, 3),
        "scale": scale,
        "missing": [_printed(piece) for piece in found.missing],
        "pale": [_printed(piece) for piece in found.pale],
        "colour_shift_de": None if found.colour_shift_de is None else round(found.colour_shift_de, 2),
    }


def _printed(piece: PrintedPiece) -> dict[str, Any]:
    share = piece.ink_there if piece.ink_there is not None else 0.0
    return {"placement": piece.placement, "item": piece.item, "ink_there": round(share, 3)}


def pieces_document(found: LoosePieces) -> dict[str, Any]:
    """Loose pieces beside their designs."""
    return {"pieces": [_cut(piece) for piece in found.pieces], "unknown": len(found.unknown)}


def weeded_document(found: WeededSheet) -> dict[str, Any]:
    """A weeded sheet beside its plan; pieces are placed on the sheet, `gone`, `torn` and `unclear` are placements."""
    return {
        "pieces": [{"placement": placement, **_cut(piece)} for placement, piece in found.pieces],
        "gone": list(found.gone),
        "torn": list(found.torn),
        "unclear": list(found.unclear),
    }


def _cut(piece: LoosePiece) -> dict[str, Any]:
    return {
        "item": piece.item,
        "x_mm": round(piece.pose.x_mm, 3),
        "y_mm": round(piece.pose.y_mm, 3),
        "turn_deg": round(piece.pose.turn_deg % 360, 3),
        "dx_mm": None if piece.off_mm is None else round(piece.off_mm[0], 3),
        "dy_mm": None if piece.off_mm is None else round(piece.off_mm[1], 3),
        "unsure": piece.unsure,
        "border_least_mm": round(piece.border_least_mm, 3),
        "area_share": round(piece.area_share, 4),
    }
