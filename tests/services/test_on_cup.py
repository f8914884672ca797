"""A design for a cup, from its picture to its piece: bent before it is packed, straight where it stands."""

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest

from tests.scenes import bars, item
from vamper.core.finishing.on_cup import OnCup, on_cup, parts_round
from vamper.core.finishing.placing import lines_of
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.shrink import Bar, ShrinkSpec
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.core.values.wrap import WrapSpec
from vamper.formats.out.picture_files import write_png
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.jobs.document import read_document
from vamper.services.workshop import Workshop

PICTURE = bars((60, 150, 260, 230), (240, 60, 300, 330))
ART = ArtFile.of("1.png", write_png(PICTURE.rgba, 300))
FILM = STOCK_BY_KEY["water-slide-white"]


@pytest.mark.parametrize("cup", [WrapSpec(84, 60, 105, 50.0), WrapSpec(60, 84, 105, 50.0)])
def test_a_design_on_a_cup_is_bent_before_it_is_packed(cup: WrapSpec) -> None:
    designer, spec = Designer(), item(1, width_mm=60.0, edge=EdgeSpec(distance_mm=2.0))
    flat = designer.design(spec, ART, FILM)
    bent = designer.design(replace(spec, wrap=cup), ART, FILM)
    found = on_cup(bent)
    assert found is not None
    # On the cup its drawing is as wide and as high as it was flat, and stands in the middle of its height.
    ring = found.drawing[0]
    across, down = flat.outline.size_mm
    assert np.ptp(ring[:, 0]) / 360 * found.thing.around_mm(50.0) == pytest.approx(across, abs=0.2)
    assert np.ptp(ring[:, 1]) == pytest.approx(down, abs=0.2)
    assert (ring[:, 1].max() + ring[:, 1].min()) / 2 == pytest.approx(50.0, abs=0.2)
    assert abs(ring[:, 0].max() + ring[:, 0].min()) < 1.0
    # The sheet packs the bent shape, and the page prints bent pixels under it.
    assert bent.outline.size_mm[0] > across + 0.3
    picture = designer.picture_of(bent, ART)
    inked = (picture.alpha > 127).sum() * bent.outline.mm_per_px**2
    assert inked == pytest.approx(bent.outline.shape.area, rel=0.01)


def test_on_a_cylinder_nothing_is_bent() -> None:
    designer, spec = Designer(), item(1, width_mm=60.0)
    mug = replace(spec, wrap=WrapSpec(82, 82, 95))
    assert designer.design(mug, ART, FILM).outline == designer.design(spec, ART, FILM).outline


def around(found: OnCup | None) -> np.ndarray:
    """The places of a piece's edge round its cup, mm from the middle of the whole."""
    assert found is not None
    return np.concatenate(found.edge)[:, 0] / 360 * found.wrap.around_mm


@pytest.mark.parametrize("cup", [WrapSpec(82, 82, 105), WrapSpec(84, 60, 105), WrapSpec(60, 84, 105, bent=False)])
@pytest.mark.parametrize("seams", [(), (5.0,), (-8.0, 9.0)])
def test_parts_go_round_one_after_the_other(cup: WrapSpec, seams: tuple[float, ...]) -> None:
    designer, spec = Designer(), item(1, width_mm=60.0, wrap=cup, edge=EdgeSpec(distance_mm=2.0))
    whole = designer.design(spec, ART, FILM)
    tiles = parts_round(whole, seams)
    assert len(tiles) == (len(seams) + 1 if seams else 2)
    spans = [around(on_cup(designer.design(replace(spec, tile=tile), ART, FILM))) for tile in tiles]
    every = around(on_cup(whole))
    assert (spans[0].min(), spans[-1].max()) == pytest.approx((every.min(), every.max()), abs=0.3)
    # What is laid on unbent has its seams askew on the wall.
    near = 0.3 if cup.bent else 2.0
    for number, (one, other) in enumerate(pairwise(spans)):
        # Neighbours lie over each other by the overlap, about the seam.
        assert one.max() - other.min() == pytest.approx(cup.overlap_mm, abs=near)
        if seams:
            assert (one.max() + other.min()) / 2 == pytest.approx(seams[number], abs=near)


