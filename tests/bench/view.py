"""What a view costs: the head and every part of it, after a change and again, for jobs of many pieces or designs."""

import io
import time
from pathlib import Path

import httpx
import numpy as np
from PIL import Image

from tests.bench.load import started, workshop_file
from tests.bench.table import Row
from tests.view import whole_view
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop


def _star(seed: int) -> bytes:
    """A small picture of a rough star, another one for each seed."""
    chance = np.random.default_rng(seed)
    y, x = np.mgrid[0:200, 0:200] - 100.0
    turn = np.arctan2(y, x)
    radius = 60 + 12 * np.sin((3 + seed % 5) * turn + chance.uniform(0, 6)) + 8 * np.sin(11 * turn + seed)
    rgba = np.zeros((200, 200, 4), np.uint8)
    rgba[..., :3] = chance.integers(20, 200, 3)
    rgba[..., 3] = np.where(np.hypot(x, y) < radius, 255, 0)
    out = io.BytesIO()
    Image.fromarray(rgba).save(out, format="PNG")
    return out.getvalue()


def filled(path: Path) -> dict[str, int]:
    """A workshop with a job of 300 pieces, one of 5,000, and one of 200 designs; their numbers."""
    workshop = Workshop(path, ProcessNester(), 1)
    jobs = {}
    for name, designs, pieces, size in (("300 pieces", 6, 50, 20), ("5,000 pieces", 5, 1000, 18)):
        job = jobs[name] = workshop.jobs.create(name)
        arts = [workshop.arts.take_in(f"{name} {n}.png", _star(n)).digest for n in range(designs)]
        rows = [{"name": f"star {n}", "art": art, "longest_mm": size, "quantity": pieces} for n, art in enumerate(arts)]
        workshop.jobs.add_items(job, "add", rows)
    job = jobs["200 designs"] = workshop.jobs.create("200 designs")
    arts = [workshop.arts.take_in(f"design {n}.png", _star(n)).digest for n in range(200)]
    workshop.jobs.add_items(
        job, "add", [{"name": f"design {n}", "art": art, "longest_mm": 20, "quantity": 2} for n, art in enumerate(arts)]
    )
    workshop.close()
    return jobs


def _timed(client: httpx.Client, job: int) -> float:
    begun = time.perf_counter()
    whole_view(client, job)
    return time.perf_counter() - begun


def views() -> list[Row]:
    """The whole view of each job: after a change of one design's name, after a change of the gap, and once more."""
    rows = []
    with workshop_file() as data:
        jobs = filled(data)
        with started(data) as (client, _process):
            # All are opened first: what the server warms up after its start is none of the changes'.
            opened = {job: _timed(client, job) for job in jobs.values()}
            for name, job in jobs.items():

                def after(changes: dict[str, object], numbers: list[int] | None = None, job: int = job) -> float:
                    body = {"label": "bench", "changes": changes, "numbers": numbers}
                    client.post(f"/api/jobs/{job}/changes", json=body).raise_for_status()
                    return _timed(client, job)

                named = after({"name": "another name"}, [1])
                moved = after({"packing.gap_mm": 2.5})
                again = min(_timed(client, job) for _ in range(3))
                figures = f"{opened[job]:.2f} s, {named * 1000:.0f}, {moved * 1000:.0f}, {again * 1000:.0f} ms"
                rows.append(Row(f"{name}: first, a name changed, the gap changed, nothing changed", figures))
    return rows


def openings() -> list[Row]:
    """Each demo job opened for the first time after a start."""
    with workshop_file() as data:
        with started(data, "demo") as (client, _process):
            for job in client.get("/api/jobs").json():
                whole_view(client, job["id"])
        found = []
        with started(data) as (client, _process):
            for job in client.get("/api/jobs").json():
                found.append((_timed(client, job["id"]), job["title"]))
        return [Row(f"first opening: {title}", f"{seconds:.2f} s", "0.4 s") for seconds, title in sorted(found)]


if __name__ == "__main__":
    from tests.bench.table import show

    show("Views", [*views(), *openings()])
