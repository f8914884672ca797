"""A filled disc in each corner."""

from vamper.core.marks.mark import Mark, MarkFamily, centres, disc
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import Paper


def dots(paper: Paper, spec: MarksSpec) -> tuple[Mark, ...]:
    return tuple(Mark("dot", x, y, (disc(x, y, spec.size_mm),)) for x, y in centres(paper, spec))


KIND = MarkFamily(
    "dot",
    3,
    "dots",
    "a filled disc in each corner; the sheet's sides stay free",
    dots,
    of_strokes=False,
    counted="{count} dots",
)
