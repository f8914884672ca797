"""From art bytes to outline and edge, every step kept by the content of its inputs.

A change of distance computes an edge only; a change of size brings the kept tracing to another scale; nothing is
decoded or traced twice. Drawings are the exception: they are rendered anew for each size.
"""

import hashlib
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from functools import partial
from typing import Any, TypeVar

import shapely

from vamper.core.art.bent import Bend
from vamper.core.art.inspect import ArtFacts, look_over
from vamper.core.art.outline import Outline, Tracing, outline_at, trace
from vamper.core.art.picture import Picture
from vamper.core.art.prepare import prepared
from vamper.core.design import DesignedItem
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.edge.inspect import EdgeFacts, look_along
from vamper.core.edge.kind import enlarged
from vamper.core.edge.tile import tiled
from vamper.core.edge.two_sided import back_edge
from vamper.core.finishing.round_things import bend_deg, bend_on, middle_up_mm, thing_of
from vamper.core.printing.bleed import Bleed, bleed_for
from vamper.core.values.art import Preparation, SizedOver, SizeSpec
from vamper.core.values.edge import EdgeSpec, RingSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.item import ItemSpec
from vamper.core.values.stock import Stock
from vamper.formats.art_in.art_file import kind_of, page_count, read_art
from vamper.services.design.art_reading import PREVIEW_PX, FirstLook, first_look, preview, shown, studied
from vamper.services.design.kept_designs import KeptDesigns
from vamper.services.work.cache import Cache
from vamper.services.work.reading_room import ReadingRoom

T = TypeVar("T")

AS_IT_CAME = Preparation()
_SIZING_STEPS = 6
_SIZING_MM = 0.005
_PICTURE_BYTES = 80 * 2**20
_SHAPES = 2000
_PREVIEW_BYTES = 30 * 2**20
# An outline of so many points is as good as hostile: one step of its edge may hold everybody up for seconds.
_RAGGED_POINTS = 20_000


@dataclass(frozen=True, slots=True)
class ArtFile:
    """An art file as it came in. `digest` identifies its content."""

    name: str
    data: bytes
    digest: str

    @classmethod
    def of(cls, name: str, data: bytes) -> "ArtFile":
        return cls(name, data, hashlib.sha256(data).hexdigest())


@dataclass(frozen=True, slots=True)
class _Designed:
    """All of a designed item that does not depend on what is asked beside its art, its edge and its stock."""

    size: SizeSpec
    outline: Outline
    edge: Edge
    facts: ArtFacts
    edge_facts: EdgeFacts
    bleed: Bleed
    middle: tuple[float, float] | None = None


@dataclass(frozen=True, slots=True)
class _Back:
    edge: Edge
    bleed: Bleed


@dataclass(frozen=True, slots=True)
class _Bent:
    """Art bent for a cup: by how many degrees, how wide it is then, and its map in its own frame."""

    turned_deg: float
    width_mm: float
    bend: Bend


