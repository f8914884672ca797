"""How one job is finished: its process, the work in it, its steps, and what is missing before it is done for real."""

from collections.abc import Mapping
from dataclasses import dataclass

from vamper.core.finishing.process import LABELS, Label, Process, Work, WorkStep, finish_of, minutes_of, steps_of
from vamper.core.plan import Plan


@dataclass(frozen=True)
class Finishing:
    """`minutes` is how long it takes with nothing else in its way; `missing` what the label must still say."""

    process: Process
    work: Work
    steps: tuple[WorkStep, ...]
    minutes: int
    missing: tuple[Label, ...]


def finishing_of(plan: Plan, label: Mapping[str, float]) -> Finishing | None:
    """How a planned job is finished; None while nothing lies on a sheet."""
    if not plan.sheets:
        return None
    job = plan.job
    process = finish_of(job.finish, job.stock, job.purpose, job.coated, job.laminate_um > 0)
    sheets = len(plan.sheets) * job.copies
    pieces = plan.layout.pieces * job.copies
    work = Work(pieces, sheets, job.finish.coats, job.finish.plate, job.finish.school, dict(label))
    steps = steps_of(process, work)
    missing = tuple(LABELS[key] for key in process.label_keys() if key not in label)
    return Finishing(process, work, steps, minutes_of(steps), missing)
