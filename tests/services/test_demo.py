"""The demo workshop shows every finding of art and edge, and each fix does what it says."""

from collections.abc import Iterator
from dataclasses import replace

import pytest

from tests.demo_file import demo_file
from vamper.core.inspect import item_findings
from vamper.core.values.findings import Finding, FixTarget, Severity
from vamper.services.jobs.job_state import JobState
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop

SHOWN = {
    "art.opaque",
    "art.pieces",
    "art.several",
    "art.holes",
    "art.specks",
    "art.fringe",
    "art.resolution",
    "art.thin",
    "art.white-on-clear",
    "art.base",
    "art.margin",
    "art.too-big",
    "art.too-small",
    "art.mode",
    "art.font",
    "edge.border-thin",
    "edge.border-uneven",
    "edge.bleed",
}


@pytest.fixture(scope="module")
def demo(tmp_path_factory: pytest.TempPathFactory, nester: ProcessNester) -> Iterator[Workshop]:
    workshop = Workshop(demo_file(tmp_path_factory, nester), nester, search_seconds=1)
    yield workshop
    workshop.close()


def found_on(
    workshop: Workshop, state: JobState, number: int, changes: dict[str, object] | None = None
) -> list[Finding]:
    document = state.document.items_changed((number,), changes or {})
    item = workshop.items.designed(replace(state, document=document), number)
    return item_findings(item, state.document.purpose, workshop.shop.stock(state.document.stock))


def test_every_finding_can_be_seen(demo: Workshop) -> None:
    codes = set()
    for job in demo.jobs.all():
        codes |= {finding.code for finding in demo.plans.of(demo.jobs.get(job.id)).findings}
    assert codes >= SHOWN


def test_every_fix_of_what_presses_takes_it_away(demo: Workshop) -> None:
    tried = 0
    for job in demo.jobs.all():
        state = demo.jobs.get(job.id)
        for item in state.document.items:
            for finding in found_on(demo, state, item.number):
                for fix in finding.fixes:
                    if finding.severity is Severity.NOTE or fix.target is not FixTarget.ITEM:
                        continue
                    tried += 1
                    after = found_on(demo, state, item.number, dict(fix.changes))
                    still = [f for f in after if f.code == finding.code and f.severity is not Severity.NOTE]
                    assert not still, f"{item.name}: {finding.title}: {fix.label}"
    assert tried >= 10


def test_a_trial_is_what_is_saved_to_a_few_hundredths(demo: Workshop) -> None:
    for job in demo.jobs.all():
        state = demo.jobs.get(job.id)
        for item in state.document.items:
            full = demo.items.designed(state, item.number)
            quick = demo.items.tried(state, item.number, {})
            # Ties between loose parts may come to lie a little elsewhere, nothing else moves.
            moved = quick.edge.shape.symmetric_difference(full.edge.shape).area
            assert moved < 0.01 * full.edge.shape.area + 0.05 * full.edge.shape.length, item.name
            assert quick.outline.ppi == pytest.approx(full.outline.ppi, rel=0.01)
            assert quick.outline.picture_box_mm == pytest.approx(full.outline.picture_box_mm, abs=0.3)
