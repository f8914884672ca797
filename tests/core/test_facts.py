"""The facts that a plan tells of itself to whoever looks for a cause."""

import pytest

from tests.scenes import item, scene
from vamper.core.ledger.facts import facts_of
from vamper.core.values.blade import Blade, BladeIn
from vamper.core.values.calibration import Calibration
from vamper.core.values.cutter import Cutter, Feed
from vamper.core.values.mat import MatIn

PLAIN = {"blade": BladeIn(), "mat": MatIn(loads=5)}
SHINY, DULL, SPARKLING = ({"stock": key} for key in ("gloss-vinyl", "matte-label", "shimmer-vinyl"))


@pytest.mark.parametrize(
    ("fact", "fields"),
    [
        ("steep-blade", {"blade": BladeIn(Blade.STEEP)}),
        ("tuft", {"blade": BladeIn(tuft=True)}),
        ("old-blade", {"blade": BladeIn(metres=900)}),
        ("roller", {"cutter": Cutter(feed=Feed.ROLLER)}),
        ("lint", {"mat": MatIn(loads=5, lint=True)}),
        ("old-mat", {"mat": MatIn(loads=60)}),
        ("fresh-mat", {"mat": MatIn(loads=0)}),
        ("gloss", SHINY),
        ("matte", DULL),
        ("metallic", SPARKLING),
    ],
)
def test_each_fact_is_told_where_it_is_so_and_nowhere_else(fact: str, fields: dict[str, object]) -> None:
    plain, special = scene(item(), **PLAIN).plan(), scene(item(), **{**PLAIN, **fields}).plan()
    assert fact in facts_of(special)
    assert fact not in facts_of(plain)


def test_what_is_calibrated_or_tried_says_nothing_of_it() -> None:
    measured = Calibration(((1.0, 0.0, 0.3), (0.0, 1.0, 0.1)), 0.05, 0.1, 0.0, 0.08)
    assert "not-calibrated" in facts_of(scene(item()).plan())
    assert "not-calibrated" not in facts_of(scene(item(), calibration=measured).plan())
