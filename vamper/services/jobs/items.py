"""What is done with one design before it is saved: tried edges, shapes to choose from, several drawings told apart."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from typing import Any

from vamper.core.art.covering import covering_crop
from vamper.core.art.groups import Group, groups_of, start_apart_mm
from vamper.core.art.legible import Legibility, legibility
from vamper.core.design import DesignedItem
from vamper.core.edge.handling import Candidate, Handling, HandlingAdvice, advise, candidates, drawn_small, handling_of
from vamper.core.edge.holes import hole_turned
from vamper.core.edge.medium import Wanted, wanted_of
from vamper.core.edge.thin import holding_neck
from vamper.core.edge.tile import tiled, tiles_of
from vamper.core.effective_job import effective_item, effective_job
from vamper.core.finishing.on_cup import parts_round
from vamper.core.plan import set_up_sheet
from vamper.core.printing.bleed import bleed_box_mm, carried_outward
from vamper.core.values.art import SizedOver, SizeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import BlankSpec
from vamper.core.values.item import ItemSpec, Tile
from vamper.core.values.stock import Stock
from vamper.formats.art_in.raster import png_bytes
from vamper.services.design.arts import Arts
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.design.trial import Trials
from vamper.services.jobs.document import JobDocument
from vamper.services.jobs.job_state import JobState
from vamper.services.jobs.jobs import Jobs
from vamper.services.work.cache import Cache

_SKETCH_PX = 900
_KEPT_SHAPES = 100
_COARSE = 4.0


@dataclass(frozen=True, slots=True)
class Shapes:
    """The shapes a border could have, the one it has, and what is proposed."""

    now: Handling
    area_mm2: float
    advice: HandlingAdvice
    candidates: tuple[Candidate, ...]


def printed_box(item: DesignedItem) -> tuple[float, float, float, float]:
    """Where the picture of `Items.printed` lies in the item frame: left, top, width, height, mm."""
    return bleed_box_mm(item.outline, item.edge, item.bleed.width_mm)


class Items:
    """Designs of a workshop's jobs, one at a time."""

    def __init__(self, arts: Arts, jobs: Jobs, designer: Designer, stock: Callable[[str], Stock]) -> None:
        self._arts = arts
        self._jobs = jobs
        self._designer = designer
        self._stock = stock
        self._trials = Trials(designer)
        self._shapes: Cache[Shapes] = Cache(_KEPT_SHAPES)
        self._holding: Cache[float] = Cache(_KEPT_SHAPES)

    def designed(self, state: JobState, number: int) -> DesignedItem:
        """One design of a job; a back has its front's edge, turned over."""
        item = self._designer.design(*self._asked(state, number, {}))
        front = state.document.item(number).back_of
        if front is None:
            return item
        return self._as_back(state, item, number, front)

    def tried(self, state: JobState, number: int, changes: Mapping[str, Any]) -> DesignedItem:
        """One design with fields tried that are not saved, quickly."""
        item = self._trials.design(*self._asked(state, number, changes))
        front = state.document.item(number).back_of
        if front is None:
            return item
        return self._as_back(state, item, number, front)

    def _as_back(self, state: JobState, item: DesignedItem, number: int, front: int) -> DesignedItem:
        art = self._arts.file(state.document.item(number).art)
        return self._designer.as_back(item, self.designed(state, front), art, self._made_of(state.document))

    def _asked(self, state: JobState, number: int, changes: Mapping[str, Any]) -> tuple[ItemSpec, ArtFile, Stock]:
        document = state.document.items_changed((number,), changes) if changes else state.document
        item, stock = document.item(number), self._made_of(document)
        return effective_item(item, stock, self._jobs.cutter(document)), self._arts.file(item.art), stock

    def _as_it_came(self, state: JobState, number: int) -> DesignedItem:
        """A design at the size that was asked for, neither bent for a cup nor enlarged before it shrinks."""
        item, art, _ = self._asked(state, number, {"wrap": None})
        return self._designer.design(item, art, self._stock(state.document.stock).plainly(state.document.plain))

    def _made_of(self, document: JobDocument) -> Stock:
        """A job's stock, as it shrinks."""
        return self._stock(document.stock).plainly(document.plain).shrinking(document.shrink)

    def shapes(self, state: JobState, number: int) -> Shapes:
        """Close, smooth, hull and the other whole shapes round one design, with the stock each takes."""
        item = self.designed(state, number)
        stock, purpose, coated = self._made_of(state.document), state.document.purpose, state.document.finish.coated

        def make() -> Shapes:
            return Shapes(
                handling_of(item.edge.shape),
                item.edge.shape.area,
                advise(stock, purpose, coated),
                candidates(drawn_small(item.outline), item.spec.edge, stock.least_neck_mm),
            )

        front = state.document.item(number).back_of
        return self._shapes.get((item.spec, None if front is None else state.revision, stock, purpose, coated), make)

    def wanted(self, state: JobState, number: int, stocks: tuple[Stock, ...]) -> tuple[Wanted, ...]:
        """From which size on each of some stocks holds the drawing of one design, cut on its own outline."""
        outline = self.designed(state, number).outline
        width, height = outline.size_mm
        # A drawing that is coarser than any of them needs tells how much smaller it could be.
        most = _COARSE * max(one.least_neck_mm for one in stocks)

        def make() -> float:
            return holding_neck(drawn_small(outline).shape, most)

        holding = self._holding.get((outline.shape.wkb, most), make)
        return wanted_of(max(width, height), holding, stocks)

    def legibility(self, state: JobState, number: int) -> tuple[Legibility, tuple[float, float]]:
        """How legible the letters of one design are at the size that was asked for, and that size, mm."""
        outline = self._as_it_came(state, number).outline
        return legibility(outline), outline.size_mm

    def printed(self, state: JobState, number: int) -> bytes:
        """The picture that one design prints, bleed included, as PNG; it lies at `printed_box`."""
        item = self.designed(state, number)
        whole = self._designer.picture_of(item, self._arts.file(state.document.item(number).art))
        picture, _ = whole.thinned(_SKETCH_PX)
        return png_bytes(carried_outward(picture, item.outline, item.edge, item.bleed.width_mm))

    def groups(self, state: JobState, number: int, apart_mm: float | None) -> tuple[float, tuple[Group, ...]]:
        """The drawings in one design's picture, and the distance that tells them apart."""
        outline = self._as_it_came(state, number).outline
        apart = start_apart_mm(outline) if apart_mm is None else apart_mm
        return apart, groups_of(outline, apart)

    def split(self, state: JobState, number: int, apart_mm: float, together: bool = False) -> JobState:
        """Each drawing in the design's picture a design of its own, in reading order and at the same scale; what
        belongs `together` stays so.
        """
        design, document = self._as_it_came(state, number), state.document.item(number)
        groups = groups_of(design.outline, apart_mm, together)
        if len(groups) < 2:
            raise BadInput("at this distance the picture is one drawing; take a smaller one", "apart_mm")
        outer = design.spec.prepare.crop or (0.0, 0.0, 1.0, 1.0)
        parts = [
            {
                "name": f"{document.name} {place}"[:200],
                "width_mm": round(group.shape.bounds[2] - group.shape.bounds[0], 3),
                "size_over": "ink",
                "prepare.crop": _within(outer, group.crop),
                "edge.keep_holes": [],
            }
            for place, group in enumerate(groups, 1)
        ]
        return self._jobs.replace_item(state.id, f"split {document.name}", number, parts)

    def cover_blank(self, state: JobState, numbers: Sequence[int], blank: BlankSpec) -> JobState:
        """Pictures set to a blank's size, as one step: each cropped in its middle to the blank's shape."""
        whole = {number: self._whole_px(state, number) for number in numbers}
        width, _ = blank.covered_mm

        def edit(document: JobDocument) -> JobDocument:
            for number, picture_px in whole.items():
                changes = {
                    "width_mm": round(width, 3),
                    "size_over": "ink",
                    "prepare.crop": covering_crop(picture_px, blank),
                    "prepare.cut_off": True,
                    "edge.kind": "bare",
                    "edge.distance_mm": 0.0,
                    "edge.rings": [],
                }
                document = document.items_changed((number,), changes)
            return document.changed({"finish.blank": asdict(blank)})

        return self._jobs.edit(state.id, "cover the blank", edit)

    def _whole_px(self, state: JobState, number: int) -> tuple[int, int]:
        """Width and height of a design's picture as it came."""
        item = state.document.item(number)
        size = item.size if item.size_over is SizedOver.INK else SizeSpec(longest_mm=item.size.wanted_mm)
        picture = self._designer.decoded(self._arts.file(item.art), size, item.prepare.page)
        return picture.width_px, picture.height_px

    def turn_hole(self, state: JobState, number: int, at: tuple[float, ...]) -> JobState:
        """One hole filled that is open, or open that is filled."""
        item = self.designed(state, number)
        edge = hole_turned(item.outline.shape, item.edge.shape, state.document.item(number).edge, at)
        label = (
            "fill a hole" if len(edge.keep_holes) < len(state.document.item(number).edge.keep_holes) else "keep a hole"
        )
        changes = {"edge.fill_holes": edge.fill_holes, "edge.keep_holes": edge.keep_holes}
        return self._jobs.change_items(state.id, label, (number,), changes)

    def in_cup_parts(self, state: JobState, number: int, seams_mm: Sequence[float]) -> JobState:
        """A design that goes round a thing made in parts, each a design of its own: parted at these seams (mm from its
        middle, to the right), or where it is emptiest.
        """
        document, whole = state.document.item(number), self.designed(state, number)
        if document.tile is not None:
            raise BadInput("this is a part of a piece already; undo that first, then make it in other parts", "tile")
        tiles = parts_round(whole, seams_mm)
        parts = [
            {
                "name": f"{document.name}, part {place} of {len(tiles)}"[:200],
                "loose": True,
                "tile": {"left": tile.left, "top": tile.top, "right": tile.right, "bottom": tile.bottom},
            }
            for place, tile in enumerate(tiles, 1)
        ]
        return self._jobs.replace_item(state.id, f"make {document.name} in {len(tiles)} parts", number, parts)

    def in_tiles(self, state: JobState, number: int, overlap_mm: float) -> JobState:
        """A piece that is too large made in parts that lie over each other; each is a design of its own."""
        document, whole = state.document.item(number), self.designed(state, number)
        if document.tile is not None:
            raise BadInput("this is a part of a piece already; undo that first, then make it in other parts", "tile")
        if whole.bend is not None:
            raise BadInput("it is bent for its cup; part it there, at Finish, so that its seams stand upright", "tile")
        job = self._jobs.core_job(state)
        room = set_up_sheet(effective_job(replace(job, items=(), held=()))).live.room_mm
        tiles = tiles_of(whole.outline, whole.edge, room, document.turn or state.document.packing.turn, overlap_mm)
        shown = [tile for tile in tiles if _is_drawn(whole, tile)]
        parts = [
            {
                "name": f"{document.name}, part {place} of {len(shown)}"[:200],
                # What a seam parts is put together again by hand.
                "loose": True,
                "tile": {"left": tile.left, "top": tile.top, "right": tile.right, "bottom": tile.bottom},
            }
            for place, tile in enumerate(shown, 1)
        ]
        return self._jobs.replace_item(state.id, f"make {document.name} in {len(shown)} parts", number, parts)


def _is_drawn(whole: DesignedItem, tile: Tile) -> bool:
    """Whether anything of a piece shows in a window."""
    try:
        tiled(whole.outline, whole.edge, tile)
    except BadInput:
        return False
    return True


def _within(outer: tuple[float, ...], inner: tuple[float, ...]) -> tuple[float, float, float, float]:
    """A box given in shares of another box, in shares of the whole."""
    width, height = outer[2] - outer[0], outer[3] - outer[1]
    return (
        round(outer[0] + inner[0] * width, 6),
        round(outer[1] + inner[1] * height, 6),
        round(outer[0] + inner[2] * width, 6),
        round(outer[1] + inner[3] * height, 6),
    )
