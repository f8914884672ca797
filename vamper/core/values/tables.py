"""Tables of facts: TOML files beside the modules that own them, read once into frozen dataclasses."""

import pkgutil
import tomllib
from dataclasses import is_dataclass
from enum import Enum
from functools import cache
from types import UnionType
from typing import Any, TypeVar, get_args, get_origin, get_type_hints

T = TypeVar("T")


@cache
def table(package: str, name: str) -> dict[str, Any]:
    """A TOML file of a package, as data."""
    data = pkgutil.get_data(package, name)
    if data is None:
        raise LookupError(f"{name} is missing in {package}")
    return tomllib.loads(data.decode())


def row(kind: type[T], data: dict[str, Any]) -> T:
    """A row of a table as a dataclass, tables in it likewise.

    Raises
    ------
    TypeError
        If the row has a field that the dataclass has not, or lacks one.
    """
    types = get_type_hints(kind)
    return kind(**{name: _value(types[name], value) if name in types else value for name, value in data.items()})


def _value(wanted: Any, value: Any) -> Any:
    if get_origin(wanted) is UnionType or type(None) in get_args(wanted):
        wanted = next(one for one in get_args(wanted) if one is not type(None))
    if is_dataclass(wanted) and isinstance(value, dict):
        return row(wanted, value)  # type: ignore[arg-type]
    if isinstance(wanted, type) and issubclass(wanted, Enum):
        return wanted(value)
    if get_origin(wanted) is tuple and isinstance(value, list):
        return tuple(_value(get_args(wanted)[0], one) for one in value)
    return float(value) if wanted is float else value
