"""A job is one document with a version, its history differences; what belongs to the shop is kept whole, too"""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

from vamper.store.differences import difference

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

_ITEM = (
    "number", "name", "width_mm", "height_mm", "longest_mm", "size_over", "quantity", "cut", "edge", "prepare",
    "loose", "bleed_mm", "turn", "wish", "sheet_colour", "back_of",
)  # fmt: skip
_JSON = ("edge", "prepare", "spent", "marks", "packing", "held", "document")
_KEPT = (
    "id", "title", "stock_key", "printer_id", "cutter_id", "step", "created_at", "changed_at", "handed_off_at",
    "removed_at",
)  # fmt: skip
_TRUTHS = ("loose", "soft_or_fibrous", "mirrored", "printable")
_STOCK = (
    "key", "name", "stock_class", "face_um", "backing_um", "hardness_gf_per_um", "least_neck_mm", "abrasion", "faces",
    "speed_mm_s", "tack", "soft_or_fibrous", "mirrored", "printable", "colour",
)  # fmt: skip


def _rows(sql: str, **given: Any) -> list[dict[str, Any]]:
    found = []
    for row in op.get_bind().execute(sa.text(sql), given).mappings():
        data = dict(row)
        for name in data:
            if name in _JSON and isinstance(data[name], str):
                data[name] = json.loads(data[name])
            elif name in _TRUTHS:
                data[name] = bool(data[name])
        found.append(data)
    return found


def _run(sql: str, **given: Any) -> None:
    packed = {name: json.dumps(value) if isinstance(value, dict | list) else value for name, value in given.items()}
    op.get_bind().execute(sa.text(sql), packed)


def _printer(row: dict[str, Any]) -> dict[str, Any]:
    return {"kind": row["kind"], "margins_mm": {s: row[f"margin_{s}_mm"] for s in ("top", "right", "bottom", "left")}}


def _cutter(row: dict[str, Any]) -> dict[str, Any]:
    mat = None
    if row["mat_width_mm"] and row["mat_height_mm"]:
        mat = {"width": row["mat_width_mm"], "height": row["mat_height_mm"]}
    return {
        "feed": row["feed"],
        "reach_mm": {"width": row["reach_width_mm"], "height": row["reach_height_mm"]},
        "force_gf": {"min": row["force_min_gf"], "max": row["force_max_gf"], "step": row["force_step_gf"]},
        "head_mm": row["head_mm"],
        "tail_mm": row["tail_mm"],
        "mat_mm": mat,
        "acceleration_mm_s2": row["acceleration_mm_s2"],
    }


def _document(job: dict[str, Any]) -> dict[str, Any]:
    """The first version of a job's document, as the steps of its history had it."""
    items = _rows("SELECT * FROM item WHERE job_id = :job ORDER BY position", job=job["id"])
    return {
        "title": job["title"],
        "paper": {"width_mm": job["paper_width_mm"], "height_mm": job["paper_height_mm"], "spent": job["spent"]},
        "printer_id": job["printer_id"],
        "cutter_id": job["cutter_id"],
        "stock": job["stock_key"],
        "purpose": job["purpose"],
        "marks": job["marks"],
        "packing": job["packing"],
        "items": [{"art": item["art_digest"], **{name: item[name] for name in _ITEM}} for item in items],
        "held": job["held"],
        "last_number": job["last_number"],
    }


def _sheets(held: list[dict[str, Any]]) -> list[list[dict[str, Any]]]:
    sheets: list[list[dict[str, Any]]] = [[] for _ in range(max((one["sheet"] for one in held), default=-1) + 1)]
    for one in held:
        rest = {name: one[name] for name in ("x_mm", "y_mm", "turn_deg", "pin")}
        sheets[one["sheet"]].append({"item": one["number"], **rest})
    return sheets


