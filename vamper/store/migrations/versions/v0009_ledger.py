"""The ledger: runs that were logged, and what is used up."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "run",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), sa.ForeignKey("job.id", ondelete="SET NULL"), nullable=True),
        sa.Column("hand_off_id", sa.Integer(), sa.ForeignKey("hand_off.id", ondelete="SET NULL"), nullable=True),
        sa.Column("sheet", sa.Integer(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_run")),
    )
    op.create_index(op.f("ix_run_job_id"), "run", ["job_id"])
    op.create_table(
        "supply",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_supply")),
    )


def downgrade() -> None:
    op.drop_table("supply")
    op.drop_index(op.f("ix_run_job_id"), table_name="run")
    op.drop_table("run")
