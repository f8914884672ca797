"""Pieces in hand: checks a second over HTTP on a sheet of a hundred pieces, and other requests while two jobs pack."""

import math
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from statistics import median

import httpx

from tests.bench.table import Row
from tests.screens.conftest import running
from tests.view import whole_view
from vamper.demo.art_files import ART

_SECONDS = 5.0


@contextmanager
def _demo() -> Iterator[str]:
    with tempfile.TemporaryDirectory() as folder, running("demo", Path(folder) / "demo.db") as base:
        yield base


def _change(base: str, job: int, **body: object) -> None:
    httpx.post(f"{base}/api/jobs/{job}/changes", json={"label": "bench", **body}).raise_for_status()


def hundred_pieces(client: httpx.Client, base: str) -> tuple[int, dict[str, object]]:
    """A job with a hundred pieces or more on one sheet, and its view."""
    job = client.post(f"{base}/api/jobs/4/copy").json()["id"]
    view = client.get(f"{base}/api/jobs/{job}").json()
    for item in view["job"]["document"]["items"]:
        changes = {"longest_mm": 14, "size_over": "ink", "quantity": 16, "cut": "kiss", "edge.distance_mm": 1}
        _change(base, job, numbers=[item["number"]], changes=changes)
    while True:
        view = whole_view(client, job)
        if view["plan"]["packing"]["state"] != "searching":
            return job, view
        client.post(f"{base}/api/jobs/{job}/stop")
        time.sleep(0.2)


def _ms(seconds: list[float]) -> str:
    return f"{median(seconds) * 1000:.0f} ms, {max(seconds) * 1000:.0f} ms"


def _grown(client: httpx.Client, base: str) -> list[float]:
    """Two each of eighteen designs, of which every second piece is taken off; others grow into the room."""
    job = client.post(f"{base}/api/jobs", json={"title": "Eighteen"}).json()["id"]
    for name, drawn in list(ART.items())[:18]:
        client.post(f"{base}/api/jobs/{job}/art", files={"file": (name, drawn())}).raise_for_status()
    items = client.get(f"{base}/api/jobs/{job}").json()["job"]["document"]["items"]
    changes = {"longest_mm": 22, "size_over": "ink", "quantity": 2, "cut": "kiss"}
    _change(base, job, numbers=[item["number"] for item in items], changes=changes)
    client.post(f"{base}/api/jobs/{job}/stop")

    def act(action: str, indexes: list[int]) -> httpx.Response:
        plan = whole_view(client, job)["plan"]
        assert isinstance(plan, dict)
        body = {"action": action, "layout": plan["packing"]["layout"], "sheet": 0, "indexes": indexes}
        return client.post(f"{base}/api/jobs/{job}/hand", json=body)

    act("take off", list(range(0, 36, 2))).raise_for_status()
    took = []
    for index in range(8):
        answer = act("grow", [index])
        if answer.is_success:
            took.append(answer.elapsed.total_seconds())
    assert len(took) > 3
    return took


def checks() -> list[Row]:
    """A piece is carried in a circle over its neighbours; every step is checked, and where it would slide to found."""
    with _demo() as base, httpx.Client(base_url=base, timeout=60) as client:
        job, view = hundred_pieces(client, base)
        plan = view["plan"]
        assert isinstance(plan, dict)
        placements = plan["sheets"][0]["placements"]
        middle = placements[len(placements) // 2]
        took = []
        ends_at = time.perf_counter() + _SECONDS
        while time.perf_counter() < ends_at:
            angle = len(took) / 10
            piece = {
                "index": len(placements) // 2,
                "x_mm": middle["x_mm"] + 12 * math.cos(angle),
                "y_mm": middle["y_mm"] + 12 * math.sin(angle),
                "turn_deg": middle["turn_deg"],
            }
            body = {"layout": plan["packing"]["layout"], "sheet": 0, "pieces": [piece], "slide": True}
            started = time.perf_counter()
            client.post(f"{base}/api/jobs/{job}/hand/check", json=body).raise_for_status()
            took.append(time.perf_counter() - started)
        started = time.perf_counter()
        body = {"action": "drop", "layout": plan["packing"]["layout"], "sheet": 0, "pieces": [piece]}
        answer = client.post(f"{base}/api/jobs/{job}/hand", json=body)
        dropped = time.perf_counter() - started
        started = time.perf_counter()
        whole_view(client, job)
        read = time.perf_counter() - started
        grew = _grown(client, base)
        return [
            Row("one of 18 designs grown into its gap, median and slowest", _ms(grew), "150 ms"),
            Row(f"checks a second, {len(placements)} pieces on the sheet", f"{len(took) / sum(took):.0f}", "20"),
            Row("one check, median and slowest", f"{median(took) * 1000:.0f} ms, {max(took) * 1000:.0f} ms"),
            Row(
                f"drop with slide ({answer.status_code}), then the view",
                f"{dropped * 1000:.0f} ms, {read * 1000:.0f} ms",
            ),
        ]


def two_jobs_packing() -> list[Row]:
    """Other requests while two long jobs pack."""
    with _demo() as base, httpx.Client(timeout=120) as client:
        jobs = [client.post(f"{base}/api/jobs/4/copy").json()["id"] for _ in range(2)]
        for job in jobs:
            _change(base, job, numbers=[1, 2, 4, 5, 6, 7], changes={"quantity": 25})
        threads = [
            threading.Thread(target=lambda job=job: httpx.get(f"{base}/api/jobs/{job}", timeout=120)) for job in jobs
        ]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        paths = ("/api/jobs", "/api/jobs/3", "/api/catalog")
        for path in paths:
            client.get(base + path).raise_for_status()
        took = []
        ends_at = time.perf_counter() + 12
        while time.perf_counter() < ends_at:
            for path in paths:
                started = time.perf_counter()
                client.get(base + path).raise_for_status()
                took.append(time.perf_counter() - started)
            time.sleep(0.05)
        took.sort()
        return [
            Row(
                "other requests while two jobs pack: median, 99th, slowest",
                f"{median(took) * 1000:.0f}, {took[int(len(took) * 0.99)] * 1000:.0f}, {took[-1] * 1000:.0f} ms",
                "200 ms",
            )
        ]
