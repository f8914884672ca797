"""A swatch strip: what a stock and a setting do to solids, ramps, fine lines and reversed text.

One strip is 40 × 15 mm. Two of them, in two settings side by side on an offcut, are compared by eye, and the better
setting is kept.
"""

import numpy as np

from vamper.core.values.drawing import Anchor, Drawing, Filled, Stroke, Words, line, outline, rectangle
from vamper.core.values.paper import Paper

STRIP_MM = (40.0, 15.0)
_SOLIDS = ("#00A0C8", "#C81E78", "#F0D800", "#101010", "#A3261C", "#2E7D32", "#26418F")
_LINES_MM = (0.1, 0.2, 0.3, 0.5)
_RAMP_STEPS = 20


def swatch_strip(left: float, top: float, name: str) -> Drawing:
    """One strip with its setting's name under it, at a place of its page."""
    width, _ = STRIP_MM
    fills, strokes, words = list[Filled](), list[Stroke](), list[Words]()
    each = width / len(_SOLIDS)
    for number, colour in enumerate(_SOLIDS):
        fills.append(Filled((rectangle(left + number * each, top, each, 4.0),), colour))
    for step in range(_RAMP_STEPS):
        grey = 255 - round(255 * (step + 1) / _RAMP_STEPS)
        x, wide = left + step * width / _RAMP_STEPS, width / _RAMP_STEPS
        fills.append(Filled((rectangle(x, top + 4.0, wide, 2.0),), f"#{grey:02X}{grey:02X}{grey:02X}"))
        share = (step + 1) / _RAMP_STEPS
        red, green, blue = (round(255 - (255 - part) * share) for part in (0xC8, 0x1E, 0x78))
        fills.append(Filled((rectangle(x, top + 6.0, wide, 1.5),), f"#{red:02X}{green:02X}{blue:02X}"))
    for number, wide in enumerate(_LINES_MM):
        x = left + 1.5 + number * 4.5
        strokes.append(line(x, top + 8.2, x, top + 14.4, wide))
        strokes.append(line(x + 0.8, top + 11.0, x + 3.6, top + 11.0, wide))
    fills.append(Filled((rectangle(left + 20.0, top + 8.2, 20.0, 6.4),), "#101010"))
    words.append(Words(left + 30.0, top + 10.9, "reversed 1.6", 1.6, Anchor.MIDDLE, 0.0, "#FFFFFF"))
    words.append(Words(left + 30.0, top + 13.6, "reversed 1.1", 1.1, Anchor.MIDDLE, 0.0, "#FFFFFF"))
    words.append(Words(left, top + STRIP_MM[1] + 3.0, name, 2.2))
    return Drawing(Paper(*STRIP_MM), name, tuple(fills), tuple(strokes), tuple(words))


def swatch_sheet(paper: Paper, left: float, top: float, name: str) -> Drawing:
    """A page with one strip at a place of a sheet; printed once in each setting, each time at another place."""
    strip = swatch_strip(left, top, name)
    frame = outline(np.asarray(rectangle(left - 1, top - 1, STRIP_MM[0] + 2, STRIP_MM[1] + 6)), 0.1, dashed=True)
    return Drawing(paper, f"Swatch strip, {name}", strip.fills, (*strip.strokes, frame), strip.words)
