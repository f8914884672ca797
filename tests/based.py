"""Drawn art with a border of its own, and without one: what bundles look like, made here."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageDraw
from shapely import affinity
from shapely.geometry import LineString, Point, Polygon, box
from shapely.geometry.base import BaseGeometry
from shapely.ops import unary_union

from vamper.core.art.picture import Picture

PX = 420
_FINE = 2
Rgb = tuple[int, int, int]
WHITE, CREAM, PEARL, GREY = (255, 255, 255), (250, 246, 234), (243, 243, 246), (236, 236, 236)
NAVY, RED, YELLOW, GREEN, SAND, BLACK = (
    (31, 78, 121),
    (190, 50, 45),
    (232, 184, 60),
    (70, 140, 90),
    (226, 205, 160),
    (30, 30, 34),
)


@dataclass(frozen=True)
class Drawn:
    """A case: its name, its picture, and whether it has a border of its own."""

    name: str
    picture: Picture
    based: bool


def canvas(layers: list[tuple[BaseGeometry, Rgb]], noise: float = 0.0) -> Picture:
    """Shapes (in a square of 100) painted over each other, the lowest first, with soft rims as they are drawn."""
    size, scale = PX * _FINE, PX * _FINE / 100
    image, ink = Image.new("RGB", (size, size), layers[0][1]), Image.new("L", (size, size), 0)
    for shape, colour in layers:
        for part in getattr(shape, "geoms", [shape]):
            mask = Image.new("L", (size, size), 0)
            draw = ImageDraw.Draw(mask)
            draw.polygon([(x * scale, y * scale) for x, y in part.exterior.coords], fill=255)
            for hole in part.interiors:
                draw.polygon([(x * scale, y * scale) for x, y in hole.coords], fill=0)
            image.paste(colour, (0, 0), mask)
            ink.paste(255, (0, 0), mask)
    rgb = np.asarray(image.resize((PX, PX), Image.Resampling.BOX), dtype=float)
    alpha = np.asarray(ink.resize((PX, PX), Image.Resampling.BOX))
    if noise:
        rgb = rgb + np.random.default_rng(7).normal(0, noise, rgb.shape)
    rgba = np.dstack([np.clip(rgb, 0, 255).astype(np.uint8), alpha])
    # Nothing is known of colours where nothing is inked.
    rgba[alpha == 0, :3] = 0
    return Picture(np.ascontiguousarray(rgba))


def _star(points: int, inner: float = 0.5) -> Polygon:
    turn = np.arange(2 * points) * np.pi / points
    far = np.where(np.arange(2 * points) % 2 == 0, 30.0, 30.0 * inner)
    return Polygon(np.column_stack([50 + far * np.sin(turn), 50 - far * np.cos(turn)]))


def _fish() -> BaseGeometry:
    body = affinity.scale(Point(46, 50).buffer(24), 1.1, 0.62)
    return unary_union([body, Polygon([(66, 50), (84, 36), (80, 50), (84, 64)])])


def _boat() -> BaseGeometry:
    return unary_union(
        [
            Polygon([(22, 60), (78, 60), (68, 74), (32, 74)]),
            Polygon([(50, 22), (50, 57), (74, 57)]),
            box(48, 20, 51, 62),
        ]
    )


def _bird() -> BaseGeometry:
    wing = Polygon([(30, 40), (52, 22), (60, 46), (44, 54)])
    return unary_union(
        [affinity.scale(Point(50, 54).buffer(16), 1.5, 0.8), wing, Polygon([(72, 50), (84, 54), (72, 58)])]
    )


def _word() -> BaseGeometry:
    letters = [box(20 + 11 * n, 40 - 4 * (n % 2), 28 + 11 * n, 62) for n in range(5)]
    holes = [box(22.5 + 11 * n, 46, 25.5 + 11 * n, 52) for n in (1, 3)]
    return unary_union(letters).difference(unary_union(holes))


SHAPES: dict[str, Callable[[], BaseGeometry]] = {
    "star": lambda: _star(6),
    "burst": lambda: _star(11, 0.72),
    "fish": _fish,
    "boat": _boat,
    "bird": _bird,
    "word": _word,
}


def _inside(shape: BaseGeometry, colours: tuple[Rgb, ...]) -> list[tuple[BaseGeometry, Rgb]]:
    """A drawing: its body with bands and dots of other colours, each as a drawing has them."""
    body, *more = colours
    left, top, right, bottom = shape.bounds
    layers: list[tuple[BaseGeometry, Rgb]] = [(shape, body)]
    for place, colour in enumerate(more):
        at = top + (bottom - top) * (0.3 + 0.35 * place)
        layers.append((shape.buffer(-1.2).intersection(box(left, at, right, at + 7)), colour))
    return [(one, colour) for one, colour in layers if not one.is_empty]


def _uneven(shape: BaseGeometry, least: float) -> BaseGeometry:
    """A base as it is drawn by hand: here tight, there wide."""
    grown = shape.buffer(least)
    middle = shape.centroid
    lumps = [Point(middle.x + 26 * np.sin(n), middle.y + 26 * np.cos(n)).buffer(8 + 3 * (n % 3)) for n in range(5)]
    return unary_union([grown, *lumps]).buffer(3).buffer(-3)


def _whole(shape: BaseGeometry) -> BaseGeometry:
    polygons = [Polygon(part.exterior) for part in getattr(shape, "geoms", [shape])]
    return unary_union(polygons)


def with_base() -> Iterator[Drawn]:
    """Drawings on a base: even, uneven, off-white, under a dark contour, round lettering."""
    for name, shape in SHAPES.items():
        body = shape()
        fill = {"word": (NAVY,)}.get(name, (RED, YELLOW, NAVY))
        even = _whole(body.buffer(3.0).buffer(2).buffer(-2))
        yield Drawn(f"{name} on white", canvas([(even, WHITE), *_inside(body, fill)]), True)
        uneven = _whole(_uneven(body, 2.4))
        yield Drawn(f"{name} on an uneven base", canvas([(uneven, WHITE), *_inside(body, fill)]), True)
        yield Drawn(f"{name} on cream", canvas([(even, CREAM), *_inside(body, fill)]), True)
        outlined = [(even, WHITE), (body.buffer(0.9), BLACK), *_inside(body, fill)]
        yield Drawn(f"{name} outlined on white", canvas(outlined), True)
        pale = (SAND, WHITE, YELLOW) if name != "word" else (GREEN,)
        yield Drawn(
            f"pale {name}, contoured, on pearl",
            canvas([(uneven, PEARL), (body.buffer(1.0), NAVY), *_inside(body, pale)]),
            True,
        )
        yield Drawn(f"{name} on a noisy scan's grey", canvas([(even, GREY), *_inside(body, fill)], noise=1.5), True)


def without_base() -> Iterator[Drawn]:
    """Drawings without one: bare, with a contour dark or pale and thin, white inside, badges, shades."""
    for name, shape in SHAPES.items():
        body = shape()
        fill = {"word": (NAVY,)}.get(name, (RED, YELLOW, NAVY))
        yield Drawn(f"bare {name}", canvas(_inside(body, fill)), False)
        yield Drawn(f"{name} with a dark contour", canvas([(body.buffer(1.1), BLACK), *_inside(body, fill)]), False)
        yield Drawn(f"{name} with a hair of white", canvas([(body.buffer(0.45), WHITE), *_inside(body, fill)]), False)
        yield Drawn(
            f"{name} with a thin pale contour", canvas([(body.buffer(0.5), CREAM), *_inside(body, fill)]), False
        )
        face = [(affinity.translate(Point(50, 50).buffer(2.2), x, -3), BLACK) for x in (-6, 6)]
        yield Drawn(f"white {name} with eyes", canvas([(body, WHITE), *face]), False)
        light = body.buffer(0.001)
        yield Drawn(
            f"pale {name}, dark contour, white inside",
            canvas([(light.buffer(0.9), NAVY), *_inside(light, (WHITE, SAND))]),
            False,
        )
    disc = Point(50, 50).buffer(34)
    yield Drawn("navy badge with a star", canvas([(disc, NAVY), (_star(5), YELLOW)]), False)
    yield Drawn("red badge with a word", canvas([(disc, RED), (affinity.scale(_word(), 0.7, 0.7), WHITE)]), False)
    stripes = [(disc.intersection(box(0, y, 100, y + 6)), SAND) for y in range(20, 80, 12)]
    yield Drawn("striped buoy", canvas([(disc, RED), *stripes]), False)
    yield Drawn("a ring", canvas([(disc.difference(Point(50, 50).buffer(22)), YELLOW)]), False)
    yield Drawn(
        "a line drawing", canvas([(LineString([(20, 70), (40, 30), (60, 66), (82, 28)]).buffer(1.6), NAVY)]), False
    )


def every() -> list[Drawn]:
    return [*with_base(), *without_base()]
