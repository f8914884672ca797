"""What is asked of registration marks: their family, and where they lie."""

from dataclasses import dataclass
from typing import Annotated, Any, ClassVar, Literal

from annotated_types import Ge, Gt, Le, Len

from vamper.core.values.limits import STRICT
from vamper.core.values.reading import Remedy
from vamper.core.values.registry import KeyOf

MARK_FAMILIES = "vamper.core.marks.families"
NO_MARKS = "none"
# Nearer to the paper's edge a sensor takes the edge for the mark.
LEAST_INSET_MM = 4.0


@dataclass(frozen=True, slots=True)
class MarksSpec:
    """The registration marks of a sheet.

    Parameters
    ----------
    family : str
        Which kind of mark, a key of the families.
    count : int
        3 or 4.
    size_mm, stroke_mm : float
        How large a mark is, and how wide its lines are.
    inset_mm : float
        From the paper's edge to the mark's outer rim.
    clear_mm : float
        How much round it stays unprinted.
    remedies : tuple of Remedy
        What was done so that the marks are read.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    family: Annotated[str, KeyOf(MARK_FAMILIES)] = "corner"
    count: Literal[3, 4] = 4
    size_mm: Annotated[float, Gt(0), Le(100)] = 10.0
    stroke_mm: Annotated[float, Gt(0), Le(10)] = 0.8
    inset_mm: Annotated[float, Ge(0), Le(200)] = 8.0
    clear_mm: Annotated[float, Ge(0), Le(50)] = 2.0
    remedies: Annotated[tuple[Remedy, ...], Len(0, len(Remedy))] = ()

    def __post_init__(self) -> None:
        if self.stroke_mm >= self.size_mm:
            raise ValueError("stroke_mm must be less than size_mm")
