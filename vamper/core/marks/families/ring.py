"""An annulus in each corner, all but the first with a dot: a sheet loaded the wrong way round is noticed."""

from vamper.core.marks.mark import Mark, MarkFamily, centres, disc
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import Paper

_DOT_IN_RING = 1 / 3


def ring_marks(paper: Paper, spec: MarksSpec) -> tuple[Mark, ...]:
    marks = []
    for number, (x, y) in enumerate(centres(paper, spec)):
        rings = [disc(x, y, spec.size_mm), disc(x, y, max(spec.size_mm - 2 * spec.stroke_mm, 0.1))]
        if number:
            rings.append(disc(x, y, spec.size_mm * _DOT_IN_RING))
        marks.append(Mark("ring", x, y, tuple(rings)))
    return tuple(marks)


KIND = MarkFamily(
    "ring",
    5,
    "rings",
    "a ring in each corner, one without its dot: tells a sheet put in the wrong way round",
    ring_marks,
    counted="{count} rings",
)
