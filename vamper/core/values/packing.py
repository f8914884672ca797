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
    """How pieces are to lie.

    Parameters
    ----------
    gap_mm : float
        Least distance between edges.
    turn : Turn
        How pieces may lie.
    max_sheets : int or None
        The most sheets; None for as many as it takes.
    mode : str
        How designs share sheets, a key of the modes.
    fill : bool
        Whether room that is left is filled with further copies of what is wished for.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    gap_mm: Annotated[float, Ge(0), Le(50)] = 2.0
    turn: Turn = Turn.ANY
    max_sheets: Annotated[int, Ge(1), Le(1000)] | None = None
    mode: Annotated[str, KeyOf(PACKING_MODES)] = MIXED
    fill: bool = False
