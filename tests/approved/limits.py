"""What every value may be: limits, defaults and choices of all that is read from files, over HTTP or the workshop."""

import importlib
import pkgutil
from collections.abc import Iterator
from dataclasses import is_dataclass
from typing import Any

from pydantic import TypeAdapter

import vamper.core

Told = Iterator[tuple[str, Any]]


def limits() -> Told:
    """The JSON Schema of each specification."""
    for found in pkgutil.walk_packages(vamper.core.__path__, "vamper.core."):
        module = importlib.import_module(found.name)
        for name, thing in vars(module).items():
            if not isinstance(thing, type) or not is_dataclass(thing) or thing.__module__ != module.__name__:
                continue
            if "__pydantic_config__" in vars(thing):
                schema = TypeAdapter(thing).json_schema()
                schema.pop("$defs", None)
                yield f"{found.name.removeprefix('vamper.core.')}.{name}", _without_words(schema)


def _without_words(schema: Any) -> Any:
    if isinstance(schema, list):
        return [_without_words(one) for one in schema]
    if isinstance(schema, dict):
        return {key: _without_words(one) for key, one in schema.items() if key not in ("description", "title")}
    return schema
