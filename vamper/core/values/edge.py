"""What is asked of an edge: its kind, how far it lies from the drawing, and what the border looks like."""

from dataclasses import dataclass
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le, Len

from vamper.core.values.limits import STRICT, Colour, Point
from vamper.core.values.registry import KeyOf, kinds_in

EDGE_KINDS = "vamper.core.edge.kinds"
MOST_KEPT_HOLES = 200


@dataclass(frozen=True, slots=True)
class RingSpec:
    """One ring of a border that is a stack; `colour` is #RRGGBB, None for bare stock."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    width_mm: Annotated[float, Gt(0), Le(50)]
    colour: Colour | None = None


@dataclass(frozen=True, slots=True)
class EdgeSpec:
    """How the edge is derived from the outline. Each kind has its own range of `distance_mm`, and uses some fields.

    Parameters
    ----------
    kind : str
        The name of an edge kind.
    distance_mm : float
        The width of the border; negative inside the drawing.
    smooth_mm : float
        The radius to which hollows are smoothed: no notch is tighter.
    fill_holes, keep_holes : bool, tuple of Point
        Whether holes are closed, and holes that stay open all the same: each by a point in it, in shares of the inked
        area's box.
    join : bool
        Whether separate parts are joined to one piece.
    corner_mm, fillet_mm : float
        The corner radius of `rounded`, and that of all other kinds.
    colour : Colour or None
        The border's colour; None for bare stock.
    rings : tuple of RingSpec
        Borders in several colours, from the drawing outwards; they stand in the place of `distance_mm` and `colour`.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    kind: Annotated[str, KeyOf(EDGE_KINDS)] = "follow"
    distance_mm: Annotated[float, Ge(-20), Le(50)] = 3.0
    smooth_mm: Annotated[float, Ge(0), Le(50)] = 2.0
    fill_holes: bool = True
    join: bool = True
    corner_mm: Annotated[float, Ge(0), Le(100)] = 3.0
    colour: Colour | None = None
    fillet_mm: Annotated[float, Ge(0), Le(50)] = 0.0
    keep_holes: Annotated[tuple[Point, ...], Len(0, MOST_KEPT_HOLES)] = ()
    rings: Annotated[tuple[RingSpec, ...], Len(0, 6)] = ()

    def __post_init__(self) -> None:
        kinds_in(EDGE_KINDS)[self.kind].check(self)

    @property
    def follows(self) -> bool:
        """Whether the edge goes along the drawing, in and out."""
        return bool(kinds_in(EDGE_KINDS)[self.kind].follows)

    @property
    def has_border(self) -> bool:
        """Whether the edge lies outside the drawing."""
        return bool(kinds_in(EDGE_KINDS)[self.kind].has_border)

    def uses(self, field: str) -> bool:
        """Whether the edge depends on one of the other fields."""
        return field in kinds_in(EDGE_KINDS)[self.kind].uses

    @property
    def reach_mm(self) -> float:
        """From the drawing to the edge."""
        return sum(ring.width_mm for ring in self.rings) if self.rings else self.distance_mm

    @property
    def stack(self) -> tuple[RingSpec, ...]:
        """The border as rings, from the drawing outwards."""
        return self.rings or (RingSpec(max(0.0, self.distance_mm), self.colour),)
