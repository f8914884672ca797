"""What is cut from shrink film comes out of the oven as it was asked for, however it was laid: the film shrinks along
the sheet's axes, not along the piece's.
"""

from dataclasses import replace

import numpy as np
import pytest
import shapely
import shapely.affinity

from tests.services.test_jobs import job_with_disc
from tests.services.test_right_rules import packed
from vamper.core.inspect import findings_of
from vamper.core.plan import Plan
from vamper.core.values.item import Turn
from vamper.core.values.placement import Pin, Placement
from vamper.services.brief.brief import brief
from vamper.services.workshop import Workshop

UNEVEN = {"before": {"width_mm": 100, "height_mm": 100}, "after": {"width_mm": 40, "height_mm": 50}}
EVEN = {"before": {"width_mm": 100, "height_mm": 100}, "after": {"width_mm": 45, "height_mm": 45}}


def film(workshop: Workshop, shrink: object, **packing: object) -> int:
    job = job_with_disc(workshop)
    workshop.jobs.change_items(job, "many", (1,), {"quantity": 9, "longest_mm": 30})
    changes = {"stock": "shrink-film", "shrink": shrink, **{f"packing.{key}": value for key, value in packing.items()}}
    workshop.jobs.change(job, "film", changes)
    return job


def baked(plan: Plan) -> list[shapely.MultiPolygon]:
    """The edges of the finished pieces: those on the sheet, shrunk along the sheet's axes."""
    shrink = plan.job.stock.shrink
    x, y = (1.0, 1.0) if shrink is None else (shrink.x, shrink.y)
    return [shapely.affinity.scale(edge, x, y, origin=(0, 0)) for sheet in plan.sheets for edge in sheet.edges]


@pytest.mark.parametrize("mode", ["mixed", "tidy", "kits", "one-per-sheet"])
@pytest.mark.parametrize("turn", list(Turn))
def test_all_copies_come_out_alike_and_as_wide_as_they_are_high(workshop: Workshop, mode: str, turn: Turn) -> None:
    plan = packed(workshop, film(workshop, UNEVEN, mode=mode, turn=turn.value))
    assert plan.layout.pieces == 9
    for edge in baked(plan):
        # A disc of 30 mm with its border, round again.
        left, top, right, bottom = edge.bounds
        assert right - left == pytest.approx(bottom - top, rel=0.05)
        assert np.sqrt(edge.area * 4 / np.pi) == pytest.approx(right - left, rel=0.05)
    assert all(one.turn_deg % 180 == 0 for sheet in plan.layout.sheets for one in sheet)


def test_a_piece_that_was_laid_askew_is_laid_anew_and_that_is_said(workshop: Workshop) -> None:
    job = film(workshop, EVEN)
    held = ((Placement(1, 100.0, 60.0, 59.0, Pin.HAND),),)
    workshop.jobs.edit(job, "lay", lambda document: replace(document, held=held))
    assert any(one.turn_deg == 59.0 for one in packed(workshop, job).layout.sheets[0])
    workshop.jobs.change(job, "bar", {"shrink": UNEVEN})
    plan = packed(workshop, job)
    assert all(one.turn_deg % 180 == 0 for sheet in plan.layout.sheets for one in sheet)
    assert plan.layout.pieces == 9
    assert "finish.askew" in {finding.code for finding in findings_of(plan)}


def test_the_brief_says_how_they_are_really_turned(workshop: Workshop) -> None:
    def words(shrink: object) -> str:
        state = workshop.jobs.get(film(workshop, shrink))
        return "".join(phrase.text for phrase in brief(workshop.briefing.facts(state)))

    assert "any way round" in words(EVEN)
    assert "upright or upside down" in words(UNEVEN)
    # A film of which no bar was measured may be uneven.
    assert "upright or upside down" in words(None)
