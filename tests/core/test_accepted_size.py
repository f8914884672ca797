"""What a machine's own program grants: learnt answer by answer, and never laid out beyond."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vamper.core.effective_job import effective_job
from vamper.core.plan import set_up_sheet
from vamper.core.values.accepted_size import AcceptedSize, PaperSide, SizeBounds
from vamper.core.values.cutter import Cutter
from vamper.core.values.job import Job
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import PAPER_BY_KEY
from vamper.core.values.stock import STARTER_STOCKS, USUAL_STOCK

LETTER = PAPER_BY_KEY["letter"]


def job(*granted: AcceptedSize, family: str = "none", **more: object) -> Job:
    return Job(paper=LETTER, stock=USUAL_STOCK, marks=MarksSpec(family), cutter=Cutter(granted=granted), **more)  # type: ignore[arg-type]


def live_size(of: Job) -> tuple[float, float]:
    return set_up_sheet(effective_job(of)).live.size_mm


def letter(width: SizeBounds = SizeBounds(), height: SizeBounds = SizeBounds()) -> AcceptedSize:
    return AcceptedSize(LETTER.width_mm, LETTER.height_mm, width, height)


@given(st.floats(20, 279), st.floats(280, 500))
def test_halving_finds_what_is_granted_to_a_millimetre(truth: float, most: float) -> None:
    """Whatever the program takes, a dozen tries know it, and nothing that was not taken is ever laid out on."""
    belief = SizeBounds()
    for _ in range(60):
        size = belief.next_try(most)
        if size is None:
            break
        belief = belief.after(size, size <= truth)
        assert belief.taken is None or belief.taken <= truth
        assert belief.taken is None or belief.most(most) <= truth
    assert belief.next_try(most) is None
    assert belief.taken is not None
    assert truth - belief.taken < 2


@pytest.mark.parametrize(
    ("before", "size", "taken", "after"),
    [
        (SizeBounds(), 255, True, SizeBounds(255)),
        (SizeBounds(255), 260, False, SizeBounds(255, 260)),
        (SizeBounds(255, 260), 250, True, SizeBounds(255, 260)),
        # The later answer holds where two contradict each other.
        (SizeBounds(255, 260), 262, True, SizeBounds(262)),
        (SizeBounds(255, 260), 240, False, SizeBounds(None, 240)),
    ],
)
def test_each_answer_narrows_what_is_believed(before: SizeBounds, size: float, taken: bool, after: SizeBounds) -> None:
    assert before.after(size, taken) == after


def test_the_next_try_lies_between_what_was_taken_and_what_was_refused() -> None:
    assert SizeBounds(250, 260).next_try(400) == 255
    assert SizeBounds(None, 260).next_try(400) == 247
    assert SizeBounds(250).next_try(400) == 262
    assert SizeBounds(250).next_try(255) == 255
    assert SizeBounds(259, 260).next_try(400) is None


def test_without_marks_the_live_area_is_what_was_taken() -> None:
    granted = letter(SizeBounds(180), SizeBounds(240, 250))
    # Whole pixels, and never more than was taken.
    assert live_size(job(granted)) == pytest.approx((180, 240), abs=0.085)
    assert all(side <= most for side, most in zip(live_size(job(granted)), (180, 240), strict=True))
    (bound,) = (b for b in set_up_sheet(effective_job(job(granted))).live.bounds if b.name == "granted")
    assert "took" in bound.reason
    # What was taken one way only is no word on the sheet.
    half = job(letter(SizeBounds(180), SizeBounds(None, 250)))
    (bound,) = (b for b in set_up_sheet(effective_job(half)).live.bounds if b.name == "granted")
    assert "may take" in bound.reason
    # With marks of our own the program is not asked; neither is it on another paper, or where nobody cuts by machine.
    plain = job(family="corner")
    assert live_size(job(granted, family="corner")) == live_size(plain)
    other = AcceptedSize(210, 297, SizeBounds(100), SizeBounds(100))
    assert live_size(job(other)) == live_size(job())


def test_what_was_refused_is_not_laid_out_on_before_anything_was_taken() -> None:
    width, _ = live_size(job(letter(SizeBounds(None, 200))))
    assert width == pytest.approx(190, abs=0.085)


def test_stock_that_is_not_printed_goes_to_no_program_as_a_picture() -> None:
    vinyl = next(stock for stock in STARTER_STOCKS if not stock.printable)
    assert not Job(paper=LETTER, stock=vinyl, marks=MarksSpec("none")).for_own_program


def test_a_granted_size_larger_than_its_paper_is_refused() -> None:
    with pytest.raises(ValueError, match="larger than its paper"):
        letter(SizeBounds(LETTER.width_mm + 1))
    with pytest.raises(ValueError, match="more than what was taken"):
        SizeBounds(200, 150)
    assert letter().after(PaperSide.HEIGHT, 200, True).height == SizeBounds(200)
