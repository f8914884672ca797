"""A design worked out: everything about one item that comes before it lies on a sheet."""

from dataclasses import dataclass

from vamper.core.art.inspect import ArtFacts
from vamper.core.art.outline import Outline
from vamper.core.edge.edge import Edge
from vamper.core.edge.inspect import EdgeFacts
from vamper.core.printing.bleed import Bleed
from vamper.core.sheet.layout import Piece
from vamper.core.values.art import SizeSpec
from vamper.core.values.item import ItemSpec


@dataclass(frozen=True, slots=True)
class DesignedItem:
    """An item with its outline and edge, what was seen on it, and its bleed. `size` is that of its inked area, from
    which its picture can be had again: pixels take too much room to be kept with every design.
    """

    spec: ItemSpec
    size: SizeSpec
    outline: Outline
    edge: Edge
    facts: ArtFacts
    edge_facts: EdgeFacts
    bleed: Bleed

    @property
    def number(self) -> int:
        return self.spec.number

    def piece(self, printed: bool) -> Piece:
        """What packing needs to know of it."""
        spec = self.spec
        bleed_mm = self.bleed.width_mm if printed else 0.0
        return Piece(
            spec.number, self.edge.shape, spec.quantity, spec.cut, bleed_mm, spec.turn, spec.wish, spec.sheet_colour
        )
