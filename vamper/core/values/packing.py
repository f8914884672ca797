"""What is asked of packing: the least gap, the turns allowed, how pieces share sheets."""

from dataclasses import dataclass
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le

from vamper.core.values.item import Turn
from vamper.core.values.limits import STRICT
from vamper.core.values.registry import KeyOf

PACKING_MODES = "vamper.core.sheet.pack.modes"
# What packing starts with, and what is left where no machine cuts.
MIXED = "mixed"
TIDY = "tidy"


@dataclass(frozen=True, slots=True)
class PackingSpec:
    """`mode` is how pieces share sheets; `fill` asks for extra copies of what is wished for in what space is left."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    gap_mm: Annotated[float, Ge(0), Le(50)] = 2.0
    turn: Turn = Turn.ANY
    max_sheets: Annotated[int, Ge(1), Le(1000)] | None = None
    mode: Annotated[str, KeyOf(PACKING_MODES)] = MIXED
    fill: bool = False
