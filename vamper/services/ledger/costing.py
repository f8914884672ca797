"""What a planned job costs: its work, taken from the plan, the shelf and the runs."""

from collections import Counter
from collections.abc import Sequence

from vamper.core.finishing.chain import chain_of_job
from vamper.core.finishing.work import work_of as finish_work_of
from vamper.core.ledger.cost import MadeCounts, WorkTimes
from vamper.core.ledger.run import CameOut, Took
from vamper.core.ledger.success import success_of
from vamper.core.ledger.supply import OnShelf
from vamper.core.plan import Plan, metres_of
from vamper.core.values.stock import StockClass
from vamper.services.finish.finishing import backs_on, finishing_of
from vamper.services.ledger.runs import Runs

_MM2_IN_M2 = 1e6


def took_of(plan: Plan, sheets: Sequence[int], times: int, ink_ml: float) -> Took:
    """The supplies that some sheets (from 0) of a plan take, each made so many times, with the ink of all of them."""
    job, chain = plan.asked, chain_of_job(plan.asked)
    made = len(sheets) * times
    paper = job.paper.width_mm * job.paper.height_mm / _MM2_IN_M2
    coats = finish_work_of(job).coats_of(chain)
    # A blank with two sides is one blank.
    blanks = sum(len(plan.sheets[number].placements) for number in sheets) - backs_on(plan, sheets)
    return Took(
        ink_ml=ink_ml * times,
        metres=sum(metres_of(plan, number) for number in sheets) * times if job.cutter.is_machine else 0.0,
        laminate_m2=paper * made if job.finish.laminate_um else 0.0,
        coats=coats * made if chain.facts.coated else 0.0,
        blanks=blanks * times if job.stock.stock_class is StockClass.DYE else 0.0,
    )


def work_of(plan: Plan, shelf: OnShelf | None, runs: Runs, ink_ml: float, simulated: bool) -> WorkTimes:
    """The working times of a job; the share likely to be spoilt follows from the runs on its stock. A used sheet was
    paid for by the pieces made of it first.
    """
    job = plan.asked
    counts = Counter(one.item for sheet in plan.sheets for one in sheet.placements)
    finishing = finishing_of(plan)
    hands = 0 if finishing is None else sum(one.timed.minutes for one in finishing.steps if one.timed.hands_on)
    sheets, price = len(plan.sheets) * job.copies, 0.0 if shelf is None else shelf.sheet_price
    return WorkTimes(
        tuple(
            MadeCounts(item.number, counts.get(item.number, 0) * job.copies, item.edge.shape.area)
            for item in plan.items
        ),
        sheets,
        price * (sheets - job.paper.is_used) / sheets if sheets else 0.0,
        took_of(plan, range(len(plan.sheets)), job.copies, ink_ml),
        hands,
        good_share(runs, job.stock.key, simulated),
    )


def good_share(runs: Runs, stock: str, simulated: bool) -> float:
    """The share of pieces that come out well on a stock; all of them while nothing is known."""
    made = [one.run for one in runs.all() if one.run.stock == stock and one.run.simulated == simulated]
    ran = [run for run in made if run.came_out is not CameOut.NOT_RUN]
    if not ran:
        return 1.0
    good, all_of = sum(run.good_pieces for run in ran), sum(run.made_pieces for run in ran)
    return success_of(good, all_of - good).share
