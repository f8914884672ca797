"""Documents of older versions, brought to the newest one step at a time.

A new field with a default needs no step: it has its default wherever it is missing.
"""

from collections.abc import Callable
from typing import Any

Data = dict[str, Any]


def _held_by_sheet(data: Data) -> Data:
    """Version 1 held each piece with the number of its sheet; since then pieces are held sheet by sheet."""
    held = data.get("held", [])
    sheets: list[list[Data]] = [[] for _ in range(max((one["sheet"] for one in held), default=-1) + 1)]
    for one in held:
        rest = {name: value for name, value in one.items() if name not in ("number", "sheet")}
        sheets[one["sheet"]].append({"item": one["number"], **rest})
    return {**data, "held": sheets}


# What makes the next version of each.
_STEPS: dict[int, Callable[[Data], Data]] = {1: _held_by_sheet}
VERSION = max(_STEPS) + 1


def upgraded(data: Data, version: int) -> Data:
    """A document of some version in the shape of the newest."""
    for number in range(version, VERSION):
        data = _STEPS[number](data)
    return data
