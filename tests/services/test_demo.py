"""The demo workshop shows every finding of art and edge, and each fix does what it says."""

from collections.abc import Iterator

import pytest

from vamper.core.findings import Finding, FixTarget, Severity
from vamper.core.plan import item_findings
from vamper.demo.workshop import fill
from vamper.services.jobs import JobState
from vamper.services.nesting_process import ProcessNester
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
    workshop = Workshop(tmp_path_factory.mktemp("demo") / "demo.db", nester, search_seconds=1)
    fill(workshop)
    yield workshop
    workshop.close()


def found_on(
    workshop: Workshop, state: JobState, number: int, changes: dict[str, object] | None = None
) -> list[Finding]:
    item = workshop.items.designed(state, number, changes)
    return item_findings(item, state.document.purpose, workshop.stock(state.document.stock))


def test_every_finding_can_be_seen(demo: Workshop) -> None:
    codes = set()
    for job in demo.jobs.all():
        plan, _ = demo.plan(demo.jobs.get(job.id))
        codes |= {finding.code for finding in plan.findings}
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
