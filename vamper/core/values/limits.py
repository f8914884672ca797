"""Limits of fields, said once beside the field and kept wherever data comes in: job file, workshop, browser.

A specification is a plain frozen dataclass; its fields carry their limits as annotations, and `STRICT` as its
`__pydantic_config__` makes whoever reads it refuse unknown fields and numbers that are none. The markers here answer to
the library that reads data by a method of a known name, so that core need not know that library.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Any

from annotated_types import Ge, Gt, Le, Len

from vamper.core.values.text import is_plain, one_line

STRICT: dict[str, Any] = {"extra": "forbid", "allow_inf_nan": False}


@dataclass(frozen=True, slots=True)
class Pattern:
    """Text of a certain look."""

    pattern: str

    def __get_pydantic_core_schema__(self, source: Any, handler: Callable[[Any], dict[str, Any]]) -> dict[str, Any]:
        return {**handler(source), "pattern": self.pattern}


@dataclass(frozen=True, slots=True)
class Tidied:
    """Text that is brought into shape before it is looked at."""

    tidy: Callable[[str], str]

    def __get_pydantic_core_schema__(self, source: Any, handler: Callable[[Any], dict[str, Any]]) -> dict[str, Any]:
        def first(value: Any) -> Any:
            return self.tidy(value) if isinstance(value, str) else value

        return {
            "type": "function-before",
            "function": {"type": "no-info", "function": first},
            "schema": handler(source),
        }


@dataclass(frozen=True, slots=True)
class Constraint:
    """A value that something is asked of; `check` raises `ValueError` with a sentence."""

    check: Callable[[Any], None]

    def __get_pydantic_core_schema__(self, source: Any, handler: Callable[[Any], dict[str, Any]]) -> dict[str, Any]:
        def then(value: Any) -> Any:
            self.check(value)
            return value

        return {"type": "function-after", "function": {"type": "no-info", "function": then}, "schema": handler(source)}


def _inside_folder(value: str) -> None:
    parts = value.replace("\\", "/").split("/")
    if not parts[0] or ".." in parts or ":" in value:
        raise ValueError("must stay inside the job file's folder")
    if not is_plain(value):
        raise ValueError("must be a plain file name, without control signs or signs of direction")


ONE_LINE = Tidied(one_line)
COLOUR = re.compile(r"^#[0-9A-Fa-f]{6}$")

Length = Annotated[float, Gt(0), Le(3000)]
Distance = Annotated[float, Ge(0), Le(200)]
Colour = Annotated[str, Pattern(COLOUR.pattern)]
Share = Annotated[float, Ge(0), Le(1)]
PracticeSeed = Annotated[int, Ge(1), Le(2**31 - 1)]
Box = Annotated[tuple[Share, ...], Len(4, 4)]
Point = Annotated[tuple[Share, ...], Len(2, 2)]
ArtName = Annotated[str, Len(1, 500), Constraint(_inside_folder)]
Title = Annotated[str, Len(0, 200), ONE_LINE]
