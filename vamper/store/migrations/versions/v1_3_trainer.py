"""The trainer: plays of lessons, and spoilt sheets of free play."""

import sqlalchemy as sa
from alembic import op

revision = "1.3"
down_revision = "1.2"


def upgrade() -> None:
    op.create_table(
        "play",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("lesson", sa.String(), nullable=False),
        sa.Column("learner", sa.String(), nullable=False),
        sa.Column("seed", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("moves", sa.JSON(), nullable=False),
        sa.Column("sheets_used", sa.Integer(), nullable=False),
        sa.Column("seconds_used", sa.Integer(), nullable=False),
        sa.Column("passed", sa.Boolean(), nullable=True),
        sa.Column("started_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("ended_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_table(
        "puzzle",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("learner", sa.String(), nullable=False),
        sa.Column("level", sa.String(), nullable=False),
        sa.Column("seed", sa.Integer(), nullable=False),
        sa.Column("right", sa.Boolean(), nullable=False),
        sa.Column("checks", sa.Integer(), nullable=False),
        sa.Column("best_checks", sa.Integer(), nullable=False),
        sa.Column("ended_at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
