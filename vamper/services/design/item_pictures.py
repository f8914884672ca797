"""The pixels of designs: all of them, and as many as a screen or a scan shows."""

from vamper.core.art.picture import Picture
from vamper.core.design import DesignedItem
from vamper.core.values.units import pixels_at
from vamper.formats.art_in.raster import shown_pixels
from vamper.services.design.art_reading import PREVIEW_PX
from vamper.services.design.arts import Arts
from vamper.services.design.designer import Designer


class ItemPictures:
    """The pictures of one workshop's designs; `seen_ppi` is as fine as the simulated devices look."""

    def __init__(self, arts: Arts, designer: Designer, seen_ppi: float) -> None:
        self._arts = arts
        self._designer = designer
        self._seen_ppi = seen_ppi

    def whole(self, item: DesignedItem) -> Picture:
        """A design's pixels."""
        return self._designer.picture_of(item, self._arts.file(item.spec.art))

    def shown(self, item: DesignedItem) -> Picture:
        """A design's pixels as they are shown, which is fine enough for a scan; all of them where it is large."""
        longest_mm = max(item.outline.picture_box_mm[2:])
        if max(PREVIEW_PX) < pixels_at(longest_mm, self._seen_ppi):
            return self.whole(item)
        data = self._designer.preview(self._arts.file(item.spec.art), max(PREVIEW_PX), item.spec.prepare)
        return Picture(shown_pixels(data))
