"""Jobs in the evening: their pieces put into it, and what a label says kept for their stock as well."""

from collections.abc import Mapping

from vamper.services.finish.evening import Evenings
from vamper.services.planning.plans import Plans
from vamper.services.shop.shop import Shop


class Tonight:
    """The batches that the jobs of one workshop bring into its evening."""

    def __init__(self, plans: Plans, evenings: Evenings, shop: Shop) -> None:
        self._plans = plans
        self._evenings = evenings
        self._shop = shop

    def add(self, job_id: int) -> None:
        """Put a job's pieces into the evening."""
        self._evenings.add(job_id, self._plans.latest(job_id).plan)

    def read_label(self, batch: int, figures: Mapping[str, float]) -> None:
        """Keep what a label says with the stock it is for, and go by it tonight.

        Raises
        ------
        BadInput
            For a figure that is unknown or out of range.
        """
        found = self._evenings.document().batch(batch)
        self._shop.labels.change(found.stock, found.facts.stock, figures)
        self._evenings.read_label(batch, figures)
