"""Rows to core's types and back."""

from dataclasses import asdict

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
    )


def add_starters(session: Session) -> None:
    """Fill a new workshop: the starter stocks, one printer and one cutter of the usual kind."""
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
    session.add(
        CutterRow(
            name="the mat cutter",
            feed=Feed.MAT,
            reach_width_mm=310,
            reach_height_mm=420,
            force_min_gf=20,
            force_max_gf=380,
            force_step_gf=4,
            acceleration_mm_s2=3000,
        )
    )
    session.add(
        CutterRow(
            name="the small roller cutter",
            feed=Feed.ROLLER,
            reach_width_mm=210,
            reach_height_mm=1000,
            force_min_gf=10,
            force_max_gf=210,
            force_step_gf=5,
            acceleration_mm_s2=3000,
        )
    )
