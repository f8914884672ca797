"""The cache: bounded, and nothing computed twice at once."""

import threading

import pytest

from vamper.services.work.cache import Cache


def test_least_recently_used_goes_first() -> None:
    cache: Cache[str] = Cache(2)
    made: list[str] = []

    def make(key: str) -> str:
        return cache.get(key, lambda: made.append(key) or key)

    for key in "abacab":
        make(key)
    assert made == ["a", "b", "c", "b"]


def test_weight_bounds_it_but_the_newest_stays() -> None:
    cache: Cache[bytes] = Cache(10, len)
    assert cache.get("big", lambda: bytes(50)) == bytes(50)
    assert cache.get("big", lambda: b"made again") == bytes(50)


def test_two_at_once_make_it_once() -> None:
    cache: Cache[int] = Cache(5)
    entered, go = threading.Event(), threading.Event()
    calls: list[int] = []

    def make() -> int:
        calls.append(1)
        entered.set()
        go.wait(2)
        return 7

    threads = [threading.Thread(target=lambda: cache.get("k", make)) for _ in range(2)]
    for thread in threads:
        thread.start()
    entered.wait(2)
    go.set()
    for thread in threads:
        thread.join()
    assert len(calls) == 1


def test_failures_are_not_kept() -> None:
    cache: Cache[int] = Cache(5)
    with pytest.raises(ZeroDivisionError):
        cache.get("k", lambda: 1 // 0)
    assert cache.get("k", lambda: 3) == 3
