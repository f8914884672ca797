"""The pictures that are told of: three of plain shapes, and one of every sort that is met."""

import numpy as np

from tests.scenes import bars, masked
from vamper.core.art.picture import Picture

ARROW = bars((60, 150, 260, 230), (240, 60, 300, 330))
RING = masked(np.hypot(*(np.mgrid[:400, :400] - 200)) % 170 > 60)
ART = {1: ARROW, 2: RING, 3: bars((40, 40, 360, 120), (40, 280, 360, 360))}


def drawn() -> dict[str, Picture]:
    """Pictures of every sort: hard and soft rims, a border already there, white parts, shades, on a ground."""
    away = np.hypot(*(np.mgrid[:400, :400] - 200.0))
    inside = away < 170
    bordered, striped, shaded = (np.full((400, 400, 3), grey, np.uint8) for grey in (250, 40, 120))
    bordered[away < 130], striped[:, ::3] = (30, 60, 120), (200, 180, 20)
    shaded[...] = (np.mgrid[:400, :400][1][..., None] * (0.6, 0.3, 0.1)).astype(np.uint8)
    faint = np.full((400, 400, 3), 228, np.uint8)
    hard = np.where(inside, 255, 0).astype(np.uint8)
    soft = np.clip((178 - away) * 14, 0, 255).astype(np.uint8)
    softer = np.clip((185 - away) * 5, 0, 255).astype(np.uint8)
    ground = np.where(inside[..., None], striped, (244, 238, 240)).astype(np.uint8)
    return {
        "plain": masked(inside),
        "soft": Picture(np.dstack([striped, soft])),
        "softer": Picture(np.dstack([shaded, softer])),
        "bordered": Picture(np.dstack([bordered, hard])),
        "faint": Picture(np.dstack([faint, hard])),
        "on a ground": Picture(np.dstack([ground, np.full((400, 400), 255, np.uint8)])),
        "two parts": masked(away % 180 > 140),
    }
