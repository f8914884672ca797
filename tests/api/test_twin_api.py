"""Dry runs, the practice bench and the photo check over HTTP; and what is refused."""

import io
import time
from collections.abc import Iterator

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from tests.conftest import disc_png
from vamper.api.app import create_app
from vamper.services.workshop import Workshop

SMALL = {"label": "small", "changes": {"paper": {"width_mm": 150, "height_mm": 190}}}


@pytest.fixture
def client(workshop: Workshop) -> Iterator[TestClient]:
    with TestClient(create_app(workshop), base_url="http://127.0.0.1:8484") as test_client:
        yield test_client


@pytest.fixture
def job(client: TestClient, workshop: Workshop) -> int:
    number: int = client.post("/api/jobs", json={"title": "Discs"}).json()["id"]
    client.post(f"/api/jobs/{number}/art", files={"file": ("disc.png", disc_png())})
    six = {"label": "six", "changes": {"quantity": 6, "longest_mm": 40}, "numbers": [1]}
    client.post(f"/api/jobs/{number}/changes", json=six)
    client.post(f"/api/jobs/{number}/changes", json=SMALL)
    workshop.repacking.begin(workshop.jobs.get(number))
    workshop.packing.stop(number)
    return number


def finished(client: TestClient, job: int, **asked: object):  # type: ignore[no-untyped-def]
    assert client.post(f"/api/jobs/{job}/dry-run", json=asked).status_code == 202
    for _ in range(600):
        told = client.get(f"/api/jobs/{job}/dry-run").json()
        if not told["running"]:
            return told
        time.sleep(0.05)
    raise AssertionError("never done")


def rail(client: TestClient, job: int) -> dict[str, str]:
    stations = client.get(f"/api/jobs/{job}").json()["stations"]
    (found,) = (one for one in stations if one["station"] == "dry-run")
    return found


def test_a_dry_run_goes_round_and_its_remedy_is_taken(client: TestClient, job: int) -> None:
    assert rail(client, job)["state"] == "not-yet"
    faults = client.get("/api/faults").json()
    assert {one["device"] for one in faults} == {"printer", "sensor", "cutter"}
    told = finished(client, job, runs=40, unsure=False, faults=["not-calibrated"])
    outcome = told["outcome"]
    assert outcome["fresh"]
    assert outcome["faults"] == ["not-calibrated"]
    assert rail(client, job)["figure"].endswith("in 100")
    sheet = outcome["sheets"][0]
    assert len(sheet["pieces"]) == 6
    assert all(bool(piece["path"]) == (piece["spoiled"] is not None) for piece in sheet["pieces"])
    image = client.get(
        f"/api/jobs/{job}/dry-run/sheets/1/result.jpg",
        params={"number": outcome["number"], "ppi": 100, "box": "10,10,50,40"},
    )
    assert Image.open(io.BytesIO(image.content)).size == (197, 158)
    assert client.get(f"/api/jobs/{job}/dry-run/sheets/1/result.jpg", params={"number": 999}).status_code == 404
    client.post(f"/api/jobs/{job}/changes", json={"label": "b", "changes": {"edge.distance_mm": 4}, "numbers": [1]})
    assert not client.get(f"/api/jobs/{job}/dry-run").json()["outcome"]["fresh"]
    assert rail(client, job)["detail"] == "changed since"
    assert client.delete(f"/api/jobs/{job}/dry-run").status_code == 204


def test_a_photo_is_held_against_the_plan(client: TestClient, job: int) -> None:
    sample = client.get(f"/api/jobs/{job}/sheets/1/sample-print.jpg")
    assert sample.status_code == 200
    files = {"file": ("photo.jpg", sample.content)}
    found = client.post(f"/api/jobs/{job}/sheets/1/photo", files=files)
    assert found.status_code == 201
    assert [piece["state"] for piece in found.json()["pieces"]].count("missing") == 1
    number = found.json()["number"]
    assert client.get(f"/api/jobs/{job}/photo/{number}.jpg").headers["content-type"] == "image/jpeg"
    assert client.get(f"/api/jobs/{job}/photo").json()["number"] == number
    upside = io.BytesIO()
    Image.open(io.BytesIO(sample.content)).rotate(180).save(upside, "JPEG")
    turned = client.post(f"/api/jobs/{job}/sheets/1/photo", files={"file": ("p.jpg", upside.getvalue())}).json()
    assert [piece["state"] for piece in turned["pieces"]].count("missing") == 1
    corners = "0.05,0.05,0.95,0.05,0.95,0.95,0.05,0.95"
    helped = client.post(f"/api/jobs/{job}/sheets/1/photo", files=files, data={"corners": corners})
    assert helped.status_code == 201


