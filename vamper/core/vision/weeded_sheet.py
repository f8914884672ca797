"""A weeded sheet: its pieces still where they were cut, the waste round them peeled off.

The sheet is straightened first, by the marks on the rim that was left, or by its corners. A piece then lies about
where the plan has it; its outline is taken from what differs from the backing close round it, so that uneven light does
not matter. A piece that is not there any more came off with the waste.
"""

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
import shapely
from shapely import affinity
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import placed
from vamper.core.values.pixels import filled
from vamper.core.vision.contours import Background, Field, Lab, background_of, contours_of, distance_from, lab_image
from vamper.core.vision.loose_pieces import LoosePiece, read_piece
from vamper.core.vision.pose import Pose, outer_ring, refine_pose
from vamper.core.vision.print_comparison import WHOLE_FROM
from vamper.core.vision.print_pose import PrintTemplate, item_picture
from vamper.core.vision.rectify import RectifiedPicture
from vamper.core.vision.reference import Pixels, SheetReference

Mask = npt.NDArray[np.bool_]

PX_A_MM = 10.0
# The backing shows between these distances from an edge, whatever the miss of its cut.
_BARE_FROM_MM, _BARE_TO_MM = 0.8, 1.6
# A cut farther from its place than this is not looked for.
_NEAR_MM, _BLURRED_MM = 1.5, 0.3
_FEWEST_PX = 60
# A piece with less than this share of its area in sight is not there, or not told from what it lies on.
_THERE_FROM = 0.5
# What is less than this of it is a crumb; a part of it ends so near to its edge, along so much of that.
_PART_FROM, _FOLLOWS_MM, _FOLLOWED = 0.1, 1.0, 0.4
# An outline farther from a piece's than this, in the mean, is not its own alone, and tells no miss.
_SHAPE_MM = 0.1
# The colour of a rim is that of what is at least half as unlike its backing as the most unlike tenth of it.
_RIM_MM, _MOST_UNLIKE = 0.7, 0.9
_SOFT_MM = 0.2
# A rim that differs less from its backing than this cannot be told from it.
_LEAST_SIGMAS, _RIM_TELLS_DE = 2.0, 1.2
_HARDLY_TOLD = (
    "the pieces can hardly be told from their backing and its shadows in this picture; use a flat scan, or put them "
    "on a dark background and read them as cut pieces"
)


@dataclass(frozen=True)
class WeededSheet:
    """A weeded sheet beside its plan: every piece in sight by its placement, the pieces that are `gone`, the pieces of
    which a part is gone (`torn`), the pieces that cannot be told from the backing (`unclear`), and the straightened
    picture, as the plan reads.
    """

    pieces: tuple[tuple[int, LoosePiece], ...]
    gone: tuple[int, ...]
    torn: tuple[int, ...]
    unclear: tuple[int, ...]
    sheet_picture: Pixels


def weeded_sheet(picture: Pixels, sheet: SheetReference, found: RectifiedPicture) -> WeededSheet:
    """Hold a picture of a weeded sheet, shape (h, w, 3), against its plan.

    Raises
    ------
    BadInput
        If the pieces cannot be told from what they lie on.
    """
    straight = found.sheet_picture(picture, sheet, PX_A_MM)
    if sheet.mirror:
        # Designs are told as they read.
        straight = np.ascontiguousarray(straight[:, ::-1])
    lab = np.asarray(cv2.GaussianBlur(lab_image(straight), (0, 0), _SOFT_MM * PX_A_MM), dtype=np.float32)
    items = {item.item: item for item in sheet.items}
    prints: dict[int, PrintTemplate | None] = {item.item: item_picture(sheet, item) for item in sheet.items}
    edges = [placed(items[one.item].edge, one.x_mm, one.y_mm, one.turn_deg) for one in sheet.pieces]
    every = shapely.STRtree(edges)
    seen, gone, torn, unclear = list[tuple[int, LoosePiece]](), list[int](), list[int](), list[int]()
    for piece, edge in zip(sheet.pieces, edges, strict=True):
        near = [edges[int(one)] for one in every.query(edge.buffer(2 * _BARE_TO_MM)) if edges[int(one)] is not edge]
        there = _thing(lab, edge, near)
        if there is None:
            gone.append(piece.placement)
            continue
        lying = Pose(piece.x_mm, piece.y_mm, piece.turn_deg)
        thing, cut = there, refine_pose(there, items[piece.item], lying, edge.buffer(_NEAR_MM - _BLURRED_MM))
        if cut[0] > _SHAPE_MM or not _whole(thing, edge):
            (torn if _is_torn(there, edge) else unclear).append(piece.placement)
            continue
        meant = prints[piece.item]
        seen.append((piece.placement, read_piece(straight, PX_A_MM, meant, items[piece.item], thing, cut[1])))
    if sheet.pieces and len(unclear) + len(torn) > len(sheet.pieces) / 2:
        raise BadInput(_HARDLY_TOLD, "picture")
    return WeededSheet(tuple(seen), tuple(gone), tuple(torn), tuple(unclear), straight)


