"""The steps of a machine: their places against every combination of forces, by hand, and what is proposed in words."""

import itertools
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.tried import tried
from vamper.core.cutting.belief import MISREAD, landing_chance, prior
from vamper.core.cutting.depth import bands_of
from vamper.core.cutting.machine_settings import propose_setting
from vamper.core.values.blade import Blade, sharpness_of
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, ForceRange
from vamper.core.values.named_settings import NamedSetting, SettingSeen
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.core.values.tried import Outcome

VINYL, LABEL, CARD = (STOCK_BY_KEY[key] for key in ("satin-vinyl", "matte-label", "card"))
RANGE = ForceRange(20, 380, 4)
KISS = prior(VINYL, Cut.KISS)
OUTCOMES = st.sampled_from([Outcome.NOT_THROUGH, Outcome.CLEAN, Outcome.BACKING_MARKED, Outcome.BACKING_THROUGH])
SEEN = st.builds(SettingSeen, st.sampled_from([VINYL, LABEL]), st.just(Cut.KISS), OUTCOMES)


def did(stock, outcome: Outcome, cut: Cut = Cut.KISS, **more: float) -> SettingSeen:  # type: ignore[no-untyped-def]
    return SettingSeen(stock, cut, outcome, **more)  # type: ignore[arg-type]


def test_two_steps_against_all_pairs_of_forces() -> None:
    first, second = (
        NamedSetting("one", seen=(did(LABEL, Outcome.CLEAN),)),
        NamedSetting("two", seen=(did(VINYL, Outcome.BACKING_MARKED),)),
    )
    forces = np.exp(np.linspace(math.log(20), math.log(380), 161))

    def likely(seen: SettingSeen, hardness: np.ndarray) -> np.ndarray:
        depths = forces[None] / hardness[:, None]
        lands = landing_chance(depths, bands_of(seen.stock, seen.cut).of(seen.outcome), 0.06)
        return (1 - MISREAD) * lands + MISREAD / 4

    every = prior(LABEL, Cut.KISS)
    on_label = every.weight @ likely(first.seen[0], every.hardness)
    on_vinyl = likely(second.seen[0], KISS.hardness)
    means = np.zeros(2)
    total = 0.0
    for weight, row in zip(KISS.weight[::10], on_vinyl[::10], strict=True):
        pairs = np.triu(on_label[:, None] * row[None]) * weight
        total += pairs.sum()
        means += (pairs.sum(axis=1) @ np.log(forces), pairs.sum(axis=0) @ np.log(forces))
    by_hand = np.exp(means / total)
    found = propose_setting((first, second), KISS, RANGE, 1)
    for one, expected in zip(found.steps, by_hand, strict=True):
        assert one.low_gf < expected < one.high_gf
        assert one.force_gf == pytest.approx(expected, rel=0.06)


@tried(30)
@given(st.lists(st.lists(SEEN, max_size=3), min_size=1, max_size=6))
def test_steps_never_fall_and_stay_on_the_scale(seen: list[list[SettingSeen]]) -> None:
    steps = tuple(NamedSetting(f"step {n}", True, tuple(one)) for n, one in enumerate(seen))
    found = propose_setting(steps, KISS, RANGE, 1)
    for one in found.steps:
        assert 20 <= one.low_gf <= one.force_gf <= one.high_gf <= 380 + 1e-6
        assert -1e-9 < one.chance < 1 + 1e-9
    forces = [one.force_gf for one in found.steps]
    assert all(after >= before - 1e-6 for before, after in itertools.pairwise(forces))
    assert bool(found.words) == any(seen)


def test_nothing_is_said_before_anything_was_seen() -> None:
    found = propose_setting((NamedSetting("soft"), NamedSetting("hard")), KISS, RANGE, 1)
    assert (found.words, found.step) == ("", "")
    assert propose_setting((), KISS, RANGE, 1).steps == ()


def test_the_step_that_was_clean_on_this_very_stock_is_taken() -> None:
    steps = (
        NamedSetting("paper", seen=(did(VINYL, Outcome.NOT_THROUGH),)),
        NamedSetting("foil", seen=(did(VINYL, Outcome.CLEAN), did(VINYL, Outcome.CLEAN))),
        NamedSetting("cardboard", seen=(did(VINYL, Outcome.BACKING_MARKED),)),
    )
    found = propose_setting(steps, KISS, RANGE, 1)
    assert found.words == "take “foil”"
    assert found.chance > 0.85
    assert max(found.steps, key=lambda one: one.chance).name == "foil"


def test_between_two_steps_the_better_one_is_taken_a_notch_on() -> None:
    too_little, too_much = did(CARD, Outcome.NOT_THROUGH, Cut.THROUGH), did(CARD, Outcome.CLEAN, Cut.THROUGH)
    steps = (NamedSetting("thin", True, (too_little,) * 3), NamedSetting("thick", True, (too_much,) * 3))
    found = propose_setting(steps, prior(STOCK_BY_KEY["heavy-card"], Cut.THROUGH), ForceRange(20, 600, 4), 1)
    assert found.step.startswith("“thick”")
    plain = propose_setting(
        tuple(NamedSetting(one.name, False, one.seen) for one in steps),
        prior(CARD, Cut.THROUGH),
        ForceRange(20, 600, 4),
        1,
    )
    assert "notch" not in plain.words


def test_passes_are_said_and_a_worn_blade_is_reckoned_with() -> None:
    steps = (NamedSetting("foil", seen=(did(VINYL, Outcome.CLEAN),)), NamedSetting("card"))
    assert propose_setting(steps, KISS, RANGE, 2, only_these=True).words.endswith(", 2 passes")
    # The same outcome with a blade at half its edge means twice the force.
    sharp = (
        propose_setting((NamedSetting("foil", seen=(did(LABEL, Outcome.CLEAN),)),), KISS, RANGE, 1).steps[0].force_gf
    )
    worn = (
        propose_setting((NamedSetting("foil", seen=(did(LABEL, Outcome.CLEAN, metres=300.0),)),), KISS, RANGE, 1)
        .steps[0]
        .force_gf
    )
    assert worn / sharp == pytest.approx(1 / sharpness_of(300), rel=0.1)
    assert prior(VINYL, Cut.KISS, Blade.GENERAL, 300).sharpness == pytest.approx(math.exp(-0.5))


def test_a_step_named_twice_is_refused_with_a_sentence() -> None:
    with pytest.raises(ValueError, match="two steps are called “foil”"):
        Cutter(settings=(NamedSetting("Foil"), NamedSetting("foil")))
