"""Prepared art, sizes over the border, loose parts, bleed by hand, saved edges, composed pieces"""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "edge_style",
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("edge", sa.JSON(), nullable=False),
        sa.Column("saved_at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("name", name=op.f("pk_edge_style")),
    )
    op.create_table(
        "composition",
        sa.Column("digest", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(["digest"], ["art.digest"], name=op.f("fk_composition_digest_art")),
        sa.PrimaryKeyConstraint("digest", name=op.f("pk_composition")),
    )
    with op.batch_alter_table("item") as item:
        item.add_column(sa.Column("longest_mm", sa.Double(), nullable=True))
        item.add_column(sa.Column("size_over", sa.String(), nullable=False, server_default="ink"))
        item.add_column(sa.Column("prepare", sa.JSON(), nullable=False, server_default="{}"))
        item.add_column(sa.Column("loose", sa.Boolean(), nullable=False, server_default=sa.false()))
        item.add_column(sa.Column("bleed_mm", sa.Double(), nullable=True))
