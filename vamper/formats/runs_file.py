"""Runs as a table for a spreadsheet, both ways.

Spreadsheets write what their country writes: semicolons for commas, commas for points, a byte-order mark in front. All
of that is read. A text that a spreadsheet would run as a formula is written behind an apostrophe, which it takes as
"this is text"; the same apostrophe is taken away when the file comes back. One that opens the file by semicolons begins
a cell wherever a text holds one, and a row at each line of a note, so an apostrophe stands there too. What is a list is
written in one cell, its texts without semicolons. Whatever is written reads back as it was, so a run that comes in
again is known.
"""

import csv
import io
import math
import re
from collections.abc import Callable, Iterable
from dataclasses import asdict
from datetime import UTC, datetime
from typing import Any

from pydantic import TypeAdapter

from vamper.core.ledger.run import LaterCheck, LaterKind, Run, SpoiltPiece, UsedSetting
from vamper.core.values.findings import BadInput
from vamper.formats.sentences import read_as

MOST_ROWS = 100_000
_RUN = TypeAdapter(Run)
_FORMULA = re.compile(r"\s*'*[=+\-@]|[\t\r']")
# Where a cell may begin inside a text, and what would be run there; and the same as it is written.
_SMUGGLED = re.compile(r"""([;\t\r\n][\s"]*)('*[=+\-@])""")
_KEPT_FROM_RUNNING = re.compile(r"""([;\t\r\n][\s"]*)'('*[=+\-@])""")
_PARTING, _PARTED = re.compile(r"[%;\x00-\x1f]|^ | $"), re.compile(r"%([0-9A-F]{2})")
_NUMBER = re.compile(r"^-?\d+(?:[.,]\d+)?(?:e[-+]?\d+)?$")
_PLAIN = ("title", "sheet", "sheets", "pieces", "came_out", "stock", "stock_name", "lot", "printer", "cutter", "blade")
_MORE = (
    "blade_metres",
    "mat",
    "light",
    "marks",
    "media",
    "quality",
    "process",
    "cover",
    "look",
    "coats",
    "customer",
    "minutes",
    "from_offcut",
    "simulated",
    "cause",
    "note",
)
_NUMBERS = {"sheet", "sheets", "pieces", "blade_metres", "coats", "minutes"}
_YES_OR_NO = ("simulated", "from_offcut")
COLUMNS = ("made_at", *_PLAIN, "spoilt", "settings", "remedies", "later", "figures", "took", "read", *_MORE)

Dated = tuple[datetime, Run]


