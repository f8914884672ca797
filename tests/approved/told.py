"""Whatever core gives back, told in figures, a line each, so that a difference can be read and looked through.

Shapes become their size and place, sentences the figures in them: what they say in words needs no approval. What has
many figures is told by their count, mean and spread, the deeper ones first, until a thing takes few lines.
"""

import re
from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
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

from vamper.core.values.lengths import in_unit

FOLDER = Path(__file__).parent / "kept"
_NUMBER = re.compile(r"\d+(?:\.\d+)?")
_DIGITS = 5
# A thing takes no more lines than this where they can be told together, and a line no more figures or words.
_MOST_LINES, _MOST_FIGURES, _MOST_WORDS = 11, 3, 4
_NEAR = 5e-4
_LARGE = 10_000


def told(thing: Any) -> Any:
    """A thing as JSON can hold it, but for pictures, which stay arrays."""
    if isinstance(thing, Enum):
        return told(thing.value)
    if isinstance(thing, str):
        return [float(one) for one in _NUMBER.findall(in_unit(thing))] if " " in thing else thing
    if thing is None or isinstance(thing, bool):
        return thing
    if isinstance(thing, int | np.integer):
        return int(thing)
    if isinstance(thing, float | np.floating):
        return float(thing)
    if isinstance(thing, BaseGeometry):
        parts = shapely.get_num_geometries(thing)
        return {"parts": int(parts), "area": thing.area, "rim": thing.length, "box": told(thing.bounds)}
    if isinstance(thing, np.ndarray):
        # A picture is taken apart as a whole.
        return thing.ravel().astype(float) if thing.size > _LARGE else [float(one) for one in thing.ravel()]
    if is_dataclass(thing) and not isinstance(thing, type):
        said = {field.name: told(getattr(thing, field.name)) for field in fields(thing) if field.repr}
        return said | {name: told(value) for name, value in _following(thing)}
    if isinstance(thing, Mapping):
        return {str(told(key)): told(value) for key, value in thing.items()}
    if isinstance(thing, AbstractSet):
        return sorted(told(one) for one in thing)
    if isinstance(thing, Sequence):
        return [told(one) for one in thing]
    raise TypeError(f"{type(thing).__name__} cannot be told")


def _following(thing: Any) -> Iterator[tuple[str, Any]]:
    """What follows from the fields of a thing, but for others of its kind and what it has not, as a cylinder no tip."""
    for name, what in vars(type(thing)).items():
        if isinstance(what, property | cached_property) and not name.startswith("_"):
            with suppress(AssertionError, ZeroDivisionError):
                value = getattr(thing, name)
                if not isinstance(value, type(thing)):
                    yield name, value


def lines_of(thing: Any) -> list[str]:
    """A thing as lines: what it is of it, then its figures and words, or how many there are, their mean and spread."""
    leaves = list(_leaves(told(thing), ()))
    depth = next((one for one in (3, 2) if len({at[:one] for at, _ in leaves}) <= _MOST_LINES), 1)
    gathered = dict[tuple[str, ...], list[Any]]()
    for at, value in leaves:
        gathered.setdefault(at[:depth], []).append(value)
    words = {at: [word for word in _words(values) if word] for at, values in gathered.items()}
    return [" ".join(filter(None, (".".join(at), *said))) for at, said in words.items() if said]


def _leaves(said: Any, at: tuple[str, ...]) -> Iterator[tuple[tuple[str, ...], Any]]:
    """Every figure and word with the names that lead to it; the things of a list are told together."""
    if isinstance(said, dict):
        for name, value in said.items():
            yield from _leaves(value, (*at, name.replace(" ", "-")))
    elif isinstance(said, list):
        for one in said:
            yield from _leaves(one, at)
    else:
        yield at, said


def _words(values: list[Any]) -> Iterator[str]:
    rows = [
        np.atleast_1d(one) for one in values if isinstance(one, float | int | np.ndarray) and not isinstance(one, bool)
    ]
    figures = np.concatenate(rows).astype(float) if rows else np.zeros(0)
    others = [str(one).removeprefix("#/$defs/") for one in values if isinstance(one, bool | str) or one is None]
    # Endless and unknown are words.
    finite = np.isfinite(figures)
    others += [str(float(one)) for one in figures[~finite]]
    figures = figures[finite]
    if len(others) <= _MOST_WORDS:
        yield from others
    else:
        counts = Counter(others)
        yield from (f"{count}×{word}" for word, count in sorted(counts.items())[:_MOST_WORDS])
        yield f"{len(counts)}"
    if len(figures) <= _MOST_FIGURES:
        yield from map(_figure, figures.tolist())
    else:
        # The place of a figure counts a little, so that two that are exchanged are noticed.
        places = 1 + np.arange(len(figures)) % 7 / 50
        row = figures * places
        yield from (f"{len(figures)}×", _figure(float(row.mean())), f"±{_figure(float(row.std()))}")


def _figure(value: float) -> str:
    return f"{value:.{_DIGITS}g}"


def apart(kept: Sequence[str], now: Sequence[str], at: str = "") -> list[str]:
    """Where two tellings differ by more than another machine would."""
    if len(kept) != len(now):
        names = [{line.split(" ")[0] for line in lines} for lines in (kept, now)]
        return [f"{at}: {len(kept)} lines are now {len(now)}; {sorted(names[0] ^ names[1])[:8]}"]
    return [f"{at}: {one} | is now {two}" for one, two in zip(kept, now, strict=True) if not _alike(one, two)]


def _alike(one: str, two: str) -> bool:
    words = one.split(" "), two.split(" ")
    return one == two or (len(words[0]) == len(words[1]) and all(map(_same, *words)))


def _same(one: str, two: str) -> bool:
    try:
        a, b = float(one.removeprefix("±")), float(two.removeprefix("±"))
    except ValueError:
        return one == two
    return abs(a - b) <= _NEAR * max(abs(a), abs(b)) + _NEAR / 10


def written(section: Iterable[tuple[str, Any]]) -> str:
    """A section as it is kept: each thing under its name."""
    return "".join(f"[{name}]\n" + "".join(f"{line}\n" for line in lines_of(thing)) for name, thing in section)


def read(text: str) -> dict[str, list[str]]:
    """The inverse of `written`: lines by the names of things."""
    found = dict[str, list[str]]()
    for line in text.splitlines():
        if line.startswith("[") and line.endswith("]"):
            lines = found.setdefault(line[1:-1], [])
        else:
            lines.append(line)
    return found
