"""Kinds of one thing, each a module of its own: everything about a kind is in its file, and that it is there suffices.

A package holds one module a kind, each with a constant `KIND`; kinds have a `key`, by which specifications name them,
and a `place`, by which they are listed. A package is looked through when it is first asked, so that specifications
need not import what stands above them.
"""

import importlib
import pkgutil
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cache
from typing import Any, Generic, TypeVar, cast

K = TypeVar("K")


@cache
def kinds_in(package: str) -> dict[str, Any]:
    """The kinds of a package by their keys, in the order in which they are listed."""
    found = importlib.import_module(package)
    modules = [importlib.import_module(f"{package}.{one.name}") for one in pkgutil.iter_modules(found.__path__)]
    kinds = sorted((module.KIND for module in modules if hasattr(module, "KIND")), key=lambda kind: kind.place)
    return {kind.key: kind for kind in kinds}


@dataclass(frozen=True, slots=True)
class KeyOf:
    """Marks a field that names one of the kinds in a package."""

    package: str

    def __get_pydantic_core_schema__(self, source: Any, handler: Callable[[Any], dict[str, Any]]) -> dict[str, Any]:
        return {"type": "literal", "expected": list(kinds_in(self.package))}


@dataclass(frozen=True, slots=True)
class Registry(Generic[K]):
    """The kinds of a package, for whoever works with them."""

    package: str

    def __getitem__(self, key: str) -> K:
        return cast(K, kinds_in(self.package)[key])

    def __iter__(self) -> Iterator[K]:
        return iter(kinds_in(self.package).values())
