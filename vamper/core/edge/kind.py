"""What a kind of edge is: how it is derived, what of a specification it uses, and the words it goes by.

Each kind is a module in `kinds`; adding one touches nothing else.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.values.edge import EDGE_KINDS, EdgeSpec
from vamper.core.values.registry import Registry

# How far sliders go out, mm; more may be typed. A kind has a range of its own for its distance.
SLIDER_MM = 12.0
SLIDERS_MM = {"smooth_mm": 10.0, "corner_mm": 20.0, "fillet_mm": 10.0}


@dataclass(frozen=True, slots=True)
class Derived:
    """An edge as its kind makes it, with what was done on the way.

    Parameters
    ----------
    shape : shapely geometry
        The edge, mm, item frame.
    tied, apart : int
        Parts that joining held together, and parts that there would be without it.
    bridges : tuple of Polygon
        The ties that joining added.
    filled, closed : tuple of Polygon
        Holes that filling closed, and holes that were to be kept but are narrower than the border.
    deepest_mm : float or None
        How far in an inset could go, where it left nothing.
    """

    shape: BaseGeometry
    tied: int = 0
    apart: int = 1
    bridges: tuple[Polygon, ...] = ()
    filled: tuple[Polygon, ...] = ()
    closed: tuple[Polygon, ...] = ()
    deepest_mm: float | None = None


@dataclass(frozen=True, slots=True)
class EdgeKind:
    """One kind of edge.

    Parameters
    ----------
    key, place : str, int
        Its code, and where it stands in a list of all kinds.
    phrase, hint : str
        What it is called in a sentence, and one line on what it does.
    derive : callable
        From a drawing, its specification and the stock's least neck (mm) to the edge.
    uses : tuple of str
        The fields of `EdgeSpec` it looks at, beyond its distance and colour.
    card : str
        Its name among the shapes that are offered to choose from; "" for the one that is offered close and smooth.
    follows : bool
        Whether it goes along the drawing, in and out; the others are chosen for a shape of their own.
    has_border : bool
        Whether it lies outside the drawing.
    range_mm, start_mm : float
        What a slider offers, and where a border of this kind starts.
    rule : str
        What to say where the distance does not suit.
    """

    key: str
    place: int
    phrase: str
    hint: str
    derive: Callable[[MultiPolygon, EdgeSpec, float], Derived]
    uses: tuple[str, ...] = ("rings",)
    card: str = ""
    follows: bool = False
    has_border: bool = True
    range_mm: tuple[float, float] = (0.0, SLIDER_MM)
    start_mm: float = 3.0
    rule: str = "only bare takes a negative distance_mm"

    def check(self, spec: EdgeSpec) -> None:
        """Raise `ValueError` where a specification does not suit this kind."""
        suits = spec.distance_mm >= 0 if self.has_border else spec.distance_mm <= 0 and not spec.rings
        if not suits:
            raise ValueError(self.rule)


KINDS: Registry[EdgeKind] = Registry(EDGE_KINDS)


def kind_of(spec: EdgeSpec) -> EdgeKind:
    return KINDS[spec.kind]


def enlarged(spec: EdgeSpec, factor: float) -> EdgeSpec:
    """The same edge round a drawing that is so many times as large."""
    return replace(
        spec,
        distance_mm=spec.distance_mm * factor,
        smooth_mm=spec.smooth_mm * factor,
        corner_mm=spec.corner_mm * factor,
        fillet_mm=spec.fillet_mm * factor,
        rings=tuple(replace(ring, width_mm=ring.width_mm * factor) for ring in spec.rings),
    )


def along_with_kind(before: EdgeSpec, kind: EdgeKind) -> dict[str, object]:
    """The fields that a change to another kind brings along: a kind without a border has no distance, and where there
    was none there is the usual distance.
    """
    if before.has_border is kind.has_border:
        return {}
    return {"distance_mm": kind.start_mm} | ({} if kind.has_border else {"rings": ()})
