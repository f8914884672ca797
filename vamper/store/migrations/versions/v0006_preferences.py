"""What the maker decided once for the whole workshop; machines of jobs that are there are the usual ones."""

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
    last = "SELECT printer_id, cutter_id FROM job ORDER BY changed_at DESC LIMIT 1"
    found = op.get_bind().execute(sa.text(last)).first()
    if found is not None:
        value = json.dumps({"printer_id": found[0], "cutter_id": found[1], "asked": True})
        op.get_bind().execute(sa.text("INSERT INTO preference (key, value) VALUES ('usual', :value)"), {"value": value})


def downgrade() -> None:
    op.drop_table("preference")