def _whole(thing: Polygon, edge: BaseGeometry) -> bool:
    return bool(_THERE_FROM < thing.area / max(outer_ring(edge).area, 1e-9) < 1 / _THERE_FROM)


def _is_torn(thing: Polygon, edge: BaseGeometry) -> bool:
    """Whether what lies there is a part of the piece, and the rest of it is backing: where it was not torn, it ends
    where the piece does.
    """
    whole = outer_ring(edge)
    share = thing.area / max(whole.area, 1e-9)
    followed = shapely.intersection(whole.exterior, thing.exterior.buffer(_FOLLOWS_MM)).length
    return bool(_PART_FROM < share < WHOLE_FROM and followed > _FOLLOWED * whole.length)


def _thing(lab: Lab, edge: BaseGeometry, near: list[BaseGeometry]) -> Polygon | None:
    """The outline (mm) of what lies where a piece should, None where only the backing is."""
    x0, y0, x1, y1 = _window(edge, lab.shape)
    here = lab[y0:y1, x0:x1]
    if min(here.shape[:2]) < 3:
        return None
    bare = _bare(here, _local(edge, x0, y0), [_local(one, x0, y0) for one in near])
    if int(bare.sum()) < _FEWEST_PX:
        return None
    ground = background_of(here[bare])
    rim = _rim(here, _local(edge, x0, y0), ground)
    if rim is None:
        return None
    away, least_de = _field(here, ground, rim, bare)
    away = away * (filled(_local(edge.buffer(_NEAR_MM), x0, y0), away.shape) > 0.5)
    for other in near:
        away = away * (filled(_local(other.buffer(_BARE_FROM_MM), x0, y0), away.shape) < 0.5)
    return _largest(away, least_de, edge, x0, y0)


def _largest(away: Field, least_de: float, edge: BaseGeometry, x0: int, y0: int) -> Polygon | None:
    to_sheet = (1, 0, 0, 1, x0 / PX_A_MM, y0 / PX_A_MM)
    found = [affinity.affine_transform(one, to_sheet) for one, _ in contours_of(away, least_de, PX_A_MM)]
    return max(found, key=lambda one: float(shapely.area(shapely.intersection(one, edge))), default=None)


def _rim(here: Lab, edge: BaseGeometry, ground: Background) -> npt.NDArray[np.float64] | None:
    """The colour of a piece just inside its edge, wherever it is not torn off."""
    rim = filled(edge, here.shape[:2]) > 0.5
    rim &= filled(edge.buffer(-_RIM_MM * PX_A_MM), here.shape[:2]) < 0.5
    if not rim.any():
        return None
    inside = here[rim]
    apart = np.linalg.norm(inside - ground.lab, axis=-1)
    unlike = inside[apart >= np.quantile(apart, _MOST_UNLIKE) / 2]
    return np.asarray(np.median(unlike, axis=0), dtype=float)


def _field(here: Lab, ground: Background, rim: npt.NDArray[np.float64], bare: Mask) -> tuple[Field, float]:
    """How far every pixel is from the backing, and from where on it is a piece."""
    unlike = rim - ground.lab
    in_light = float(np.linalg.norm(unlike - ground.shade_of(unlike) * ground.lighter))
    away = distance_from(here, ground, shaded=True)
    if in_light > max(_RIM_TELLS_DE, _LEAST_SIGMAS * float(np.median(away[bare]))):
        return away, in_light / 2
    # A rim of the backing's own colour, only darker, can be told from it, but not from a shadow.
    away, apart = distance_from(here, ground), float(np.linalg.norm(unlike))
    if apart > max(_RIM_TELLS_DE, _LEAST_SIGMAS * ground.usual_de):
        return away, apart / 2
    return away, ground.least_de


def _bare(here: Lab, edge: BaseGeometry, near: list[BaseGeometry]) -> Mask:
    """Where the backing shows close round a piece."""
    bare = filled(edge.buffer(_BARE_TO_MM * PX_A_MM), here.shape[:2]) > 0.5
    for shape in (edge, *near):
        bare &= filled(shape.buffer(_BARE_FROM_MM * PX_A_MM), here.shape[:2]) < 0.5
    return np.asarray(bare)


def _window(edge: BaseGeometry, size: tuple[int, ...]) -> tuple[int, int, int, int]:
    left, top, right, bottom = (side * PX_A_MM for side in edge.bounds)
    rim = 2 * _BARE_TO_MM * PX_A_MM
    return (
        max(0, int(left - rim)),
        max(0, int(top - rim)),
        min(size[1], int(right + rim) + 1),
        min(size[0], int(bottom + rim) + 1),
    )


def _local(shape: BaseGeometry, x0: int, y0: int) -> BaseGeometry:
    return shapely.transform(shape, lambda points: points * PX_A_MM - (x0, y0))
