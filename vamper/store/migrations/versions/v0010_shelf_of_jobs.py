"""Jobs found by customer and design, put aside and kept as templates; offcuts; hand-offs that can be made once more."""

import json

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("job", sa.Column("customer", sa.String(), nullable=False, server_default=""))
    op.add_column("job", sa.Column("names", sa.JSON(), nullable=False, server_default="[]"))
    op.add_column("job", sa.Column("is_template", sa.Boolean(), nullable=False, server_default=sa.false()))
    op.add_column("job", sa.Column("archived_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column("hand_off", sa.Column("document", sa.JSON(), nullable=True))
    op.add_column("hand_off", sa.Column("version", sa.Integer(), nullable=True))
    op.add_column("hand_off", sa.Column("layout", sa.JSON(), nullable=True))
    op.create_table(
        "offcut",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("stock_key", sa.String(), sa.ForeignKey("stock.key", ondelete="CASCADE"), nullable=False),
        sa.Column("kept_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("used_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_offcut")),
    )
    op.create_index(op.f("ix_offcut_stock_key"), "offcut", ["stock_key"])
    connection = op.get_bind()
    for number, document in connection.execute(sa.text("select id, document from job")).all():
        names = [item.get("name", "") for item in json.loads(document).get("items", [])]
        connection.execute(
            sa.text("update job set names = :names where id = :id"), {"names": json.dumps(names), "id": number}
        )


def downgrade() -> None:
    op.drop_index(op.f("ix_offcut_stock_key"), table_name="offcut")
    op.drop_table("offcut")
    for table, columns in (
        ("hand_off", ("layout", "version", "document")),
        ("job", ("archived_at", "is_template", "names", "customer")),
    ):
        with op.batch_alter_table(table) as batch:
            for column in columns:
                batch.drop_column(column)
