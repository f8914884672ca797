"""One closed rectangle round everything."""

import numpy as np

from vamper.core.marks.mark import Mark, MarkFamily
from vamper.core.values.geometry import Points
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import Paper


def frame(paper: Paper, spec: MarksSpec) -> tuple[Mark, ...]:
    outer = _rectangle(paper, spec.inset_mm)
    inner = _rectangle(paper, spec.inset_mm + spec.stroke_mm)
    return (Mark("frame", spec.inset_mm, spec.inset_mm, (outer, inner)),)


def _rectangle(paper: Paper, inset: float) -> Points:
    right, bottom = paper.width_mm - inset, paper.height_mm - inset
    return np.array([[inset, inset], [right, inset], [right, bottom], [inset, bottom]], dtype=float)


KIND = MarkFamily(
    "frame",
    2,
    "frame",
    "one rectangle round everything",
    frame,
    takes_mm=lambda spec: spec.stroke_mm,
    along_the_rim=True,
    counted="frame",
)
