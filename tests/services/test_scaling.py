"""Scale to fill: shapes alone tell what designs in full would, and each try goes nearer."""

import shapely
from hypothesis import given
from hypothesis import strategies as st

from vamper.core.values.edge import EdgeSpec
from vamper.core.values.item import ItemSpec
from vamper.core.values.job import Job
from vamper.core.values.paper import PAPER_BY_KEY
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.demo.art_files import ART
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.design.job_design import Design, design_job
from vamper.services.packing.scaled_shapes import ScaledShapes
from vamper.services.packing.scaling import _next_scale, scaled_job

NAMES = [name for name in ART if name.endswith((".png", ".svg"))][::3]
# An outline follows pixels of another size; a laid-out sheet keeps rules to two hundredths.
WITHIN_MM, MOST_MM = 0.02, 0.3


def designed(job: Job, designer: Designer) -> Design:
    return design_job(job, [ArtFile.of(item.art, ART[item.art]()) for item in job.items], designer)


def a_job(**first: object) -> Job:
    edges = (EdgeSpec(), EdgeSpec("hull", 2.0), EdgeSpec("bare", 0.0))
    items = [
        ItemSpec(
            number=number,
            art=name,
            width_mm=34.0 + 4 * number,
            edge=edges[number % len(edges)],
            **(first if number == 1 else {}),
        )  # type: ignore[arg-type]
        for number, name in enumerate(NAMES, 1)
    ]
    return Job(paper=PAPER_BY_KEY["letter"], stock=STOCK_BY_KEY["satin-vinyl"], items=tuple(items))


def test_what_holds_for_shapes_holds_for_the_designs(designer: Designer) -> None:
    job = a_job()
    shapes = ScaledShapes(designed(job, designer))
    assert shapes.tell_all
    for factor in (0.7, 1.08, 1.3):
        scaled = scaled_job(job, factor, 1)
        by_shape, in_full = shapes.problem(scaled), designed(scaled, designer).problem()
        assert by_shape.spec == in_full.spec
        for quick, full in zip(by_shape.pieces, in_full.pieces, strict=True):
            assert (quick.item, quick.quantity, quick.bleed_mm) == (full.item, full.quantity, full.bleed_mm)
            assert quick.edge.buffer(WITHIN_MM).covers(full.edge)
            assert shapely.hausdorff_distance(quick.edge, full.edge) < MOST_MM


def test_what_follows_from_more_than_its_shape_is_designed(designer: Designer) -> None:
    for fields in ({"size_over": "border"}, {"back_of": 2}):
        job = a_job(**fields)
        assert not ScaledShapes(designed(job, designer)).tell_all


@given(
    st.floats(0.21, 4.9),
    st.one_of(st.none(), st.floats(0.3, 3.0)),
    st.floats(0.2, 1.0),
    st.floats(1.05, 5.0),
    st.floats(0, 9),
)
def test_the_next_scale_lies_between_what_fits_and_what_does_not(
    tried: float, reach: float | None, low: float, high: float, left_s: float
) -> None:
    assert low < _next_scale(tried, reach, low, high, left_s) < high


def test_little_time_makes_a_small_step_and_none_back() -> None:
    assert 1.0 < _next_scale(1.0, 1.1, 0.97, 1.2, 1.0) < _next_scale(1.0, 1.1, 0.97, 1.2, 6.0)
    assert _next_scale(1.0, 0.9, 0.5, 1.2, 1.0) == _next_scale(1.0, 0.9, 0.5, 1.2, 6.0) < 1.0
