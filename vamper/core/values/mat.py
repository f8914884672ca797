"""The carrier mat that is in use: how strongly it held when it was new, and what it went through since."""

from dataclasses import dataclass
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le

from vamper.core.values.limits import STRICT
from vamper.core.values.stock import Tack

Count = Annotated[int, Ge(0), Le(100_000)]


@dataclass(frozen=True, slots=True)
class MatIn:
    """A mat as its maker tells of it.

    Parameters
    ----------
    tack : Tack
        How strongly it holds.
    loads, washings : int
        Loads since it was last washed, and washings in its life.
    lint, taped : bool
        Whether lint lies on it, and whether its rim is taped.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    tack: Tack = Tack.MEDIUM
    loads: Count = 0
    washings: Count = 0
    lint: bool = False
    taped: bool = False
