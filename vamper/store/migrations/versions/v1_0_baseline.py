"""The shape of a workshop's file at version 1.0; every later shape is a step of its own after it."""

import sqlalchemy as sa
from alembic import op

revision = "1.0"
down_revision = None


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
        "computed",
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_computed")),
    )
    op.create_index(op.f("ix_computed_made_at"), "computed", ["made_at"], unique=False)
    op.create_table(
        "cutter",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cutter")),
        sa.UniqueConstraint("name", name=op.f("uq_cutter_name")),
    )
    op.create_table(
        "edge_style",
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("edge", sa.JSON(), nullable=False),
        sa.Column("saved_at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("name", name=op.f("pk_edge_style")),
    )
    op.create_table(
        "own_font",
        sa.Column("family", sa.String(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("added_at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("family", name=op.f("pk_own_font")),
    )
    op.create_table(
        "preference",
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_preference")),
    )
    op.create_table(
        "printer",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_printer")),
        sa.UniqueConstraint("name", name=op.f("uq_printer_name")),
    )
    op.create_table(
        "stock",
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.Column("hidden", sa.Boolean(), server_default=sa.text("0"), nullable=False),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_stock")),
    )
    op.create_table(
        "supply",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_supply")),
    )
    op.create_table(
        "blade",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("cutter_id", sa.Integer(), nullable=True),
        sa.Column("confirmed_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["cutter_id"], ["cutter.id"], name=op.f("fk_blade_cutter_id_cutter"), ondelete="SET NULL"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_blade")),
        sa.UniqueConstraint("name", name=op.f("uq_blade_name")),
    )
    op.create_table(
        "calibration",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("printer_id", sa.Integer(), nullable=False),
        sa.Column("cutter_id", sa.Integer(), nullable=False),
        sa.Column("thickness", sa.String(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["cutter_id"], ["cutter.id"], name=op.f("fk_calibration_cutter_id_cutter"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["printer_id"], ["printer.id"], name=op.f("fk_calibration_printer_id_printer"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_calibration")),
    )
    op.create_table(
        "composition",
        sa.Column("digest", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(["digest"], ["art.digest"], name=op.f("fk_composition_digest_art")),
        sa.PrimaryKeyConstraint("digest", name=op.f("pk_composition")),
    )
    op.create_table(
        "cut_record",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("cutter_id", sa.Integer(), nullable=False),
        sa.Column("stock_key", sa.String(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["cutter_id"], ["cutter.id"], name=op.f("fk_cut_record_cutter_id_cutter"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["stock_key"], ["stock.key"], name=op.f("fk_cut_record_stock_key_stock"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cut_record")),
    )
    op.create_table(
        "job",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.Column("title", sa.String(), nullable=False),
        sa.Column("pieces", sa.Integer(), nullable=False),
        sa.Column("designs", sa.Integer(), nullable=False),
        sa.Column("arts", sa.JSON(), nullable=False),
        sa.Column("stock_key", sa.String(), nullable=False),
        sa.Column("printer_id", sa.Integer(), nullable=False),
        sa.Column("cutter_id", sa.Integer(), nullable=False),
        sa.Column("step", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("changed_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("handed_off_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("removed_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("customer", sa.String(), nullable=False),
        sa.Column("names", sa.JSON(), nullable=False),
        sa.Column("is_template", sa.Boolean(), nullable=False),
        sa.Column("archived_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(["cutter_id"], ["cutter.id"], name=op.f("fk_job_cutter_id_cutter")),
        sa.ForeignKeyConstraint(["printer_id"], ["printer.id"], name=op.f("fk_job_printer_id_printer")),
        sa.ForeignKeyConstraint(["stock_key"], ["stock.key"], name=op.f("fk_job_stock_key_stock")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_job")),
    )
    op.create_table(
        "logged_miss",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("printer_id", sa.Integer(), nullable=False),
        sa.Column("cutter_id", sa.Integer(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["cutter_id"], ["cutter.id"], name=op.f("fk_logged_miss_cutter_id_cutter"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["printer_id"], ["printer.id"], name=op.f("fk_logged_miss_printer_id_printer"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_logged_miss")),
    )
    op.create_table(
        "machine_event",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("cutter_id", sa.Integer(), nullable=False),
        sa.Column("happened_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("what", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(
            ["cutter_id"], ["cutter.id"], name=op.f("fk_machine_event_cutter_id_cutter"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_machine_event")),
    )
    op.create_table(
        "mat",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("cutter_id", sa.Integer(), nullable=True),
        sa.Column("confirmed_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["cutter_id"], ["cutter.id"], name=op.f("fk_mat_cutter_id_cutter"), ondelete="SET NULL"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_mat")),
        sa.UniqueConstraint("name", name=op.f("uq_mat_name")),
    )
    op.create_table(
        "offcut",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("stock_key", sa.String(), nullable=False),
        sa.Column("kept_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("used_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["stock_key"], ["stock.key"], name=op.f("fk_offcut_stock_key_stock"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_offcut")),
    )
    op.create_index(op.f("ix_offcut_stock_key"), "offcut", ["stock_key"], unique=False)
    op.create_table(
        "preview",
        sa.Column("digest", sa.String(), nullable=False),
        sa.Column("longest_px", sa.Integer(), nullable=False),
        sa.Column("png", sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(["digest"], ["art.digest"], name=op.f("fk_preview_digest_art"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("digest", "longest_px", name=op.f("pk_preview")),
    )
    op.create_table(
        "print_choice",
        sa.Column("printer_id", sa.Integer(), nullable=False),
        sa.Column("stock_key", sa.String(), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["printer_id"], ["printer.id"], name=op.f("fk_print_choice_printer_id_printer"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["stock_key"], ["stock.key"], name=op.f("fk_print_choice_stock_key_stock"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("printer_id", "stock_key", name=op.f("pk_print_choice")),
    )
    op.create_table(
        "hand_off",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("job", sa.JSON(), nullable=False),
        sa.Column("plan", sa.LargeBinary(), nullable=False),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.Column("layout", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_hand_off_job_id_job"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_hand_off")),
    )
    op.create_index(op.f("ix_hand_off_job_id"), "hand_off", ["job_id"], unique=False)
    op.create_table(
        "layout",
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("layout", sa.JSON(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("found_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_layout_job_id_job"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("job_id", "key", name=op.f("pk_layout")),
    )
    op.create_table(
        "named_layout",
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("sheets", sa.JSON(), nullable=False),
        sa.Column("saved_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_named_layout_job_id_job"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("job_id", "name", name=op.f("pk_named_layout")),
    )
    op.create_table(
        "step",
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("label", sa.String(), nullable=False),
        sa.Column("subject", sa.String(), nullable=False),
        sa.Column("back", sa.JSON(), nullable=False),
        sa.Column("forth", sa.JSON(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_step_job_id_job"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("job_id", "number", name=op.f("pk_step")),
    )
    op.create_table(
        "run",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=True),
        sa.Column("hand_off_id", sa.Integer(), nullable=True),
        sa.Column("sheet", sa.Integer(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.Column("trace", sa.JSON(), nullable=True),
        sa.ForeignKeyConstraint(
            ["hand_off_id"], ["hand_off.id"], name=op.f("fk_run_hand_off_id_hand_off"), ondelete="SET NULL"
        ),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_run_job_id_job"), ondelete="SET NULL"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_run")),
    )
    op.create_index(op.f("ix_run_job_id"), "run", ["job_id"], unique=False)