def write_runs_csv(runs: Iterable[Dated]) -> bytes:
    """All runs, a line each; UTF-8."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for made_at, run in runs:
        cells = {name: getattr(run, name) for name in (*_PLAIN, *_MORE)}
        cells |= {
            "made_at": made_at.astimezone(UTC).isoformat(),
            "spoilt": "; ".join(_spoilt_words(one) for one in run.spoilt),
            "settings": "; ".join(_setting_words(one) for one in run.settings),
            "remedies": "; ".join(_in_list(one) for one in run.remedies),
            "later": "; ".join(_later_words(one) for one in run.later),
            "figures": "; ".join(f"{_in_list(one.key)} {_exactly(one.value)}" for one in run.figures),
            "read": "" if run.read is None else f"{'yes' if run.read.read else 'no'} {run.read.tries}",
            "took": "; ".join(f"{name} {_exactly(value)}" for name, value in asdict(run.took).items() if value),
        }
        writer.writerow([_cell(cells[name]) for name in COLUMNS])
    return out.getvalue().encode()


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, (int, float)):
        return _exactly(value)
    text = _SMUGGLED.sub(r"\1'\2", str(value))
    return f"'{text}" if _FORMULA.match(text) else text


def _exactly(value: float) -> str:
    """A number that reads back as the same one."""
    return f"{value:.17g}" if float(f"{value:.12g}") != value else f"{value:.12g}"


def _spoilt_words(one: SpoiltPiece) -> str:
    off = "" if one.off is None else f" {_exactly(one.off.dx_mm)} {_exactly(one.off.dy_mm)}"
    return f"{one.placement} {one.what.value}{off}"


def _setting_words(one: UsedSetting) -> str:
    speed = _exactly(one.speed_mm_s)
    pressed = f" pressed {'as it is' if one.pressure is None else one.pressure}" if one.setting else ""
    force = f"setting {_in_list(one.setting)}{pressed}" if one.force_gf is None else f"{_exactly(one.force_gf)} gf"
    return f"{one.cut.value} {force} x {one.passes} at {speed} blade {_in_list(one.blade)}"


def _later_words(one: LaterCheck) -> str:
    held = "" if one.held is None else f" = {'held' if one.held else 'failed'}"
    note = f" ({_in_list(one.note)})" if one.note else ""
    return f"{one.kind.value}{held}{note}"


def read_runs_csv(data: bytes) -> list[Dated]:
    """Runs from a CSV, as written here or as a spreadsheet saved it again.

    Raises
    ------
    BadInput
        Naming the line and the column that cannot be used.
    """
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("cp1252", errors="replace")
    head = text.split("\n", 1)[0]
    separator = max(",;\t", key=head.count)
    rows = csv.DictReader(io.StringIO(text, newline=""), delimiter=separator)
    missing = {"made_at", "title", "sheet", "pieces", "came_out", "stock"} - set(rows.fieldnames or ())
    if missing:
        raise BadInput(f"this is not a ledger: its first line has no {', '.join(sorted(missing))}", "csv")
    found = list[Dated]()
    try:
        for line, row in enumerate(rows, 2):
            if line > MOST_ROWS:
                raise BadInput(f"more than {MOST_ROWS} lines; split the file", "csv")
            found.append(_of_row({name: value or "" for name, value in row.items() if name}, line))
    except csv.Error as error:
        raise BadInput(f"this cannot be read as a table: {error}", "csv") from None
    return found


def _of_row(row: dict[str, str], line: int) -> Dated:
    cells = {name: _text(row.get(name, "")) for name in COLUMNS}

    def part(name: str, read: Callable[[str], Any]) -> list[Any]:
        pieces = [one.strip() for one in cells[name].split(";") if one.strip()]
        try:
            return [read(one) for one in pieces]
        except (ValueError, IndexError, KeyError):
            raise BadInput(f"“{cells[name][:60]}” cannot be read", f"line {line}, {name}") from None

    data: dict[str, Any] = {name: cells[name] for name in (*_PLAIN, *_MORE)}
    for name in _NUMBERS:
        data[name] = _number(cells[name], f"line {line}, {name}")
    for name in ("sheet", "sheets", "pieces", "coats"):
        data[name] = _whole(data[name], f"line {line}, {name}")
    data["sheets"] = data["sheets"] or 1
    data["blade_metres"] = data["blade_metres"] or 0.0
    for name in _YES_OR_NO:
        data[name] = cells[name].lower() in ("yes", "true", "1")
    for name in ("cause", "look"):
        data[name] = cells[name] or None
    data["spoilt"] = part("spoilt", _spoilt_of)
    data["settings"] = part("settings", _setting_of)
    data["later"] = part("later", _later_of)
    data["remedies"] = part("remedies", _from_list)
    data["figures"] = [{"key": key, "value": value} for key, value in part("figures", _figure_of)]
    data["took"] = dict(part("took", _figure_of))
    data["read"] = next(iter(part("read", _read_of)), None)
    try:
        made_at = datetime.fromisoformat(cells["made_at"])
    except ValueError:
        raise BadInput(
            f"“{cells['made_at'][:40]}” is not a time; write it as 2026-05-02T18:00", f"line {line}, made_at"
        ) from None
    return _aware(made_at), read_as(_RUN, data, f"line {line}")


def _text(cell: str) -> str:
    quoted = cell.startswith("'") and _FORMULA.match(cell, 1)
    return _KEPT_FROM_RUNNING.sub(r"\1\2", cell[1:] if quoted else cell)


def _in_list(text: str) -> str:
    """A text that stands in a list: without what parts it from the next one."""
    return _PARTING.sub(lambda found: f"%{ord(found[0]):02X}", text)


def _from_list(text: str) -> str:
    return _PARTED.sub(lambda found: chr(int(found[1], 16)), text)


def _whole(value: float | None, where: str) -> int | None:
    if value is None:
        return None
    if not value.is_integer():
        raise BadInput(f"{value:g} is no whole number", where)
    return int(value)


def _number(cell: str, where: str) -> float | None:
    if not cell.strip():
        return None
    if not _NUMBER.match(cell.strip()):
        raise BadInput(f"“{cell[:40]}” is not a number", where)
    number = float(cell.strip().replace(",", "."))
    if not math.isfinite(number):
        raise BadInput(f"“{cell[:40]}” is not a number", where)
    return number


def _spoilt_of(text: str) -> dict[str, Any]:
    place, what, *off = text.split()
    piece: dict[str, Any] = {"placement": int(place), "what": what}
    if off:
        piece["off"] = {"dx_mm": float(off[0].replace(",", ".")), "dy_mm": float(off[1].replace(",", "."))}
    return piece


_SETTING = re.compile(
    r"^(\S+) (?:(\S+) gf|(?:setting|step) ?(.*?)(?: pressed (as it is|\w+))?) x (\d+) at (\S+) blade ?(.*)$"
)


def _setting_of(text: str) -> dict[str, Any]:
    found = _SETTING.match(text)
    if found is None:
        raise ValueError(text)
    cut, force, setting, pressure, passes, speed, blade = found.groups()
    return {
        "cut": cut,
        "force_gf": None if force is None else float(force.replace(",", ".")),
        "setting": _from_list(setting or ""),
        "pressure": None if pressure == "as it is" else pressure,
        "passes": int(passes),
        "speed_mm_s": float(speed.replace(",", ".")),
        "blade": _from_list(blade),
    }


def _read_of(text: str) -> dict[str, Any]:
    read, tries = text.split()
    return {"read": {"yes": True, "no": False}[read], "tries": int(tries)}


def _figure_of(text: str) -> tuple[str, float]:
    key, _, value = text.rpartition(" ")
    return _from_list(key), float(value.replace(",", "."))


_LATER = re.compile(r"^(?P<kind>[^=(]+?)\s*(?:=\s*(?P<held>\w+)\s*)?(?:\((?P<note>.*)\))?$", re.DOTALL)
_HELD = {None: None, "held": True, "failed": False}


def _later_of(text: str) -> dict[str, Any]:
    found = _LATER.match(text)
    if found is None or found["held"] not in _HELD:
        raise ValueError(text)
    note = _from_list(found["note"] or "")
    return {"kind": LaterKind(found["kind"].strip()), "held": _HELD[found["held"]], "note": note}


def _aware(time: datetime) -> datetime:
    return time if time.tzinfo else time.replace(tzinfo=UTC)
