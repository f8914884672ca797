"""A job's designs at other sizes, by their shapes alone, for a search that tries one size after the other.

No picture is read or looked over again: the outline is scaled and thinned out, and the edge round it grown by what that
may be off, so that a layout of these shapes holds for the same designs worked out in full.
"""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace

import shapely
from shapely import affinity

from vamper.core.design import DesignedItem
from vamper.core.edge.edge import derive_edge
from vamper.core.effective_job import effective_job
from vamper.core.plan import pack_problem
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.values.art import SizedOver
from vamper.core.values.geometry import as_multi, grow, parts
from vamper.core.values.item import ItemSpec
from vamper.core.values.job import Job
from vamper.services.design.job_design import Design
from vamper.services.work.reading_room import SEATS

# Points this near a straight line are left out, and edges are grown by a little more.
_THIN_MM, _GROWN_MM = 0.03, 0.05


class ScaledShapes:
    """The shapes of a job that is designed at one size."""

    def __init__(self, now: Design) -> None:
        self._now = now

    @property
    def tell_all(self) -> bool:
        """Whether the shapes of all designs follow from their shapes at this size: not of parts, backs and borders that
        the size is given over, nor what is bent round a cup or shrinks.
        """
        return self._now.asked.shrink is None and all(
            item.asked is None
            and item.spec.tile is None
            and item.spec.wrap is None
            and item.spec.back_of is None
            and item.spec.size.size_over is SizedOver.INK
            for item in self._now.items
        )

    def problem(self, scaled: Job) -> PackProblem:
        """The packing problem of the same job with its sizes scaled.

        Raises
        ------
        BadInput
            If nothing is left of a design at its size.
        """
        job = effective_job(scaled)
        with ThreadPoolExecutor(SEATS) as at_once:
            items = list(at_once.map(self._at_size, self._now.items, job.items))
        return pack_problem(job, self._now.setup, items)

    def _at_size(self, item: DesignedItem, spec: ItemSpec) -> DesignedItem:
        factor = spec.size.wanted_mm / item.spec.size.wanted_mm
        shape = affinity.scale(item.outline.shape, factor, factor, origin=(0, 0))
        thin = as_multi(parts(shapely.simplify(shape, _THIN_MM)))
        outline = replace(item.outline, shape=thin, mm_per_px=item.outline.mm_per_px * factor)
        edge = derive_edge(outline, spec.edge, self._now.job.stock.least_neck_mm)
        return replace(item, spec=spec, edge=replace(edge, shape=as_multi(parts(grow(edge.shape, _GROWN_MM)))))
