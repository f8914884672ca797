"""How long things take, cold and kept, and how the time grows with the picture."""

import numpy as np

from tests.bench.table import Row, timed
from tests.conftest import picture_of, png_of
from vamper.core.inspect import item_findings
from vamper.core.values.art import Purpose, SizeSpec
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.item import ItemSpec
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.services.design.designer import ArtFile, Designer

STOCK = STOCK_BY_KEY["satin-vinyl"]


def blossom(size_px: int) -> bytes:
    """A round drawing with petals, holes and soft rims: about as detailed as a sticker gets."""
    y, x = (np.mgrid[0:size_px, 0:size_px] + 0.5) / size_px - 0.5
    turn, radius = np.arctan2(y, x), np.hypot(x, y)
    rim = 0.36 + 0.08 * np.cos(9 * turn) + 0.015 * np.cos(40 * turn)
    alpha = np.clip((rim - radius) * size_px + 0.5, 0, 1)
    for n in range(9):
        cx, cy = 0.27 * np.cos(0.7 * n), 0.27 * np.sin(0.7 * n)
        alpha *= np.clip((np.hypot(x - cx, y - cy) - 0.02) * size_px + 0.5, 0, 1)
    return png_of(picture_of(alpha))


def _item(distance: float) -> ItemSpec:
    return ItemSpec(number=1, art="blossom.png", width_mm=70, edge=EdgeSpec(distance_mm=distance))


def art_and_edge() -> list[Row]:
    """Outline and edge of a 3000 × 3000 px art, then a change of distance alone."""
    art = ArtFile.of("blossom.png", blossom(3000))
    size = SizeSpec(width_mm=70)
    rows, cold = [], float("inf")
    for _ in range(3):
        designer = Designer()
        designer.picture(art, size)
        cold = min(cold, timed(lambda designer=designer: designer.design(_item(3), art, STOCK)))
    rows.append(Row("3000 × 3000 px: outline and edge, cold", f"{cold:.2f} s", "1.2 s"))
    decode = timed(lambda: Designer().picture(art, size), 3)
    rows.append(Row("3000 × 3000 px: decoding the PNG before that", f"{decode:.2f} s"))
    distances = iter(np.linspace(0.5, 8, 9))
    changed = timed(lambda: designer.design(_item(float(next(distances))), art, STOCK), 9)
    rows.append(Row("3000 × 3000 px: a change of distance", f"{changed:.3f} s", "0.15 s"))
    return rows


def findings() -> list[Row]:
    """Everything that is found on a 9-megapixel art: cold with its outline and edge, and again when only read."""
    art, designer = ArtFile.of("blossom.png", blossom(3000)), Designer()
    designer.picture(art, SizeSpec(width_mm=70))

    def all_of_it() -> None:
        item_findings(designer.design(_item(3), art, STOCK), Purpose.VEHICLE, STOCK)

    return [
        Row("3000 × 3000 px: outline, edge and findings, cold", f"{timed(all_of_it):.2f} s"),
        Row("3000 × 3000 px: the same again", f"{timed(all_of_it, 5) * 1000:.0f} ms"),
    ]


def growth() -> list[Row]:
    """Outline, edge and what is seen on it as the picture grows, beside the smallest; and the memory of its pixels."""
    rows, first = [], 0.0
    for size_px in (1000, 2000, 4000, 8000):
        art = ArtFile.of("blossom.png", blossom(size_px))
        designer = Designer()
        picture = designer.picture(art, SizeSpec(width_mm=70))
        seconds = timed(lambda designer=designer, art=art: designer.design(_item(3), art, STOCK))
        first = first or seconds
        figure = f"{seconds:.2f} s, {seconds / first:.1f} ×, {picture.rgba.nbytes / 2**20:.0f} MB"
        rows.append(Row(f"{size_px**2 / 1e6:.0f} megapixels: outline, edge, survey", figure))
    return rows
