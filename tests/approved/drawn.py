"""What is told of art and of edges: what is seen in pictures, and what goes round them."""

from collections.abc import Iterator
from typing import Any

import numpy as np

from tests.approved.drawings import ARROW, ART, RING, drawn
from tests.scenes import bars, item, masked, scene
from vamper.core.art.colours import flat_colours, layers_of
from vamper.core.art.groups import groups_of
from vamper.core.art.outline import Outline, outline_at, trace
from vamper.core.art.prepare import prepared
from vamper.core.art.resolution import need_of, seen_from
from vamper.core.art.surface import survey
from vamper.core.edge.bends import tight_places, tightest_mm
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.edge.handling import advise, candidates, ease, handling_of
from vamper.core.edge.inspect import edge_findings, hand_findings, look_along
from vamper.core.edge.kind import KINDS
from vamper.core.edge.thin import thin_places
from vamper.core.edge.tile import tile_counts, tiled, tiles_of
from vamper.core.edge.two_sided import back_edge, is_symmetric, turned_over
from vamper.core.inspect import findings_of
from vamper.core.values.art import Preparation, Purpose, SizeSpec
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import ring_points
from vamper.core.values.item import Tile, Turn
from vamper.core.values.stock import STARTER_STOCKS

SOME_STOCKS = STARTER_STOCKS[::3]
Told = Iterator[tuple[str, Any]]


def _tiles() -> Told:
    """What is larger than a sheet, in parts."""
    for number, picture in ART.items():
        outline = outline_at(trace(picture), SizeSpec(width_mm=330.0))
        edge = derive_edge(outline, EdgeSpec(), 1.0)
        for turn in Turn:
            yield (
                f"counts {number} {turn.value}",
                [tile_counts(edge, (194.0, side), turn, 6.0) for side in (260.0, 90.0)],
            )
        tiles = tiles_of(outline, edge, (194.0, 260.0), Turn.QUARTER, 6.0)
        yield f"tiles {number}", [tiles, [_part(outline, edge, one) for one in tiles]]


def _part(outline: Outline, edge: Edge, tile: Tile) -> Any:
    try:
        return tiled(outline, edge, tile)
    except BadInput as bad:
        return bad.sentence


def _backs() -> Told:
    outlines = [outline_at(trace(picture), SizeSpec(width_mm=45.0)) for picture in ART.values()]
    for kind in ("follow", "circle", "bare"):
        fronts = [derive_edge(one, EdgeSpec(kind, 0.0 if kind == "bare" else 2.0), 1.0) for one in outlines]
        yield f"symmetric {kind}", [[is_symmetric(one), turned_over(one.shape)] for one in fronts]
        pairs = zip(fronts, outlines, outlines[1:] + outlines[:1], strict=True)
        yield f"backs {kind}", [back_edge(front, drawn, back) for front, drawn, back in pairs]


def _along() -> Told:
    """What is found along edges that are thin, tight, or far from even."""
    thin = bars((20, 180, 380, 190), (20, 100, 120, 300), (200, 100, 206, 186), (300, 186, 303, 290))
    holed = np.zeros((400, 400), bool)
    holed[60:340, 20:380], holed[90:150, 60:120], holed[180:320, 200:340] = True, False, False
    drawings = (
        ("arrow", ARROW, (60.0,)),
        ("ring", RING, (14.0,)),
        ("thin", thin, (14.0, 60.0)),
        ("holes", masked(holed), (60.0,)),
    )
    for name, picture, widths in drawings:
        for width in widths:
            outline = outline_at(trace(picture), SizeSpec(width_mm=width))
            for number, spec in enumerate(
                (
                    EdgeSpec(distance_mm=0.4, smooth_mm=0.0),
                    EdgeSpec(distance_mm=2.0, fill_holes=False),
                    EdgeSpec("bare", 0.0),
                    EdgeSpec(distance_mm=1.0, join=False, fillet_mm=0.8),
                    EdgeSpec("hull", 1.5),
                )
            ):
                edge = derive_edge(outline, spec, 1.5)
                facts = look_along(outline, edge, spec, 1.5)
                found = [edge_findings(outline, edge, item(edge=spec), 1, facts, miss) for miss in (0.2, 0.9)]
                places = [thin_places(edge.shape, neck) for neck in (0.8, 2.5)]
                ring = ring_points(max(edge.shape.geoms, key=lambda part: part.area).exterior)
                bends = [tightest_mm(ring), len(tight_places(ring, 0.5)), len(tight_places(ring, 3.0))]
                hand = hand_findings(edge.smallest_radius_mm, 1)
                yield (
                    f"along {name} {width:g} {number}",
                    [facts, found, places, bends, hand, ease(handling_of(edge.shape))],
                )


def art() -> Told:
    """What is seen in pictures, what is made of them, and what is found wrong on stocks of every ground."""
    edits = (
        Preparation(lift_de=14.0),
        Preparation(crop=(0.1, 0.0, 0.6, 0.9)),
        Preparation(stretch=1.3, ink_share=0.6),
        Preparation(bend_deg=40.0),
    )
    grounds = {stock.ground: stock.key for stock in STARTER_STOCKS}
    for name, picture in drawn().items():
        yield f"colours {name}", flat_colours(picture)
        for number, edit in enumerate(edits):
            yield f"{name} {number}", prepared(picture, edit).rgba
        for width in (12.0, 90.0):
            outline = outline_at(trace(picture), SizeSpec(width_mm=width))
            yield f"surface {name} {width:g}", [outline.shape, survey(picture, outline, 0.5)]
        for ground, stock in grounds.items():
            seen = scene(item(width_mm=70.0), stock=stock, pictures={1: picture}).plan()
            yield f"{name} on {ground}", [(one.code, one.text) for one in findings_of(seen)]
    for purpose in Purpose:
        yield f"seen {purpose.value}", [seen_from(purpose), need_of(purpose)]
    yield "layers", layers_of(drawn()["bordered"], SizeSpec(width_mm=60.0))


def edges() -> Told:
    """Every kind round three drawings, near and far."""
    for number, picture in ART.items():
        outline = outline_at(trace(picture), SizeSpec(width_mm=45.0))
        yield f"groups {number}", groups_of(outline, 2.0)
        for key in (one.key for one in KINDS):
            for far in (-30.0, -0.5, 0.0) if key == "bare" else (1.0, 3.5):
                edge = derive_edge(outline, EdgeSpec(kind=key, distance_mm=far), 1.0)
                yield f"{number} {key} {far}", [edge, handling_of(edge.shape)]
        yield f"candidates {number}", [one.edge.shape for one in candidates(outline, EdgeSpec(), 1.0)]
    for part in (_tiles, _backs, _along):
        yield from part()
    for stock in SOME_STOCKS:
        yield f"advice {stock.key}", advise(stock, scene().job.purpose)
