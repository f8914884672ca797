"""One chain after the print: what lies over it is one decision (`finish.cover`), and finished recipes are gone.

A job's `coated`, `laminate_um` and its finish's `process`, `school` and `coats` become its cover and how it is set; an
evening's batches say what decides their chain, and a run by which way it was finished. How long a print dries is said
once, with the stock's label.
"""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

from vamper.store.differences import applied, difference

revision = "1.2"
down_revision = "1.1"

_FACTS: dict[str, dict[str, Any]] = {
    "sticker": {"stock": "label", "way": "hand-out"},
    "sealed-coat": {"stock": "label", "way": "hand-out", "cover": "coat"},
    "sealed-laminate": {"stock": "label", "way": "hand-out", "cover": "laminate"},
    "water-slide": {"stock": "water-slide", "way": "slide", "cover": "coat", "cuts": ["through"], "set": "oven"},
    "water-slide-sealed": {
        "stock": "water-slide",
        "way": "slide",
        "cover": "coat",
        "cuts": ["through"],
        "set": "top-coat",
    },
    "light-transfer": {"stock": "transfer", "way": "press", "mirrored": True},
    "dark-transfer": {"stock": "transfer", "way": "press", "cuts": ["through"]},
    "print-flex": {"stock": "flex", "way": "press", "mask": "clear"},
    "colour-flex": {"stock": "flex", "way": "press", "printed": False, "mirrored": True},
    "layered-flex": {"stock": "flex", "way": "press", "printed": False, "mirrored": True, "layered": True},
    "layered-vinyl": {"stock": "vinyl", "way": "hinge", "printed": False, "mask": "paper", "layered": True},
    "mask": {"stock": "vinyl", "way": "hinge", "printed": False, "mask": "paper"},
    "dye": {"stock": "dye-paper", "way": "tape", "mirrored": True, "backing": False, "cuts": ["through"]},
    "shrink": {"stock": "shrink-film", "way": "bake", "backing": False, "cuts": ["through"]},
    "vehicle": {"stock": "vinyl", "way": "hinge"},
    "card": {"stock": "card", "way": "hand-out", "backing": False, "cuts": ["through"]},
}
_COATED = ("sealed-coat", "water-slide", "water-slide-sealed")
_SET = {"water-slide": "oven", "water-slide-sealed": "top-coat"}


def upgrade() -> None:
    _jobs()
    _each("hand_off", "job", _job)
    _each("hand_off", "document", _job)
    _each("run", "value", _run)
    connection = op.get_bind()
    choices = connection.execute(sa.text("SELECT printer_id, stock_key, value FROM print_choice")).all()
    for printer, stock, text in choices:
        value = {name: one for name, one in json.loads(text).items() if name != "dry_minutes"}
        connection.execute(
            sa.text("UPDATE print_choice SET value = :value WHERE printer_id = :printer AND stock_key = :stock"),
            {"value": json.dumps(value), "printer": printer, "stock": stock},
        )
    for (text,) in connection.execute(sa.text("SELECT value FROM preference WHERE key = 'evening'")).all():
        evening = json.loads(text)
        evening["batches"] = [_batch(one) for one in evening.get("batches", []) if one.get("process") in _FACTS]
        connection.execute(
            sa.text("UPDATE preference SET value = :value WHERE key = 'evening'"), {"value": json.dumps(evening)}
        )


def _each(table: str, column: str, change: Any) -> None:
    """Every value of a column of JSON, changed; what stays the same is not written."""
    connection = op.get_bind()
    for number, text in connection.execute(sa.text(f"SELECT id, {column} FROM {table}")).all():
        before = json.loads(text)
        after = change(before)
        if after != before:
            statement = sa.text(f"UPDATE {table} SET {column} = :value WHERE id = :id")
            connection.execute(statement, {"value": json.dumps(after), "id": number})


def _jobs() -> None:
    """Jobs with their history: every state that can be gone back to says it anew."""
    connection = op.get_bind()
    for number, text, at in connection.execute(sa.text("SELECT id, document, step FROM job")).all():
        rows = connection.execute(
            sa.text("SELECT number, back, forth FROM step WHERE job_id = :job ORDER BY number"), {"job": number}
        ).all()
        document = json.loads(text)
        lasting = document.get("last_number")
        states = {at: {name: value for name, value in document.items() if name != "last_number"}}
        steps = {row[0]: (json.loads(row[1] or "null"), json.loads(row[2] or "null")) for row in rows}
        for place in range(at, 0, -1):
            states[place - 1] = applied(states[place], steps[place][0]) if place in steps else states[place]
        for place in sorted(one for one in steps if one > at):
            states[place] = applied(states[place - 1], steps[place][1])
        states = {place: _job(state) for place, state in states.items()}
        for place in steps:
            if place == 0:
                continue
            back, forth = difference(states[place], states[place - 1]), difference(states[place - 1], states[place])
            connection.execute(
                sa.text("UPDATE step SET back = :back, forth = :forth WHERE job_id = :job AND number = :number"),
                {"back": json.dumps(back), "forth": json.dumps(forth), "job": number, "number": place},
            )
        after = states[at] if lasting is None else {**states[at], "last_number": lasting}
        connection.execute(
            sa.text("UPDATE job SET document = :document WHERE id = :id"),
            {"document": json.dumps(after), "id": number},
        )


def _job(job: dict[str, Any]) -> dict[str, Any]:
    """A job, or its document, with one decision for what lies over it."""
    rest = {name: value for name, value in job.items() if name not in ("coated", "laminate_um")}
    finish = dict(job.get("finish") or {})
    process, school, coats = (finish.pop(name, None) for name in ("process", "school", "coats"))
    laminate = job.get("laminate_um") or (60.0 if process == "sealed-laminate" else 0.0)
    when = "after-cut" if school == "B" else "before-cut"
    if laminate:
        finish["cover"] = {"kind": "laminate", "um": laminate}
    elif job.get("coated") or process in _COATED or coats is not None or school == "B":
        finish["cover"] = {"kind": "coat", "when": when, "coats": coats}
    if process in _SET:
        finish["set"] = _SET[process]
    return {**rest, "finish": finish}


def _run(run: dict[str, Any]) -> dict[str, Any]:
    if "school" not in run and run.get("process") not in _FACTS:
        return run
    facts = _FACTS.get(run.get("process", ""), {})
    cover = facts.get("cover", "")
    if cover == "coat":
        cover = "coat-after" if run.get("school") == "B" else "coat-before"
    way = " ".join(part for part in (facts.get("way", ""), cover, facts.get("set", "")) if part)
    rest = {name: value for name, value in run.items() if name != "school"}
    return {**rest, "process": way or run.get("process", "")}


def _batch(batch: dict[str, Any]) -> dict[str, Any]:
    """A batch of an evening; its steps are others now, so it begins anew."""
    work = {name: value for name, value in batch["work"].items() if name not in ("school", "where")}
    rest = {name: value for name, value in batch.items() if name not in ("process", "happened")}
    facts = dict(_FACTS[batch["process"]])
    if facts.get("cover") == "coat":
        facts["after_cut"] = batch["work"].get("school") == "B"
    where = batch["work"].get("where") or {}
    facts |= {"target": where.get("target"), "purpose": where.get("purpose") or "planner"}
    if where.get("by_hand"):
        facts["feed"] = "hand"
    return {**rest, "facts": facts, "work": work}
