"""How many pieces packing lays on a sheet, beside the best packing of their boxes, in one run."""

import threading
from dataclasses import dataclass, field

import rectpack
from shapely.geometry import box

from tests.bench.table import Row
from vamper.core.job import EdgeSpec, ItemSpec, PackingSpec, SizeSpec
from vamper.core.sheet.layout import Layout, Piece
from vamper.core.sheet.packing import PackProblem, pack
from vamper.core.sheet.rows import rows_of_boxes
from vamper.core.stocks import STOCK_BY_KEY
from vamper.demo.workshop import ART
from vamper.services.design import ArtFile, Designer
from vamper.services.nesting_process import ProcessNester
from vamper.services.planning import TimedWatch

STOCK = STOCK_BY_KEY["satin-vinyl"]
LIVE = box(10.8, 10.8, 205.1, 268.6)
GAP = 2.0
SIZES = {"seabird.png": 52, "lighthouse.svg": 22, "kelp.svg": 38, "rope.png": 42, "oyster.png": 34, "paddles.png": 40}


@dataclass
class _Timed:
    """When each better layout came."""

    watch: TimedWatch
    first: float | None = None
    seen: list[tuple[float, int]] = field(default_factory=list)

    def better(self, layout: Layout) -> None:
        at = self.watch.seconds - self.watch.seconds_left()
        self.first = at if self.first is None else self.first
        self.seen.append((at, layout.pieces))


def mixed_pieces(each: int) -> tuple[Piece, ...]:
    """Six demo designs, `each` copies of every one."""
    designer = Designer()
    pieces = []
    for index, (name, width) in enumerate(SIZES.items()):
        spec = ItemSpec(name, SizeSpec(width_mm=width), each, edge=EdgeSpec())
        item = designer.design(index, spec, ArtFile.of(name, ART[name]()), STOCK)
        pieces.append(Piece(index, item.edge.shape, each))
    return tuple(pieces)


def best_of_boxes(pieces: tuple[Piece, ...]) -> int:
    """Most boxes on one sheet over every method of `rectpack`, quarter turns allowed, the gap added to each box."""
    left, top, right, bottom = LIVE.bounds
    best = 0
    for mode in (rectpack.PackingMode.Offline,):
        for algorithm in (
            rectpack.MaxRectsBssf,
            rectpack.MaxRectsBaf,
            rectpack.MaxRectsBlsf,
            rectpack.SkylineMwfl,
            rectpack.GuillotineBssfSas,
        ):
            for order in (rectpack.SORT_AREA, rectpack.SORT_SSIDE, rectpack.SORT_LSIDE, rectpack.SORT_PERI):
                packer = rectpack.newPacker(mode=mode, pack_algo=algorithm, sort_algo=order, rotation=True)
                packer.add_bin(round((right - left + GAP) * 100), round((bottom - top + GAP) * 100))
                for piece in pieces:
                    x0, y0, x1, y1 = piece.edge.bounds
                    for _ in range(piece.quantity):
                        packer.add_rect(round((x1 - x0 + GAP) * 100), round((y1 - y0 + GAP) * 100))
                packer.pack()
                best = max(best, len(packer[0]) if len(packer) else 0)
    return best


def _searched(problem: PackProblem, nester: ProcessNester, seconds: float) -> tuple[Layout, _Timed]:
    watch = TimedWatch(seconds, stopped=threading.Event())
    timed = _Timed(watch)
    watch.on_better = timed.better
    return pack(problem, nester, watch), timed


def mixed(nester: ProcessNester) -> list[Row]:
    """24 mixed pieces, and then as many as go on one sheet in five seconds."""
    pieces = mixed_pieces(4)
    layout, timed = _searched(PackProblem(pieces, LIVE, PackingSpec(gap_mm=GAP)), nester, 5)
    rows = [
        Row("24 mixed pieces, 2 mm, any turn: first layout", f"{timed.first:.2f} s", "1 s"),
        Row("24 mixed pieces after 5 s", f"{layout.pieces} on {len(layout.sheets)} sheet(s)"),
    ]
    many = mixed_pieces(6)
    layout, _ = _searched(PackProblem(many, LIVE, PackingSpec(gap_mm=GAP, max_sheets=1)), nester, 5)
    plain = rows_of_boxes(many, LIVE, GAP, PackingSpec().turn, 1)
    boxes = best_of_boxes(many)
    rows += [
        Row("one sheet, 36 offered: rows of boxes", f"{len(plain[0])}"),
        Row("one sheet, 36 offered: best packing of boxes", f"{boxes}"),
        Row("one sheet, 36 offered: Vamper in 5 s", f"{layout.pieces}", f"at least {boxes + 1}"),
    ]
    return rows
