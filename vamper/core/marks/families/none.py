"""No marks: the cutter adds its own, or cuts by eye."""

from vamper.core.marks.mark import Mark, MarkFamily
from vamper.core.values.marks import NO_MARKS, MarksSpec
from vamper.core.values.paper import Paper


def nothing(_paper: Paper, _spec: MarksSpec) -> tuple[Mark, ...]:
    return ()


KIND = MarkFamily(NO_MARKS, 6, "none", "the cutter adds its own, or cuts by eye", nothing)
