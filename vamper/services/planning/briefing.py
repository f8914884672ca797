"""What the brief of a job is told from, and what its phrases can be changed to."""

import threading
from collections import defaultdict
from functools import partial

from vamper.core.ledger.money import money
from vamper.core.plan import Plan
from vamper.core.values.findings import BadInput
from vamper.services.brief.brief import choices
from vamper.services.brief.phrase import BriefFacts, Choice, ChoiceContext
from vamper.services.jobs.job_state import JobState
from vamper.services.jobs.jobs import Jobs
from vamper.services.ledger.supplies import Supplies
from vamper.services.planning.plans import Plans
from vamper.services.shop.shop import Shop
from vamper.services.shop.usual import UsualMachines


class Briefing:
    """The briefs of one workshop's jobs."""

    def __init__(self, jobs: Jobs, plans: Plans, shop: Shop, usual: UsualMachines, supplies: Supplies) -> None:
        self._jobs = jobs
        self._plans = plans
        self._shop = shop
        self._usual = usual
        self._supplies = supplies
        # Most of a list is the same for every job: whoever asks for it meanwhile finds it worked out.
        self._listing: defaultdict[str, threading.Lock] = defaultdict(threading.Lock)

    def facts(self, state: JobState, plan: Plan | None = None) -> BriefFacts:
        """The facts that the brief of a job is told from; with its plan it also says whether there is enough of its
        stock.
        """
        document = state.document
        printer, cutter = self._shop.printers.get(document.printer_id), self._shop.cutters.get(document.cutter_id)
        usual = self._usual.get()
        for_now = {"printer": usual.printer_id is None, "cutter": usual.cutter_id is None}
        shelf = self._supplies.of(document.stock)
        left = None if shelf is None else shelf.left
        needed = 0 if plan is None else len(plan.sheets) * document.copies - document.paper.is_used
        return BriefFacts(document, self._jobs.core_job(state), printer.name, cutter.name, for_now, left, needed)

    def choices(self, state: JobState, phrase: str) -> list[Choice]:
        """The choices for a phrase of a job's brief."""
        try:
            design = self._plans.design(state)
        except BadInput:
            design = None
        asked = ChoiceContext(
            document=state.document,
            job=self._jobs.core_job(state),
            design=design,
            shop=self._shop,
            offcuts=self._supplies.offcuts(state.document.stock),
            recent=self._jobs.recent_stocks(),
            prices=dict if design is None else partial(self._prices, state),
        )
        with self._listing[phrase]:
            return choices(asked, phrase)

    def _prices(self, state: JobState) -> dict[str, str]:
        """The price of a piece on each stock whose price is known, as many on a sheet as now."""
        plan = self._plans.of(state).plan
        if not plan.layout.pieces:
            return {}
        a_piece, currency = len(plan.sheets) / plan.layout.pieces, self._supplies.prices().currency
        return {
            one.stock: f"{money(one.sheet_price * a_piece, currency)} of stock a piece"
            for one in self._supplies.stocks()
            if one.sheet_price
        }
