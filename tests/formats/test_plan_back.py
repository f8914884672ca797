"""Every plan that can be written can be read back: stock by stock, with every family of marks, cutter and finish."""

import numpy as np
import pytest
from shapely.geometry.base import BaseGeometry

from tests.covers import COATED, laminated
from tests.scenes import item, scene
from vamper.core.marks.mark import FAMILIES
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed
from vamper.core.values.geometry import mirrored
from vamper.core.values.marks import MarksSpec
from vamper.core.values.shrink import Bar, ShrinkSpec
from vamper.core.values.stock import STARTER_STOCKS, Stock
from vamper.core.vision.reference import SheetReference, reference_of
from vamper.formats.plan_document import PlanDocument
from vamper.formats.plan_writing import plan_document
from vamper.formats.reference_in import reference_in

CUTTERS = (Cutter(), Cutter(feed=Feed.ROLLER, head_mm=10, tail_mm=10), Cutter(feed=Feed.HAND))
FINISHES: tuple[dict[str, object], ...] = ({}, {"finish": COATED}, {"finish": laminated(50.0)})


@pytest.mark.parametrize(("place", "stock"), list(enumerate(STARTER_STOCKS)), ids=lambda one: getattr(one, "key", ""))
def test_a_plan_comes_back_as_it_was_written(place: int, stock: Stock) -> None:
    """Every family on every stock; cutters and finishes take turns, so that each meets each family."""
    cut = Cut.KISS if stock.has_backing else Cut.THROUGH
    for number, family in enumerate(FAMILIES):
        cutter, finish = CUTTERS[(place + number) % 3], FINISHES[(place // 3 + number) % 3]
        shrink = {"shrink": ShrinkSpec(Bar(100, 100), Bar(45, 50))} if stock.key == "shrink-film" else {}
        made = scene(
            item(quantity=2, cut=cut), stock=stock.key, cutter=cutter, marks=MarksSpec(family.key), **finish, **shrink
        )
        plan = made.plan()
        written = plan_document(plan, made.findings()).write()
        back = PlanDocument.read(written)
        assert back.write() == written
        sheet = reference_in(back, 1, lambda _name: None)
        # Held against itself, nothing is anywhere else.
        for piece, edge in zip(sheet.pieces, plan.sheets[0].edges, strict=True):
            assert piece.edge.symmetric_difference(_as_filed(plan.mirror, plan.job.paper.width_mm, edge)).area < 0.05
        assert len(sheet.marks) == len(plan.setup.marks)
        _same_reference(sheet, reference_of(plan, 0))
        assert (back.items[0].finished_mm is not None) == bool(shrink)


def _same_reference(filed: SheetReference, direct: SheetReference) -> None:
    """A sheet read back is the sheet of the plan itself, to the file's last digit; designs go by place in a file."""
    assert (filed.width_mm, filed.height_mm, filed.stock_rgb, filed.mirror) == (
        direct.width_mm,
        direct.height_mm,
        direct.stock_rgb,
        direct.mirror,
    )
    for ours, theirs in zip(filed.marks, direct.marks, strict=True):
        for ring, other in zip(ours.rings, theirs.rings, strict=True):
            assert np.abs(ring - other[: len(ring)]).max() < 1e-3
    for one, two in zip(filed.pieces, direct.pieces, strict=True):
        assert one.placement == two.placement
        assert (one.x_mm, one.y_mm, one.turn_deg) == pytest.approx((two.x_mm, two.y_mm, two.turn_deg), abs=1e-5)
        for ours, theirs in ((one.outline, two.outline), (one.edge, two.edge)):
            assert ours.symmetric_difference(theirs).area < 0.05


def _as_filed(mirror: bool, width: float, edge: BaseGeometry) -> BaseGeometry:
    return mirrored(edge, width) if mirror else edge
