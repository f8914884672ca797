"""What is stuck over the marks covers no piece: the live area follows the remedies that are taken."""

import pytest
import shapely
from shapely.geometry import box

from tests.scenes import item, scene
from vamper.core.marks.sheet_marks import FAMILIES, PATCH_RIM_MM, patch_sides
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.marks import NO_MARKS, MarksSpec
from vamper.core.values.paper import PAPER_BY_KEY
from vamper.core.values.reading import Remedy


@pytest.mark.parametrize("family", [one.key for one in FAMILIES if one.key != NO_MARKS])
@pytest.mark.parametrize("paper", ["letter", "a4", "a5"])
@pytest.mark.parametrize("stock", ["kraft-card", "satin-vinyl", "light-transfer"])
@pytest.mark.parametrize("remedy", [Remedy.WHITE_PATCHES, Remedy.MATTE_TAPE])
def test_no_piece_lies_under_a_patch(family: str, paper: str, stock: str, remedy: Remedy) -> None:
    spec = MarksSpec(family, remedies=(remedy,))
    dots = item(1, quantity=60, width_mm=20.0, edge=EdgeSpec("bare", 0.0))
    plan = scene(dots, stock=stock, paper=PAPER_BY_KEY[paper], marks=spec).plan()
    for sheet in plan.sheets:
        pieces = shapely.union_all(sheet.edges)
        assert not pieces.is_empty
        for mark in plan.setup.marks:
            # A frame is patched along its rim, all else with a square and its tongue.
            covered = (
                box(*patch_sides(mark, plan.job.paper, spec, taped=True))
                if family != "frame"
                else shapely.Polygon(mark.rings[0], list(mark.rings[1:])).buffer(PATCH_RIM_MM, join_style="mitre")
            )
            assert pieces.intersection(covered).area < 1e-6


def test_without_a_remedy_nothing_more_is_kept_free() -> None:
    plain, patched = (
        scene(item(1), stock="kraft-card", marks=MarksSpec("dot", remedies=remedies)).plan().setup.live.area_mm2
        for remedies in ((), (Remedy.WHITE_PATCHES,))
    )
    assert patched < plain
