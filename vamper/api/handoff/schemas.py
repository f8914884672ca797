"""What is handed over, on the wire."""

import shapely
from pydantic import BaseModel

from vamper.api.places import SizeOut, size_out
from vamper.formats.svg_path import shape_path
from vamper.services.handoff.found_cut import FoundCut

_FINE_MM = 0.05


class FoundCutOut(BaseModel):
    """The outlines that a machine's own program will find to cut, in the frame of its picture; `off_mm` is how far that
    is from the planned edges at most, nothing where pieces ran together or fell apart.
    """

    size: SizeOut
    width_px: int
    height_px: int
    path: str
    found: int
    planned: int
    off_mm: float | None


def found_cut_out(found: FoundCut) -> FoundCutOut:
    return FoundCutOut(
        size=size_out(found.size_mm),
        width_px=found.size_px[0],
        height_px=found.size_px[1],
        path=shape_path(shapely.simplify(found.shape, _FINE_MM), 2),
        found=found.found,
        planned=found.planned,
        off_mm=found.off_mm,
    )
