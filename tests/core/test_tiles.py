"""A piece in parts: as few as fit, seams where the least is drawn, and together the whole again."""

from itertools import pairwise

import numpy as np
import pytest
import shapely
from hypothesis import example, given
from hypothesis import strategies as st

from tests.conftest import picture_of
from tests.scenes import item, scene
from tests.tried import tried
from vamper.core.art.outline import Outline, outline_at, trace
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.edge.tile import tile_counts, tiled, tiles_of
from vamper.core.values.art import SizeSpec
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import as_multi
from vamper.core.values.item import Tile, Turn


def banner(width_mm: float = 500.0, distance_mm: float = 3.0) -> tuple[Outline, Edge]:
    """A strip 1000 px wide and 100 high, thick but for a thin neck at 480 to 520 px."""
    alpha = np.zeros((140, 1040))
    alpha[20:120, 20:1020] = 1
    alpha[20:60, 500:540] = 0
    alpha[80:120, 500:540] = 0
    outline = outline_at(trace(picture_of(alpha)), SizeSpec(width_mm=width_mm))
    return outline, derive_edge(outline, EdgeSpec(distance_mm=distance_mm), 1.0)


def test_the_seam_lies_where_the_least_is_drawn() -> None:
    outline, edge = banner()
    left, right = tiles_of(outline, edge, (280, 200), Turn.UPRIGHT, 3)
    middle = (left.right + right.left) / 2 * 500
    assert middle == pytest.approx(250, abs=9)
    assert (left.right - right.left) * 500 == pytest.approx(3, abs=0.01)
    assert (left.left, right.right, left.top, left.bottom) == (0, 1, 0, 1)


@pytest.mark.parametrize(
    ("room", "turn", "counts"),
    [
        ((280, 200), Turn.UPRIGHT, (2, 1)),
        ((200, 280), Turn.UPRIGHT, (3, 1)),
        # Turned, the long side takes fewer.
        ((200, 280), Turn.ANY, (2, 1)),
        ((140, 45), Turn.UPRIGHT, (4, 2)),
        ((30, 30), Turn.UPRIGHT, None),
    ],
)
def test_as_few_parts_as_fit(room: tuple[float, float], turn: Turn, counts: tuple[int, int] | None) -> None:
    _, edge = banner()
    assert tile_counts(edge, room, turn, 3) == counts


@tried(100)
@given(st.floats(150, 480), st.floats(0, 20))
@example(253.0, 0.0)
@example(170.75, 3.0)
@example(253.0, 9.53983666264641)
def test_every_part_fits_and_together_they_are_the_whole(room: float, overlap: float) -> None:
    outline, edge = banner()
    tiles = tiles_of(outline, edge, (room, 120), Turn.UPRIGHT, overlap)
    pieces = []
    for tile in tiles:
        part, rim = tiled(outline, edge, tile)
        assert rim.size_mm[0] <= room + 0.02
        assert shapely.is_valid(rim.shape)
        left, top = [(a - b) * part.mm_per_px for a, b in zip(part.origin_px, outline.origin_px, strict=True)]
        assert part.shape.bounds[:2] == pytest.approx((0, 0), abs=1e-6)
        pieces.append(shapely.transform(rim.shape, lambda points, at=(left, top): points + at))
    together = shapely.union_all(pieces)
    assert shapely.area(shapely.symmetric_difference(together, edge.shape)) < 0.5
    for first, second in pairwise(pieces):
        lap = shapely.intersection(first, second)
        assert (0 if lap.is_empty else lap.bounds[2] - lap.bounds[0]) == pytest.approx(overlap, abs=0.02)


def test_what_fits_or_is_hopeless_is_told() -> None:
    outline, edge = banner()
    with pytest.raises(BadInput, match="fits on the sheet in one piece"):
        tiles_of(outline, edge, (600, 200), Turn.UPRIGHT, 3)
    with pytest.raises(BadInput, match="more than 12 pieces"):
        tiles_of(outline, edge, (30, 30), Turn.UPRIGHT, 3)
    with pytest.raises(BadInput, match="nothing is drawn"):
        tiled(outline, edge, Tile(0.485, 0.0, 0.51, 0.3))


def test_a_piece_larger_than_the_sheet_offers_parts_beside_a_smaller_size() -> None:
    finding = next(f for f in scene(item(width_mm=300.0)).findings() if f.code == "art.too-big")
    labels = [fix.label for fix in finding.fixes]
    assert labels[0].startswith("Set to ")
    assert labels[1] == "Make it in 4 pieces"
    assert "2 by 2" in finding.fixes[1].effect


@pytest.mark.parametrize("count", [2, 3, 5])
def test_what_just_fits_takes_no_tile_more(count: int) -> None:
    overlap, room = 10.0, 100.1
    length = overlap + count * (room - overlap)
    for more, expected in ((0.0, count), (0.01, count + 1)):
        just = Edge(as_multi([shapely.box(0, 0, length + more, 50.0)]), 0.0, ())
        assert tile_counts(just, (room, 60.0), Turn.UPRIGHT, overlap) == (expected, 1)
