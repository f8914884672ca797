"""Places for one more piece, whatever lies there: in the live area, clear of all others, and found if there is one."""

import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import box

from tests.tried import tried
from vamper.core.sheet.lay.drawn_pieces import DrawnPieces
from vamper.core.sheet.lay.free_space import FreeSpace, filled_up
from vamper.core.sheet.layout import Piece
from vamper.core.values.geometry import as_multi
from vamper.core.values.item import Turn
from vamper.core.values.placement import Placement

LIVE = box(12, 9, 152, 119)


def square(number: int, side: float, quantity: int = 1) -> Piece:
    return Piece(number, as_multi([box(0, 0, side, side)]), quantity)


@given(st.lists(st.floats(8, 50), min_size=2, max_size=7), st.floats(0, 14), st.sampled_from(Turn))
@tried(30)
def test_what_is_laid_down_keeps_every_distance(sides: list[float], gap: float, turn: Turn) -> None:
    pieces = [square(number, side) for number, side in enumerate(sides)]
    space = FreeSpace(LIVE, gap, turn)
    laid, rest = filled_up(space, pieces)
    assert len(laid) + len(rest) == len(pieces)
    assert laid
    shapes = [one.of(pieces[one.item].edge) for one in laid]
    assert all(LIVE.buffer(0.01, join_style="mitre").covers(shape) for shape in shapes)
    for number, shape in enumerate(shapes):
        assert all(shape.distance(other) >= gap - 0.01 for other in shapes[number + 1 :])


def test_a_sheet_is_filled_as_full_as_squares_go() -> None:
    laid, rest = filled_up(FreeSpace(LIVE, 2.0, Turn.UPRIGHT), [square(0, 33.0)] * 20)
    # Four beside each other and three below: 4 · 33 + 3 · 2 ≤ 140, 3 · 33 + 2 · 2 ≤ 110.
    assert len(laid) == 12
    assert len(rest) == 8


def test_a_place_is_found_in_the_one_hole_that_is_left() -> None:
    hole = box(60, 50, 84, 74)
    space = FreeSpace(LIVE, 2.0, Turn.UPRIGHT)
    ring = LIVE.difference(hole.buffer(-2.0))
    space.add(Piece(7, as_multi([shapely.transform(ring, lambda p: p - (12, 9))]), 1), Placement(7, 12.0, 9.0, 0.0))
    place = space.place(square(0, 16.0))
    assert place is not None
    assert hole.buffer(-1.99).covers(place.of(square(0, 16.0).edge))
    assert space.place(square(1, 26.0)) is None


def test_pieces_drawn_before_lie_as_those_drawn_anew_and_take_bounded_memory() -> None:
    pieces = [square(number, side) for number, side in enumerate((40.0, 31.0, 22.0, 17.0))]
    narrow, drawn = box(12, 9, 92, 119), DrawnPieces(most_bytes=2**20)
    for live in (LIVE, narrow, LIVE, narrow):
        shared = filled_up(FreeSpace(live, 2.0, Turn.QUARTER, drawn=drawn), pieces * 2)
        assert shared == filled_up(FreeSpace(live, 2.0, Turn.QUARTER), pieces * 2)
        kept = sum(spectrum.nbytes for spectrum in drawn._spectra._made.values())
        assert kept == drawn._spectra.bytes <= 2**20
        assert drawn._cells.bytes <= 2**20


def test_what_has_more_cells_than_are_free_has_no_place() -> None:
    space = FreeSpace(LIVE, 2.0, Turn.UPRIGHT)
    assert space.put(square(0, 100.0)) is not None
    assert space.place(square(1, 60.0)) is None
    assert space.place(square(2, 30.0)) is not None
