"""Pictures that cover a blank: cropped to its shape in one step, whatever theirs was."""

import io

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from vamper.core.art.covering import covering_crop
from vamper.core.values.finish import BlankSpec
from vamper.services.workshop import Workshop


@given(
    across=st.integers(50, 6000),
    down=st.integers(50, 6000),
    wide=st.floats(20, 400),
    high=st.floats(20, 400),
    at=st.tuples(st.floats(0, 1), st.floats(0, 1)),
)
def test_a_crop_has_the_blanks_shape_and_is_as_large_as_can_be(
    across: int, down: int, wide: float, high: float, at: tuple[float, float]
) -> None:
    blank = BlankSpec(wide, high, 2.0)
    left, top, right, bottom = covering_crop((across, down), blank, at)
    assert 0 <= left < right <= 1.000001
    assert 0 <= top < bottom <= 1.000001
    assert right - left > 0.999 or bottom - top > 0.999
    shape = blank.covered_mm
    assert (right - left) * across / ((bottom - top) * down) == pytest.approx(shape[0] / shape[1], rel=1e-3)


def photo(across: int, down: int) -> bytes:
    out = io.BytesIO()
    Image.effect_noise((across, down), 60).convert("RGB").save(out, "JPEG")
    return out.getvalue()


def test_several_photos_cover_a_blank_in_one_step(workshop: Workshop) -> None:
    number = workshop.jobs.create("Coasters")
    for name, size in (("pier.jpg", (900, 600)), ("tower.jpg", (500, 900))):
        taken = workshop.arts.take_in(name, photo(*size))
        workshop.jobs.add_item(number, taken.digest, taken.name, None, taken.start_edge)
    workshop.jobs.change(number, "stock", {"stock": "dye-paper"})
    state = workshop.items.cover_blank(workshop.jobs.get(number), [1, 2], BlankSpec(90, 90, 2.0))
    plan = workshop.plans.of(state).plan
    for item in plan.items:
        assert item.outline.size_mm == pytest.approx((94, 94), abs=0.2)
        assert item.spec.edge.kind == "bare"
    assert not [one for one in workshop.plans.of(state).findings if one.code == "finish.blank"]
    before = workshop.jobs.undo(number)
    assert before.document.items[0].prepare.crop is None
