"""Pictures to show of an art, made when it comes in; the file says whose it is."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "preview",
        sa.Column("digest", sa.String(), nullable=False),
        sa.Column("longest_px", sa.Integer(), nullable=False),
        sa.Column("png", sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(["digest"], ["art.digest"], name=op.f("fk_preview_digest_art"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("digest", "longest_px", name=op.f("pk_preview")),
    )
    # "VAMP": tells a workshop's file from any other of the same format.
    op.execute(sa.text(f"PRAGMA application_id = {0x56414D50}"))


def downgrade() -> None:
    op.drop_table("preview")
    op.execute(sa.text("PRAGMA application_id = 0"))
