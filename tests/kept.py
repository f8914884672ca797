"""What is worked out once for the same things, though they cannot be hashed: plans, pictures."""

from collections.abc import Callable
from functools import wraps
from typing import Any, ParamSpec, TypeVar

P = ParamSpec("P")
T = TypeVar("T")


def kept(made: Callable[P, T]) -> Callable[P, T]:
    """Keeps what came of the very same arguments, and these, so that nothing else takes their place in memory."""
    known: dict[tuple[int, ...], tuple[Any, T]] = {}

    @wraps(made)
    def once(*things: P.args, **more: P.kwargs) -> T:
        assert not more
        key = tuple(id(thing) for thing in things)
        if key not in known:
            known[key] = things, made(*things)
        return known[key][1]

    return once
