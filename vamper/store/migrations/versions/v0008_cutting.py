"""What was tried on stocks with a cutter; blades and mats; stocks can be put aside.

Stocks that a workshop was filled with learn how they are usually cut and what they are for; three cards come along.
"""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

_STOCKS: dict[str, dict[str, Any]] = {
    "matte-label": {"starts": "kiss", "tuft": 0.1, "use": "jars, parcels, planners; takes a pen"},
    "gloss-label": {"starts": "kiss", "tuft": 0.1, "use": "bright labels for indoors"},
    "satin-vinyl": {"starts": "kiss", "use": "laptops, bottles, boats; wears well outdoors once coated"},
    "gloss-vinyl": {"starts": "kiss", "use": "as satin, with more shine and more glare for a sensor"},
    "shimmer-vinyl": {"starts": "kiss", "use": "metallic shine; white parts of the art come out metallic"},
    "clear-vinyl": {"starts": "kiss", "use": "windows and glass; white parts of the art stay clear"},
    "plain-vinyl": {"starts": "kiss", "use": "one colour a sheet, lettering, outdoors for years"},
    "water-slide-clear": {"starts": "through", "use": "pale mugs, glass, models; the film hardly shows"},
    "water-slide-white": {"starts": "through", "use": "dark mugs and models; the white carries the colours"},
    "light-transfer": {"starts": "kiss", "soft_backing": True, "tuft": 0.2, "use": "white and pale cotton"},
    "dark-transfer": {"starts": "through", "soft_backing": True, "tuft": 0.3, "use": "dark and coloured cloth"},
    "print-flex": {"starts": "kiss", "soft_backing": True, "use": "printed motifs on shirts that are washed often"},
    "colour-flex": {"starts": "kiss", "soft_backing": True, "use": "one colour on cloth, names and numbers"},
    "shrink-film": {
        "starts": "through",
        "use": "charms and key rings; shrinks to under half its size",
        "hardness_gf_per_um": 3.3,
    },
    "dye-paper": {"starts": "through", "use": "coated mugs, coasters and other blanks, by heat"},
    "light-card": {"starts": "through", "tuft": 0.2, "use": "tags and paper shapes", "grams_m2": 160.0, "tack": "low"},
    "card": {"starts": "through", "tuft": 0.2, "use": "greeting cards, tags", "grams_m2": 200.0, "tack": "low"},
    "heavy-card": {"starts": "through", "tuft": 0.3, "use": "boxes, standing figures", "grams_m2": 250.0},
    "kraft-card": {"starts": "through", "tuft": 0.5, "use": "brown tags; colours come out dull", "tack": "medium"},
    "magnet": {"starts": "through", "use": "fridges and steel doors; cut through"},
    "laminate": {"starts": "kiss", "use": "over a print that is to be handled or washed"},
}
_NEW: tuple[dict[str, Any], ...] = (
    {
        "key": "textured-card",
        "name": "textured card",
        "stock_class": "card",
        "face_um": 300.0,
        "backing_um": 0.0,
        "hardness_gf_per_um": 1.05,
        "least_neck_mm": 2.5,
        "abrasion": 1.5,
        "faces": "white or dark, matte",
        "speed_mm_s": 40.0,
        "tack": "medium",
        "soft_or_fibrous": True,
        "mirrored": False,
        "printable": True,
        "colour": "#FFFFFF",
        "gloss": 0.0,
        "takes": ["inkjet", "laser"],
        "inks": ["ordinary"],
        "starts": "through",
        "soft_backing": False,
        "tuft": 0.5,
        "use": "cards with a felt or linen face; its hollows want a clean blade",
        "grams_m2": 220.0,
    },
    {
        "key": "shimmer-card",
        "name": "shimmer card",
        "stock_class": "card",
        "face_um": 310.0,
        "backing_um": 0.0,
        "hardness_gf_per_um": 1.1,
        "least_neck_mm": 2.0,
        "abrasion": 1.7,
        "faces": "metallic, satin",
        "speed_mm_s": 40.0,
        "tack": "medium",
        "soft_or_fibrous": True,
        "mirrored": False,
        "printable": True,
        "colour": "#D9D4C6",
        "gloss": 0.6,
        "takes": ["inkjet", "laser"],
        "inks": ["ordinary"],
        "starts": "through",
        "soft_backing": False,
        "tuft": 0.4,
        "use": "festive cards and tags; coated, so it blunts blades",
        "grams_m2": 250.0,
    },
    {
        "key": "glitter-card",
        "name": "glitter card",
        "stock_class": "card",
        "face_um": 380.0,
        "backing_um": 0.0,
        "hardness_gf_per_um": 1.25,
        "least_neck_mm": 3.0,
        "abrasion": 2.6,
        "faces": "metallic, gloss",
        "speed_mm_s": 30.0,
        "tack": "medium",
        "soft_or_fibrous": True,
        "mirrored": False,
        "printable": False,
        "colour": "#C9BFA6",
        "gloss": 1.0,
        "takes": ["inkjet", "laser"],
        "inks": ["ordinary"],
        "starts": "through",
        "soft_backing": False,
        "tuft": 0.8,
        "use": "toppers and letters; large shapes, a blade kept for it",
        "grams_m2": 300.0,
    },
)


def _thing(name: str) -> None:
    op.create_table(
        name,
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("cutter_id", sa.Integer(), sa.ForeignKey("cutter.id", ondelete="SET NULL"), nullable=True),
        sa.Column("confirmed_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f(f"pk_{name}")),
        sa.UniqueConstraint("name", name=op.f(f"uq_{name}_name")),
    )


def upgrade() -> None:
    _thing("blade")
    _thing("mat")
    op.create_table(
        "cut_record",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("cutter_id", sa.Integer(), sa.ForeignKey("cutter.id", ondelete="CASCADE"), nullable=False),
        sa.Column("stock_key", sa.String(), sa.ForeignKey("stock.key", ondelete="CASCADE"), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cut_record")),
    )
    op.add_column("stock", sa.Column("hidden", sa.Boolean(), nullable=False, server_default=sa.false()))
    connection = op.get_bind()
    stocks = connection.execute(sa.text("SELECT key, value FROM stock")).all()
    for key, value in stocks:
        known = json.loads(value) if isinstance(value, str) else value
        if key in _STOCKS:
            connection.execute(
                sa.text("UPDATE stock SET value = :value WHERE key = :key"),
                {"value": json.dumps(known | _STOCKS[key]), "key": key},
            )
    # A workshop that is filled later gets them with all the others.
    if len(stocks) > 1:
        for place, stock in enumerate(_NEW):
            connection.execute(
                sa.text(
                    "INSERT OR IGNORE INTO stock (key, position, name, revision, value, hidden) "
                    "VALUES (:key, :position, :name, 1, :value, 0)"
                ),
                {
                    "key": stock["key"],
                    "position": len(stocks) + place,
                    "name": stock["name"],
                    "value": json.dumps(stock),
                },
            )


def downgrade() -> None:
    op.drop_column("stock", "hidden")
    for table in ("cut_record", "mat", "blade"):
        op.drop_table(table)
