"""All of the ledger as JSON, both ways: its runs, what was bought, offcuts, and what things cost."""

import json
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any, TypeVar

from pydantic import TypeAdapter, ValidationError

from vamper.core.ledger.cost import Rates
from vamper.core.ledger.run import Run
from vamper.core.ledger.supply import Bought, Offcut, Pack
from vamper.core.values.findings import BadInput
from vamper.formats.json_object import object_in
from vamper.formats.runs_file import MOST_ROWS
from vamper.formats.sentences import read_as

FORMAT, VERSION = "vamper-ledger", 1
_RUN, _PACK, _BOUGHT = TypeAdapter(Run), TypeAdapter(Pack), TypeAdapter(Bought)
_OFFCUT, _RATES = TypeAdapter(Offcut), TypeAdapter(Rates)
_THING: TypeAdapter[Pack | Bought] = TypeAdapter(Pack | Bought)
_WHEN = TypeAdapter(datetime)
T = TypeVar("T")


@dataclass(frozen=True)
class Ledger:
    """Everything with its time; `rates` where anything costs something."""

    runs: tuple[tuple[datetime, Run], ...] = ()
    bought: tuple[tuple[datetime, Pack | Bought], ...] = ()
    offcuts: tuple[tuple[datetime, Offcut], ...] = ()
    rates: Rates | None = None


def write_ledger_json(ledger: Ledger) -> bytes:
    """All of the ledger."""
    document: dict[str, Any] = {
        "format": FORMAT,
        "version": VERSION,
        "runs": [{"made_at": at.isoformat(), **_RUN.dump_python(run, mode="json")} for at, run in ledger.runs],
        "bought": [{"bought_at": at.isoformat(), **_THING.dump_python(one, mode="json")} for at, one in ledger.bought],
        "offcuts": [{"kept_at": at.isoformat(), **_OFFCUT.dump_python(one, mode="json")} for at, one in ledger.offcuts],
    }
    if ledger.rates is not None:
        document["rates"] = _RATES.dump_python(ledger.rates, mode="json")
    return json.dumps(document, indent=1, ensure_ascii=False).encode() + b"\n"


def read_ledger_json(data: bytes) -> Ledger:
    """The ledger from its JSON; a file that only has runs is a ledger as well.

    Raises
    ------
    BadInput
        Naming the entry and the field that cannot be used.
    """
    document = object_in(data, "the ledger")
    if document.get("format") != FORMAT or document.get("version") != VERSION:
        raise BadInput(f"this is no {FORMAT} of version {VERSION}", "ledger")
    rates = document.get("rates")
    return Ledger(
        _dated(document, "runs", "made_at", lambda entry, where: read_as(_RUN, entry, where)),
        _dated(document, "bought", "bought_at", _thing),
        _dated(document, "offcuts", "kept_at", lambda entry, where: read_as(_OFFCUT, entry, where)),
        None if rates is None else read_as(_RATES, rates, "rates"),
    )


def _thing(entry: dict[str, Any], where: str) -> Pack | Bought:
    return read_as(_PACK, entry, where) if "stock" in entry else read_as(_BOUGHT, entry, where)


def _dated(
    document: dict[str, Any], name: str, when: str, read: Callable[[dict[str, Any], str], T]
) -> tuple[tuple[datetime, T], ...]:
    entries = document.get(name, [])
    if not isinstance(entries, list) or len(entries) > MOST_ROWS:
        raise BadInput(f"must be a list of at most {MOST_ROWS}", name)
    found = []
    for place, one in enumerate(entries):
        entry = dict(one) if isinstance(one, dict) else {}
        try:
            at = _WHEN.validate_python(entry.pop(when, None))
        except ValidationError:
            raise BadInput("is not a time", f"{name}.{place}.{when}") from None
        found.append((at if at.tzinfo else at.replace(tzinfo=UTC), read(entry, f"{name}.{place}")))
    return tuple(found)
