"""The rules that hold whatever the figures say, for forces, held against
proposals that are made from anything that may be told.
"""

import math
from collections.abc import Sequence
from dataclasses import replace

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from tests.tried import tried
from vamper.core.cutting.belief import prior
from vamper.core.cutting.cut_history import CutHistory
from vamper.core.cutting.inspect import cut_findings
from vamper.core.cutting.known_outcomes import KnownOutcome, holds_now
from vamper.core.cutting.machine_settings import propose_setting
from vamper.core.cutting.setting import propose
from vamper.core.values.blade import BLADE_METRES, Blade, BladeIn
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, ForceRange, Reach
from vamper.core.values.findings import Severity
from vamper.core.values.named_settings import NamedSetting, SettingSeen
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.core.values.tried import Outcome, Try

VINYL = STOCK_BY_KEY["satin-vinyl"]
KISS = prior(VINYL, Cut.KISS)
RANGE = ForceRange(20, 380, 4)
CUTTER = Cutter(reach_mm=Reach(300, 300), force_gf=RANGE)
TOO_MUCH = (Outcome.BACKING_THROUGH, Outcome.TORN)
PASSES = st.integers(1, 3)


def _newest(tells: Sequence[tuple[float, int, Outcome]]) -> list[KnownOutcome]:
    return [
        KnownOutcome(*key, outcome) for key, outcome in {(level, n): outcome for level, n, outcome in tells}.items()
    ]


def _against(level: float, passes: int, told: Sequence[KnownOutcome]) -> list[KnownOutcome]:
    """Rules one and two, spelt out once more."""
    harder = [t for t in told if t.outcome in TOO_MUCH and level >= t.level and passes >= t.passes]
    gentler = [t for t in told if t.outcome is Outcome.NOT_THROUGH and level <= t.level and passes <= t.passes]
    return harder + gentler


@tried(80)
@given(st.lists(st.tuples(st.integers(10, 90), PASSES, st.sampled_from(list(Outcome))), max_size=6))
@example([(5, 1, Outcome.BACKING_THROUGH)] * 10)
@example([(30, 2, Outcome.CLEAN)])
def test_forces(tells: list[tuple[int, int, Outcome]]) -> None:
    seen = [(4.0 * step, n, what) for step, n, what in tells]
    known = CutHistory(tries=tuple(Try(force, n, what) for force, n, what in seen))
    setting, told = propose(VINYL, Cut.KISS, CUTTER, known=known), _newest(seen)
    clean = [t for t in told if t.outcome is Outcome.CLEAN and not _against(t.level, t.passes, told)]
    if clean:
        mine = [t.level for t in clean if t.passes == setting.passes]
        assert min(mine) - 1e-6 <= setting.force_gf <= max(mine) + 1e-6
    elif known.has_seen:
        free = [f for f in range(20, 381, 4) for n in range(setting.least_passes, 7) if not _against(f, n, told)]
        assert not free or not _against(setting.force_gf, setting.passes, told)
    if any(t.outcome is Outcome.CLEAN for t in told):
        assert not [f for f in cut_findings(setting, VINYL, CUTTER) if f.severity is Severity.STOP]


def test_two_passes_that_were_clean_are_taken_again_and_said() -> None:
    steps = (
        NamedSetting("paper"),
        NamedSetting("foil", seen=(SettingSeen(VINYL, Cut.KISS, Outcome.CLEAN, passes=2),)),
        NamedSetting("card"),
    )
    found = propose(VINYL, Cut.KISS, replace(CUTTER, settings=steps))
    assert found.spoken.choice is not None
    assert (found.passes, found.spoken.choice.words) == (2, "“foil”, 2 passes")
    assert "2 passes, by what was told of them" in found.why


@pytest.mark.parametrize(("then", "now"), [(0.0, 0.0), (300.0, 0.0), (0.0, 300.0)])
def test_what_binds_depends_on_how_sharp_the_blade_was(then: float, now: float) -> None:
    sharpness = math.exp(-now / BLADE_METRES)
    assert holds_now(Outcome.CLEAN, then, sharpness) == (then == now)
    # A sharper blade goes through all the more; a duller one gets through all the less.
    assert holds_now(Outcome.BACKING_THROUGH, then, sharpness) == (then >= now)
    assert holds_now(Outcome.NOT_THROUGH, then, sharpness) == (then <= now)


def test_what_the_steep_blade_did_is_not_taken_for_the_other_ones() -> None:
    steep = NamedSetting("foil", seen=(SettingSeen(VINYL, Cut.KISS, Outcome.BACKING_THROUGH, blade=Blade.STEEP),))
    usual = NamedSetting("foil", seen=(SettingSeen(VINYL, Cut.KISS, Outcome.BACKING_THROUGH),))
    forces = [propose_setting((one,), KISS, RANGE, 1).placed[0].median_gf for one in (steep, usual)]
    # It gets through more easily, so the same outcome speaks of less force; and it forbids nothing to the other one.
    assert forces[0] < forces[1]
    assert propose_setting((steep,), KISS, RANGE, 1).choice is not None
    assert propose_setting((usual,), KISS, RANGE, 1).choice is None
    blade = CutHistory(blade=BladeIn(Blade.STEEP))
    assert propose(VINYL, Cut.KISS, Cutter(settings=(steep, NamedSetting("card"))), known=blade).spoken.choice


@tried(40)
@given(st.lists(st.tuples(st.integers(10, 90), PASSES, st.sampled_from(list(Outcome))), min_size=1, max_size=6), PASSES)
def test_what_is_shown_for_other_passes_is_what_choosing_them_sets(
    tells: list[tuple[int, int, Outcome]], passes: int
) -> None:
    tries = tuple(Try(4.0 * step, n, what) for step, n, what in tells)
    shown = propose(VINYL, Cut.KISS, CUTTER, known=CutHistory(tries=tries)).proposed_in(passes)
    chosen = propose(VINYL, Cut.KISS, CUTTER, known=CutHistory(tries=tries, passes=passes))
    assert (shown.force_gf, shown.chance) == (chosen.force_gf, chosen.chance)
