"""Cut pieces on a plain ground: which design each is, and how far its cut lies from its print.

What differs from the ground is outlined between pixels. Each thing is held against every design's edge: same area, then
the turn and place that bring both outlines together best (first coarsely over all turns, then step by step to the
nearest points). That gives the cut. Where the print is known its picture is brought onto the piece by its colours (the
same turn and move for all of it); how far the outline then lies from where the edge should be is the miss, and what is
left between drawing and outline is the border.
"""

import math
from dataclasses import dataclass

import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.ledger.fitting import ALIKE_MM, Pose, fits, outer, rotation
from vamper.core.ledger.outlined import things
from vamper.core.ledger.planned import Pixels, PlannedItem, PlannedSheet
from vamper.core.ledger.print_under import Grey, Print, best_by_print, grey_of, item_picture, print_pose
from vamper.core.values.findings import BadInput
from vamper.core.values.units import MM_PER_INCH


@dataclass(frozen=True)
class LoosePiece:
    """One cut piece. `pose` is that of its print, the cut's where no print is known; `off_mm` is where the cut lies
    from the print, in the design's own frame, None where no print is known.
    """

    item: int
    pose: Pose
    off_mm: tuple[float, float] | None
    border_least_mm: float
    area_share: float
    outline: BaseGeometry


@dataclass(frozen=True)
class LoosePieces:
    """All that lies on the ground; `unknown` things fit no design."""

    pieces: tuple[LoosePiece, ...]
    unknown: tuple[BaseGeometry, ...]


def loose_pieces(picture: Pixels, ppi: float, sheet: PlannedSheet) -> LoosePieces:
    """Tell the pieces in a flat scan, shape (h, w, 3), by the designs of a sheet.

    Raises
    ------
    BadInput
        If nothing lies on the ground, or the ground is not plain.
    """
    px_a_mm, scan = ppi / MM_PER_INCH, grey_of(picture)
    prints = {item.item: item_picture(sheet, item) for item in sheet.items}
    found, unknown = list[LoosePiece](), list[BaseGeometry]()
    for thing in things(picture, px_a_mm):
        could_be = [(poses, item) for item in sheet.items for poses in (fits(thing, item),) if poses]
        if not could_be:
            unknown.append(thing)
            continue
        # Designs of one shape are told apart by their print.
        least = min(poses[0][0] for poses, _ in could_be)
        alike = [(item, pose) for poses, item in could_be if poses[0][0] <= least + ALIKE_MM for _, pose in poses]
        item, cut = best_by_print(scan, px_a_mm, prints, alike)
        found.append(read_piece(scan, px_a_mm, prints[item.item], item, thing, cut))
    if not found and not unknown:
        raise BadInput("nothing lies on the ground in this picture; lay the pieces on a ground unlike them", "picture")
    return LoosePieces(tuple(found), tuple(unknown))


def read_piece(
    scan: Grey, px_a_mm: float, meant: Print | None, item: PlannedItem, thing: Polygon, cut: Pose
) -> LoosePiece:
    """One piece, with where its print lies, if that is known."""
    pose = None if meant is None else print_pose(scan, px_a_mm, meant, cut)
    edge = outer(item.edge)
    share = float(thing.area / edge.area)
    lying = pose if pose is not None else cut
    border = _least_border(thing, lying.of(shapely.intersection(item.outline, item.edge)))
    off = None
    if pose is not None:
        middle = shapely.get_coordinates(edge.centroid)[0]
        at_cut = shapely.get_coordinates(cut.of(edge.centroid))[0]
        back = rotation(-math.radians(pose.turn_deg))
        dx, dy = back @ (at_cut - (pose.x_mm, pose.y_mm)) - middle
        off = (float(dx), float(dy))
    return LoosePiece(item.item, lying, off, border, share, thing)


def _least_border(cut: Polygon, drawing: BaseGeometry) -> float:
    """The least distance of the cut from the drawing; how far it cuts into it, negative."""
    if cut.covers(drawing):
        return float(shapely.distance(cut.exterior, drawing))
    outside = shapely.get_coordinates(shapely.difference(drawing, cut))
    return -float(shapely.distance(shapely.points(outside), cut).max(initial=0.0))
