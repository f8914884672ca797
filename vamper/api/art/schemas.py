"""Designs on the wire: shapes as SVG path data in mm, y down."""

from typing import Annotated, Any

from pydantic import BaseModel, Field

from vamper.api.places import SizeOut
from vamper.api.request_checks import Number
from vamper.core.values.cut import Cut
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import Place
from vamper.core.values.finish import BlankSpec
from vamper.core.values.limits import ONE_LINE, Point


class RingOut(BaseModel):
    """One ring of the border with all inside it, outermost first; `colour` None for bare stock."""

    path: str
    colour: str | None


class HoleOut(BaseModel):
    """A hole of the drawing: whether the blade cuts it out, and a point in it, in shares of the drawing's box."""

    path: str
    open: bool
    at: list[float]


class HoleAt(BaseModel):
    """A point in a hole, in shares of the drawing's box."""

    at: Point


class ItemOut(BaseModel):
    """One design, item frame: origin at the top left of the inked area's box. Shapes travel as SVG path data, mm."""

    revision: str
    number: int
    name: str
    art: str
    cut: Cut
    size: SizeOut
    edge_size: SizeOut
    edge_box: Place
    picture_box: Place
    ppi: float | None
    """The resolution as it is drawn; None for what is sharp at any size."""
    picture: str
    """Address of the prepared picture; `&px=` and a number of pixels may follow."""
    pages: int
    composed: bool
    rings: list[RingOut]
    holes: list[HoleOut]
    bleed_mm: float
    bleed_path: str
    printed_box: Place | None
    """Where the picture of what is printed, bleed included, lies; None where there is no bleed."""
    look: str
    """Changes whenever what is printed changes; may be added to the address of the printed picture."""
    least_border_mm: float
    edge_length_mm: float
    area_cm2: float
    outline_path: str
    edge_path: str
    parts: int


class EdgeTrial(BaseModel):
    """Fields of one design to try, dotted where nested."""

    changes: dict[str, Any]


class CandidateOut(BaseModel):
    name: str
    path: str
    box: Place
    area_cm2: float
    chosen: bool
    fingers: int
    changes: dict[str, Any]


class ShapesOut(BaseModel):
    """The shapes that a border could have. `manner` is what Vamper proposes, close or smooth, and `why`; `ease` is how
    the piece handles as it is now.
    """

    ease: str
    area_cm2: float
    manner: str
    why: str
    candidates: list[CandidateOut]


class Apart(BaseModel):
    apart_mm: Annotated[float, Field(gt=0, le=3000)]


class Overlap(BaseModel):
    overlap_mm: Annotated[float, Field(ge=0, le=50)]


class CoverBlank(BaseModel):
    """The designs that are to cover a blank."""

    item_numbers: Annotated[list[Number], Field(min_length=1, max_length=1000)]
    blank: BlankSpec


class FromAfarOut(BaseModel):
    """How high a design's lowest letters are (`as_whole`: none were told from the drawing), from how far they are read,
    and the size at which they would be from so far as was asked.
    """

    letters_mm: float
    as_whole: bool
    from_m: float
    wanted: SizeOut


class WantedOut(BaseModel):
    """From which size of its longer side on a stock holds a drawing; None where no size is known."""

    stock: str
    name: str
    from_mm: float | None
    holds: bool


class GroupsOut(BaseModel):
    apart_mm: float
    boxes: list[Place]


class NewEdgeStyle(BaseModel):
    name: Annotated[str, Field(min_length=1, max_length=60), ONE_LINE]
    edge: EdgeSpec
