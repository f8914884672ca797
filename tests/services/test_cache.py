"""The cache: bounded, and nothing computed twice at once."""

import threading
import time

import pytest

from vamper.services.work.cache import Cache, let_go_of_pictures
from vamper.services.work.idle import GivingBack


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


def test_what_is_weighed_is_let_go_once_nobody_asks_and_made_again() -> None:
    weighed: Cache[bytes] = Cache(100, len)
    counted: Cache[bytes] = Cache(100)
    for cache in (weighed, counted):
        cache.get("k", lambda: b"first")
    let_go_of_pictures(60)
    assert "k" in weighed
    let_go_of_pictures(0)
    assert "k" not in weighed
    assert "k" in counted
    assert weighed.get("k", lambda: b"again") == b"again"
    assert weighed.get("k", lambda: b"and again") == b"again"


def test_an_idle_server_gives_back_by_itself() -> None:
    weighed: Cache[bytes] = Cache(100, len)
    giving_back = GivingBack(idle_s=0.0, look_every_s=0.01)
    try:
        weighed.get("k", lambda: b"a picture")
        over = time.monotonic() + 5
        while "k" in weighed and time.monotonic() < over:
            time.sleep(0.01)
        assert "k" not in weighed
    finally:
        giving_back.close()
