"""Text as outlines: shaped by the font's own rules, then drawn along a straight line or an arc.

A composed piece carries its letters as shapes, so that it looks the same wherever it is opened, in the maker's own
fonts too. Along an arc each letter is turned by the angle at its own middle; the line's middle comes to its place.
"""

import math
import unicodedata
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import shapely
import uharfbuzz
from shapely.geometry import MultiPoint

from vamper.core.values.composition import LineCentring
from vamper.core.values.findings import BadInput
from vamper.core.values.fonts import FONTS, shipped_font
from vamper.formats.fonts import FOLDER

# A line's middle is that of its capitals, which are about this share of its size high.
CAPITALS = 0.7
_FIGURES = 4
# A line along an arc goes round at most this far.
_MOST_ROUND = 0.92

FontData = Callable[[str], bytes | None]


@dataclass(frozen=True, slots=True)
class _Letter:
    """A glyph's outline commands in shares of the text's size, y up, where it begins, and how wide it is."""

    commands: tuple[tuple[str, tuple[float, ...]], ...]
    start: float
    width: float


@dataclass(frozen=True, slots=True)
class Shaped:
    """A line in shares of its size."""

    letters: tuple[_Letter, ...]
    length: float
    ink: tuple[float, float]
    """Left and right of what is drawn, since handwriting reaches beyond its letters' widths."""
    middles: Mapping[LineCentring, tuple[float, float]]
    """What comes to a line's place: how far along it, and above its foot."""


@dataclass(frozen=True, slots=True)
class Lettered:
    """A line where it lies: path data in mm, and the box of its points (left, top, right, bottom)."""

    path: str
    box: tuple[float, float, float, float]


def font_of(family: str, bold: bool, own: FontData) -> bytes:
    """A font's file: of the maker's own, or one that ships.

    Raises
    ------
    BadInput
        For a family that is neither.
    """
    data = own(family)
    if data is not None:
        return data
    font = shipped_font(family)
    if font is None:
        known = ", ".join(one.words for one in FONTS)
        raise BadInput(f"no font is called “{family[:40]}”; there are {known}, and those that you added", "family")
    return _shipped(font.files[-1 if bold else 0])


@lru_cache(maxsize=8)
def _shipped(file: str) -> bytes:
    return (FOLDER / file).read_bytes()


@lru_cache(maxsize=8)
def _face(data: bytes) -> uharfbuzz.Font:
    return uharfbuzz.Font(uharfbuzz.Face(data))


@lru_cache(maxsize=200)
def shaped(text: str, data: bytes) -> Shaped:
    """A line's letters as the font sets them."""
    font = _face(data)
    buffer = uharfbuzz.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    uharfbuzz.shape(font, buffer)
    per_em = float(font.face.upem)
    letters, at, signs = [], 0.0, list[bool]()
    for info, place in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
        pen = _Pen(per_em, at + place.x_offset, place.y_offset)
        font.draw_glyph_with_pen(info.codepoint, pen)
        letters.append(_Letter(tuple(pen.commands), at / per_em, place.x_advance / per_em))
        signs.append(unicodedata.category(text[min(info.cluster, len(text) - 1)])[0] not in "LN")
        at += place.x_advance
    xs = [x for letter in letters for _, points in letter.commands for x in points[::2]]
    length = at / per_em
    ink = (min(xs, default=0.0), max(xs, default=length))
    return Shaped(tuple(letters), length, ink, _middles(text, letters, signs, length, _x_height(font)))


def _middles(
    text: str, letters: Sequence[_Letter], signs: Sequence[bool], length: float, x_height: float
) -> dict[LineCentring, tuple[float, float]]:
    drawn = [(letter, sign) for letter, sign in zip(letters, signs, strict=True) if letter.commands]
    bodies = [letter for letter, sign in drawn if not sign] or [letter for letter, _ in drawn]
    small = not any(letter.isupper() or letter.isdigit() for letter in text)
    ys = [y for letter, _ in drawn for _, points in letter.commands for y in points[1::2]]
    all_x = [x for letter, _ in drawn for x in _xs(letter)]
    return {
        LineCentring.CAPITALS: (length / 2, CAPITALS / 2),
        LineCentring.LETTERS: (
            _middle([x for letter in bodies for x in _xs(letter)], length / 2),
            (x_height if small else CAPITALS) / 2,
        ),
        LineCentring.INK: (_middle(all_x, length / 2), _middle(ys, CAPITALS / 2)),
    }


