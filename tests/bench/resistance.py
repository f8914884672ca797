"""What hostile and heavy art does to a running server: what becomes of it, how soon, and who waits meanwhile."""

import threading
import time
from collections.abc import Callable

import httpx
import numpy as np

from tests import hostile
from tests.bench.load import started, workshop_file
from tests.bench.table import Row, peak_mb

# What was seen of each before art was read in child processes.
BEFORE = {
    "groups.svg": "the server ended",
    "claims.svg": "the server ended",
    "thin.svg": "the server ended",
    "thin-box.svg": "17 GB",
    "thick-lines.svg": "frozen for a minute and more",
    "blurred.svg": "frozen for a minute and more",
    "copies.svg": "frozen for a minute and more",
    "noise.png": "7 GB and minutes",
    "endless.pdf": "all PDFs waited",
    "large.png": "1.9 GB",
}


_HEAVY: dict[str, Callable[[], bytes]] = {
    "endless.pdf": hostile.endless_pdf,
    "large.png": lambda: hostile.plain_png(99),
    "photo.jpg": lambda: hostile.photo(10),
    "segments.svg": lambda: hostile.many_segments(200_000),
    "pages.pdf": lambda: hostile.pages_pdf(60),
    "shadow.svg": lambda: hostile.filtered('<feDropShadow dx="2" dy="2" stdDeviation="3"/>'),
}


def hostile_art() -> list[Row]:
    """Each file sent to a server while somebody else asks for the list of jobs all the time."""
    drawn = {name: make for name, (make, _) in hostile.REFUSED.items()} | _HEAVY
    files = {name: make() for name, make in drawn.items()}
    rows, every_wait = [], []
    with workshop_file() as data, started(data) as (client, process):
        job = client.post("/api/jobs", json={"title": "Hostile"}).json()["id"]
        for name, content in files.items():
            over, waits = threading.Event(), [0.0]

            def look(over: threading.Event = over, waits: list[float] = waits) -> None:
                with httpx.Client(base_url=client.base_url, timeout=300) as other:
                    while not over.is_set():
                        began = time.perf_counter()
                        other.get("/api/jobs")
                        waits.append(time.perf_counter() - began)
                        time.sleep(0.01)

            watcher = threading.Thread(target=look)
            watcher.start()
            began = time.perf_counter()
            answer = client.post(f"/api/jobs/{job}/art", files={"file": (name, content)})
            seconds = time.perf_counter() - began
            over.set()
            watcher.join()
            every_wait += waits
            what = "taken" if answer.status_code == 201 else f"{answer.status_code}"
            figure = f"{what} in {seconds:.2f} s, others waited {max(waits) * 1000:.0f} ms"
            rows.append(Row(name, figure, f"before: {BEFORE[name]}" if name in BEFORE else ""))
        alive = client.get(f"/api/jobs/{job}").status_code == 200 and process.poll() is None
        memory = peak_mb(process.pid)
    return [
        *rows,
        Row("the server is alive, its memory at its most", f"{'yes' if alive else 'no'}, {memory:.0f} MB"),
        Row("another request while any of it is read: 99 of 100", f"{np.percentile(every_wait, 99) * 1000:.0f} ms"),
        Row("another request while any of it is read: slowest", f"{max(every_wait) * 1000:.0f} ms", "150 ms"),
    ]


if __name__ == "__main__":
    from tests.bench.table import show

    show("Hostile art over HTTP", hostile_art())
