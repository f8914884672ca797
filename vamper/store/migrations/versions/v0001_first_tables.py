"""The first tables"""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "art",
        sa.Column("digest", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("media_type", sa.String(), nullable=False),
        sa.Column("width_px", sa.Integer(), nullable=False),
        sa.Column("height_px", sa.Integer(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("digest", name=op.f("pk_art")),
    )
    op.create_table(
        "cutter",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("feed", sa.String(), nullable=False),
        sa.Column("reach_width_mm", sa.Double(), nullable=False),
        sa.Column("reach_height_mm", sa.Double(), nullable=False),
        sa.Column("force_min_gf", sa.Double(), nullable=False),
        sa.Column("force_max_gf", sa.Double(), nullable=False),
        sa.Column("force_step_gf", sa.Double(), nullable=False),
        sa.Column("acceleration_mm_s2", sa.Double(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cutter")),
        sa.UniqueConstraint("name", name=op.f("uq_cutter_name")),
    )
    op.create_table(
        "printer",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("margin_top_mm", sa.Double(), nullable=False),
        sa.Column("margin_right_mm", sa.Double(), nullable=False),
        sa.Column("margin_bottom_mm", sa.Double(), nullable=False),
        sa.Column("margin_left_mm", sa.Double(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_printer")),
        sa.UniqueConstraint("name", name=op.f("uq_printer_name")),
    )
    op.create_table(
        "stock",
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("stock_class", sa.String(), nullable=False),
        sa.Column("face_um", sa.Double(), nullable=False),
        sa.Column("backing_um", sa.Double(), nullable=False),
        sa.Column("hardness_gf_per_um", sa.Double(), nullable=False),
        sa.Column("least_neck_mm", sa.Double(), nullable=False),
        sa.Column("abrasion", sa.Double(), nullable=False),
        sa.Column("faces", sa.String(), nullable=False),
        sa.Column("speed_mm_s", sa.Double(), nullable=False),
        sa.Column("tack", sa.String(), nullable=False),
        sa.Column("soft_or_fibrous", sa.Boolean(), nullable=False),
        sa.Column("mirrored", sa.Boolean(), nullable=False),
        sa.Column("printable", sa.Boolean(), nullable=False),
        sa.Column("colour", sa.String(), nullable=False),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_stock")),
    )
    op.create_table(
        "job",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("title", sa.String(), nullable=False),
        sa.Column("paper_width_mm", sa.Double(), nullable=False),
        sa.Column("paper_height_mm", sa.Double(), nullable=False),
        sa.Column("printer_id", sa.Integer(), nullable=False),
        sa.Column("cutter_id", sa.Integer(), nullable=False),
        sa.Column("stock_key", sa.String(), nullable=False),
        sa.Column("purpose", sa.String(), nullable=False),
        sa.Column("marks", sa.JSON(), nullable=False),
        sa.Column("packing", sa.JSON(), nullable=False),
        sa.Column("step", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("changed_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("handed_off_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("removed_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(["cutter_id"], ["cutter.id"], name=op.f("fk_job_cutter_id_cutter")),
        sa.ForeignKeyConstraint(["printer_id"], ["printer.id"], name=op.f("fk_job_printer_id_printer")),
        sa.ForeignKeyConstraint(["stock_key"], ["stock.key"], name=op.f("fk_job_stock_key_stock")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_job")),
    )
    op.create_table(
        "item",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("art_digest", sa.String(), nullable=False),
        sa.Column("width_mm", sa.Double(), nullable=True),
        sa.Column("height_mm", sa.Double(), nullable=True),
        sa.Column("quantity", sa.Integer(), nullable=False),
        sa.Column("cut", sa.String(), nullable=False),
        sa.Column("edge", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(["art_digest"], ["art.digest"], name=op.f("fk_item_art_digest_art")),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_item_job_id_job"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_item")),
        sa.UniqueConstraint("job_id", "number", name=op.f("uq_item_job_id")),
    )
    with op.batch_alter_table("item", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_item_job_id"), ["job_id"], unique=False)

    op.create_table(
        "layout",
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("layout", sa.JSON(), nullable=False),
        sa.Column("finished", sa.Boolean(), nullable=False),
        sa.Column("found_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_layout_job_id_job"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("job_id", "key", name=op.f("pk_layout")),
    )
    op.create_table(
        "step",
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("label", sa.String(), nullable=False),
        sa.Column("subject", sa.String(), nullable=False),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_step_job_id_job"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("job_id", "number", name=op.f("pk_step")),
    )


def downgrade() -> None:
    op.drop_table("step")
    op.drop_table("layout")
    with op.batch_alter_table("item", schema=None) as batch_op:
        batch_op.drop_index(batch_op.f("ix_item_job_id"))

    op.drop_table("item")
    op.drop_table("job")
    op.drop_table("stock")
    op.drop_table("printer")
    op.drop_table("cutter")
    op.drop_table("art")
