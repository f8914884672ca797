"""How things stand in a lesson after some of its moves."""

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from vamper.core.trainer.lesson import Lesson, LessonMove
from vamper.core.values.twin import FaultKey


@dataclass(frozen=True)
class LessonWorld:
    """How things stand after some moves: fields of the job that were changed, remedies in the order in which they were
    taken, what was broken, and the quantities of the work after the cut. `document` is the learner's own job, where
    they work on one: what was changed is in it.
    """

    job: Mapping[str, Any] = field(default_factory=dict)
    remedies: tuple[str, ...] = ()
    broken: tuple[FaultKey, ...] = ()
    quantities: Mapping[str, float] = field(default_factory=dict)
    document: Hashable = None


def world_after(lesson: Lesson, taken: Sequence[LessonMove]) -> LessonWorld:
    """How things stand after some moves of a lesson."""
    job, remedies, broken = dict[str, Any](), list[str](), list[FaultKey]()
    quantities = dict(lesson.start)
    for move in taken:
        for path, value in move.job.items():
            # What is a list is added to: one remedy does not undo another.
            job[path] = [*job.get(path, ()), *value] if isinstance(value, list) else value
        remedies += [one for one in move.remedies if one not in remedies]
        broken += [one for one in move.breaks if one not in broken]
        quantities |= move.sets
        for name, more in move.adds.items():
            quantities[name] = quantities.get(name, 0.0) + more
    return LessonWorld(job, tuple(remedies), tuple(broken), quantities)
