"""Rings as SVG path data, absolute, in millimetres."""

from shapely.geometry.base import BaseGeometry

from vamper.core.values.geometry import Points, parts, ring_points

# A hundredth of a millimetre is finer than a screen can show.
DECIMALS = 2


def closed_path(points: Points, decimals: int = 4) -> str:
    """One ring, shape (n, 2), as a closed path."""
    point = f"%.{decimals}f %.{decimals}f"
    first, *rest = (point % (x, y) for x, y in points.tolist())
    return f"M {first} L {' '.join(rest)} Z"


def open_path(points: Points, decimals: int = 4) -> str:
    """A line, shape (n, 2), as an open path."""
    return closed_path(points, decimals).removesuffix(" Z")


def shape_path(shape: BaseGeometry, decimals: int = 4) -> str:
    """All rings of all parts, to be filled even-odd."""
    rings = [ring for part in parts(shape) for ring in (part.exterior, *part.interiors)]
    return " ".join(closed_path(ring_points(ring), decimals) for ring in rings)
