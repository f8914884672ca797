"""Named settings in any order: a notch less or more becomes a pressure, the order of a list what each is gentler than.

What a run was set to by name is its setting and its pressure from now on.
"""

import json
import re
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "1.1"
down_revision = "1.0"

_NOTCHED = re.compile(r"^“(?P<name>.*)”(?:, one notch (?P<way>up|down))?$")
_PRESSED = {"up": "more", "down": "less", None: None}


def upgrade() -> None:
    _each("cutter", "value", _cutter)
    _each("run", "value", _run)
    _each("hand_off", "job", lambda job: {**job, "cutter": _cutter(job.get("cutter", {}))})


def _each(table: str, column: str, change: Any) -> None:
    """Every value of a column of JSON, changed; what stays the same is not written."""
    connection = op.get_bind()
    for number, text in connection.execute(sa.text(f"SELECT id, {column} FROM {table}")).all():
        before = json.loads(text)
        after = change(before)
        if after != before:
            statement = sa.text(f"UPDATE {table} SET {column} = :value WHERE id = :id")
            connection.execute(statement, {"value": json.dumps(after), "id": number})


def _cutter(cutter: dict[str, Any]) -> dict[str, Any]:
    settings = cutter.get("settings") or []
    if not any("notches" in one for one in settings):
        return cutter
    after = [one["name"] for one in settings[1:]]
    return {
        **cutter,
        "settings": [
            {
                "name": one["name"],
                "pressures": ["less", "usual", "more"] if one.get("notches") else [],
                "gentler_than": after[place : place + 1],
                "seen": one.get("seen", []),
            }
            for place, one in enumerate(settings)
        ],
    }


def _run(run: dict[str, Any]) -> dict[str, Any]:
    return {**run, "settings": [_used(one) for one in run.get("settings", [])]} if run.get("settings") else run


def _used(setting: dict[str, Any]) -> dict[str, Any]:
    if "step" not in setting:
        return setting
    step = setting["step"]
    told = _NOTCHED.match(step)
    others = {name: value for name, value in setting.items() if name != "step"}
    if told is None:
        return {**others, "setting": step}
    return {**others, "setting": told["name"], "pressure": _PRESSED[told["way"]]}
