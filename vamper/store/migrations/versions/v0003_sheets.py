"""Pieces held by hand, part-used sheets, turn rules, wishes and backs; cutters' strips and mats; named layouts"""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "named_layout",
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("held", sa.JSON(), nullable=False),
        sa.Column("saved_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_named_layout_job_id_job"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("job_id", "name", name=op.f("pk_named_layout")),
    )
    with op.batch_alter_table("job") as job:
        job.add_column(sa.Column("spent", sa.JSON(), nullable=True))
        job.add_column(sa.Column("held", sa.JSON(), nullable=False, server_default="[]"))
    with op.batch_alter_table("item") as item:
        item.add_column(sa.Column("turn", sa.String(), nullable=True))
        item.add_column(sa.Column("wish", sa.Integer(), nullable=True))
        item.add_column(sa.Column("sheet_colour", sa.String(), nullable=True))
        item.add_column(sa.Column("back_of", sa.Integer(), nullable=True))
    with op.batch_alter_table("cutter") as cutter:
        cutter.add_column(sa.Column("head_mm", sa.Double(), nullable=False, server_default="0"))
        cutter.add_column(sa.Column("tail_mm", sa.Double(), nullable=False, server_default="0"))
        cutter.add_column(sa.Column("mat_width_mm", sa.Double(), nullable=True))
        cutter.add_column(sa.Column("mat_height_mm", sa.Double(), nullable=True))
    # A layout is found again in seconds; what was only a cache is not carried over.
    op.execute("DELETE FROM layout")
    with op.batch_alter_table("layout") as layout:
        layout.drop_column("finished")
        layout.add_column(sa.Column("state", sa.String(), nullable=False))
