"""Art: files by their content, pictures to show of them, and how composed ones were made."""

from datetime import datetime
from typing import Any

from sqlalchemy import JSON, DateTime, ForeignKey, LargeBinary
from sqlalchemy.orm import Mapped, mapped_column

from vamper.store.tables.base import TableBase, now


class ArtRow(TableBase):
    """An art file, kept once however often it is used; `digest` is the SHA-256 of its content."""

    __tablename__ = "art"

    digest: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    media_type: Mapped[str]
    width_px: Mapped[int]
    height_px: Mapped[int]
    data: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)


class PreviewRow(TableBase):
    """A picture to show of an art as it came, by its longer side."""

    __tablename__ = "preview"

    digest: Mapped[str] = mapped_column(ForeignKey("art.digest", ondelete="CASCADE"), primary_key=True)
    longest_px: Mapped[int] = mapped_column(primary_key=True)
    png: Mapped[bytes] = mapped_column(LargeBinary)


class ComputedRow(TableBase):
    """Something worked out from art once; `key` digests everything that it follows from. Nothing is lost with it."""

    __tablename__ = "computed"

    key: Mapped[str] = mapped_column(primary_key=True)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now, index=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)


class CompositionRow(TableBase):
    """How a composed piece was made, by the digest of its drawing, so that it can be changed later."""

    __tablename__ = "composition"

    digest: Mapped[str] = mapped_column(ForeignKey("art.digest"), primary_key=True)
    name: Mapped[str]
    document: Mapped[dict[str, Any]] = mapped_column(JSON)


class OwnFontRow(TableBase):
    """A font that the maker added, by its family."""

    __tablename__ = "own_font"

    family: Mapped[str] = mapped_column(primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    added_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
