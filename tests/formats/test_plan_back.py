"""Every plan that can be written can be read back: stock by stock, with every family of marks, cutter and finish."""

import pytest
from shapely.geometry.base import BaseGeometry

from tests.scenes import item, scene
from vamper.core.marks.mark import FAMILIES
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed
from vamper.core.values.finish import Bar, ShrinkSpec
from vamper.core.values.geometry import mirrored
from vamper.core.values.marks import MarksSpec
from vamper.core.values.stock import STARTER_STOCKS, Stock
from vamper.formats.plan_file import write_plan
from vamper.formats.plan_in import planned_sheet, read_plan

CUTTERS = (Cutter(), Cutter(Feed.ROLLER, head_mm=10, tail_mm=10), Cutter(feed=Feed.HAND))
FINISHES: tuple[dict[str, object], ...] = ({}, {"coated": True}, {"laminate_um": 50.0})


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
        back = read_plan(write_plan(plan, made.findings()))
        sheet = planned_sheet(back, 1, lambda _name: None)
        # Held against itself, nothing is anywhere else.
        for piece, edge in zip(sheet.pieces, plan.sheets[0].edges, strict=True):
            assert piece.edge.symmetric_difference(_as_filed(plan.mirror, plan.job.paper.width_mm, edge)).area < 0.05
        assert len(sheet.marks) == len(plan.setup.marks)
        assert (back.items[0].finished_mm is not None) == bool(shrink)


def _as_filed(mirror: bool, width: float, edge: BaseGeometry) -> BaseGeometry:
    return mirrored(edge, width) if mirror else edge
