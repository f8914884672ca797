"""The window of force: outcomes that fill the whole height, and a hill that stands where the target is reached."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.tried import tried
from vamper.core.cutting.belief import prior
from vamper.core.cutting.depth import passes_factor
from vamper.core.cutting.outlook import RUN_SIGMA
from vamper.core.cutting.window import window_of
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import ForceRange
from vamper.core.values.stock import STARTER_STOCKS, STOCK_BY_KEY
from vamper.core.values.tried import Outcome, Try

WIDE = ForceRange(10, 900, 2)
VINYL = STOCK_BY_KEY["satin-vinyl"]


@tried(30)
@given(st.sampled_from(STARTER_STOCKS), st.sampled_from(list(Cut)), st.integers(1, 4), st.floats(0, 500))
def test_outcomes_fill_the_whole_height_in_order(stock, cut: Cut, passes: int, metres: float) -> None:  # type: ignore[no-untyped-def]
    belief = prior(stock, cut, metres=metres)
    window = window_of(belief, belief, WIDE, passes)
    chances = np.array([one for _, one in window.chances])
    assert chances.sum(axis=0) == pytest.approx(np.ones(chances.shape[1]))
    assert chances.min() > -1e-9
    # More force never makes it less likely to be through the face.
    assert (np.diff(chances[0]) <= 1e-9).all()
    assert (np.diff(window.force_gf) > 0).all()
    assert window.force_gf[0] >= WIDE.min
    assert window.force_gf[-1] <= WIDE.max
    for place in (20, 80, 140):
        for outcome, along in window.chances:
            band = belief.bands.of(outcome)
            assert along[place] == pytest.approx(
                float(belief.chance(window.force_gf[place], passes, band)[0]), abs=1e-6
            )
    assert RUN_SIGMA == 0.04


def test_the_hill_stands_at_the_target_and_grows_narrow() -> None:
    before = prior(VINYL, Cut.KISS)
    seen = before.after([Try(100, 1, Outcome.NOT_THROUGH), Try(120, 1, Outcome.CLEAN), Try(132, 1, Outcome.CLEAN)])
    window = window_of(seen, before, WIDE, 1)
    assert window.prior.max() == pytest.approx(1, abs=0.01)
    assert window.hill.max() == pytest.approx(1, abs=0.02)
    assert (window.hill > 0.5).sum() < 0.4 * (window.prior > 0.5).sum()
    # 128 µm on a hardness of 0.85, and a density over force peaks a little below that.
    assert window.hill_gf[window.prior.argmax()] == pytest.approx(128 * 0.85 * np.exp(-(0.22**2)), rel=0.03)
    assert window.hill_gf[window.hill.argmax()] == pytest.approx(126, rel=0.04)
    two = window_of(before, before, WIDE, 2)
    assert two.hill_gf[two.hill.argmax()] / window.hill_gf[window.prior.argmax()] == pytest.approx(
        1 / passes_factor(2), rel=0.03
    )


def test_a_machine_that_is_far_too_weak_still_has_a_scale() -> None:
    weak = ForceRange(5, 20, 1)
    belief = prior(STOCK_BY_KEY["magnet"], Cut.THROUGH)
    window = window_of(belief, belief, weak, 1)
    assert (window.force_gf[0], window.force_gf[-1]) == (5, 20)