class Designer:
    """Designs items; safe to share between threads."""

    def __init__(self, room: ReadingRoom | None = None, kept: KeptDesigns | None = None) -> None:
        self.room = room or ReadingRoom()
        self._kept = kept or KeptDesigns()
        self._designs: Cache[_Designed] = Cache(_SHAPES)
        self._backs: Cache[_Back] = Cache(_SHAPES)
        self._first_looks: Cache[FirstLook] = Cache(_PICTURE_BYTES / 4, lambda seen: _weight(seen.picture))
        self._decoded: Cache[Picture] = Cache(_PICTURE_BYTES, _weight)
        self._pictures: Cache[Picture] = Cache(_PICTURE_BYTES, _weight)
        self._tracings: Cache[Tracing] = Cache(_SHAPES / 10)
        self._outlines: Cache[Outline] = Cache(_SHAPES)
        self._facts: Cache[ArtFacts] = Cache(_SHAPES)
        self._edges: Cache[Edge] = Cache(_SHAPES)
        self._edge_facts: Cache[EdgeFacts] = Cache(_SHAPES)
        self._sizes: Cache[SizeSpec] = Cache(_SHAPES)
        self._bends: Cache[_Bent] = Cache(_SHAPES)
        self._across: Cache[float] = Cache(_SHAPES)
        self._previews: Cache[bytes] = Cache(_PREVIEW_BYTES, len)
        self._showing = ThreadPoolExecutor(1, thread_name_prefix="previews")

    def decoded(self, art: ArtFile, size: SizeSpec, page: int = 1) -> Picture:
        """The art's pixels as they came, for drawings rendered at `size`."""

        def make() -> Picture:
            return self._read(art, read_art, art.data, art.name, size, page)

        return self._decoded.get(pixels_key(art, size, page), make)

    def first_look(self, art: ArtFile, size: SizeSpec) -> FirstLook:
        """An art file that has just come in; what is seen of it is kept, for it may come in again."""
        key = pixels_key(art, size, AS_IT_CAME.page)
        seen = self._first_looks.get((art.digest, size), lambda: self._read(art, first_look, art.data, art.name, size))
        self._decoded.get(key, lambda: seen.picture)
        self._tracings.get((key, AS_IT_CAME), lambda: seen.tracing)
        self._outlines.get((art.digest, size, AS_IT_CAME), lambda: seen.outline)
        self._facts.get((art.digest, size, AS_IT_CAME), lambda: seen.facts)
        return seen

    def preview(self, art: ArtFile, longest_px: int, preparation: Preparation) -> bytes:
        """The prepared picture as PNG, at most so many pixels at its longer side. The usual sizes are kept."""

        def make() -> bytes:
            return self._read(art, preview, art.data, art.name, longest_px, preparation)

        key = _preview_key(art, longest_px, preparation)
        if longest_px not in PREVIEW_PX:
            return make()
        return self._previews.get(key, lambda: self._kept.get(bytes, key, make))

    def _show(self, art: ArtFile, preparation: Preparation, picture: Picture) -> None:
        """Make the pictures to be shown of a preparation while nobody waits for them yet."""
        for px in PREVIEW_PX:
            key = _preview_key(art, px, preparation)
            self._previews.get(key, partial(self._kept.get, bytes, key, partial(shown, picture, px)))

    def pages(self, art: ArtFile, known: int | None = None) -> int:
        """How many pages an art file has; where somebody has seen them already, that is `known`."""
        if not kind_of(art.data, art.name).has_pages:
            return 1
        return self._kept.get(int, (art.digest,), lambda: known or self._read(art, page_count, art.data, art.name))

    def _read(self, art: ArtFile, task: Callable[..., T], *arguments: Any) -> T:
        """In the reading room; a sentence names the file it is about."""
        try:
            return self.room.run(task, *arguments)
        except BadInput as bad:
            raise BadInput(bad.sentence, art.name) from None

    def picture(self, art: ArtFile, size: SizeSpec, preparation: Preparation = AS_IT_CAME) -> Picture:
        """The art's pixels, prepared."""
        decoded = self.decoded(art, size, preparation.page)
        if not preparation.changes:
            return decoded
        key = (pixels_key(art, size, preparation.page), *preparation.changes)
        return self._pictures.get(key, lambda: self._read(art, prepared, decoded, preparation))

    def picture_of(self, item: DesignedItem, art: ArtFile) -> Picture:
        """A design's pixels, prepared."""
        return self.picture(art, item.size, item.spec.prepare)

    def outline(self, art: ArtFile, size: SizeSpec, preparation: Preparation = AS_IT_CAME) -> Outline:
        """The inked area at a size that is over the inked area."""

        def traced() -> Tracing:
            return self._read(art, trace, self.picture(art, size, preparation), preparation.threshold)

        def make() -> Outline:
            key = (pixels_key(art, size, preparation.page), preparation)
            try:
                return outline_at(self._tracings.get(key, traced), size)
            except BadInput as bad:
                raise BadInput(bad.sentence, art.name) from None

        return self._outlines.get((art.digest, size, preparation), make)

    def edge(self, art: ArtFile, size: SizeSpec, preparation: Preparation, spec: EdgeSpec, neck_mm: float) -> Edge:
        """The edge round the outline of that size; the border's colours do not move it."""
        uncoloured = replace(spec, colour=None, rings=tuple(RingSpec(ring.width_mm) for ring in spec.rings))
        key = (art.digest, size, preparation, uncoloured, neck_mm)
        outline = self.outline(art, size, preparation)

        def make() -> Edge:
            if shapely.get_num_coordinates(outline.shape) < _RAGGED_POINTS:
                return derive_edge(outline, spec, neck_mm)
            return self._read(art, derive_edge, outline, spec, neck_mm)

        return self._edges.get(key, make)

    def design(self, spec: ItemSpec, art: ArtFile, stock: Stock) -> DesignedItem:
        """Outline and edge of one item, what is seen on it, and its bleed.

        Raises
        ------
        BadInput
            If the art cannot be read, holds nothing inked, or vanishes at the wanted size.
        """
        asked = spec
        spec, bend = self._on_its_cup(spec, art, stock)
        spec = self._before_it_shrinks(spec, art, stock)
        made_from: tuple[Any, ...] = (
            art.digest,
            spec.size,
            spec.prepare,
            spec.edge,
            spec.bleed_mm,
            stock.colour,
            stock.least_neck_mm,
        )
        if spec.tile is not None:
            made_from = (*made_from, spec.tile, bend)

        def make() -> _Designed:
            return self._kept.get(_Designed, made_from, lambda: self._work_out(spec, art, stock, bend))

        found = self._designs.get(made_from, make)
        return DesignedItem(
            spec,
            found.size,
            found.outline,
            found.edge,
            found.facts,
            found.edge_facts,
            found.bleed,
            bend=bend if bend is None or found.middle is None else replace(bend, middle=found.middle),
            middle=found.middle,
            asked=None if spec is asked else asked,
        )

    def _before_it_shrinks(self, spec: ItemSpec, art: ArtFile, stock: Stock) -> ItemSpec:
        """A design on a film that shrinks, as large as it is printed."""
        if stock.shrink is None:
            return spec
        shrink = stock.shrink
        size = self._inked_size(spec, art, stock.least_neck_mm)

        def make() -> float:
            return self.outline(art, size, spec.prepare).size_mm[0]

        made_from = (art.digest, size, spec.prepare)
        across = self._across.get(made_from, lambda: self._kept.get(float, ("across", *made_from), make))
        return replace(
            spec,
            width_mm=round(across / shrink.x, 4),
            height_mm=None,
            longest_mm=None,
            size_over=SizedOver.INK,
            edge=enlarged(spec.edge, 1 / shrink.mean),
            prepare=replace(spec.prepare, stretch=round(shrink.y / shrink.x, 5), ink_share=shrink.ink_share),
        )

    def _on_its_cup(self, spec: ItemSpec, art: ArtFile, stock: Stock) -> tuple[ItemSpec, Bend | None]:
        """A design that goes on a tapering cup, bent: its art holds its width along its middle."""
        if spec.wrap is None or not spec.wrap.bent or (thing := thing_of(spec.wrap)).is_cylinder:
            return spec, None
        size, up = self._inked_size(spec, art, stock.least_neck_mm), middle_up_mm(spec.wrap)

        def make() -> _Bent:
            outline = self.outline(art, size, spec.prepare)
            across, down = outline.size_mm
            flat = bend_on(thing, (across / 2, down / 2), up)
            left, top, right, _ = flat.shape(outline.shape).bounds
            # The bent art's own frame begins at its top left.
            there = replace(flat, middle=(flat.middle[0] - left, flat.middle[1] - top))
            return _Bent(bend_deg(thing, across, up), right - left, there)

        made_from = (art.digest, size, spec.prepare, spec.wrap)
        bent = self._bends.get(made_from, lambda: self._kept.get(_Bent, made_from, make))
        prepare, width = replace(spec.prepare, bend_deg=round(bent.turned_deg, 4)), round(bent.width_mm, 4)
        wide = replace(spec, width_mm=width, height_mm=None, longest_mm=None, size_over=SizedOver.INK)
        return replace(wide, prepare=prepare), bent.bend

    def as_back(self, item: DesignedItem, front: DesignedItem, art: ArtFile, stock: Stock) -> DesignedItem:
        """A design cut to its front's edge, turned over."""
        spec, edge_spec = item.spec, front.spec.edge
        ours = (art.digest, item.size, spec.prepare, spec.bleed_mm)
        theirs = (front.spec.art, front.size, front.spec.prepare, edge_spec)

        def make() -> _Back:
            edge = back_edge(front.edge, front.outline, item.outline)
            picture = self.picture_of(item, art)
            return _Back(edge, bleed_for(picture, item.outline, edge, edge_spec, stock.colour, spec.bleed_mm))

        made_from = (ours, theirs, stock.colour, stock.least_neck_mm)
        back = self._backs.get(made_from, lambda: self._kept.get(_Back, made_from, make))
        return replace(
            item,
            spec=replace(spec, edge=edge_spec),
            edge=back.edge,
            edge_facts=EdgeFacts(stock.least_neck_mm),
            bleed=back.bleed,
        )

    def _work_out(self, spec: ItemSpec, art: ArtFile, stock: Stock, bend: Bend | None) -> _Designed:
        size, prepare = self._inked_size(spec, art, stock.least_neck_mm), spec.prepare
        facts = self._facts.get((art.digest, size, prepare), lambda: self._study(art, size, prepare))
        outline = self.outline(art, size, prepare)
        edge = self.edge(art, size, prepare, spec.edge, stock.least_neck_mm)
        middle = None
        if spec.tile is not None:
            whole = outline
            outline, edge = tiled(whole, edge, spec.tile, bend)
            middle = _in_part(whole, outline, bend)
        edge_facts = self._edge_facts.get(
            (art.digest, size, prepare, spec.edge, stock.least_neck_mm, spec.tile),
            lambda: look_along(outline, edge, spec.edge, stock.least_neck_mm),
        )
        picture = self.picture(art, size, prepare)
        if prepare.changes:
            self._showing.submit(self._show, art, prepare, picture)
        bleed = bleed_for(picture, outline, edge, spec.edge, stock.colour, spec.bleed_mm)
        return _Designed(size, outline, edge, facts, edge_facts, bleed, middle)

    def _study(self, art: ArtFile, size: SizeSpec, prepare: Preparation) -> ArtFacts:
        """The features seen on an art; where nothing is known of it yet, everything else is kept on the way."""
        pixels = pixels_key(art, size, prepare.page)
        if (pixels, prepare) in self._tracings or pixels in self._decoded:
            outline = self.outline(art, size, prepare)
            return self._read(art, look_over, self.picture(art, size, prepare), outline, prepare.threshold)
        seen = self._read(art, studied, art.data, art.name, size, prepare)
        self._tracings.get((pixels, prepare), lambda: seen.tracing)
        self._outlines.get((art.digest, size, prepare), lambda: seen.outline)
        if not prepare.changes:
            self._decoded.get(pixels, lambda: seen.picture)
        else:
            self._pictures.get((pixels, *prepare.changes), lambda: seen.picture)
        return seen.facts

    def _inked_size(self, spec: ItemSpec, art: ArtFile, neck_mm: float) -> SizeSpec:
        """The inked area's size; worked back from the piece's where that is what was asked for.

        A border hardly depends on the size of what it goes round, so a few steps settle it.
        """
        size = spec.size
        if size.size_over is SizedOver.INK:
            return size
        wanted = size.wanted_mm

        def make() -> SizeSpec:
            inked = max(wanted - 2 * max(spec.edge.reach_mm, 0.0), wanted / 4)
            for _ in range(_SIZING_STEPS):
                trial = size.inked(round(inked, 4))
                edge = self.edge(art, trial, spec.prepare, spec.edge, neck_mm)
                off = wanted - size.side_of(*edge.size_mm)
                if abs(off) < _SIZING_MM:
                    break
                inked = max(inked + off, wanted / 20)
            return trial

        made_from = (art.digest, size, spec.prepare, spec.edge, neck_mm)
        return self._sizes.get(made_from, lambda: self._kept.get(SizeSpec, made_from, make))


def _in_part(whole: Outline, part: Outline, bend: Bend | None) -> tuple[float, float]:
    """Where the middle of a whole drawing lies in the frame of one of its parts."""
    across, down = whole.size_mm
    at = (across / 2, down / 2) if bend is None else bend.middle
    moved = [(mine - all_of) * whole.mm_per_px for mine, all_of in zip(part.origin_px, whole.origin_px, strict=True)]
    return at[0] - moved[0], at[1] - moved[1]


def _preview_key(art: ArtFile, longest_px: int, preparation: Preparation) -> tuple[object, ...]:
    """The key of a preview: the threshold changes no pixel."""
    return (art.digest, longest_px, preparation.page, *preparation.changes)


def _weight(picture: Picture) -> float:
    return float(picture.rgba.nbytes)


def pixels_key(art: ArtFile, size: SizeSpec, page: int) -> tuple[str, int, SizeSpec | None]:
    """The key of an art's pixels: drawings are rendered anew for each size."""
    return art.digest, page, size if kind_of(art.data, art.name).is_drawn else None
