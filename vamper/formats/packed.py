"""Computed things as bytes and back: frozen dataclasses of shapes, numbers, words, bytes and tuples, exact to the bit.

What is read is decided by the type that is asked for, never by what the bytes say; nothing in them is executed.
"""

import base64
import json
import zlib
from dataclasses import fields, is_dataclass
from enum import Enum
from functools import cache
from types import UnionType
from typing import Any, TypeVar, Union, get_args, get_origin, get_type_hints

import shapely
from shapely.geometry.base import BaseGeometry

T = TypeVar("T")


def packed(value: Any) -> bytes:
    """A value as bytes."""
    return zlib.compress(json.dumps(_out(value)).encode(), 1)


def unpacked(kind: type[T], data: bytes) -> T:
    """The inverse of `packed`, for a value of that type.

    Raises
    ------
    ValueError, TypeError
        If the bytes hold something else.
    """
    try:
        value: T = _in(kind, json.loads(zlib.decompress(data)))
    except (zlib.error, shapely.errors.ShapelyError, LookupError) as error:
        raise ValueError(str(error)) from None
    return value


def _out(value: Any) -> Any:
    if isinstance(value, BaseGeometry):
        return base64.b64encode(shapely.to_wkb(value)).decode()
    if isinstance(value, bytes):
        return base64.b64encode(value).decode()
    if isinstance(value, Enum):
        return value.value
    if is_dataclass(value):
        return [_out(getattr(value, one.name)) for one in fields(value)]
    if isinstance(value, tuple):
        return [_out(one) for one in value]
    return value


def _in(kind: Any, value: Any) -> Any:
    origin, inner = get_origin(kind), get_args(kind)
    if hasattr(kind, "__metadata__"):
        return _in(inner[0], value)
    if origin in (UnionType, Union):
        return None if value is None else _in(next(one for one in inner if one is not type(None)), value)
    if origin is tuple:
        kinds = [inner[0]] * len(value) if inner[-1] is Ellipsis else inner
        return tuple(_in(one, part) for one, part in zip(kinds, value, strict=True))
    if kind is bytes:
        return base64.b64decode(value)
    if issubclass(kind, BaseGeometry):
        return shapely.from_wkb(base64.b64decode(value))
    if is_dataclass(kind):
        make: Any = kind
        return make(**{name: _in(one, part) for (name, one), part in zip(_types(make), value, strict=True)})
    return kind(value)


@cache
def _types(kind: Any) -> list[tuple[str, Any]]:
    hints = get_type_hints(kind, include_extras=True)
    return [(one.name, hints[one.name]) for one in fields(kind)]
