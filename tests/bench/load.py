"""Many at once: thirty clients on the demo for a minute, a burst of uploads, and what a hundred kills leave behind."""

import json
import os
import random
import re
import signal
import subprocess
import sys
import tempfile
import threading
import time
from collections import defaultdict
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

import httpx
import numpy as np

from tests import hostile
from tests.bench.table import Row, now_mb, peak_mb
from tests.view import plan_of

ROOT = Path(__file__).parents[2]
CLIENTS, SECONDS, BURST, KILLS = 30, 60.0, 60, 100
# Counting and packing take the time they are given; they take turns and say so.
SLOW = ("count", "pack")
# By then every job was looked at since the server was started, and nothing is worked out for the first time.
WARM_S = 15.0


@contextmanager
def workshop_file() -> Iterator[Path]:
    """The place for a workshop's file, for as long as it is needed."""
    with tempfile.TemporaryDirectory() as folder:
        yield Path(folder) / "w.db"


@contextmanager
def started(data: Path, command: str = "serve") -> Iterator[tuple[httpx.Client, subprocess.Popen[str]]]:
    """A server on a workshop's file, and a client of it."""
    words = [sys.executable, "-u", "-m", "vamper", command, "--data", str(data), "--port", "8760"]
    process = subprocess.Popen(words, stdout=subprocess.PIPE, text=True, cwd=ROOT)
    assert process.stdout is not None
    address = re.search(r"http://\S+", process.stdout.readline())
    assert address
    try:
        with httpx.Client(base_url=address[0], timeout=300) as client:
            yield client, process
    finally:
        process.terminate()
        process.wait(60)


def _layout(client: httpx.Client, job: int) -> httpx.Response:
    """A view with its layout."""
    return client.get(f"/api/jobs/{job}")


def _uses(
    client: httpx.Client, arts: dict[int, list[str]], chance: random.Random
) -> dict[str, Callable[[], httpx.Response]]:
    """What a client does, by kind; `arts` are the addresses of each job's pictures."""
    job = chance.choice(list(arts))
    changes = {"label": "gap", "changes": {"packing.gap_mm": chance.choice((2, 2.5, 3))}}
    return {
        "jobs": lambda: client.get("/api/jobs"),
        "view": lambda: client.get(f"/api/jobs/{job}"),
        "layout": lambda: _layout(client, job),
        "picture": lambda: client.get(f"{chance.choice(arts[job])}&px=800"),
        "choices": lambda: client.get(f"/api/jobs/{job}/choices/{chance.choice(('stock', 'paper', 'purpose'))}"),
        "change": lambda: client.post(f"/api/jobs/{job}/changes", json=changes),
        "undo": lambda: client.post(f"/api/jobs/{job}/undo"),
        "shapes": lambda: client.get(f"/api/jobs/{job}/items/1/shapes"),
        "pack": lambda: client.post(f"/api/jobs/{job}/pack/begin"),
        "count": lambda: client.get(f"/api/jobs/{job}/how-many?shape=circle&size_mm={chance.choice((20, 30, 44))}"),
    }


_SHARES = {
    "jobs": 10,
    "view": 40,
    "picture": 25,
    "choices": 8,
    "change": 6,
    "undo": 3,
    "shapes": 3,
    "pack": 4,
    "count": 1,
}


def thirty_clients(clients: int = CLIENTS, seconds: float = SECONDS) -> list[Row]:
    """Makers at their screens, each reading and changing as fast as answers come, with a breath between."""
    waits: dict[str, list[float]] = defaultdict(list)
    warm, broken = list[float](), list[str]()
    with workshop_file() as data, started(data, "demo") as (client, process):
        jobs = [job["id"] for job in client.get("/api/jobs").json()]
        arts = {job: [item["picture"] for item in plan_of(client, job)["items"]] for job in jobs}
        over = time.monotonic() + seconds

        def work(number: int) -> None:
            chance = random.Random(number)
            with httpx.Client(base_url=client.base_url, timeout=300) as mine:
                while time.monotonic() < over:
                    (kind,) = chance.choices(list(_SHARES), list(_SHARES.values()))
                    use = _uses(mine, arts, chance)[kind]
                    began = time.perf_counter()
                    answer = use()
                    waits[kind].append(time.perf_counter() - began)
                    if kind not in SLOW and time.monotonic() > over - seconds + WARM_S:
                        warm.append(waits[kind][-1])
                    if answer.status_code >= 500:
                        broken.append(f"{kind}: {answer.status_code}")
                    time.sleep(chance.uniform(0.2, 0.8))

        with ThreadPoolExecutor(clients) as pool:
            list(pool.map(work, range(clients)))
        memory = peak_mb(process.pid)
    quick = [wait for kind, found in waits.items() if kind not in SLOW for wait in found]
    slow = [wait for kind, found in waits.items() if kind in SLOW for wait in found]
    rows = [
        Row(f"{clients} clients for {seconds:g} s: requests", f"{len(quick) + len(slow)}"),
        Row("answers 5xx", f"{len(broken)} {' '.join(broken[:2])}".strip(), "0"),
        Row("all but counting and packing: median", f"{np.median(quick) * 1000:.0f} ms"),
        Row("all but counting and packing: 99 of 100", f"{np.percentile(quick, 99):.2f} s", "0.5 s"),
        Row(f"the same after the first {WARM_S:g} s", f"{np.percentile(warm or [0], 99):.2f} s", "0.5 s"),
        Row("counting and packing: slowest", f"{max(slow, default=0):.2f} s"),
        Row("server's memory at its most", f"{memory:.0f} MB"),
    ]
    by_kind = {kind: f"{np.percentile(found, 99):.2f}" for kind, found in sorted(waits.items())}
    return [*rows, Row("99 of 100 by kind, s", " ".join(f"{kind} {figure}" for kind, figure in by_kind.items()))]


