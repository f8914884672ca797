"""An L in each corner, arms towards the paper's middle; with three marks, the bottom right corner has none."""

import numpy as np

from vamper.core.marks.mark import Mark, MarkFamily
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import Paper


def corners(paper: Paper, spec: MarksSpec) -> tuple[Mark, ...]:
    i, s, w = spec.inset_mm, spec.size_mm, spec.stroke_mm
    arm = np.array([[0, 0], [s, 0], [s, w], [w, w], [w, s], [0, s]], dtype=float)
    right, bottom = paper.width_mm - i, paper.height_mm - i
    places = ((i, i, 1, 1), (right, i, -1, 1), (i, bottom, 1, -1), (right, bottom, -1, -1))
    return tuple(Mark("corner", x, y, (arm * (across, down) + (x, y),)) for x, y, across, down in places[: spec.count])


KIND = MarkFamily(
    "corner",
    1,
    "corners",
    "an L at each corner of the sheet",
    corners,
    along_the_rim=True,
    counted="{count} corners",
)