def _shop_table(what: str, key: sa.Column[Any], *extra: sa.Column[Any], named_once: bool = True) -> None:
    unique = [sa.UniqueConstraint("name", name=op.f(f"uq_{what}_name"))] if named_once else []
    op.create_table(
        what,
        key,
        *extra,
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("value", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint(key.name, name=op.f(f"pk_{what}")),
        *unique,
    )


def _job_table() -> None:
    op.create_table(
        "job",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("document", sa.JSON(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
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
        sa.ForeignKeyConstraint(["cutter_id"], ["cutter.id"], name=op.f("fk_job_cutter_id_cutter")),
        sa.ForeignKeyConstraint(["printer_id"], ["printer.id"], name=op.f("fk_job_printer_id_printer")),
        sa.ForeignKeyConstraint(["stock_key"], ["stock.key"], name=op.f("fk_job_stock_key_stock")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_job")),
    )


def _table_of_jobs(name: str, keys: tuple[sa.Column[Any], ...], *columns: sa.Column[Any]) -> None:
    """A table whose rows belong to a job each, and go with it."""
    op.create_table(
        name,
        sa.Column("job_id", sa.Integer(), nullable=False),
        *keys,
        *columns,
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f(f"fk_{name}_job_id_job"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("job_id", *(key.name for key in keys), name=op.f(f"pk_{name}")),
    )


def _text(name: str) -> sa.Column[Any]:
    return sa.Column(name, sa.String(), nullable=False)


def _json(name: str) -> sa.Column[Any]:
    return sa.Column(name, sa.JSON(), nullable=False)


def _moment(name: str) -> sa.Column[Any]:
    return sa.Column(name, sa.DateTime(timezone=True), nullable=False)


def upgrade() -> None:
    jobs = _rows("SELECT * FROM job")
    documents = {job["id"]: _document(job) for job in jobs}
    steps = _rows("SELECT * FROM step ORDER BY job_id, number")
    printers, cutters, stocks = (_rows(f"SELECT * FROM {what}") for what in ("printer", "cutter", "stock"))
    named = _rows("SELECT * FROM named_layout")
    layouts = _rows("SELECT * FROM layout")
    # What refers to a table goes before it.
    for what in ("item", "step", "named_layout", "layout", "job", "printer", "cutter", "stock"):
        op.drop_table(what)

    _shop_table("printer", sa.Column("id", sa.Integer(), nullable=False))
    _shop_table("cutter", sa.Column("id", sa.Integer(), nullable=False))
    _shop_table("stock", _text("key"), sa.Column("position", sa.Integer(), nullable=False), named_once=False)
    for what, rows, value_of in (("printer", printers, _printer), ("cutter", cutters, _cutter)):
        for row in rows:
            _run(f"INSERT INTO {what} VALUES (:i, :n, 1, :v)", i=row["id"], n=row["name"], v=value_of(row))
    for row in stocks:
        kept = {"k": row["key"], "p": row["position"], "n": row["name"]}
        _run("INSERT INTO stock VALUES (:k, :p, :n, 1, :v)", **kept, v={name: row[name] for name in _STOCK})

    _job_table()
    for job in jobs:
        document = documents[job["id"]]
        _run(
            "INSERT INTO job VALUES (:id, :document, 1, :title, :pieces, :designs, :arts, :stock_key, :printer_id, "
            ":cutter_id, :step, :created_at, :changed_at, :handed_off_at, :removed_at)",
            document=document,
            pieces=sum(item["quantity"] for item in document["items"]),
            designs=len(document["items"]),
            arts=[item["art"] for item in document["items"]],
            **{name: job[name] for name in _KEPT},
        )
    number = sa.Column("number", sa.Integer(), nullable=False)
    _table_of_jobs(
        "step", (number,), _text("label"), _text("subject"), _json("back"), _json("forth"), _moment("made_at")
    )
    _write_steps(jobs, documents, steps)
    _table_of_jobs("named_layout", (_text("name"),), _json("sheets"), _moment("saved_at"))
    for row in named:
        kept = {"j": row["job_id"], "n": row["name"], "s": _sheets(row["held"]), "w": row["saved_at"]}
        _run("INSERT INTO named_layout VALUES (:j, :n, :s, :w)", **kept)
    version = sa.Column("version", sa.Integer(), nullable=False)
    _table_of_jobs("layout", (_text("key"),), version, _json("layout"), _text("state"), _moment("found_at"))
    for row in layouts:
        kept = {name: row[name] for name in ("job_id", "key", "layout", "state", "found_at")}
        _run("INSERT INTO layout VALUES (:job_id, :key, 1, :layout, :state, :found_at)", **kept)
    op.create_table(
        "hand_off",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        _moment("made_at"),
        _json("job"),
        sa.Column("plan", sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"], name=op.f("fk_hand_off_job_id_job"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_hand_off")),
    )
    op.create_index(op.f("ix_hand_off_job_id"), "hand_off", ["job_id"])
    op.create_table(
        "computed",
        sa.Column("key", sa.String(), nullable=False),
        _moment("made_at"),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_computed")),
    )
    op.create_index(op.f("ix_computed_made_at"), "computed", ["made_at"])


def _write_steps(jobs: list[dict[str, Any]], documents: dict[int, dict[str, Any]], steps: list[dict[str, Any]]) -> None:
    """Each step as what it changed; the one where a job stands leads to its document as it is."""
    where = {job["id"]: job["step"] for job in jobs}
    before: dict[int, dict[str, Any]] = {}
    for step in steps:
        job = step["job_id"]
        whole = documents[job] if step["number"] == where[job] else step["document"]
        after = {name: value for name, value in whole.items() if name != "last_number"}
        back, forth = None, None
        if job in before:
            back, forth = difference(after, before[job]), difference(before[job], after)
        before[job] = after
        _run(
            "INSERT INTO step VALUES (:job, :number, :label, :subject, :back, :forth, :made_at)",
            job=job,
            number=step["number"],
            label=step["label"],
            subject=step["subject"],
            back=json.dumps(back),
            forth=json.dumps(forth),
            made_at=step["made_at"],
        )
