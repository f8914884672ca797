"""The readings of a vernier sheet as JSON, and what they come to."""

from typing import Any

from pydantic import TypeAdapter

from vamper.core.marks.calibrate import CalibrationFit, VernierReadings
from vamper.formats.json_object import object_in
from vamper.formats.sentences import read_as

_READINGS = TypeAdapter(VernierReadings)


def read_readings(text: str | bytes) -> VernierReadings:
    """Readings from the text of a file.

    Raises
    ------
    BadInput
        Names the field that cannot be used, and what it should be.
    """
    raw = object_in(text, "the readings file")
    return read_as(_READINGS, raw)


def fit_document(fit: CalibrationFit) -> dict[str, Any]:
    """The map and its parts as data."""
    return {
        "map": [list(row) for row in fit.map],
        "offset_mm": {"x": fit.offset_mm[0], "y": fit.offset_mm[1]},
        "turn_deg": fit.turn_deg,
        "stretch": {"x": fit.stretch[0], "y": fit.stretch[1]},
        "shear_deg": fit.shear_deg,
        "residual_mm": fit.residual_mm,
        "worst": None if fit.worst is None else {"reading": fit.worst.reading, "by_mm": fit.worst.by_mm},
    }


def readings_schema() -> dict[str, Any]:
    return _READINGS.json_schema()


def fit_schema() -> dict[str, Any]:
    """The JSON Schema of what readings come to."""
    pair = {"type": "object", "properties": {"x": {"type": "number"}, "y": {"type": "number"}}, "required": ["x", "y"]}
    row = {"type": "array", "items": {"type": "number"}, "minItems": 3, "maxItems": 3}
    worst = {
        "type": "object",
        "properties": {"reading": {"type": "integer", "minimum": 0}, "by_mm": {"type": "number"}},
        "required": ["reading", "by_mm"],
    }
    properties = {
        "map": {"type": "array", "items": row, "minItems": 2, "maxItems": 2},
        "offset_mm": pair,
        "turn_deg": {"type": "number"},
        "stretch": pair,
        "shear_deg": {"type": "number"},
        "residual_mm": {"anyOf": [{"type": "number"}, {"type": "null"}]},
        "worst": {"anyOf": [worst, {"type": "null"}]},
    }
    return {"title": "CalibrationFit", "type": "object", "properties": properties, "required": list(properties)}
