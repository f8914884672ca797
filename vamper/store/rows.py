"""Rows to core's types and back."""

from dataclasses import asdict
from typing import Any

from sqlalchemy.orm import Session

from vamper.core.devices import Cutter, Feed, ForceRange, Margins, Printer, PrinterKind
from vamper.core.stocks import STARTER_STOCKS, Stock, StockClass, Tack
from vamper.store.models import CutterRow, PrinterRow, StockRow


def stock_of(row: StockRow) -> Stock:
    return Stock(
        key=row.key,
        name=row.name,
        stock_class=StockClass(row.stock_class),
        face_um=row.face_um,
        backing_um=row.backing_um,
        hardness_gf_per_um=row.hardness_gf_per_um,
        least_neck_mm=row.least_neck_mm,
        abrasion=row.abrasion,
        faces=row.faces,
        speed_mm_s=row.speed_mm_s,
        tack=Tack(row.tack),
        soft_or_fibrous=row.soft_or_fibrous,
        mirrored=row.mirrored,
        printable=row.printable,
        colour=row.colour,
    )


def stock_row(stock: Stock, position: int) -> StockRow:
    fields = {**asdict(stock), "stock_class": stock.stock_class.value, "tack": stock.tack.value}
    return StockRow(position=position, **fields)


def printer_of(row: PrinterRow) -> Printer:
    margins = Margins(row.margin_top_mm, row.margin_right_mm, row.margin_bottom_mm, row.margin_left_mm)
    return Printer(PrinterKind(row.kind), margins)


def cutter_of(row: CutterRow) -> Cutter:
    return Cutter(
        Feed(row.feed),
        row.reach_width_mm,
        row.reach_height_mm,
        ForceRange(row.force_min_gf, row.force_max_gf, row.force_step_gf),
        row.acceleration_mm_s2,
        row.head_mm,
        row.tail_mm,
        row.mat_width_mm,
        row.mat_height_mm,
    )


def add_starters(session: Session) -> None:
    """Fill a new workshop: the starter stocks, two printers and three ways to cut."""
    session.add_all(stock_row(stock, position) for position, stock in enumerate(STARTER_STOCKS))
    session.add(
        PrinterRow(
            name="the inkjet in the back room",
            kind=PrinterKind.INKJET,
            margin_top_mm=3,
            margin_right_mm=3,
            margin_bottom_mm=5,
            margin_left_mm=3,
        )
    )
    session.add(
        PrinterRow(
            name="the laser printer",
            kind=PrinterKind.LASER,
            margin_top_mm=4.2,
            margin_right_mm=4.2,
            margin_bottom_mm=4.2,
            margin_left_mm=4.2,
        )
    )
    session.add_all(CutterRow(name=name, **columns_of(cutter)) for name, cutter in STARTER_CUTTERS.items())


STARTER_CUTTERS = {
    "the mat cutter": Cutter(Feed.MAT, 310, 420, ForceRange(20, 380, 4), mat_width_mm=305.0, mat_height_mm=305.0),
    "the small roller cutter": Cutter(Feed.ROLLER, 210, 1000, ForceRange(10, 210, 5), head_mm=10.0, tail_mm=25.0),
    "scissors and a guillotine": Cutter(Feed.HAND, 1000, 1000, ForceRange(20, 380, 4)),
}


def columns_of(cutter: Cutter) -> dict[str, Any]:
    """A cutter's limits as its row's columns."""
    return {
        "feed": cutter.feed,
        "reach_width_mm": cutter.reach_width_mm,
        "reach_height_mm": cutter.reach_height_mm,
        "force_min_gf": cutter.force.min_gf,
        "force_max_gf": cutter.force.max_gf,
        "force_step_gf": cutter.force.step_gf,
        "acceleration_mm_s2": cutter.acceleration_mm_s2,
        "head_mm": cutter.head_mm,
        "tail_mm": cutter.tail_mm,
        "mat_width_mm": cutter.mat_width_mm,
        "mat_height_mm": cutter.mat_height_mm,
    }
