"""Whatever core gives back, told in a few figures each, so that it can be kept and looked through.

Shapes become their size and place, long rows of numbers their sum and ends. Figures are rounded to what a change of a
rule would move and another machine would not.
"""

from collections.abc import Iterator, Mapping, Sequence
from collections.abc import Set as AbstractSet
from contextlib import suppress
from dataclasses import fields, is_dataclass
from enum import Enum
from functools import cached_property
from pathlib import Path
from typing import Any

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

FOLDER = Path(__file__).parent / "kept"
_LONG = 12
_DIGITS = 4


def told(thing: Any) -> Any:
    """A thing as JSON can hold it."""
    if isinstance(thing, Enum):
        return told(thing.value)
    if thing is None or isinstance(thing, str | bool):
        return thing
    if isinstance(thing, int | np.integer):
        return int(thing)
    if isinstance(thing, float | np.floating):
        return _figure(float(thing))
    if isinstance(thing, BaseGeometry):
        parts = shapely.get_num_geometries(thing)
        return {"parts": int(parts), "area": told(thing.area), "rim": told(thing.length), "box": told(thing.bounds)}
    if isinstance(thing, np.ndarray):
        return _row(thing)
    if is_dataclass(thing) and not isinstance(thing, type):
        said = {field.name: told(getattr(thing, field.name)) for field in fields(thing) if field.repr}
        return said | {name: told(value) for name, value in _following(thing)}
    if isinstance(thing, Mapping):
        return {str(told(key)): told(value) for key, value in thing.items()}
    if isinstance(thing, AbstractSet):
        return sorted(told(one) for one in thing)
    if isinstance(thing, Sequence):
        every = [told(one) for one in thing]
        return every if len(every) <= _LONG else _many(every)
    raise TypeError(f"{type(thing).__name__} cannot be told")


def _following(thing: Any) -> Iterator[tuple[str, Any]]:
    """What follows from the fields of a thing, but for others of its kind and what it has not, as a cylinder no tip."""
    for name, what in vars(type(thing)).items():
        if isinstance(what, property | cached_property) and not name.startswith("_"):
            with suppress(AssertionError, ZeroDivisionError):
                value = getattr(thing, name)
                if not isinstance(value, type(thing)):
                    yield name, value


def _figure(value: float) -> float | None:
    return None if not np.isfinite(value) else float(f"{value:.{_DIGITS}g}")


def _many(every: list[Any]) -> dict[str, Any]:
    """A long list by its ends, and all figures in it together."""
    figures = np.array([one for thing in every for one in _figures_in(thing)], float)
    return {"count": len(every), "ends": [every[0], every[-1]], "figures": _row(figures) if figures.size else None}


def _figures_in(thing: Any) -> Iterator[float]:
    if isinstance(thing, dict):
        thing = list(thing.values())
    if isinstance(thing, list):
        for one in thing:
            yield from _figures_in(one)
    elif isinstance(thing, float | int) and not isinstance(thing, bool):
        yield float(thing)


def _row(numbers: np.ndarray) -> Any:
    if numbers.size <= _LONG:
        return told(numbers.tolist())
    plain = numbers.astype(float).ravel()
    ends = [_figure(float(one)) for one in (plain[0], plain[-1])]
    return {"shape": list(numbers.shape), "mean": told(float(plain.mean())), "spread": told(float(plain.std())),
            "ends": ends}  # fmt: skip


def apart(kept: Any, now: Any, at: str = "") -> list[str]:
    """Where two tellings differ by more than another machine would."""
    if isinstance(kept, dict) and isinstance(now, dict):
        names = [*kept, *(name for name in now if name not in kept)]
        return [line for name in names for line in apart(kept.get(name), now.get(name), f"{at}/{name}")]
    if isinstance(kept, list) and isinstance(now, list) and len(kept) == len(now):
        return [line for n, pair in enumerate(zip(kept, now, strict=True)) for line in apart(*pair, f"{at}/{n}")]
    if isinstance(kept, float | int) and isinstance(now, float | int) and not isinstance(kept, bool):
        near = abs(kept - now) <= 2e-3 * max(abs(kept), abs(now)) + 2e-3
        return [] if near else [f"{at}: {kept} is now {now}"]
    return [] if kept == now else [f"{at}: {kept!r} is now {now!r}"]
