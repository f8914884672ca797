"""What the maker decided once for the whole workshop, and fonts of their own.

The machines of the job that was changed last are the usual ones.
"""

import json

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "preference",
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_preference")),
    )
    op.create_table(
        "own_font",
        sa.Column("family", sa.String(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("added_at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("family", name=op.f("pk_own_font")),
    )
    last = "SELECT printer_id, cutter_id FROM job ORDER BY changed_at DESC LIMIT 1"
    found = op.get_bind().execute(sa.text(last)).first()
    if found is not None:
        value = json.dumps({"printer_id": found[0], "cutter_id": found[1], "asked": True})
        op.get_bind().execute(sa.text("INSERT INTO preference (key, value) VALUES ('usual', :value)"), {"value": value})


def downgrade() -> None:
    op.drop_table("own_font")
    op.drop_table("preference")
