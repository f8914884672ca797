"""What belongs together in a picture though it lies apart: lettering, captions, dots; and what does not."""

import pytest
import shapely
from shapely.affinity import translate
from shapely.geometry import LineString, MultiPolygon, Point, Polygon

from tests.based import SHAPES, canvas
from vamper.core.art.groups import groups_of, start_apart_mm
from vamper.core.art.lettering import belonging
from vamper.core.art.outline import Outline, outline_at, trace
from vamper.core.values.art import SizeSpec
from vamper.core.values.geometry import parts

NAVY = (31, 78, 121)


def letter(kind: int, x: float, y: float, high: float) -> Polygon:
    """A letter of strokes, at its lower left."""
    wide = 0.6 * high
    lines = [
        [(0, 0), (0, 1), (0.6, 1), (0.6, 0)],
        [(0.6, 0), (0, 0), (0, 1), (0.6, 1)],
        [(0, 1), (0.3, 0), (0.6, 1)],
        [(0.3, 0), (0.3, 1)],
        [(0, 0), (0.3, 1), (0.6, 0), (0.45, 0.5), (0.15, 0.5)],
    ]
    path = [(x + px * high * wide / (0.6 * high), y - py * high) for px, py in lines[kind % len(lines)]]
    return LineString(path).buffer(0.09 * high, cap_style="flat")  # type: ignore[return-value]


def line(x: float, y: float, count: int, high: float, spaced: float = 0.35) -> list[Polygon]:
    return [letter(n, x + n * high * (0.6 + spaced), y, high) for n in range(count)]


def picture(x: float, y: float, size: float, name: str = "burst") -> list[Polygon]:
    shape = SHAPES[name]()
    scaled = shapely.affinity.scale(shape, size / 60, size / 60, origin=(50, 50))
    return parts(translate(scaled, x - 50, y - 50))


def outline_of(shapes: list[Polygon]) -> Outline:
    return outline_at(trace(canvas([(one, NAVY) for one in shapes])), SizeSpec(longest_mm=80.0))


def told(shapes: list[Polygon]) -> tuple[int, int]:
    """How many drawings, with what belongs together as one and without."""
    outline = outline_of(shapes)
    apart = start_apart_mm(outline)
    return len(groups_of(outline, apart, together=True)), len(groups_of(outline, apart))


LETTERING = {
    "two lines": line(10, 40, 5, 16) + line(18, 72, 4, 16),
    "three lines of different sizes": line(8, 26, 6, 12) + line(20, 56, 3, 18) + line(14, 84, 5, 12),
    "letters far apart": line(6, 55, 5, 14, 0.62),
    "a caption under its picture": picture(50, 34, 52) + line(22, 80, 6, 9),
    "a caption over its picture": line(22, 18, 6, 9) + picture(50, 60, 60, "boat"),
    "a picture between two lines": line(24, 14, 6, 8) + picture(50, 48, 44) + line(24, 90, 6, 8),
    "letters with their dots": [*line(8, 60, 5, 20), Point(12, 28).buffer(2.2), Point(50, 28).buffer(2.2)],
}
STICKERS = {
    "four in a row": ([one for x in (14, 38, 62, 86) for one in picture(x, 50, 15)], 4),
    "a grid": ([one for x in (20, 50, 80) for y in (25, 75) for one in picture(x, y, 22, "bird")], 6),
    "discs": ([Point(x, y).buffer(9) for x in (15, 40, 65, 90) for y in (30, 70)], 8),
    "each with its caption": (
        [one for x in (26, 76) for one in (*picture(x, 30, 36), *line(x - 16, 64, 5, 8))],
        2,
    ),
    "two drawings": (picture(25, 50, 38, "burst") + picture(76, 50, 38, "bird"), 2),
}


@pytest.mark.parametrize("name", LETTERING)
def test_lettering_and_captions_are_one_piece_by_themselves(name: str) -> None:
    together, apart = told(LETTERING[name])
    assert together == 1
    assert apart > 1 or name == "letters with their dots"


@pytest.mark.parametrize("name", STICKERS)
def test_stickers_of_their_own_stay_several(name: str) -> None:
    shapes, count = STICKERS[name]
    together, _ = told(shapes)
    assert together == count


def test_a_texture_of_strokes_is_read_as_no_lettering() -> None:
    strokes = [MultiPolygon([letter(3, 3.0 * x, 4.0 * y, 2.0)]) for x in range(60) for y in range(60)]
    assert belonging(strokes) == strokes


def test_nothing_is_lost_or_made_up() -> None:
    groups = [MultiPolygon([one]) for one in LETTERING["a picture between two lines"]]
    merged = belonging(groups)
    assert sum(one.area for one in merged) == pytest.approx(sum(one.area for one in groups))
    assert sum(len(one.geoms) for one in merged) == len(groups)
    assert belonging(groups[:1]) == groups[:1]