def burst(files: int = BURST) -> list[Row]:
    """Sixty files sent at the same moment, while somebody else uses the page."""
    pictures = [hostile.photo(0.6, seed) for seed in range(files)]
    with workshop_file() as data, started(data) as (client, process):
        job = client.post("/api/jobs", json={"title": "Burst"}).json()["id"]
        over, waits = threading.Event(), []

        def look() -> None:
            with httpx.Client(base_url=client.base_url, timeout=300) as other:
                while not over.is_set():
                    began = time.perf_counter()
                    other.get("/api/jobs")
                    waits.append(time.perf_counter() - began)
                    time.sleep(0.05)

        def send(number: int) -> int:
            with httpx.Client(base_url=client.base_url, timeout=300) as mine:
                file = {"file": (f"photo-{number}.jpg", pictures[number])}
                return mine.post(f"/api/jobs/{job}/art", files=file).status_code

        watcher = threading.Thread(target=look)
        watcher.start()
        began = time.perf_counter()
        with ThreadPoolExecutor(files) as pool:
            codes = list(pool.map(send, range(files)))
        total = time.perf_counter() - began
        over.set()
        watcher.join()
        arrived = len({art for one in client.get("/api/jobs").json() for art in one["arts"]})
        return [
            Row(
                f"a burst of {files} uploads: taken", f"{codes.count(201)} of {files}, {arrived} in the job", f"{files}"
            ),
            Row("all of them", f"{total:.1f} s"),
            Row("the list of jobs meanwhile, slowest", f"{max(waits) * 1000:.0f} ms"),
            Row("server's memory at its most, afterwards", f"{peak_mb(process.pid):.0f}, {now_mb(process.pid):.0f} MB"),
        ]


def kills(times: int = KILLS) -> list[Row]:
    """Kill the server at random moments of writes; whatever it had answered must be there afterwards."""
    chance, lost, answered_in_all = random.Random(4), 0, 0
    with workshop_file() as data:
        with started(data) as (client, _process):
            job = client.post("/api/jobs", json={"title": "start"}).json()["id"]
        for _ in range(times):
            answered = ""
            with started(data) as (client, process):
                kept = client.get(f"/api/jobs/{job}").json()["job"]["document"]["title"]
                stop_at = time.monotonic() + chance.uniform(0.05, 0.5)
                killer = threading.Timer(stop_at - time.monotonic(), os.kill, (process.pid, signal.SIGKILL))
                killer.start()
                try:
                    while True:
                        title = f"{answered_in_all}"
                        change = {"label": "title", "changes": {"title": title}}
                        client.post(f"/api/jobs/{job}/changes", json=change).raise_for_status()
                        answered, answered_in_all = title, answered_in_all + 1
                except httpx.HTTPError:
                    killer.join()
            with started(data) as (client, _process):
                now = client.get(f"/api/jobs/{job}").json()["job"]["document"]["title"]
            # What was on its way may have arrived or not; what was answered must have.
            lost += int(now) < int(answered) if answered else now != kept
    return [
        Row(f"{times} kills while writing: answered changes lost", f"{lost}", "0"),
        Row("changes answered in all", f"{answered_in_all}"),
    ]


if __name__ == "__main__":
    from tests.bench.table import show

    os.chdir(ROOT)
    which = sys.argv[1:] or ["clients", "burst", "kills"]
    parts = {"clients": thirty_clients, "burst": burst, "kills": kills}
    print(json.dumps(which))
    for one in which:
        show(one, parts[one]())
