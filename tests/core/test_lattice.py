"""Lattices of equal pieces: safe, and as full as is known."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import affinity
from shapely.geometry import Point, Polygon, box

from tests.tried import tried
from vamper.core.sheet.breaches import breaches
from vamper.core.sheet.layout import Piece
from vamper.core.sheet.pack.how_many import CountRequest, HowMany
from vamper.core.sheet.pack.lattice import best_lattice
from vamper.core.values.geometry import as_multi
from vamper.core.values.item import Turn


def piece(shape: Polygon) -> Piece:
    return Piece(0, as_multi([shape]), 1000)


def disc(diameter: float) -> Polygon:
    return Point(0, 0).buffer(diameter / 2, quad_segs=64)


def test_53_discs_of_28_mm_without_a_gap() -> None:
    """Straight rows hold 48, staggered rows at the least pitch 50, spread out ones 53."""
    lattice = best_lattice(piece(disc(28)), (172, 243), 0, Turn.UPRIGHT)
    assert lattice is not None
    assert lattice.count == 53


@pytest.mark.parametrize(
    ("shape", "turn", "least"),
    [
        (box(0, 0, 30, 30), Turn.UPRIGHT, 6 * 8),
        (box(0, 0, 80, 9), Turn.QUARTER, 46),
        (Polygon([(0, 0), (30, 0), (15, 26)]), Turn.QUARTER, 66),
        (Polygon([(0, 0), (12, 0), (12, 40), (50, 40), (50, 52), (0, 52)]), Turn.ANY, 22),
    ],
    ids=["squares", "bars", "triangles in pairs", "L shapes"],
)
def test_known_counts_are_reached(shape: Polygon, turn: Turn, least: int) -> None:
    lattice = best_lattice(piece(shape), (194, 257), 2, turn)
    assert lattice is not None
    assert lattice.count >= least
    assert all(0 <= p.turn_deg < 360 for p in lattice.placements(0, 0, 0, lattice.count))


def blob(radii: list[float]) -> Polygon:
    turns = np.linspace(0, 2 * math.pi, len(radii), endpoint=False)
    return Polygon(np.column_stack([radii * np.cos(turns), radii * np.sin(turns)]))


@given(st.lists(st.floats(6, 30), min_size=5, max_size=12), st.floats(0, 5), st.sampled_from(Turn))
@tried(12)
def test_no_lattice_breaks_a_rule(radii: list[float], gap: float, turn: Turn) -> None:
    one = piece(blob(radii))
    lattice = best_lattice(one, (150, 190), gap, turn)
    assert lattice is not None
    placements = lattice.placements(0, 10, 20, 1000)
    assert not breaches(placements, {0: one}, box(10, 20, 160, 210), gap)
    assert all(0 <= p.turn_deg < 360 for p in placements)
    if turn is Turn.UPRIGHT:
        assert {p.turn_deg for p in placements} == {0.0}
    if turn is Turn.QUARTER:
        assert all(p.turn_deg % 90 == 0 for p in placements)


@pytest.mark.parametrize(
    ("turn", "by"), [(Turn.QUARTER, (-70.0, 0.0)), (Turn.QUARTER, (15.0, -90.0)), (Turn.ANY, (-70.0, 20.0))]
)
def test_where_a_drawing_has_its_origin_makes_no_difference(turn: Turn, by: tuple[float, float]) -> None:
    """Twins lay too far apart where the origin was to the right of the piece."""
    wedge = Polygon([(0, 0), (46, 8), (30, 30), (4, 22)])
    here = best_lattice(piece(wedge), (110, 140), 2, turn)
    there = best_lattice(piece(affinity.translate(wedge, *by)), (110, 140), 2, turn)
    assert here is not None
    assert there is not None
    assert there.count == here.count


def test_rows_lean_where_that_holds_more() -> None:
    strip = piece(Polygon([(0, 0), (40, 0), (60, 20), (20, 20)]))
    lattice = best_lattice(strip, (170, 180), 0, Turn.UPRIGHT)
    assert lattice is not None
    assert lattice.words == "leaning rows"
    # Straight rows hold 27.
    assert lattice.count >= 28
    assert not breaches(lattice.placements(0, 0, 0, 100), {0: strip}, box(0, 0, 170, 180), 0)


def test_what_is_given_up_still_has_the_best_of_what_was_tried() -> None:
    lattice = best_lattice(piece(box(0, 0, 30, 20)), (194, 257), 2, Turn.ANY, lambda: True)
    assert lattice is not None
    assert lattice.count >= 48


def test_what_does_not_fit_has_no_lattice() -> None:
    assert best_lattice(piece(box(0, 0, 300, 300)), (194, 257), 2, Turn.ANY) is None


def test_fewer_places_are_a_compact_part_of_the_lattice() -> None:
    lattice = best_lattice(piece(box(0, 0, 30, 30)), (194, 257), 2, Turn.UPRIGHT)
    assert lattice is not None
    assert len(lattice.placements(0, 0, 0, 6)) == 6
    rows = {round(p.y_mm, 2) for p in lattice.placements(0, 0, 0, 6)}
    columns = {round(p.x_mm, 2) for p in lattice.placements(0, 0, 0, 6)}
    assert min(len(rows), len(columns)) == 1


def test_how_many_does_not_hang_on_where_the_room_lies_and_is_no_less_than_plain_rows() -> None:
    wedge = Polygon([(0, 0), (1, 0), (0, 1)])

    def edge_at(size: float) -> object:
        return as_multi([affinity.scale(wedge, size, size, origin=(0, 0))])

    def asked(left: float, top: float, quick: bool = False) -> int:
        room = box(left, top, left + 160, top + 220)
        return HowMany(CountRequest(piece(wedge), edge_at, room, 2.0, Turn.ANY), 50, quick).count(50)  # type: ignore[arg-type]

    usual = asked(0, 0)
    assert usual == asked(30, 40)
    # Two wedges make a square, where it is not asked for quickly.
    assert usual > 1.4 * asked(0, 0, quick=True)


def test_how_many_falls_with_the_size_and_each_line_is_the_largest_of_its_count() -> None:
    def edge_at(size: float) -> object:
        return as_multi([disc(size)])

    question = CountRequest(piece(disc(40)), edge_at, box(10, 10, 204, 267), 2.0, Turn.ANY)  # type: ignore[arg-type]
    asked = HowMany(question, 40)
    rows = list(asked.table(30, 52))
    assert [row.pieces for row in rows] == sorted({row.pieces for row in rows})
    assert [row.size_mm for row in rows] == sorted((row.size_mm for row in rows), reverse=True)
    for row in rows:
        assert row.pieces == asked.count(row.size_mm) <= row.at_most
    # A tenth of a millimetre more, and one fewer fits (but where the table begins).
    for row in rows[1:]:
        assert asked.count(row.size_mm + 0.2) < row.pieces
