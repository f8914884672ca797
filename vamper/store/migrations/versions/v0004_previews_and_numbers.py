"""Pictures to show of an art, made when it comes in; numbers of designs are never given twice; the file says whose it
is.
"""

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
    with op.batch_alter_table("job") as job:
        job.add_column(sa.Column("last_number", sa.Integer(), nullable=False, server_default="0"))
    op.execute("UPDATE job SET last_number = coalesce((SELECT max(number) FROM item WHERE item.job_id = job.id), 0)")
    # "VAMP": tells a workshop's file from any other of the same format.
    op.execute(sa.text(f"PRAGMA application_id = {0x56414D50}"))


def downgrade() -> None:
    op.drop_table("preview")
    with op.batch_alter_table("job") as job:
        job.drop_column("last_number")
    op.execute(sa.text("PRAGMA application_id = 0"))
