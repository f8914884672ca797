"""How one job is finished: its chain, the work in it, its steps, and what is missing before it is done for real."""

from collections.abc import Iterable
from dataclasses import dataclass

from vamper.core.finishing.chain import Chain, chain_of_job
from vamper.core.finishing.labels import LABELS, Label
from vamper.core.finishing.press_plan import MOST_PATCHES, patch_count
from vamper.core.finishing.work import BatchWork, WorkStep, minutes_of, steps_of, work_of
from vamper.core.plan import Plan


@dataclass(frozen=True)
class Finishing:
    """`minutes` is how long it takes with nothing else in its way; `missing` what the label must still say."""

    chain: Chain
    work: BatchWork
    steps: tuple[WorkStep, ...]
    minutes: int
    missing: tuple[Label, ...]


def backs_on(plan: Plan, sheets: Iterable[int]) -> int:
    """How many pieces on some sheets (from 0) are the second sides of others: with those they are one product."""
    backs = {item.number for item in plan.items if item.spec.back_of is not None}
    # What a product takes besides its first print is pressed onto the same blank.
    backs |= {number for one in plan.asked.products for number in one.items[1:]}
    return sum(one.item in backs for sheet in sheets for one in plan.sheets[sheet].placements)


def finishing_of(plan: Plan) -> Finishing | None:
    """How a planned job is finished; None while nothing lies on a sheet."""
    if not plan.sheets:
        return None
    # As it was asked for: a laminate is no longer said of the job as it is made.
    job = plan.asked
    chain = chain_of_job(job)
    patches = max((patch_count(*item.edge.size_mm, job.finish.heat) for item in plan.items), default=1)
    work = work_of(
        job,
        pieces=plan.layout.pieces * job.copies,
        sheets=len(plan.sheets) * job.copies,
        backs=backs_on(plan, range(len(plan.sheets))) * job.copies,
        patches=min(patches, MOST_PATCHES),
    )
    steps = steps_of(chain, work)
    read = work.figures(chain)
    missing = tuple(LABELS[key] for key in chain.label_keys() if key not in read)
    return Finishing(chain, work, steps, minutes_of(steps), missing)
