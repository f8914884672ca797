"""Tables. Lengths are mm, forces gf; what a job's maker decides is in columns, nothing computed but layouts is kept."""

from datetime import UTC, datetime
from typing import Any

from sqlalchemy import JSON, DateTime, ForeignKey, LargeBinary, MetaData, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


def now() -> datetime:
    return datetime.now(UTC)


class Base(DeclarativeBase):
    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(column_0_label)s",
            "uq": "uq_%(table_name)s_%(column_0_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )


class ArtRow(Base):
    """An art file, kept once however often it is used; `digest` is the SHA-256 of its content."""

    __tablename__ = "art"

    digest: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    media_type: Mapped[str]
    width_px: Mapped[int]
    height_px: Mapped[int]
    data: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)


class PreviewRow(Base):
    """A picture to show of an art as it came, by its longer side."""

    __tablename__ = "preview"

    digest: Mapped[str] = mapped_column(ForeignKey("art.digest", ondelete="CASCADE"), primary_key=True)
    longest_px: Mapped[int] = mapped_column(primary_key=True)
    png: Mapped[bytes] = mapped_column(LargeBinary)


class StockRow(Base):
    """A sheet material; the starters are put in when the file is made."""

    __tablename__ = "stock"

    key: Mapped[str] = mapped_column(primary_key=True)
    position: Mapped[int]
    name: Mapped[str]
    stock_class: Mapped[str]
    face_um: Mapped[float]
    backing_um: Mapped[float]
    hardness_gf_per_um: Mapped[float]
    least_neck_mm: Mapped[float]
    abrasion: Mapped[float]
    faces: Mapped[str]
    speed_mm_s: Mapped[float]
    tack: Mapped[str]
    soft_or_fibrous: Mapped[bool]
    mirrored: Mapped[bool]
    printable: Mapped[bool]
    colour: Mapped[str]


class PrinterRow(Base):
    __tablename__ = "printer"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(unique=True)
    kind: Mapped[str]
    margin_top_mm: Mapped[float]
    margin_right_mm: Mapped[float]
    margin_bottom_mm: Mapped[float]
    margin_left_mm: Mapped[float]


class CutterRow(Base):
    __tablename__ = "cutter"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(unique=True)
    feed: Mapped[str]
    reach_width_mm: Mapped[float]
    reach_height_mm: Mapped[float]
    force_min_gf: Mapped[float]
    force_max_gf: Mapped[float]
    force_step_gf: Mapped[float]
    acceleration_mm_s2: Mapped[float]
    head_mm: Mapped[float]
    tail_mm: Mapped[float]
    mat_width_mm: Mapped[float | None]
    mat_height_mm: Mapped[float | None]


class JobRow(Base):
    """A job as it stands; `step` is where in its history it stands."""

    __tablename__ = "job"

    id: Mapped[int] = mapped_column(primary_key=True)
    title: Mapped[str]
    paper_width_mm: Mapped[float]
    paper_height_mm: Mapped[float]
    spent: Mapped[dict[str, Any] | None] = mapped_column(JSON(none_as_null=True))
    printer_id: Mapped[int] = mapped_column(ForeignKey("printer.id"))
    cutter_id: Mapped[int] = mapped_column(ForeignKey("cutter.id"))
    stock_key: Mapped[str] = mapped_column(ForeignKey("stock.key"))
    purpose: Mapped[str]
    marks: Mapped[dict[str, Any]] = mapped_column(JSON)
    packing: Mapped[dict[str, Any]] = mapped_column(JSON)
    held: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    last_number: Mapped[int] = mapped_column(default=0)
    step: Mapped[int] = mapped_column(default=0)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    changed_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    handed_off_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True), default=None)
    removed_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True), default=None)
    items: Mapped[list["ItemRow"]] = relationship(
        order_by="ItemRow.position", cascade="all, delete-orphan", passive_deletes=True
    )


class ItemRow(Base):
    """One design of a job. `number` names it within its job and survives undo."""

    __tablename__ = "item"
    __table_args__ = (UniqueConstraint("job_id", "number"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"), index=True)
    number: Mapped[int]
    position: Mapped[int]
    name: Mapped[str]
    art_digest: Mapped[str] = mapped_column(ForeignKey("art.digest"))
    width_mm: Mapped[float | None]
    height_mm: Mapped[float | None]
    longest_mm: Mapped[float | None]
    size_over: Mapped[str]
    quantity: Mapped[int]
    cut: Mapped[str]
    edge: Mapped[dict[str, Any]] = mapped_column(JSON)
    prepare: Mapped[dict[str, Any]] = mapped_column(JSON)
    loose: Mapped[bool]
    bleed_mm: Mapped[float | None]
    turn: Mapped[str | None]
    wish: Mapped[int | None]
    sheet_colour: Mapped[str | None]
    back_of: Mapped[int | None]


class CompositionRow(Base):
    """How a composed piece was made, by the digest of its drawing, so that it can be changed later."""

    __tablename__ = "composition"

    digest: Mapped[str] = mapped_column(ForeignKey("art.digest"), primary_key=True)
    name: Mapped[str]
    document: Mapped[dict[str, Any]] = mapped_column(JSON)


class EdgeStyleRow(Base):
    """An edge that was saved under a name, to be given to other designs."""

    __tablename__ = "edge_style"

    name: Mapped[str] = mapped_column(primary_key=True)
    edge: Mapped[dict[str, Any]] = mapped_column(JSON)
    saved_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)


class StepRow(Base):
    """One step of a job's history: what was done, and the whole job as it was afterwards."""

    __tablename__ = "step"

    job_id: Mapped[int] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    label: Mapped[str]
    subject: Mapped[str]
    document: Mapped[dict[str, Any]] = mapped_column(JSON)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)


class LayoutRow(Base):
    """The best layout found for one state of a job; `key` digests everything it was packed from.

    `state` is that of its search; one that says it is searching though nobody is was cut short by the server's end.
    """

    __tablename__ = "layout"

    job_id: Mapped[int] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"), primary_key=True)
    key: Mapped[str] = mapped_column(primary_key=True)
    layout: Mapped[dict[str, Any]] = mapped_column(JSON)
    state: Mapped[str]
    found_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)


class NamedLayoutRow(Base):
    """A layout of a job that was kept under a name: its pieces as they were held, and the sheets' figures then."""

    __tablename__ = "named_layout"

    job_id: Mapped[int] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"), primary_key=True)
    name: Mapped[str] = mapped_column(primary_key=True)
    held: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    saved_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
