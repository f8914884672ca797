"""What a piece costs, against sums made by hand."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vamper.core.ledger.cost import CostPart, MadeCounts, Rates, SharedBy, WorkTimes, break_even, costs_of
from vamper.core.ledger.run import Took
from vamper.core.ledger.supply import OnShelf
from vamper.core.values.blade import BLADE_METRES

RATES = Rates("g", hour=12, ink_ml=0.5, laminate_m2=6, coat=0.2, blank=1.5, blade=9, margin=0.4)
TWO = (MadeCounts(1, 6, 3000.0), MadeCounts(2, 3, 1000.0))


def test_a_sum_made_by_hand() -> None:
    work = WorkTimes(TWO, 2, 1.2, Took(3.0, 60.0, 0.1, 6, 9), 30.0, 0.9)
    found = costs_of(work, RATES)
    sheet = 2 * 1.2 + 3 * 0.5 + 0.1 * 6 + 3 * 2 * 0.2 + 60 / BLADE_METRES * 9
    first, second = found.pieces
    hands = 30 / 60 * 12 / 9
    share = 3000 / (6 * 3000 + 3 * 1000)
    assert first.total == pytest.approx((sheet * share + 1.5 + hands) / 0.9)
    assert second.total == pytest.approx((sheet * share / 3 + 1.5 + hands) / 0.9)
    assert first.by_margin == pytest.approx(first.total / 0.6)
    assert first.by_hour == pytest.approx((sheet * share + 1.5 + hands) / 0.9)
    assert found.total == pytest.approx(6 * first.total + 3 * second.total)
    assert found.one_more_saves == pytest.approx((sheet / 9 - sheet / (2 * 5.5)) / 0.9)
    assert dict(first.parts)[CostPart.WASTE] == pytest.approx(first.total * 0.1)


@given(
    st.lists(st.tuples(st.integers(0, 40), st.floats(10, 20_000)), min_size=1, max_size=6),
    st.integers(1, 9),
    st.floats(0, 20),
    st.floats(0.2, 1),
    st.sampled_from(SharedBy),
)
def test_all_pieces_together_cost_what_the_sheets_cost(
    designs: list[tuple[int, float]], sheets: int, price: float, good: float, shared: SharedBy
) -> None:
    made = tuple(MadeCounts(number, count, area) for number, (count, area) in enumerate(designs, 1))
    found = costs_of(WorkTimes(made, sheets, price, good=good), Rates(shared=shared))
    whole = sheets * price / good if any(count for count, _ in designs) else 0.0
    assert found.total == pytest.approx(whole, abs=1e-9)
    assert found.one_more_saves >= -1e-12
    if shared is SharedBy.EVEN:
        assert len({round(one.total, 9) for one in found.pieces}) <= 1


def test_a_pack_pays_for_itself_after_so_many_pieces() -> None:
    assert break_even(24.0, 2.0, 0.4) == 15
    assert break_even(24.0, 2.0, 1.2) == 30
    assert break_even(24.0, 1.0, 1.0) is None
    assert break_even(0.0, 1.0, 0.5) == 0


def test_what_is_left_is_never_less_than_nothing() -> None:
    assert OnShelf("card", 10, 4, 0.2, 2.0).left == 6
    assert OnShelf("card", 10, 14, 0.2, 2.0).left == 0
