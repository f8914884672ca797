"""A design as it would be, fast enough to follow a slider: exact to a few hundredths of a millimetre, nothing kept.

The picture is thinned out, its outline has few points, and nothing is looked for that only findings need. What is saved
later is designed in full.
"""

from dataclasses import replace

from vamper.core.art.inspect import ArtFacts
from vamper.core.art.outline import Outline, Tracing, outline_at
from vamper.core.art.picture import Picture
from vamper.core.art.surface import Surface
from vamper.core.design import DesignedItem
from vamper.core.edge.edge import derive_edge
from vamper.core.edge.inspect import EdgeFacts
from vamper.core.printing.bleed import bleed_for
from vamper.core.values.art import SizedOver
from vamper.core.values.geometry import as_multi, parts
from vamper.core.values.item import ItemSpec
from vamper.core.values.stock import Stock
from vamper.services.design.art_reading import prepared_tracing
from vamper.services.design.designer import ArtFile, Designer, pixels_key
from vamper.services.work.cache import Cache

LONGEST_PX = 1200
THIN_MM = 0.03
_UNSEEN = Surface(0.0, 0.0, None)
_KEPT_BYTES = 60 * 2**20
_KEPT_TRACINGS = 40


class Trials:
    """Tries designs; shares what the designer has decoded already."""

    def __init__(self, designer: Designer) -> None:
        self._designer = designer
        self._pictures: Cache[tuple[Picture, int]] = Cache(_KEPT_BYTES, lambda kept: kept[0].rgba.nbytes)
        self._tracings: Cache[Tracing] = Cache(_KEPT_TRACINGS)

    def design(self, spec: ItemSpec, art: ArtFile, stock: Stock) -> DesignedItem:
        """The design with its edge and bleed; its facts are empty."""
        moved = spec.tile is not None or spec.wrap is not None or stock.shrink is not None
        if moved or spec.size.size_over is SizedOver.BORDER:
            # Working back from the border takes several edges, a tile is seen from the whole, a cup bends it anew, and
            # what shrinks is made larger; settled in full.
            return self._designer.design(spec, art, stock)
        outline = self._outline(spec, art)
        edge = derive_edge(outline, spec.edge, stock.least_neck_mm)
        picture = self._designer.decoded(art, spec.size, spec.prepare.page)
        bleed = bleed_for(picture, outline, edge, spec.edge, stock.colour, spec.bleed_mm)
        facts = ArtFacts(_UNSEEN, (), (), None, is_vector=picture.is_vector, embedded=picture.embedded)
        return DesignedItem(spec, spec.size, outline, edge, facts, EdgeFacts(stock.least_neck_mm), bleed)

    def _outline(self, spec: ItemSpec, art: ArtFile) -> Outline:
        """The outline with few points, in the pixels of the whole picture."""
        size, prepare = spec.size, spec.prepare
        key = pixels_key(art, size, prepare.page)
        small, every = self._pictures.get(
            key, lambda: self._designer.decoded(art, size, prepare.page).thinned(LONGEST_PX)
        )
        tracing = self._tracings.get((key, prepare), lambda: self._designer.room.run(prepared_tracing, small, prepare))
        rough = outline_at(tracing, size)
        shape = as_multi(parts(rough.shape.simplify(THIN_MM)))
        across, down = rough.picture_px
        left, top = rough.origin_px
        return replace(
            rough,
            shape=shape,
            mm_per_px=rough.mm_per_px / every,
            origin_px=(left * every, top * every),
            picture_px=(across * every, down * every),
        )
