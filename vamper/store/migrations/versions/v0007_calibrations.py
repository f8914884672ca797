"""What was measured on the machines: calibrations, misses, what was changed on them; and what prints best on a stock.

Stocks that a workshop was filled with learn how they shine and which printers and inks they are made for.
"""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

_INKJET = {"takes": ["inkjet"]}
_BOTH = {"takes": ["inkjet", "laser"]}
_STOCKS: dict[str, dict[str, Any]] = {
    "matte-label": {"gloss": 0.0, **_BOTH},
    "gloss-label": {"gloss": 0.7, **_BOTH},
    "satin-vinyl": {"gloss": 0.3, **_INKJET},
    "gloss-vinyl": {"gloss": 0.8, **_INKJET},
    "shimmer-vinyl": {"gloss": 1.0, **_INKJET},
    "clear-vinyl": {"gloss": 0.8, **_INKJET},
    "plain-vinyl": {"gloss": 0.4},
    "water-slide-clear": {"gloss": 0.6, **_INKJET},
    "water-slide-white": {"gloss": 0.6, **_INKJET},
    "light-transfer": {"gloss": 0.1, **_INKJET},
    "dark-transfer": {"gloss": 0.1, **_INKJET},
    "print-flex": {"gloss": 0.1, **_INKJET},
    "colour-flex": {"gloss": 0.2},
    "shrink-film": {"gloss": 0.2, **_INKJET},
    "dye-paper": {"gloss": 0.0, "inks": ["dye"], **_INKJET},
    "light-card": {"gloss": 0.0},
    "card": {"gloss": 0.0},
    "heavy-card": {"gloss": 0.0},
    "kraft-card": {"gloss": 0.0},
    "magnet": {"gloss": 0.3, **_INKJET},
    "laminate": {"gloss": 0.8},
}


def _of_machine(name: str) -> sa.Column[int]:
    table = name.removesuffix("_id")
    return sa.Column(name, sa.Integer(), sa.ForeignKey(f"{table}.id", ondelete="CASCADE"), nullable=False)


def upgrade() -> None:
    op.create_table(
        "calibration",
        sa.Column("id", sa.Integer(), nullable=False),
        _of_machine("printer_id"),
        _of_machine("cutter_id"),
        sa.Column("thickness", sa.String(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_calibration")),
    )
    op.create_table(
        "logged_miss",
        sa.Column("id", sa.Integer(), nullable=False),
        _of_machine("printer_id"),
        _of_machine("cutter_id"),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_logged_miss")),
    )
    op.create_table(
        "machine_event",
        sa.Column("id", sa.Integer(), nullable=False),
        _of_machine("cutter_id"),
        sa.Column("happened_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("what", sa.String(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_machine_event")),
    )
    op.create_table(
        "print_choice",
        _of_machine("printer_id"),
        sa.Column("stock_key", sa.String(), sa.ForeignKey("stock.key", ondelete="CASCADE"), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("printer_id", "stock_key", name=op.f("pk_print_choice")),
    )
    connection = op.get_bind()
    for key, value in connection.execute(sa.text("SELECT key, value FROM stock")).all():
        known = json.loads(value) if isinstance(value, str) else value
        more = {name: one for name, one in _STOCKS.get(key, {}).items() if name not in known}
        if more:
            connection.execute(
                sa.text("UPDATE stock SET value = :value WHERE key = :key"),
                {"value": json.dumps(known | more), "key": key},
            )


def downgrade() -> None:
    for table in ("print_choice", "machine_event", "logged_miss", "calibration"):
        op.drop_table(table)
