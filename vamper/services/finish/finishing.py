"""How one job is finished: its process, the work in it, its steps, and what is missing before it is done for real."""

from dataclasses import dataclass

from vamper.core.finishing.press_plan import MOST_PATCHES, patch_count
from vamper.core.finishing.process import LABELS, Label, Process, Work, WorkStep, minutes_of, process_of_job, steps_of
from vamper.core.plan import Plan


@dataclass(frozen=True)
class Finishing:
    """`minutes` is how long it takes with nothing else in its way; `missing` what the label must still say."""

    process: Process
    work: Work
    steps: tuple[WorkStep, ...]
    minutes: int
    missing: tuple[Label, ...]


def finishing_of(plan: Plan) -> Finishing | None:
    """How a planned job is finished; None while nothing lies on a sheet."""
    if not plan.sheets:
        return None
    # As it was asked for: a laminate is no longer said of the job as it is made.
    job = plan.asked
    process = process_of_job(job)
    sheets = len(plan.sheets) * job.copies
    pieces = plan.layout.pieces * job.copies
    spec, label = job.finish, job.finish.read
    patches = max((patch_count(*item.edge.size_mm, spec.heat) for item in plan.items), default=1)
    work = Work(pieces, sheets, spec.coats, spec.plate, spec.school, label, spec.added, min(patches, MOST_PATCHES))
    steps = steps_of(process, work)
    missing = tuple(LABELS[key] for key in process.label_keys() if key not in label)
    return Finishing(process, work, steps, minutes_of(steps), missing)
