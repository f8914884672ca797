"""Cut, look, cut again: against a Monte Carlo of its own, by hand, and what starters promise with a look."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.tried import tried
from vamper.core.cutting.belief import prior
from vamper.core.cutting.cut_history import CutHistory
from vamper.core.cutting.depth import bands_of, passes_factor
from vamper.core.cutting.inspect import unsure_finding
from vamper.core.cutting.outlook import SURE_AT, outlook
from vamper.core.cutting.setting import propose
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, ForceRange
from vamper.core.values.stock import STARTER_STOCKS, STOCK_BY_KEY, Stock
from vamper.core.values.tried import Outcome, Try

KISSED = [stock for stock in STARTER_STOCKS if stock.has_backing]
DRAWS = 20_000


def _played(stock: Stock, cut: Cut, force: float, passes: int, seed: int) -> tuple[float, float]:
    """Usable with a look, and at the first go: drawn, cut, looked at and cut again, one by one."""
    random = np.random.default_rng(seed)
    hardness = stock.hardness_gf_per_um * np.exp(random.normal(0, 0.22, DRAWS))
    luck = np.exp(random.normal(0, 0.04, DRAWS))
    first = force * passes_factor(passes) / hardness * luck
    second = force * passes_factor(passes + 1) / hardness * luck
    face, whole = stock.face_um, stock.thickness_um
    least, most = (face, whole) if cut is Cut.KISS else (whole, np.inf)
    at_first = (first >= least) & (first < most)
    again = (first < least) & (second >= least) & (second < most)
    return float((at_first | again).mean()), float(at_first.mean())


@tried(25)
@given(
    st.sampled_from(KISSED), st.sampled_from(list(Cut)), st.floats(0.5, 1.8), st.integers(1, 4), st.integers(0, 2**20)
)
def test_it_is_what_comes_of_playing_it(stock: Stock, cut: Cut, share: float, passes: int, seed: int) -> None:
    force = share * stock.hardness_gf_per_um * bands_of(stock, cut).target_um / passes_factor(passes)
    found = prior(stock, cut).outlook(force, passes)
    usable, at_first = _played(stock, cut, force, passes, seed)
    assert found.usable[0] == pytest.approx(usable, abs=0.02)
    assert found.at_first[0] == pytest.approx(at_first, abs=0.02)


@tried(40)
@given(st.sampled_from(KISSED), st.sampled_from(list(Cut)), st.floats(1, 600), st.integers(1, 6))
def test_chances_stay_in_order(stock: Stock, cut: Cut, depth: float, passes: int) -> None:
    found = outlook(np.array([depth]), bands_of(stock, cut), passes)
    values = [float(one[0]) for one in (found.clean, found.at_first, found.usable)]
    assert 0 <= values[0] <= values[1] + 1e-9 <= values[2] + 2e-9 <= 1 + 1e-6
    assert -1e-9 <= float(found.worth[0]) <= values[2] + 1e-9


def test_by_hand_where_the_depth_is_sure() -> None:
    vinyl = STOCK_BY_KEY["satin-vinyl"]
    bands = bands_of(vinyl, Cut.KISS)
    # Far from every rim: clean, marked, not through but through with one more, through the backing, hopeless.
    clean, marked, short, through, shallow = (
        outlook(np.array([depth]), bands, 1) for depth in (125.0, 190.0, 80.0, 300.0, 40.0)
    )
    assert [round(float(one.worth[0]), 2) for one in (clean, marked, short, through, shallow)] == [1, 0.9, 0.98, 0, 0]
    assert [round(float(one.usable[0]), 2) for one in (clean, marked, short, through, shallow)] == [1, 1, 1, 0, 0]
    assert [round(float(one.at_first[0]), 2) for one in (clean, marked, short, through, shallow)] == [1, 1, 0, 0, 0]


@pytest.mark.parametrize(("key", "least"), [("satin-vinyl", 0.9), ("matte-label", 0.8), ("gloss-label", 0.8)])
def test_a_starter_with_a_look_is_worth_a_sheet(key: str, least: float) -> None:
    stock = STOCK_BY_KEY[key]
    setting = propose(stock, Cut.KISS, Cutter())
    assert setting.usable > least
    assert setting.at_first < setting.usable
    assert unsure_finding(setting, stock) == []


def test_it_says_when_even_a_look_is_not_enough_and_what_helps() -> None:
    stock = STOCK_BY_KEY["colour-flex"]
    coarse = Cutter(force_gf=ForceRange(40, 400, 180))
    setting = propose(stock, Cut.KISS, coarse)
    assert setting.usable < SURE_AT
    (finding,) = unsure_finding(setting, stock)
    assert "of 100" in finding.title
    assert "small drops" in finding.text
    assert finding.figures["usable"] < SURE_AT


def test_gentle_first() -> None:
    """What cannot be taken back is left alone: the proposal is no deeper than it need be."""
    stock = STOCK_BY_KEY["matte-label"]
    setting = propose(stock, Cut.KISS, Cutter())
    assert setting.reached_um < bands_of(stock, Cut.KISS).most_um
    harder = prior(stock, Cut.KISS).outlook(setting.force_gf * 1.3, 1)
    assert float(harder.usable[0]) < setting.usable


def test_what_was_told_moves_it() -> None:
    stock = STOCK_BY_KEY["satin-vinyl"]
    before = propose(stock, Cut.KISS, Cutter())
    known = CutHistory(tries=(Try(before.force_gf, 1, Outcome.CLEAN),))
    after = propose(stock, Cut.KISS, Cutter(), known=known)
    assert after.force_gf == before.force_gf
    assert after.at_first > before.at_first
