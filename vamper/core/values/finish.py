"""How a job is finished after the cut, where that is not left to what follows from its stock and its use."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len

from vamper.core.values.limits import ONE_LINE, STRICT


class School(StrEnum):
    """Where makers do it in two ways."""

    A = "A"
    B = "B"


@dataclass(frozen=True, slots=True)
class FinishSpec:
    """`process` is a key of the table of processes, `coats` their number where the label says otherwise, `plate` how
    many pieces the press or the oven holds at once.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    process: Annotated[str, Len(1, 40), ONE_LINE] | None = None
    school: School | None = None
    coats: Annotated[int, Ge(0), Le(12)] | None = None
    plate: Annotated[int, Ge(1), Le(1000)] = 6
