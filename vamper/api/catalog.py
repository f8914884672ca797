"""The facts and choices that the interface shows, each known once and told from here."""

from vamper.api.door import router as door_router
from vamper.api.schemas import CatalogOut, EdgeKindOut, FontOut, Limits, NamedOut
from vamper.core.art.prepare import START_LIFT_DE
from vamper.core.art.resolution import VIEWING_DISTANCE_MM, needed_ppi
from vamper.core.devices import Feed, PrinterKind
from vamper.core.edge.edge import KIND_USES
from vamper.core.edge.inspect import EVEN_LOOKING_FACTOR, STARTER_MISS_MM
from vamper.core.job import Cut, EdgeKind, EdgeSpec, MarkFamily, Purpose, Turn
from vamper.core.sheet.papers import NAMED_PAPERS, words_of
from vamper.formats.art_file import ENDINGS, MOST_BYTES
from vamper.formats.fonts import FONTS
from vamper.formats.raster import MOST_PIXELS
from vamper.services.overview import EDGE_PHRASES, MODE_WORDS, PURPOSE_PHRASES, TURN_PHRASES, viewing

router = door_router()
_SLIDER_MM = 12.0
_DEEPEST_MM = 5.0

_EDGE_HINTS = {
    EdgeKind.FOLLOW: "goes round the drawing",
    EdgeKind.CIRCLE: "the smallest that clears it",
    EdgeKind.ELLIPSE: "of the drawing's own proportions",
    EdgeKind.RECTANGLE: "square corners, trims straight",
    EdgeKind.ROUNDED: "corners that do not lift",
    EdgeKind.HULL: "a tight band round it, no notches",
    EdgeKind.BARE: "on the outline, or inside it",
}
_CUT_HINTS = {
    Cut.KISS: "through the face; pieces stay on the backing",
    Cut.THROUGH: "through everything; pieces come loose, 3 mm apart",
}
_FAMILY_NAMES = {
    MarkFamily.CORNER: ("corners", "an L at each corner of the sheet"),
    MarkFamily.FRAME: ("frame", "one rectangle round everything"),
    MarkFamily.DOT: ("dots", "a filled disc in each corner; the sheet's sides stay free"),
    MarkFamily.CROSS: ("crosses", "a cross in each corner; the sheet's sides stay free"),
    MarkFamily.RING: ("rings", "a ring in each corner, one without its dot: tells a sheet put in the wrong way round"),
    MarkFamily.NONE: ("none", "the cutter adds its own, or cuts by eye"),
}

_FEED_NAMES = {
    Feed.MAT: ("mat", "the stock lies on a sticky mat"),
    Feed.ROLLER: ("rollers", "rollers hold the stock itself, and a strip at its head and tail"),
    Feed.HAND: ("by hand", "no machine: guide lines, straight rows, trim ticks"),
}
NUDGE_MM = 0.5
FAR_NUDGE_MM = 5.0


@router.get("/catalog", tags=["catalog"])
def catalog() -> CatalogOut:
    return CatalogOut(
        edge_kinds=[
            EdgeKindOut(
                key=k,
                name=EDGE_PHRASES[k],
                hint=_EDGE_HINTS[k],
                uses=list(KIND_USES[k]),
                least_mm=-_DEEPEST_MM if k is EdgeKind.BARE else 0.0,
                most_mm=0.0 if k is EdgeKind.BARE else _SLIDER_MM,
                start_mm=0.0 if k is EdgeKind.BARE else EdgeSpec().distance_mm,
            )
            for k in EdgeKind
        ],
        cuts=[NamedOut(key=c, name=f"{c} cut", hint=_CUT_HINTS[c]) for c in Cut],
        turns=[NamedOut(key=t, name=TURN_PHRASES[t], hint="") for t in Turn],
        modes=[NamedOut(key=m, name=name, hint=hint) for m, (name, hint) in MODE_WORDS.items()],
        feeds=[NamedOut(key=f, name=name, hint=hint) for f, (name, hint) in _FEED_NAMES.items()],
        printer_kinds=[NamedOut(key=k, name=k.value, hint="") for k in PrinterKind],
        papers=[
            NamedOut(key=name, name=words_of(name), hint=f"{paper.width_mm:g} × {paper.height_mm:g} mm")
            for name, paper in NAMED_PAPERS.items()
        ],
        nudge_mm=NUDGE_MM,
        far_nudge_mm=FAR_NUDGE_MM,
        mark_families=[NamedOut(key=f, name=name, hint=hint) for f, (name, hint) in _FAMILY_NAMES.items()],
        purposes=[
            NamedOut(
                key=p,
                name=PURPOSE_PHRASES[p],
                hint=f"seen from {viewing(p)}, needs {needed_ppi(VIEWING_DISTANCE_MM[p]):.0f} ppi",
            )
            for p in Purpose
        ],
        least_border_mm=STARTER_MISS_MM,
        even_border_mm=STARTER_MISS_MM * EVEN_LOOKING_FACTOR,
        start_lift_de=START_LIFT_DE,
        fonts=[FontOut(family=font.family, words=font.words) for font in FONTS],
        limits=Limits(
            most_megabytes=MOST_BYTES // 2**20, most_megapixels=MOST_PIXELS // 1_000_000, endings=list(ENDINGS)
        ),
    )