def test_what_cannot_be_parted_is_said() -> None:
    designer, cup = Designer(), WrapSpec(82, 82, 105)
    flat = designer.design(item(1, width_mm=60.0), ART, FILM)
    with pytest.raises(BadInput, match="say first what it goes round"):
        parts_round(flat)
    whole = designer.design(item(1, width_mm=60.0, wrap=cup), ART, FILM)
    with pytest.raises(BadInput, match="a seam must lie inside the piece"):
        parts_round(whole, (80.0,))
    narrow = designer.design(item(1, width_mm=60.0, wrap=WrapSpec(20, 20, 105, handle_mm=20.0)), ART, FILM)
    with pytest.raises(BadInput, match="wider than the way round"):
        parts_round(narrow, (25.0,))
    with pytest.raises(ValueError, match="a handle of 300 mm leaves nothing"):
        WrapSpec(82, 82, 105, handle_mm=300.0)


def test_what_shrinks_is_designed_as_large_as_it_is_printed() -> None:
    shrink = ShrinkSpec(Bar(100, 25), Bar(44.1, 11.6))
    designer, spec = Designer(), item(1, width_mm=30.0, edge=EdgeSpec(distance_mm=1.5))
    film = STOCK_BY_KEY["shrink-film"]
    flat, large = designer.design(spec, ART, film), designer.design(spec, ART, film.shrinking(shrink))
    width, height = large.outline.size_mm
    assert (width * shrink.x, height * shrink.y) == pytest.approx(flat.outline.size_mm, abs=0.1)
    border = (large.edge.size_mm[0] - width) / 2
    assert border * shrink.mean == pytest.approx(1.5, abs=0.02)
    # What is narrow in the end is looked for where it is still wide.
    assert large.edge_facts.neck_mm == pytest.approx(film.least_neck_mm / shrink.mean)
    # The same ink is there in the end, so less of it is printed.
    before, after = designer.picture_of(flat, ART), designer.picture_of(large, ART)
    inked = [255 - picture.rgba[picture.alpha > 250][:, :3].mean() for picture in (before, after)]
    assert inked[1] / inked[0] == pytest.approx(shrink.ink_share, abs=0.02)
    # Sizes that are asked for by another side, or over the border, come out just so.
    for asked in (
        replace(spec, width_mm=None, height_mm=24.0),
        replace(spec, width_mm=None, longest_mm=33.0),
        replace(spec, size_over="border"),
    ):
        flat, large = designer.design(asked, ART, film), designer.design(asked, ART, film.shrinking(shrink))
        finished = (large.outline.size_mm[0] * shrink.x, large.outline.size_mm[1] * shrink.y)
        assert finished == pytest.approx(flat.outline.size_mm, abs=0.15)
    with pytest.raises(ValueError, match="gets smaller"):
        ShrinkSpec(Bar(100, 25), Bar(120, 11))
    assert STOCK_BY_KEY["card"].shrinking(shrink) == STOCK_BY_KEY["card"]


def test_what_is_bent_or_shrinks_is_split_at_the_size_that_was_asked_for(workshop: Workshop) -> None:
    two = write_png(bars((20, 150, 160, 250), (240, 100, 380, 300)).rgba, 300)
    shrink = {"before": {"width_mm": 100, "height_mm": 25}, "after": {"width_mm": 44.1, "height_mm": 11.6}}
    for stock, fields, wrap in (
        ("shrink-film", {"shrink": shrink}, None),
        ("water-slide-white", {}, {"top_mm": 84, "bottom_mm": 60, "slant_mm": 105}),
    ):
        job = workshop.jobs.add(read_document({"printer_id": 1, "cutter_id": 1, "stock": stock, **fields}))
        art = workshop.arts.take_in("two.png", two)
        workshop.jobs.add_items(job, "add", [{"name": "two", "art": art.digest, "width_mm": 60.0, "wrap": wrap}])
        workshop.items.split(workshop.jobs.get(job), 1, 3.0)
        widths = [item.width_mm for item in workshop.jobs.get(job).document.items]
        assert widths == pytest.approx([140 / 360 * 60] * 2, abs=0.2)


