"""A design worked out: everything about one item that comes before it lies on a sheet."""

from dataclasses import dataclass, replace

from vamper.core.art.bent import Bend
from vamper.core.art.inspect import ArtFacts
from vamper.core.art.outline import Outline
from vamper.core.edge.edge import Edge
from vamper.core.edge.inspect import EdgeFacts
from vamper.core.printing.bleed import Bleed
from vamper.core.sheet.layout import Piece
from vamper.core.values.art import SizeSpec
from vamper.core.values.item import ItemSpec
from vamper.core.values.miss import STARTER_MISS_MM


@dataclass(frozen=True, slots=True)
class DesignedItem:
    """A design with its outline and edge, what was seen on it, and its bleed.

    Parameters
    ----------
    spec, asked : ItemSpec, ItemSpec or None
        The design as it is made, and as the maker asked for it where it was bent or enlarged since.
    size : SizeSpec
        That of its inked area, from which its picture can be had again: pixels take too much room to be kept.
    outline, edge, bleed : Outline, Edge, Bleed
        In the item frame, mm.
    facts, edge_facts : ArtFacts, EdgeFacts
        What was seen on the picture, and along the edge.
    miss_mm : float
        What 95 of 100 of its pieces miss by less than: the sheet's worst before packing, that of its own pieces after.
    bend : Bend or None
        How it was bent for the cup that it goes on.
    middle : (float, float) or None
        For a part of a drawing, the middle of the whole drawing.
    """

    spec: ItemSpec
    size: SizeSpec
    outline: Outline
    edge: Edge
    facts: ArtFacts
    edge_facts: EdgeFacts
    bleed: Bleed
    miss_mm: float = STARTER_MISS_MM
    bend: Bend | None = None
    middle: tuple[float, float] | None = None
    asked: ItemSpec | None = None

    def missing_by(self, miss_mm: float) -> "DesignedItem":
        """The same where its pieces miss by so much."""
        if miss_mm == self.miss_mm:
            return self
        return replace(self, miss_mm=miss_mm, bleed=self.bleed.for_miss(miss_mm))

    @property
    def as_asked(self) -> ItemSpec:
        """The design as the maker asked for it."""
        return self.asked or self.spec

    @property
    def number(self) -> int:
        return self.spec.number

    def piece(self, printed: bool) -> Piece:
        """The piece that packing gets of it."""
        spec = self.spec
        bleed_mm = self.bleed.width_mm if printed else 0.0
        return Piece(
            item=spec.number,
            edge=self.edge.shape,
            quantity=spec.quantity,
            cut=spec.cut,
            bleed_mm=bleed_mm,
            turn=spec.turn,
            fill_priority=spec.fill_priority,
            sheet_colour=spec.sheet_colour,
        )
