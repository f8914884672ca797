"""Runs as a table for a spreadsheet, both ways.

Spreadsheets write what their country writes: semicolons for commas, commas for points, a byte-order mark in front. All
of that is read. A text that a spreadsheet would run as a formula is written behind an apostrophe, which it takes as
"this is text"; the same apostrophe is taken away when the file comes back.
"""

import csv
import io
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
_FORMULA = ("=", "+", "-", "@", "\t", "\r")
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
    "school",
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
COLUMNS = ("made_at", *_PLAIN, "spoilt", "settings", "remedies", "later", "figures", "took", *_MORE)

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
            "remedies": "; ".join(run.remedies),
            "later": "; ".join(_later_words(one) for one in run.later),
            "figures": "; ".join(f"{one.key} {_exactly(one.value)}" for one in run.figures),
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
    text = str(value)
    return f"'{text}" if text.startswith(_FORMULA) or text.startswith("'") else text


def _exactly(value: float) -> str:
    """A number that reads back as the same one."""
    return f"{value:.17g}" if float(f"{value:.12g}") != value else f"{value:.12g}"


def _spoilt_words(one: SpoiltPiece) -> str:
    off = "" if one.off is None else f" {_exactly(one.off.dx_mm)} {_exactly(one.off.dy_mm)}"
    return f"{one.placement} {one.what.value}{off}"


def _setting_words(one: UsedSetting) -> str:
    force, speed = _exactly(one.force_gf), _exactly(one.speed_mm_s)
    return f"{one.cut.value} {force} gf x {one.passes} at {speed} blade {one.blade}"


def _later_words(one: LaterCheck) -> str:
    held = "" if one.held is None else f" = {'held' if one.held else 'failed'}"
    return f"{one.kind.value}{held}"


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
        raise BadInput(f"this is no ledger: its first line has no {', '.join(sorted(missing))}", "csv")
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
        data[name] = None if data[name] is None else int(data[name])
    data["sheets"] = data["sheets"] or 1
    data["blade_metres"] = data["blade_metres"] or 0.0
    for name in _YES_OR_NO:
        data[name] = cells[name].lower() in ("yes", "true", "1")
    data["cause"] = cells["cause"] or None
    data["spoilt"] = part("spoilt", _spoilt_of)
    data["settings"] = part("settings", _setting_of)
    data["later"] = part("later", _later_of)
    data["remedies"] = part("remedies", str)
    data["figures"] = [{"key": key, "value": value} for key, value in part("figures", _figure_of)]
    data["took"] = dict(part("took", _figure_of))
    try:
        made_at = datetime.fromisoformat(cells["made_at"])
    except ValueError:
        raise BadInput(
            f"“{cells['made_at'][:40]}” is no time; write it as 2026-05-02T18:00", f"line {line}, made_at"
        ) from None
    return _aware(made_at), read_as(_RUN, data, f"line {line}")


def _text(cell: str) -> str:
    quoted = cell.startswith("'") and len(cell) > 1 and (cell[1] in _FORMULA or cell[1] == "'")
    return cell[1:] if quoted else cell


def _number(cell: str, where: str) -> float | None:
    if not cell.strip():
        return None
    if not _NUMBER.match(cell.strip()):
        raise BadInput(f"“{cell[:40]}” is no number", where)
    return float(cell.strip().replace(",", "."))


def _spoilt_of(text: str) -> dict[str, Any]:
    place, what, *off = text.split()
    piece: dict[str, Any] = {"placement": int(place), "what": what}
    if off:
        piece["off"] = {"dx_mm": float(off[0].replace(",", ".")), "dy_mm": float(off[1].replace(",", "."))}
    return piece


_SETTING = re.compile(r"^(\S+) (\S+) gf x (\d+) at (\S+) blade (.*)$")


def _setting_of(text: str) -> dict[str, Any]:
    found = _SETTING.match(text)
    if found is None:
        raise ValueError(text)
    cut, force, passes, speed, blade = found.groups()
    return {
        "cut": cut,
        "force_gf": float(force.replace(",", ".")),
        "passes": int(passes),
        "speed_mm_s": float(speed.replace(",", ".")),
        "blade": blade,
    }


def _figure_of(text: str) -> tuple[str, float]:
    key, value = text.split()
    return key, float(value.replace(",", "."))


def _later_of(text: str) -> dict[str, Any]:
    kind, _, held = (one.strip() for one in text.partition("="))
    return {"kind": LaterKind(kind), "held": None if not held else held == "held"}


def _aware(time: datetime) -> datetime:
    return time if time.tzinfo else time.replace(tzinfo=UTC)
