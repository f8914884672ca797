"""What a person at the screen waits for, measured over HTTP against a server of its own."""

import io
import os
import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

import httpx
import numpy as np
from PIL import Image

from tests.bench.load import started, workshop_file
from tests.bench.speed import blossom
from tests.bench.table import Row, now_mb, peak_mb
from tests.view import plan_of, whole_view

ROOT = Path(__file__).parents[2]
PICTURES = 40


@contextmanager
def server() -> Iterator[tuple[httpx.Client, int]]:
    """A client of a fresh, empty workshop, and the server's process number."""
    with workshop_file() as data, started(data) as (client, process):
        yield client, process.pid


def _upload(client: httpx.Client, job: int, name: str, data: bytes) -> int:
    answer = client.post(f"/api/jobs/{job}/art", files={"file": (name, data)})
    return answer.status_code


def slider() -> list[Row]:
    """From a moved slider to the new edge of a 9-megapixel art, as the screen asks for it."""
    with server() as (client, process):
        job = client.post("/api/jobs", json={"title": "Bench"}).json()["id"]
        picture = blossom(3000)
        started = time.perf_counter()
        assert _upload(client, job, "blossom.png", picture) == 201
        upload = time.perf_counter() - started
        started = time.perf_counter()
        whole_view(client, job)
        first = time.perf_counter() - started
        client.post(f"/api/jobs/{job}/stop")
        waits = []
        for distance in np.linspace(1.05, 6.05, 21):
            started = time.perf_counter()
            changes = {"edge.distance_mm": float(distance)}
            client.post(f"/api/jobs/{job}/items/1/trial", json={"changes": changes}).raise_for_status()
            waits.append(time.perf_counter() - started)
        started = time.perf_counter()
        whole_view(client, job)
        warm = time.perf_counter() - started
        return [
            Row("9-megapixel art: upload until it is a design", f"{upload:.2f} s"),
            Row("its screen, cold (outline, edge, findings, rows)", f"{first:.2f} s"),
            Row("its screen, warm", f"{warm * 1000:.0f} ms"),
            Row("a slider's movement to the new edge, median", f"{np.median(waits) * 1000:.0f} ms", "150 ms"),
            Row("a slider's movement to the new edge, slowest", f"{max(waits) * 1000:.0f} ms"),
            Row("server's memory at its most", f"{peak_mb(process):.0f} MB"),
        ]


def _noisy(seed: int) -> bytes:
    """A picture of about 2 MB."""
    chance = np.random.default_rng(seed)
    rgba = chance.integers(0, 255, (820, 820, 4), dtype=np.uint8)
    y, x = np.mgrid[0:820, 0:820] - 410
    rgba[..., 3] = np.where(np.hypot(x, y) < 390, 255, 0)
    out = io.BytesIO()
    Image.fromarray(rgba).save(out, format="PNG", compress_level=1)
    return out.getvalue()


def many() -> list[Row]:
    """Forty pictures of 2 MB, two at a time as the screen sends them, while somebody else uses the page."""
    pictures = [_noisy(seed) for seed in range(PICTURES)]
    with server() as (client, process):
        job = client.post("/api/jobs", json={"title": "Forty"}).json()["id"]
        over, waits = threading.Event(), []

        def look() -> None:
            with httpx.Client(base_url=client.base_url, timeout=300) as other:
                while not over.is_set():
                    started = time.perf_counter()
                    other.get("/api/jobs")
                    waits.append(time.perf_counter() - started)
                    time.sleep(0.05)

        watcher = threading.Thread(target=look)
        watcher.start()
        started = time.perf_counter()
        with ThreadPoolExecutor(2) as pool:
            codes = list(pool.map(lambda n: _upload(client, job, f"noise-{n}.png", pictures[n]), range(PICTURES)))
        total = time.perf_counter() - started
        over.set()
        watcher.join()
        items = plan_of(client, job)["items"]
        size = sum(map(len, pictures)) / len(pictures) / 2**20
        return [
            Row(f"{PICTURES} pictures of {size:.1f} MB at once: arrived", f"{codes.count(201)} of {PICTURES}"),
            Row("of these, designs in the job", f"{len(items)}", f"{PICTURES}"),
            Row("all of them", f"{total:.1f} s"),
            Row("another request meanwhile, median", f"{np.median(waits) * 1000:.0f} ms"),
            Row("another request meanwhile, slowest", f"{max(waits) * 1000:.0f} ms"),
            Row(
                "server's memory at its most, afterwards", f"{peak_mb(process):.0f}, {now_mb(process):.0f} MB", "600 MB"
            ),
        ]


if __name__ == "__main__":
    from tests.bench.table import show

    os.chdir(ROOT)
    show("Over HTTP", [*slider(), *many()])
