"""A way in which pieces share sheets: the words it goes by, and how it packs.

Each mode is a module in `modes`; adding one touches nothing else.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.values.packing import PACKING_MODES
from vamper.core.values.registry import Registry

if TYPE_CHECKING:
    from vamper.core.sheet.pack.problem import PackProblem, Watch


@dataclass(frozen=True, slots=True)
class PackingMode:
    """One way to share sheets.

    Parameters
    ----------
    key, place : str, int
        Its code, and where it stands in a list of all kinds.
    name, hint, phrase : str
        What it is called, one line on what it is for, and how the brief says it ("" where nothing need be said).
    pack : callable
        The best layout it finds; the watch has seen it and every lesser one before it.
    apart : bool
        Whether every design has sheets of its own.
    even : bool
        Whether a layout of equal sheets is better than any other.
    """

    key: str
    place: int
    name: str
    hint: str
    phrase: str
    pack: "Callable[[PackProblem, Nester, Watch], Layout]"
    apart: bool = False
    even: bool = False


MODES: Registry[PackingMode] = Registry(PACKING_MODES)
