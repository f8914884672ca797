"""The belief about hardness against a grid by hand, and ladders on machines whose hardness is known."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.tried import tried
from vamper.core.cutting.belief import MISREAD, landing_chance, posterior, prior
from vamper.core.cutting.depth import bands_of, depth_um, passes_factor
from vamper.core.cutting.ladder import RUNGS, ladder_advice, next_rungs, proposed, settable
from vamper.core.values.blade import Blade, sharpness_of
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import ForceRange
from vamper.core.values.stock import STARTER_STOCKS, STOCK_BY_KEY
from vamper.core.values.tried import Outcome, Try

VINYL = STOCK_BY_KEY["satin-vinyl"]
WIDE = ForceRange(10, 600, 2)


def test_bayes_against_a_grid_by_hand() -> None:
    tries = [Try(84, 1, Outcome.NOT_THROUGH), Try(120, 1, Outcome.CLEAN), Try(60, 2, Outcome.BACKING_MARKED)]
    found = posterior(prior(VINYL, Cut.KISS), tries, [Try(108, 1, Outcome.CLEAN)])
    hardness = np.exp(np.linspace(math.log(0.85) - 1.5, math.log(0.85) + 1.5, 3001))
    weight = np.exp(-((np.log(hardness / 0.85) / 0.30) ** 2) / 2)
    bounds = {
        Outcome.NOT_THROUGH: (0, 110),
        Outcome.CLEAN: (110, 146),
        Outcome.BACKING_MARKED: (146, 230),
        Outcome.BACKING_THROUGH: (230, math.inf),
    }
    for one, spread in [*((one, 0.06) for one in tries), (Try(108, 1, Outcome.CLEAN), 0.04)]:
        depth = one.force_gf * (1 if one.passes == 1 else 1.6) / hardness
        low, high = bounds[one.outcome]
        steps = np.random.default_rng(1).normal(size=4000) * spread
        inside = np.array([((deep * np.exp(steps) >= low) & (deep * np.exp(steps) < high)).mean() for deep in depth])
        weight *= (1 - MISREAD) * inside + MISREAD / 4
    weight /= weight.sum()
    by_hand = [float(np.interp(share, np.cumsum(weight), hardness)) for share in (0.05, 0.5, 0.95)]
    assert [float(found.quantile(share)) for share in (0.05, 0.5, 0.95)] == pytest.approx(by_hand, rel=0.01)


def test_the_prior_is_the_starter() -> None:
    belief = prior(VINYL, Cut.KISS)
    assert float(belief.quantile(0.5)) == pytest.approx(0.85, rel=1e-3)
    assert float(belief.quantile(0.95)) == pytest.approx(0.85 * math.exp(1.645 * 0.22), rel=5e-3)
    own = prior(replace(VINYL, key="own-film"), Cut.KISS)
    assert float(own.quantile(0.95)) == pytest.approx(0.85 * math.exp(1.645 * 0.3), rel=5e-3)


@pytest.mark.parametrize("stock", STARTER_STOCKS, ids=lambda stock: stock.key)
def test_outcomes_leave_no_depth_out(stock) -> None:  # type: ignore[no-untyped-def]
    for cut in Cut:
        outcomes = bands_of(stock, cut).outcomes
        assert outcomes[0][1] == 0
        assert math.isinf(outcomes[-1][2])
        assert [high for _, _, high in outcomes[:-1]] == [low for _, low, _ in outcomes[1:]]
        assert len(outcomes) == (4 if cut is Cut.KISS and stock.has_backing else 2)


def test_torn_says_nothing_about_depth_but_what_to_do() -> None:
    belief = prior(VINYL, Cut.KISS)
    assert belief.after([Try(100, 1, Outcome.TORN)]).weight == pytest.approx(belief.weight)
    advice = ladder_advice(belief, WIDE, [Try(100, 1, Outcome.TORN)])
    assert advice.advice[0].startswith("fewer gf")
    assert len(advice.advice) == 4


def test_a_dull_blade_takes_more_force() -> None:
    new, old = prior(VINYL, Cut.KISS), prior(VINYL, Cut.KISS, metres=300)
    assert old.sharpness == pytest.approx(math.exp(-0.5)) == sharpness_of(300)
    assert proposed(old, WIDE).force_gf == pytest.approx(proposed(new, WIDE).force_gf / old.sharpness, rel=0.03)


def test_what_is_beyond_the_machine_takes_more_passes() -> None:
    weak = ForceRange(10, 70, 2)
    found = proposed(prior(VINYL, Cut.KISS), weak)
    assert found.passes > 1
    assert found.force_gf <= 0.9 * 70


@tried(60)
@given(
    st.sampled_from(STARTER_STOCKS),
    st.sampled_from(list(Cut)),
    st.floats(5, 100),
    st.floats(20, 600),
    st.floats(1, 40),
    st.lists(st.tuples(st.floats(0, 1), st.integers(1, 3), st.sampled_from(list(Outcome))), max_size=8),
)
def test_a_ladder_never_leaves_the_machines_range(stock, cut, least, more, step, seen) -> None:  # type: ignore[no-untyped-def]
    force = ForceRange(least, least + more, step)
    tries = [Try(least + share * more, passes, outcome) for share, passes, outcome in seen]
    belief = prior(stock, cut).after(tries)
    advice = ladder_advice(belief, force, tries)
    can = settable(force)
    assert set(advice.next_gf) <= set(can.tolist())
    assert list(advice.next_gf) == sorted(set(advice.next_gf))
    assert len(advice.next_gf) == min(RUNGS, len(can))
    assert advice.proposal.force_gf in can
    assert 0 <= advice.proposal.chance <= advice.chance_if_known + 1e-9 <= 1 + 1e-6
    assert belief.weight.sum() == pytest.approx(1)


def test_two_ladders_find_the_force_of_an_unknown_machine() -> None:
    """Machines drawn from the prior; what is lost against knowing their hardness, on average."""
    random = np.random.default_rng(8)
    for key, most in (("satin-vinyl", 0.03), ("matte-label", 0.08)):
        stock = STOCK_BY_KEY[key]
        lost = []
        for _ in range(12):
            hardness = stock.hardness_gf_per_um * math.exp(0.3 * random.normal())
            belief, tries = prior(stock, Cut.KISS), list[Try]()
            for _ladder in range(2):
                for force in next_rungs(belief, WIDE, proposed(belief, WIDE).passes, first=not tries):
                    tries.append(_cut(stock, hardness, force, random))
                belief = prior(stock, Cut.KISS).after(tries)
            lost.append(_chance(stock, hardness, None) - _chance(stock, hardness, proposed(belief, WIDE).force_gf))
        assert np.mean(lost) < most


@pytest.mark.parametrize("key", ["satin-vinyl", "matte-label"])
@pytest.mark.parametrize("factor", [1 / 12, 1 / 6, 1 / 3, 1, 3, 6, 12])
def test_what_is_promised_is_kept_on_stock_that_is_not_what_it_was_taken_for(key: str, factor: float) -> None:
    """After three ladders on a hardness the starter does not hold, its chance is no higher than it is kept."""
    stock, promised, kept = STOCK_BY_KEY[key], list[float](), list[float]()
    for seed in range(6):
        random = np.random.default_rng(seed)
        hardness = stock.hardness_gf_per_um * factor * math.exp(0.1 * random.normal())
        first = prior(stock, Cut.KISS)
        belief, tries = first, list[Try]()
        for _ladder in range(3):
            passes = proposed(belief, WIDE).passes
            for force in next_rungs(belief, WIDE, passes, first=not tries):
                outcome = _cut(stock, hardness, force * passes_factor(passes), random).outcome
                tries.append(Try(force, passes, outcome))
            belief = posterior(first, tries, [])
        best = proposed(belief, WIDE)
        depth = _depth(stock, hardness, best.force_gf * passes_factor(best.passes))
        promised.append(best.chance)
        kept.append(float(landing_chance(np.array([depth]), belief.bands.of(Outcome.CLEAN), 0.04)[0]))
        # Never sure of what does not happen.
        assert not (best.chance > 0.9 and kept[-1] < 0.3)
    assert np.mean(promised) < np.mean(kept) + 0.1


def test_what_cannot_be_misread_so_often_is_believed() -> None:
    """Ten times through the backing at 20 gf: no more than the least there is, and the words say that it is odd."""
    first = prior(VINYL, Cut.KISS)
    found = posterior(first, [Try(20, 1, Outcome.BACKING_THROUGH)] * 10, [])
    assert not found.as_assumed
    assert found.from_starter < 0.2
    assert proposed(found, WIDE).force_gf == WIDE.min
    assert proposed(found, WIDE).chance < 0.2
    # One such reading may be a mistake; nothing is turned over for it.
    assert posterior(first, [Try(20, 1, Outcome.BACKING_THROUGH)], []).as_assumed
    # More readings than the smallest number there is could hold.
    assert posterior(first, [Try(108, 1, Outcome.CLEAN)] * 900, []).weight.sum() == pytest.approx(1)


def _depth(stock, hardness: float, force: float) -> float:  # type: ignore[no-untyped-def]
    return depth_um(force, 1, stock, Blade.GENERAL) * stock.hardness_gf_per_um / hardness


def _cut(stock, hardness: float, force: float, random: np.random.Generator) -> Try:  # type: ignore[no-untyped-def]
    depth = _depth(stock, hardness, force) * math.exp(0.06 * random.normal())
    outcomes = bands_of(stock, Cut.KISS).outcomes
    return Try(force, 1, next(one for one, low, high in outcomes if low <= depth < high))


def _chance(stock, hardness: float, force: float | None) -> float:  # type: ignore[no-untyped-def]
    band = bands_of(stock, Cut.KISS).of(Outcome.CLEAN)
    forces = settable(WIDE) if force is None else np.array([force])
    depths = np.array([[_depth(stock, hardness, float(one))] for one in forces])
    return float(landing_chance(depths, band, 0.04).max())


def test_what_is_aimed_at_and_what_can_be_set() -> None:
    assert bands_of(VINYL, Cut.KISS).target_um == pytest.approx(110 + 0.15 * 120)
    assert bands_of(VINYL, Cut.THROUGH).target_um == pytest.approx(1.15 * 230)
    assert settable(ForceRange(20, 31, 4)).tolist() == [20, 24, 28]
    assert settable(ForceRange(20, 32, 4)).tolist() == [20, 24, 28, 32]


def test_a_package_that_names_a_setting_makes_a_stock_of_ones_own_as_well_known_as_a_starter() -> None:
    own = replace(STOCK_BY_KEY["satin-vinyl"], key="harbour-vinyl")
    spans = [
        float(belief.quantile(np.array([0.95]))[0] / belief.quantile(np.array([0.05]))[0])
        for belief in (
            prior(own, Cut.KISS),
            prior(replace(own, package_setting="vinyl, thin"), Cut.KISS),
            prior(STOCK_BY_KEY["satin-vinyl"], Cut.KISS),
        )
    ]
    assert spans[1] == pytest.approx(spans[2])
    assert spans[0] == pytest.approx(spans[2] ** (0.30 / 0.22), rel=0.01)
