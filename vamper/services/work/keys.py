"""Keys of what is computed or kept: a tuple of what decides it, which begins with a name and a version.

A digest of such a tuple goes by values, never by how they happen to be printed. Of a dataclass it takes the fields that
are not at their defaults, so that a field which is new, and which nobody has set, leaves older keys as they are. A
default that changes means something else under the same key: whoever changes one takes the key's next version.
"""

import dataclasses
import hashlib
import struct
from collections.abc import Mapping
from enum import Enum
from typing import Any

import numpy as np
from shapely.geometry.base import BaseGeometry

_CONSTANTS = {None: b"n", False: b"f", True: b"t"}


def digest_of(name: str, version: int, *parts: Any) -> str:
    """32 hexadecimal digits for a key.

    Parameters
    ----------
    name, version
        What the key is for; a change of what it goes by takes the next version.
    parts
        Words, numbers, bytes, enums, geometry, arrays, dataclasses, and tuples, lists and mappings of them.

    Raises
    ------
    TypeError
        For a part of any other kind: it has no value to go by.
    """
    out = list[bytes]()
    _write((name, version, *parts), out)
    return hashlib.sha256(b"".join(out)).hexdigest()[:32]


def _write(part: Any, out: list[bytes]) -> None:
    """A part as bytes, each kind with a letter of its own and its length before it."""
    if isinstance(part, Enum):
        _write(part.value, out)
    elif isinstance(part, str):
        _sized(b"s", part.encode("utf-8", "surrogatepass"), out)
    elif isinstance(part, float):
        out.append(b"d" + struct.pack("<d", part))
    elif part is None or isinstance(part, bool):
        out.append(_CONSTANTS[part])
    elif isinstance(part, int):
        _sized(b"i", str(part).encode(), out)
    elif isinstance(part, tuple | list):
        out.append(b"l%d:" % len(part))
        for one in part:
            _write(one, out)
    elif dataclasses.is_dataclass(part) and not isinstance(part, type):
        _write((type(part).__name__, _set_fields(part)), out)
    elif isinstance(part, bytes):
        _sized(b"b", part, out)
    elif isinstance(part, BaseGeometry):
        _sized(b"g", part.wkb, out)
    elif isinstance(part, np.ndarray):
        _sized(b"a", f"{part.dtype}{part.shape}".encode() + part.tobytes(), out)
    elif isinstance(part, Mapping):
        out.append(b"m%d:" % len(part))
        for name in sorted(part):
            _write((name, part[name]), out)
    else:
        raise TypeError(f"{type(part).__name__} cannot be part of a key")


def _set_fields(part: Any) -> list[tuple[str, Any]]:
    """The fields of a dataclass that are not at their defaults."""
    found = []
    for field in dataclasses.fields(part):
        value, default = getattr(part, field.name), field.default
        if field.default_factory is not dataclasses.MISSING:
            default = field.default_factory()
        if default is dataclasses.MISSING or type(value) is not type(default) or _differs(value, default):
            found.append((field.name, value))
    return found


def _sized(letter: bytes, value: bytes, out: list[bytes]) -> None:
    out.append(letter + b"%d:" % len(value))
    out.append(value)


def _differs(value: Any, default: Any) -> bool:
    return not np.array_equal(value, default) if isinstance(value, np.ndarray) else bool(value != default)