@pytest.mark.parametrize(("size", "says"), [((400, 300), "at least three of its marks"), ((10001, 10001), "pixel")])
def test_a_picture_that_cannot_be_used_is_a_sentence(
    client: TestClient, job: int, size: tuple[int, int], says: str
) -> None:
    out = io.BytesIO()
    Image.new("L", size, 128).save(out, "PNG")
    answer = client.post(f"/api/jobs/{job}/sheets/1/photo", files={"file": ("x.png", out.getvalue())})
    assert answer.status_code == 422
    assert says in answer.json()["detail"]


def test_another_jobs_sheet_is_told_apart(client: TestClient, job: int, workshop: Workshop) -> None:
    sample = client.get(f"/api/jobs/{job}/sheets/1/sample-print.jpg").content
    other: int = client.post("/api/jobs", json={"title": "Others"}).json()["id"]
    stripes = np.zeros((200, 600, 4), np.uint8)
    stripes[:, ::40] = stripes[:, 1::40] = (220, 180, 0, 255)
    stripes[90:110] = (220, 180, 0, 255)
    out = io.BytesIO()
    Image.fromarray(stripes).save(out, "PNG")
    client.post(f"/api/jobs/{other}/art", files={"file": ("stripes.png", out.getvalue())})
    client.post(f"/api/jobs/{other}/changes", json={"label": "w", "changes": {"width_mm": 110}, "numbers": [1]})
    client.post(f"/api/jobs/{other}/changes", json=SMALL)
    workshop.repacking.begin(workshop.jobs.get(other))
    workshop.packing.stop(other)
    answer = client.post(f"/api/jobs/{other}/sheets/1/photo", files={"file": ("photo.jpg", sample)})
    assert answer.status_code == 422
    assert "not this one" in answer.json()["detail"]


def test_pieces_on_a_table_and_their_misses(client: TestClient, job: int) -> None:
    found = client.post(f"/api/jobs/{job}/sheets/1/sample", json={"kind": "pieces"})
    assert found.status_code == 201
    loose = found.json()["loose"]
    assert len(loose) == 6
    assert found.json()["unknown"] == 0
    assert all(0.9 < piece["area_share"] < 1.1 for piece in loose)
    plain = client.post(
        f"/api/jobs/{job}/sheets/1/photo", files={"file": ("x.png", disc_png())}, data={"kind": "pieces"}
    )
    assert plain.status_code == 422
    assert "pixels an inch" in plain.json()["detail"]


def test_the_practice_bench_over_http(client: TestClient, job: int) -> None:
    assert client.get(f"/api/jobs/{job}/practice/bar-across.jpg").status_code == 422
    no_box = f"/api/jobs/{job}/dry-run/sheets/1/result.jpg?number=1&box=1.2.3,4,5,6"
    assert client.get(no_box).status_code == 422
    assert client.post(f"/api/jobs/{job}/practice").status_code == 204
    view = client.get(f"/api/jobs/{job}").json()
    assert "simulated" in "".join(phrase["text"] for phrase in view["brief"])
    assert view["parts"]["new_sheet"]["marks"]
    for side in ("across", "down"):
        bar = client.get(f"/api/jobs/{job}/practice/bar-{side}.jpg")
        assert bar.headers["content-type"] == "image/jpeg"
    ladder = client.post(f"/api/jobs/{job}/ladders", json={"cut": "kiss", "passes": 1}).json()["id"]
    assert client.get(f"/api/jobs/{job}/practice/records/{ladder}/drops/0.jpg").status_code == 200
    assert client.get(f"/api/jobs/{job}/practice/vernier.jpg", params={"box": "20,20,30,30"}).status_code == 200
