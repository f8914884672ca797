"""A layout as data, exact to the last digit, and back."""

from collections.abc import Mapping
from typing import Any

from vamper.core.sheet.layout import Layout, Unplaced, WhyNot
from vamper.core.values.placement import Pin, Placement


def layout_document(layout: Layout) -> dict[str, Any]:
    """A layout as data, exact to the last digit."""
    return {
        "sheets": [[[p.item, p.x_mm, p.y_mm, p.turn_deg, p.pin.value] for p in sheet] for sheet in layout.sheets],
        "unplaced": [[u.item, u.quantity, u.reason.value] for u in layout.unplaced],
        "time_limited": layout.time_limited,
    }


def layout_of(document: Mapping[str, Any]) -> Layout:
    """The inverse of `layout_document`."""
    return Layout(
        tuple(
            tuple(Placement(item, x, y, turn, Pin(pin)) for item, x, y, turn, pin in sheet)
            for sheet in document["sheets"]
        ),
        tuple(Unplaced(item, count, WhyNot(reason)) for item, count, reason in document["unplaced"]),
        bool(document["time_limited"]),
    )
