"""Areas of pixels against another library's way to work them out."""

import numpy as np
import shapely
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra import numpy as arrays
from scipy import ndimage

from tests.tried import tried
from vamper.core.values.areas import Area, cells_in, chosen, depth_in, labelled, opened, widened, without_holes

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


SIDES = st.floats(-5, 25)


@given(st.lists(st.tuples(SIDES, SIDES, st.floats(0.3, 9), st.floats(0, 8)), min_size=1, max_size=4), st.floats(0.4, 2))
@tried(100)
def test_cells_are_those_whose_middle_a_shape_holds(
    rings: list[tuple[float, float, float, float]], cell_mm: float
) -> None:
    parts = [
        shapely.Point(x, y).buffer(most).difference(shapely.Point(x, y).buffer(hole)) for x, y, most, hole in rings
    ]
    shape = shapely.union_all(parts)
    rows, columns = 14, 18
    found = cells_in(shape, 1.0, -2.0, (rows, columns), cell_mm)
    x, y = np.meshgrid(1.0 + cell_mm * (np.arange(columns) + 0.5), -2.0 + cell_mm * (np.arange(rows) + 0.5))
    on_rim = shapely.distance(shape.boundary, shapely.points(x, y)) < 1e-9
    assert (on_rim | (found == shapely.contains_xy(shape, x, y))).all()


def test_what_touches_at_a_corner_hangs_together_only_where_that_is_asked() -> None:
    corner = np.eye(2, dtype=bool)
    assert labelled(corner).max() == 2
    assert labelled(corner, corners=True).max() == 1