def _xs(letter: _Letter) -> list[float]:
    return [x for _, points in letter.commands for x in points[::2]]


def _middle(values: Sequence[float], nothing: float) -> float:
    return (min(values) + max(values)) / 2 if values else nothing


def _x_height(font: uharfbuzz.Font) -> float:
    """How high a small letter without a stroke above it is, in shares of the size."""
    glyph = font.get_nominal_glyph(ord("x"))
    pen = _Pen(float(font.face.upem), 0.0, 0.0)
    if glyph is not None:
        font.draw_glyph_with_pen(glyph, pen)
    return max((y for _, points in pen.commands for y in points[1::2]), default=CAPITALS)


class _Pen:
    """Takes down a glyph's outline, in shares of the size."""

    def __init__(self, per_em: float, x: float, y: float) -> None:
        self._per_em, self._x, self._y = per_em, x, y
        self.commands: list[tuple[str, tuple[float, ...]]] = []

    def _add(self, name: str, *points: tuple[float, float]) -> None:
        flat = tuple(v for x, y in points for v in ((x + self._x) / self._per_em, (y + self._y) / self._per_em))
        self.commands.append((name, flat))

    def moveTo(self, point: tuple[float, float]) -> None:  # noqa: N802 the pen's own protocol
        self._add("M", point)

    def lineTo(self, point: tuple[float, float]) -> None:  # noqa: N802
        self._add("L", point)

    def qCurveTo(self, *points: tuple[float, float]) -> None:  # noqa: N802
        self._add("Q", *points)

    def curveTo(self, *points: tuple[float, float]) -> None:  # noqa: N802
        self._add("C", *points)

    def closePath(self) -> None:  # noqa: N802
        self.commands.append(("Z", ()))

    def endPath(self) -> None:  # noqa: N802
        self.closePath()


def lettered(
    line: Shaped,
    size_mm: float,
    x_mm: float,
    y_mm: float,
    radius_mm: float | None,
    centring: LineCentring = LineCentring.CAPITALS,
) -> Lettered:
    """A line with its middle at a place.

    Parameters
    ----------
    radius_mm : float or None
        Along an arc: over its middle, like a rainbow, where positive; under it, like a smile, where negative.
    """
    path, points = [], []
    for letter in line.letters:
        to_mm = _placing(line, letter, size_mm, x_mm, y_mm, radius_mm, centring)
        for name, flat in letter.commands:
            placed = [to_mm(flat[n], flat[n + 1]) for n in range(0, len(flat), 2)]
            points += placed
            path.append(name + " ".join(f"{x:.{_FIGURES}f} {y:.{_FIGURES}f}" for x, y in placed))
    box = MultiPoint(points).bounds if points else (x_mm, y_mm, x_mm, y_mm)
    return Lettered("".join(path), box)


def _placing(
    line: Shaped,
    letter: _Letter,
    size: float,
    x_mm: float,
    y_mm: float,
    radius_mm: float | None,
    centring: LineCentring,
) -> Callable[[float, float], tuple[float, float]]:
    """From a letter's own frame (shares, y up) to the piece's (mm, y down)."""
    middle, up_to = line.middles[centring]
    if radius_mm is None:
        return lambda u, v: (x_mm + (u - middle) * size, y_mm + (up_to - v) * size)
    pivot = letter.start + letter.width / 2
    angle = (pivot - middle) * size / radius_mm
    cos, sin = math.cos(angle), math.sin(angle)
    centre_y = y_mm + radius_mm

    def bent(u: float, v: float) -> tuple[float, float]:
        # Across and up from the point of the arc that the letter's middle is over.
        across, up = (u - pivot) * size, (v - up_to) * size
        x = x_mm + radius_mm * sin + across * cos + up * sin
        y = centre_y - radius_mm * cos + across * sin - up * cos
        return x, y

    return bent


def largest_arc_size(line: Shaped, radius_mm: float) -> float:
    """The size at which a line goes almost once round."""
    return _MOST_ROUND * 2 * math.pi * abs(radius_mm) / line.length if line.length else math.inf


def width_share(line: Shaped) -> float:
    """How wide a straight line is, in shares of its size."""
    return max(line.length, line.ink[1] - line.ink[0])


def corners(box: tuple[float, float, float, float]) -> shapely.Polygon:
    return shapely.box(*box)
