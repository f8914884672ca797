"""What a dry run came to, as JSON: shares of the runs, 0..1."""

import json
from typing import Any

from vamper.core.twin.dry_run import DryRun
from vamper.core.twin.simulate import SPOILINGS

_DIGITS = 4


def dry_run_document(found: DryRun) -> dict[str, Any]:
    """A dry run as data; sheets count from 1, placements and items from 0 as in a plan."""
    items = {number: place for place, number in enumerate(found.items)}

    def share(value: float) -> float:
        return round(value, _DIGITS)

    return {
        "runs": found.runs,
        "marks_read": share(found.marks_read),
        "sheet_good": share(found.sheet_good),
        "pieces_good_mean": share(found.pieces_good_mean),
        "pieces": [
            {
                "sheet": piece.sheet + 1,
                "placement": piece.placement,
                "item": items[piece.item],
                "miss_p95_mm": None if piece.miss_p95_mm is None else share(piece.miss_p95_mm),
                "bitten": share(piece.bitten),
                "cut_clean": share(piece.cut_clean),
                "good": share(piece.good),
            }
            for piece in found.pieces
        ],
        "causes": [{"cause": one.cause, "share": share(one.share)} for one in found.causes],
    }


def write_dry_run(found: DryRun) -> bytes:
    return json.dumps(dry_run_document(found), indent=1).encode() + b"\n"


def dry_run_schema() -> dict[str, Any]:
    """The JSON Schema of a dry run's outcome."""
    share = {"type": "number", "minimum": 0, "maximum": 1}
    whole = {"type": "integer", "minimum": 0}
    piece = {
        "sheet": {"type": "integer", "minimum": 1},
        "placement": whole,
        "item": whole,
        "miss_p95_mm": {"anyOf": [{"type": "number", "minimum": 0}, {"type": "null"}]},
        "bitten": share,
        "cut_clean": share,
        "good": share,
    }
    cause = {"cause": {"enum": [str(one) for one in SPOILINGS]}, "share": share}
    properties = {
        "runs": {"type": "integer", "minimum": 1},
        "marks_read": share,
        "sheet_good": share,
        "pieces_good_mean": share,
        "pieces": {"type": "array", "items": {"type": "object", "properties": piece, "required": list(piece)}},
        "causes": {"type": "array", "items": {"type": "object", "properties": cause, "required": list(cause)}},
    }
    return {"title": "DryRun", "type": "object", "properties": properties, "required": list(properties)}
