"""The printers and cutters of a workshop: profiles that jobs are planned with, to be changed and added to."""

from typing import Annotated, TypeVar

from pydantic import Field
from sqlalchemy import select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from vamper.core.findings import BadInput
from vamper.formats.fields import Strict
from vamper.formats.jobfile import CutterModel, ForceModel, MarginsModel, MatModel, PrinterModel, ReachModel
from vamper.formats.safe_text import ONE_LINE
from vamper.services.jobs import NotFound
from vamper.services.shop import Shop
from vamper.store.database import Sessions
from vamper.store.models import CutterRow, JobRow, PrinterRow
from vamper.store.rows import columns_of

Profile = TypeVar("Profile", PrinterRow, CutterRow)
Name = Annotated[str, Field(min_length=1, max_length=80), ONE_LINE]


class PrinterProfile(Strict):
    """A printer: what it is called, and the margins it leaves blank."""

    name: Name
    printer: PrinterModel


class CutterProfile(Strict):
    """A cutter: what it is called, how it moves the stock, what it reaches, and its force."""

    name: Name
    cutter: CutterModel


class Machines:
    """All printers and cutters of one workshop."""

    def __init__(self, sessions: Sessions, shop: Shop) -> None:
        self._sessions = sessions
        self._shop = shop

    def printers(self) -> dict[int, PrinterProfile]:
        with self._sessions() as session:
            return {row.id: _printer(row) for row in session.scalars(select(PrinterRow).order_by(PrinterRow.id))}

    def cutters(self) -> dict[int, CutterProfile]:
        with self._sessions() as session:
            return {row.id: _cutter(row) for row in session.scalars(select(CutterRow).order_by(CutterRow.id))}

    def keep_printer(self, profile: PrinterProfile, number: int | None = None) -> int:
        """Change a printer, or add one; jobs on it follow. Returns its number."""
        margins = profile.printer.margins_mm
        values = {
            "name": profile.name,
            "kind": profile.printer.kind.value,
            **{f"margin_{side}_mm": getattr(margins, side) for side in ("top", "right", "bottom", "left")},
        }
        return self._keep(PrinterRow, values, number, "printer")

    def keep_cutter(self, profile: CutterProfile, number: int | None = None) -> int:
        """Change a cutter, or add one; jobs on it follow. Returns its number."""
        return self._keep(CutterRow, {"name": profile.name, **columns_of(profile.cutter.to_core())}, number, "cutter")

    def remove_printer(self, number: int) -> None:
        self._remove(PrinterRow, number, JobRow.printer_id, "printer")

    def remove_cutter(self, number: int) -> None:
        self._remove(CutterRow, number, JobRow.cutter_id, "cutter")

    def _keep(self, table: type[Profile], values: dict[str, object], number: int | None, what: str) -> int:
        try:
            with self._sessions.begin() as session:
                row = table() if number is None else _found(session, table, number, what)
                for name, value in values.items():
                    setattr(row, name, value)
                session.add(row)
                session.flush()
                kept = row.id
        except IntegrityError:
            raise BadInput(f"there is a {what} of that name already; give it another one", "name") from None
        self._shop.forget()
        return kept

    def _remove(self, table: type[Profile], number: int, used: object, what: str) -> None:
        with self._sessions.begin() as session:
            row = _found(session, table, number, what)
            jobs = session.scalars(select(JobRow.title).where(used == number).limit(1)).first()  # type: ignore[arg-type]
            if jobs is not None:
                raise BadInput(f"the job “{jobs[:60]}” is planned on this {what}; choose another one there first", what)
            if session.scalars(select(table.id).where(table.id != number).limit(1)).first() is None:
                raise BadInput(f"this is the only {what}; add another one first", what)
            session.delete(row)
        self._shop.forget()


def _found(session: Session, table: type[Profile], number: int, what: str) -> Profile:
    row = session.get(table, number)
    if row is None:
        raise NotFound(f"there is no such {what}; it may have been removed")
    return row


def _printer(row: PrinterRow) -> PrinterProfile:
    margins = MarginsModel(
        top=row.margin_top_mm, right=row.margin_right_mm, bottom=row.margin_bottom_mm, left=row.margin_left_mm
    )
    return PrinterProfile(name=row.name, printer=PrinterModel.model_validate({"kind": row.kind, "margins_mm": margins}))


def _cutter(row: CutterRow) -> CutterProfile:
    mat = None
    if row.mat_width_mm and row.mat_height_mm:
        mat = MatModel(width=row.mat_width_mm, height=row.mat_height_mm)
    return CutterProfile(
        name=row.name,
        cutter=CutterModel.model_validate(
            {
                "feed": row.feed,
                "reach_mm": ReachModel(width=row.reach_width_mm, height=row.reach_height_mm),
                "force_gf": ForceModel(min=row.force_min_gf, max=row.force_max_gf, step=row.force_step_gf),
                "head_mm": row.head_mm,
                "tail_mm": row.tail_mm,
                "acceleration_mm_s2": row.acceleration_mm_s2,
                "mat_mm": mat,
            }
        ),
    )
