"""Cut pieces on a plain ground: which design each is, and how far its cut lies from its print.

What differs from the ground is outlined between pixels. Each thing is held against every design's edge: same area, then
the turn and place that bring both outlines together best (first coarsely over all turns, then step by step to the
nearest points). That gives the cut. Where the print is known its picture is brought onto the piece by its colours (the
same turn and move for all of it); how far the outline then lies from where the edge should be is the miss, and what is
left between drawing and outline is the border.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.values.findings import BadInput
from vamper.core.values.units import MM_PER_INCH
from vamper.core.vision.contours import foreground_contours
from vamper.core.vision.pose import ALIKE_MM, Pose, candidate_poses, outer_ring, rotation_matrix
from vamper.core.vision.print_pose import PrintTemplate, best_match, item_picture, print_pose
from vamper.core.vision.reference import ItemReference, Pixels, SheetReference

# Where a turn would move what is told of a piece by less than this, it does not matter.
_SAME_MM = 0.1


class UnsureReason(StrEnum):
    """Why it cannot be told how far a cut lies from its print."""

    FAINT = "faint"
    TURNED = "turned"


@dataclass(frozen=True)
class LoosePiece:
    """A cut piece that was found in a scan.

    Parameters
    ----------
    item : int
        The design's number.
    pose : Pose
        Where its print lies in the scan; where its cut lies, if no print was found.
    off_mm : (float, float) or None
        From print to cut in the item frame; None where no print was found.
    border_least_mm : float
        The narrowest border that was left.
    area_share : float
        Its area, of what was planned.
    outline : shapely geometry
        The cut line, mm, in the scan's frame.
    unsure : UnsureReason or None
        Why `off_mm` is a guess: the print is faint, or the piece looks the same when it is turned.
    """

    item: int
    pose: Pose
    off_mm: tuple[float, float] | None
    border_least_mm: float
    area_share: float
    outline: BaseGeometry
    unsure: UnsureReason | None = None

    @property
    def surely_off_mm(self) -> tuple[float, float] | None:
        """Where the cut lies from the print, if that is no guess."""
        return self.off_mm if self.unsure is None else None

    @property
    def away_mm(self) -> float | None:
        """How far the cut lies from the print, if that is no guess."""
        return None if self.off_mm is None or self.unsure is UnsureReason.FAINT else math.hypot(*self.off_mm)


@dataclass(frozen=True)
class LoosePieces:
    """All that lies on the ground; `unknown` things fit no design."""

    pieces: tuple[LoosePiece, ...]
    unknown: tuple[BaseGeometry, ...]


def loose_pieces(picture: Pixels, ppi: float, sheet: SheetReference) -> LoosePieces:
    """Tell which design each piece in a flat scan is, and how far its cut lies from its print.

    Parameters
    ----------
    picture : ndarray of uint8, shape (h, w, 3)
        The scan, RGB.
    ppi : float
        Its resolution, pixels an inch.
    sheet : SheetReference
        The sheet that the pieces were cut from.

    Raises
    ------
    BadInput
        If nothing lies on the ground, or the ground is not plain.
    """
    px_a_mm = ppi / MM_PER_INCH
    prints = {item.item: item_picture(sheet, item) for item in sheet.items}
    found, unknown = list[LoosePiece](), list[BaseGeometry]()
    for thing in foreground_contours(picture, px_a_mm):
        could_be = [(poses, item) for item in sheet.items for poses in (candidate_poses(thing, item),) if poses]
        if not could_be:
            unknown.append(thing)
            continue
        # Designs of one shape are told apart by their print.
        least = min(poses[0][0] for poses, _ in could_be)
        alike = [(item, pose) for poses, item in could_be if poses[0][0] <= least + ALIKE_MM for _, pose in poses]
        told = best_match(picture, px_a_mm, prints, alike)
        piece = read_piece(picture, px_a_mm, prints[told.item.item], told.item, thing, told.cut)
        found.append(_with_turns(piece, told.or_turned_deg))
    if not found and not unknown:
        raise BadInput(
            "no pieces are to be seen in this picture; put them on a background of another colour", "picture"
        )
    return LoosePieces(tuple(found), tuple(unknown))


def read_piece(
    scan: Pixels, px_a_mm: float, meant: PrintTemplate | None, item: ItemReference, thing: Polygon, cut: Pose
) -> LoosePiece:
    """One piece, with where its print lies, if that is known."""
    edge = outer_ring(item.edge)
    share = float(thing.area / edge.area)
    drawn = shapely.intersection(item.outline, item.edge)
    if meant is None:
        return LoosePiece(item.item, cut, None, _least_border(thing, cut.of(drawn)), share, thing)
    place = print_pose(scan, px_a_mm, meant, cut)
    pose = place.pose
    middle = shapely.get_coordinates(edge.centroid)[0]
    at_cut = shapely.get_coordinates(cut.of(edge.centroid))[0]
    back = rotation_matrix(-math.radians(pose.turn_deg))
    dx, dy = back @ (at_cut - (pose.x_mm, pose.y_mm)) - middle
    border, off = _least_border(thing, pose.of(drawn)), (float(dx), float(dy))
    return LoosePiece(item.item, pose, off, border, share, thing, None if place.is_sure else UnsureReason.FAINT)


def _with_turns(piece: LoosePiece, turns_deg: Sequence[float]) -> LoosePiece:
    """A piece that may as well lie turned: its cut would be off another way in each."""
    if piece.surely_off_mm is None:
        return piece
    apart = [2 * math.hypot(*piece.surely_off_mm) * abs(math.sin(math.radians(turn) / 2)) for turn in turns_deg]
    return replace(piece, unsure=UnsureReason.TURNED) if max(apart, default=0.0) > _SAME_MM else piece


def _least_border(cut: Polygon, drawing: BaseGeometry) -> float:
    """The least distance of the cut from the drawing; how far it cuts into it, negative."""
    if cut.covers(drawing):
        return float(shapely.distance(cut.exterior, drawing))
    outside = shapely.get_coordinates(shapely.difference(drawing, cut))
    return -float(shapely.distance(shapely.points(outside), cut).max(initial=0.0))
