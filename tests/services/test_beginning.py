"""How new jobs begin: after the last one, after what is made most, and with neither as stickers on label paper."""

from pathlib import Path

import pytest

from tests.conftest import disc_png
from vamper.core.finishing.goes_on import goes_on
from vamper.core.finishing.targets import TARGETS
from vamper.core.values.finish import CoverKind, Target
from vamper.core.values.lengths import Unit
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.services.design.designer import Designer
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.shop.makes import FIRST_JOBS, Makes
from vamper.services.shop.usual import Usual
from vamper.services.workshop import Workshop


@pytest.fixture
def new(tmp_path: Path, nester: ProcessNester, designer: Designer):  # type: ignore[no-untyped-def]
    opened = Workshop(tmp_path / "new.db", nester, search_seconds=0.4, designer=designer)
    yield opened
    opened.close()


def test_with_neither_it_is_stickers_to_hand_out_on_label_paper(new: Workshop) -> None:
    document = new.jobs.get(new.jobs.create("first")).document
    assert (document.stock, document.target) == ("matte-label", Target.HAND_OUT)


@pytest.mark.parametrize("makes", Makes)
def test_the_first_job_follows_from_what_is_made_most(new: Workshop, makes: Makes) -> None:
    new.usual.put(Usual(makes=makes))
    document = new.jobs.get(new.jobs.create("first")).document
    first = FIRST_JOBS[makes]
    assert (document.stock, document.target, document.purpose) == (
        first.stock,
        first.target,
        TARGETS[first.target].purpose,
    )
    assert goes_on(STOCK_BY_KEY[first.stock].stock_class, first.target).usual


def test_a_new_job_takes_after_the_last_one_with_something_in_it(new: Workshop) -> None:
    last = new.jobs.create("last")
    art = new.arts.take_in("disc.png", disc_png())
    new.jobs.add_item(last, art.digest, "disc", 40, {"kind": "hull", "distance_mm": 4.5})
    cover = {"kind": "laminate", "um": 80.0}
    paper = {"width_mm": 148.0, "height_mm": 210.0}
    new.jobs.change(
        last, "as wished", {"stock": "gloss-vinyl", "target": "boat", "finish.cover": cover, "paper": paper}
    )
    # An empty one in between says nothing of what is made.
    new.jobs.create("empty")
    begun = new.jobs.create("next")
    document = new.jobs.get(begun).document
    assert (document.stock, document.target, document.paper.width_mm) == ("gloss-vinyl", Target.BOAT, 148.0)
    assert document.finish.cover is not None
    assert (document.finish.cover.kind, document.finish.cover.um) == (CoverKind.LAMINATE, 80.0)
    item = new.jobs.add_item(begun, art.digest, "disc", 40, {}).document.items[0]
    assert (item.edge.kind, item.edge.distance_mm) == ("hull", 4.5)
    # A part-used sheet is another one the next time, and bare stock keeps its own edge.
    new.jobs.change(
        begun, "offcut", {"paper": {**paper, "spent": {"width_mm": 60.0, "height_mm": 210.0}}, "stock": "plain-vinyl"}
    )
    after = new.jobs.create("after")
    document = new.jobs.get(after).document
    assert not document.paper.is_used
    assert new.jobs.add_item(after, art.digest, "disc", 40, {}).document.items[0].edge.kind == "bare"


def test_in_inches_a_new_job_has_lines_of_a_ruler(new: Workshop) -> None:
    new.usual.put(Usual(unit=Unit.INCH))
    document = new.jobs.get(new.jobs.create("first")).document
    marks, border = document.marks, document.border
    assert border is not None
    lengths = (border.distance_mm, border.smooth_mm, document.packing.gap_mm, marks.inset_mm, marks.size_mm)
    assert [round(16 * mm / 25.4, 6) for mm in (*lengths, marks.stroke_mm, marks.clear_mm)] == [
        2.0, 1.5, 1.5, 6.0, 7.0, 0.5, 1.5,
    ]  # fmt: skip
    new.usual.put(Usual(unit=Unit.MM))
    assert new.jobs.get(new.jobs.create("second")).document.border is None
