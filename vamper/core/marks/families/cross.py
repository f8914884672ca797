"""Two strokes across each other in each corner."""

import numpy as np

from vamper.core.marks.mark import Mark, MarkFamily, centres
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import Paper


def crosses(paper: Paper, spec: MarksSpec) -> tuple[Mark, ...]:
    s, w = spec.size_mm / 2, spec.stroke_mm / 2
    arms = [(-w, -s), (w, -s), (w, -w), (s, -w), (s, w), (w, w), (w, s), (-w, s), (-w, w), (-s, w), (-s, -w), (-w, -w)]
    return tuple(
        Mark("cross", x, y, (np.array(arms, dtype=float) + np.array([x, y]),)) for x, y in centres(paper, spec)
    )


KIND = MarkFamily(
    "cross",
    4,
    "crosses",
    "a cross in each corner; the sheet's sides stay free",
    crosses,
    counted="{count} crosses",
)