def test_what_is_bent_is_not_tiled_along_the_sheet(workshop: Workshop) -> None:
    job = workshop.jobs.add(read_document({"printer_id": 1, "cutter_id": 1, "stock": "water-slide-white"}))
    art = workshop.arts.take_in("1.png", ART.data)
    wrap = {"top_mm": 184, "bottom_mm": 160, "slant_mm": 205}
    design = {"name": "wide", "art": art.digest, "width_mm": 280.0, "wrap": wrap}
    workshop.jobs.add_items(job, "add", [design])
    state = workshop.jobs.get(job)
    (finding,) = (one for one in workshop.plans.of(state).findings if one.code == "art.too-big")
    assert [fix.target.value for fix in finding.fixes] == ["item"]
    with pytest.raises(BadInput, match="part it there, at Finish"):
        workshop.items.in_tiles(state, 1, 3.0)


@pytest.mark.parametrize("up", [35.0, 52.0, 70.0])
@pytest.mark.parametrize("shape", [(84.0, 60.0), (60.0, 84.0)])
def test_the_template_of_a_bent_piece_is_level_on_its_cup(up: float, shape: tuple[float, float]) -> None:
    cup = WrapSpec(*shape, 105.0, up)
    # Art that is not alike above and below its middle, with an edge that is not either.
    art = ArtFile.of("lopsided.png", write_png(bars((10, 20, 390, 120), (40, 20, 90, 380)).rgba, 300))
    spec = item(1, width_mm=70.0, wrap=cup, edge=EdgeSpec(distance_mm=3.0))
    found = Designer().design(spec, art, FILM)
    level, axis = lines_of(found, 0.5)
    bend = found.bend
    assert bend is not None
    on_wall = bend.flat(level) - np.array(bend.middle)
    # Every point of the level line is as high up the wall as the art's middle, as its measure says.
    assert np.abs(on_wall[:, 1]).max() < 1e-6
    laid = on_cup(found)
    assert laid is not None
    assert laid.up_mm == pytest.approx(up)
    drawn = np.concatenate(laid.drawing)
    assert (drawn[:, 1].min() + drawn[:, 1].max()) / 2 == pytest.approx(laid.up_mm, abs=0.3)
    # The upright stands upright there: one turn at every height, in the middle of what is drawn.
    turns = (bend.flat(axis) - np.array(bend.middle))[:, 0] / laid.wrap.around_mm * 360
    assert np.ptp(turns) < 1e-6
    assert turns[0] == pytest.approx((drawn[:, 0].min() + drawn[:, 0].max()) / 2, abs=0.3)


@pytest.mark.parametrize("shape", [(84.0, 60.0), (60.0, 84.0)])
def test_a_handles_room_is_kept_at_every_height(shape: tuple[float, float]) -> None:
    """At the narrow rim a handle takes a larger share of the way round than at the middle."""
    for width in np.arange(130.0, 200.0, 6.0):
        wrap = WrapSpec(*shape, 105.0, 52.0, handle_mm=40.0, bent=True)
        found = on_cup(Designer().design(item(1, width_mm=float(width), wrap=wrap), ART, FILM))
        assert found is not None
        reaches = max(
            abs(turn) / 360 * found.thing.around_mm(up) - (found.thing.around_mm(up) - 40.0) / 2
            for ring in found.edge
            for turn, up in ring.tolist()
        )
        assert found.into_handle_mm == pytest.approx(max(0.0, reaches), abs=1e-6)
        assert (found.parts > 1) == (reaches > 0.05 or found.width_mm > found.wrap.around_mm - 40.0)
        if found.width_mm <= found.room_mm:
            assert reaches <= 1e-6
