"""Areas of pixels against another library's way to work them out."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra import numpy as arrays
from scipy import ndimage

from tests.tried import tried
from vamper.core.values.areas import Area, chosen, depth_in, labelled, opened, widened, without_holes

AREAS = arrays.arrays(bool, arrays.array_shapes(min_dims=2, max_dims=2, max_side=24))


@given(AREAS)
@tried(100)
def test_depth_is_the_distance_to_what_is_outside(area: Area) -> None:
    assert np.allclose(depth_in(area), ndimage.distance_transform_edt(np.pad(area, 1))[1:-1, 1:-1], atol=1e-4)
    if not area.all():
        assert np.allclose(depth_in(area, beyond=True), ndimage.distance_transform_edt(area), atol=1e-4)


@given(AREAS, st.integers(1, 4))
@tried(100)
def test_areas_grow_by_their_neighbours(area: Area, steps: int) -> None:
    assert (widened(area, steps) == ndimage.binary_dilation(area, iterations=steps)).all()
    assert (opened(area) == ndimage.binary_opening(area)).all()


@given(AREAS, st.booleans())
@tried(100)
def test_what_hangs_together_has_one_number(area: Area, corners: bool) -> None:
    labels, count = ndimage.label(area, np.ones((3, 3)) if corners else None)
    found = labelled(area, corners)
    assert found.max(initial=0) == count
    pairs = {(int(one), int(other)) for one, other in zip(found.ravel(), labels.ravel(), strict=True)}
    assert len(pairs) == len({one for one, _ in pairs}) == len({other for _, other in pairs})
    if count:
        assert (chosen(found, np.array([0, 1])) == (found == 1)).all()


@given(AREAS)
@tried(100)
def test_holes_are_what_is_enclosed(area: Area) -> None:
    assert (without_holes(area) == ndimage.binary_fill_holes(area)).all()
