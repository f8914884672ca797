"""Fixed shapes for measuring packing: made by formula, the same in every run."""

import math

import numpy as np
from shapely.geometry import MultiPolygon, Point, Polygon, box
from shapely.ops import unary_union

from vamper.core.values.geometry import as_multi, grow, parts


def _one(shape: Polygon | MultiPolygon) -> MultiPolygon:
    return as_multi(parts(shape))


def disc(diameter: float) -> MultiPolygon:
    return _one(Point(0, 0).buffer(diameter / 2, quad_segs=48))


def star(radius: float) -> MultiPolygon:
    turns = np.arange(10) * math.pi / 5
    radii = np.where(np.arange(10) % 2, radius * 0.45, radius)
    return _one(Polygon(np.column_stack([radii * np.sin(turns), -radii * np.cos(turns)])).buffer(1))


def triangle(side: float) -> MultiPolygon:
    return _one(Polygon([(0, 0), (side, 0), (side / 2, side * math.sqrt(3) / 2)]))


def ell(side: float, thick: float) -> MultiPolygon:
    return _one(Polygon([(0, 0), (thick, 0), (thick, side - thick), (side, side - thick), (side, side), (0, side)]))


def bent_bar(length: float, thick: float) -> MultiPolygon:
    """Long, thin and a little curved, as a name on a hull."""
    along = np.linspace(-length / 2, length / 2, 40)
    sag = 6.0 * (along / (length / 2)) ** 2
    upper, lower = np.column_stack([along, sag]), np.column_stack([along, sag + thick])
    return _one(Polygon(np.vstack([upper, lower[::-1]])).buffer(1))


def blob(seed: int, size: float) -> MultiPolygon:
    """An irregular drawing with a border: a few waves on a circle."""
    random = np.random.default_rng(seed)
    turns = np.linspace(0, 2 * math.pi, 90, endpoint=False)
    radii = np.ones_like(turns)
    for wave in range(2, 6):
        radii += random.uniform(0.05, 0.28) * np.sin(wave * turns + random.uniform(0, 6.3))
    shape = Polygon(np.column_stack([radii * np.cos(turns), radii * np.sin(turns)])).buffer(0)
    largest = max(parts(shape), key=lambda part: part.area)
    scale = size / max(np.ptp(np.asarray(largest.exterior.coords), axis=0))
    return _one(Polygon(np.asarray(largest.exterior.coords) * scale).buffer(1))


def ring(outer: float, thick: float) -> MultiPolygon:
    """A ring with a hole that other pieces go into."""
    return _one(Point(0, 0).buffer(outer / 2, quad_segs=24).difference(Point(0, 0).buffer(outer / 2 - thick)))


_STROKE = 7.0
_LETTERS = {
    "L": [(0, 0, 1, 6), (0, 5, 4, 6)],
    "T": [(0, 0, 5, 1), (2, 0, 3, 6)],
    "E": [(0, 0, 1, 6), (0, 0, 4, 1), (0, 2.5, 3, 3.5), (0, 5, 4, 6)],
    "H": [(0, 0, 1, 6), (3, 0, 4, 6), (0, 2.5, 4, 3.5)],
    "U": [(0, 0, 1, 6), (3, 0, 4, 6), (0, 5, 4, 6)],
    "F": [(0, 0, 1, 6), (0, 0, 4, 1), (0, 2.5, 3, 3.5)],
    "C": [(0, 0, 1, 6), (0, 0, 4, 1), (0, 5, 4, 6)],
    "Y": [(0, 0, 1, 3), (3, 0, 4, 3), (0, 2, 4, 3), (1.5, 2, 2.5, 6)],
}


def letter(name: str) -> MultiPolygon:
    """A block letter with a border round it."""
    strokes = [box(*(_STROKE * side for side in stroke)) for stroke in _LETTERS[name]]
    return _one(grow(unary_union(strokes), 2.0))


LETTERS = tuple(_LETTERS)
