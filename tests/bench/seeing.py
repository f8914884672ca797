"""How long until something is there to see, and what it takes of memory: starts, first openings, a change, a check."""

import resource
import subprocess
import sys
import time
from pathlib import Path

import httpx
import numpy as np

from tests.bench.load import ROOT, started, workshop_file
from tests.bench.table import Row, now_mb, peak_mb
from tests.bench.view import filled
from tests.view import whole_view
from vamper.demo.drawings import lettering, svg

CHANGES = 12
# What is looked at of each job, beside the view itself.
_PARTS = ("cost", "reading", "finish", "printing", "bench", "misses", "program")


def changes() -> list[Row]:
    """A design's border on a sheet of 300 pieces: as it is dragged, and once it is let go."""
    with workshop_file() as data:
        job = filled(data)["300 pieces"]
        with started(data) as (client, _process):
            view = whole_view(client, job)
            client.post(f"/api/jobs/{job}/stop")
            saved, dragged = list[float](), list[float]()
            for number in range(CHANGES):
                distance = {"edge.distance_mm": 1.5 + 0.1 * number}
                parts = view["parts"]
                known = {one: parts[one] for one in ("sheet", "layout", "cut")}
                known["designs"] = list(parts["designs"].values())
                body = {"label": "border", "changes": distance, "numbers": [1], "known": known}
                began = time.perf_counter()
                answer = client.post(f"/api/jobs/{job}/changes", json=body)
                saved.append(time.perf_counter() - began)
                view = answer.raise_for_status().json()
                began = time.perf_counter()
                client.post(f"/api/jobs/{job}/items/2/trial", json={"changes": distance}).raise_for_status()
                dragged.append(time.perf_counter() - began)
    return [
        Row("300 pieces, a border changed: the sheet is there, median", f"{np.median(saved) * 1000:.0f} ms", "120 ms"),
        Row("the design's own look while it is dragged, median", f"{np.median(dragged) * 1000:.0f} ms", "60 ms"),
    ]


def starts() -> list[Row]:
    """From the command to the first answer, to the first page of each job, and what a job takes of memory."""
    with workshop_file() as data:
        with started(data, "demo") as (client, _process):
            # Worked out once, designs are kept.
            for job in client.get("/api/jobs").json():
                whole_view(client, job["id"])
        second = min(_first_answer(data) for _ in range(2))
        with started(data) as (client, process):
            opened = [_opened(client, job["id"]) for job in client.get("/api/jobs").json()]
            for job in client.get("/api/jobs").json():
                for part in _PARTS:
                    client.get(f"/api/jobs/{job['id']}/{part}")
            memory = f"{now_mb(process.pid):.0f}, at most {peak_mb(process.pid):.0f} MB"
    return [
        Row("the demo's second start until it answers", f"{second:.1f} s", "3 s"),
        Row(
            "first page of a job after a start: median, slowest",
            f"{np.median(opened):.2f}, {max(opened):.2f} s",
            "0.8 s",
        ),
        Row(f"server with {len(opened)} jobs looked through", memory, "350 MB"),
    ]


def _opened(client: httpx.Client, job: int) -> float:
    began = time.perf_counter()
    whole_view(client, job)
    return time.perf_counter() - began


def _first_answer(data: Path) -> float:
    began = time.perf_counter()
    with started(data, "demo") as (client, _process):
        client.get("/api/jobs").raise_for_status()
        return time.perf_counter() - began


def checked() -> list[Row]:
    """`vamper check` of a lettering, by the processor's time of it and of its children."""
    with workshop_file() as data:
        art = data.with_name("lettering.svg")
        art.write_bytes(svg(lettering()))
        words = [sys.executable, "-m", "vamper", "check", str(art), "--width", "60"]
        before = resource.getrusage(resource.RUSAGE_CHILDREN)
        subprocess.run(words, cwd=ROOT, check=True, stdout=subprocess.DEVNULL)
        after = resource.getrusage(resource.RUSAGE_CHILDREN)
    took = after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime
    return [Row("`vamper check` of a lettering, processor time", f"{took:.1f} s", "2 s")]


if __name__ == "__main__":
    from tests.bench.table import show

    show("Until it is there", [*changes(), *starts(), *checked()])
