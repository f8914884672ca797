"""The web interface as the front end uses it, and as nobody should."""

import io
import json
import zipfile
from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from tests.conftest import disc_png
from tests.view import plan_of
from vamper.api.app import create_app
from vamper.api.openapi import description
from vamper.core.edge.kind import KINDS
from vamper.core.values.findings import Station
from vamper.formats.job_file import read_job
from vamper.services.workshop import Workshop


@pytest.fixture
def client(workshop: Workshop) -> Iterator[TestClient]:
    with TestClient(create_app(workshop), base_url="http://127.0.0.1:8484") as test_client:
        yield test_client


def add(client: TestClient, job: int, name: str = "disc.png", data: bytes | None = None):  # type: ignore[no-untyped-def]
    return client.post(f"/api/jobs/{job}/art", files={"file": (name, disc_png() if data is None else data)})


@pytest.fixture
def job(client: TestClient) -> int:
    number: int = client.post("/api/jobs", json={"title": "Discs"}).json()["id"]
    assert add(client, number).status_code == 201
    return number


def change(client: TestClient, job: int, changes: dict[str, object], numbers: list[int] | None = None):  # type: ignore[no-untyped-def]
    return client.post(f"/api/jobs/{job}/changes", json={"label": "test", "changes": changes, "numbers": numbers})


def test_from_a_picture_to_every_file(client: TestClient, job: int) -> None:
    change(client, job, {"quantity": 6}, [1])
    view = client.get(f"/api/jobs/{job}").json()
    assert view["problem"] is None
    assert len(plan_of(client, job)["sheets"][0]["placements"]) == 6
    assert "6 pieces of 1 design" in "".join(phrase["text"] for phrase in view["brief"])
    for name, start in (("print.pdf", b"%PDF"), ("cut.svg", b"<?xml"), ("cut.dxf", b"  0")):
        answer = client.get(f"/api/jobs/{job}/sheets/1/{name}")
        assert answer.content.startswith(start)
        assert "attachment" in answer.headers["content-disposition"]
    archive = zipfile.ZipFile(io.BytesIO(client.get(f"/api/jobs/{job}/hand-off.zip").content))
    assert {"job.json", "plan.json", "disc.png", "sheet-01-print.pdf"} <= set(archive.namelist())
    assert read_job(archive.read("job.json")).items[0].art == "disc.png"
    assert json.loads(archive.read("plan.json"))["items"][0]["art"] == "disc.png"
    # Reading changes nothing; that the job was handed off is said.
    assert not client.get("/api/jobs").json()[0]["handed_off_at"]
    assert client.post(f"/api/jobs/{job}/hand-off").status_code == 204
    assert client.get("/api/jobs").json()[0]["handed_off_at"]


@pytest.mark.parametrize(
    ("name", "data", "words"),
    [("empty.png", b"", "empty"), ("a.txt", b"x", "bring a PNG"), ("b.png", disc_png()[:300], "cut short")],
)
def test_bad_art_is_a_sentence_and_loses_nothing(
    client: TestClient, job: int, name: str, data: bytes, words: str
) -> None:
    answer = add(client, job, name, data)
    assert answer.status_code == 422
    assert answer.headers["content-type"] == "application/problem+json"
    assert words in answer.json()["detail"]
    assert len(plan_of(client, job)["items"]) == 1


def test_a_sheet_that_cannot_be_planned_says_so_and_keeps_the_job(client: TestClient, job: int) -> None:
    assert change(client, job, {"paper.width_mm": 20}).status_code == 200
    view = client.get(f"/api/jobs/{job}").json()
    assert "smaller than its marks" in view["problem"]
    assert view["parts"] is None
    client.post(f"/api/jobs/{job}/undo")
    assert plan_of(client, job)["sheets"]


@pytest.mark.parametrize("changes", [{"packing.gap_mm": -2}, {"spin": 3}, {"marks.count": 7}])
def test_bad_changes_are_problems(client: TestClient, job: int, changes: dict[str, object]) -> None:
    answer = change(client, job, changes)
    assert answer.status_code == 422
    assert answer.json()["where"]


def test_fixes_do_what_they_say(client: TestClient, job: int) -> None:
    change(client, job, {"edge.distance_mm": 0.2}, [1])
    (thin,) = (f for f in client.get(f"/api/jobs/{job}").json()["findings"] if f["code"] == "edge.border-thin")
    change(client, job, thin["fixes"][0]["changes"], [thin["item_number"]])
    codes = [finding["code"] for finding in client.get(f"/api/jobs/{job}").json()["findings"]]
    assert not [code for code in codes if code.startswith("edge.border")]


def test_too_big_offers_a_size_that_fits(client: TestClient, job: int) -> None:
    change(client, job, {"width_mm": 400}, [1])
    (big,) = (f for f in client.get(f"/api/jobs/{job}").json()["findings"] if f["code"] == "art.too-big")
    change(client, job, big["fixes"][0]["changes"], [1])
    view = client.get(f"/api/jobs/{job}").json()
    assert not [f for f in view["findings"] if f["severity"] == "stop"]
    assert plan_of(client, job)["items"][0]["size"]["width_mm"] > 150


def test_stations_and_choices(client: TestClient, job: int) -> None:
    view = client.get(f"/api/jobs/{job}").json()
    assert [s["station"] for s in view["stations"]] == [station.value for station in Station]
    for phrase in (p["key"] for p in view["brief"] if p["key"]):
        options = client.get(f"/api/jobs/{job}/choices/{phrase}").json()
        assert sum(option["chosen"] for option in options) in (0, 1)
        for option in options:
            assert option["consequence"]
            assert change(client, job, option["changes"]).status_code == 200


def test_previews_and_the_catalog(client: TestClient, job: int) -> None:
    art = plan_of(client, job)["items"][0]["art"]
    assert client.get(f"/api/art/{art}.png?px=64").content.startswith(b"\x89PNG")
    assert client.get("/api/art/nothing.png").status_code == 404
    assert {kind["key"] for kind in client.get("/api/catalog").json()["edge_kinds"]} == {kind.key for kind in KINDS}


@pytest.mark.parametrize("host", ["evil.example", "evil.example:8484", "127.0.0.1.evil.example", ""])
def test_only_its_own_names_are_answered(client: TestClient, host: str) -> None:
    assert client.get("/api/jobs", headers={"host": host}).status_code == 421


def test_changes_from_other_sites_are_refused(client: TestClient) -> None:
    assert client.post("/api/jobs", json={}, headers={"origin": "http://evil.example"}).status_code == 403
    assert client.post("/api/jobs", json={}, headers={"origin": "http://127.0.0.1:8484"}).status_code == 201


def test_oversized_bodies_are_refused(client: TestClient, job: int) -> None:
    answer = client.post(f"/api/jobs/{job}/art", headers={"content-length": str(70 * 2**20)}, content=b"x")
    assert answer.status_code == 413
    assert "64 MB" in answer.json()["detail"]


def test_what_is_not_there_is_said(client: TestClient, job: int) -> None:
    for address in ("/api/jobs/999", f"/api/jobs/{job}/sheets/9/print.pdf", "/api/nothing"):
        answer = client.get(address)
        assert answer.status_code == 404
        assert answer.json()["detail"]


def test_the_generated_client_is_current() -> None:
    kept = json.loads((Path(__file__).parents[2] / "ui" / "openapi.json").read_text())
    assert kept == json.loads(json.dumps(description())), "run `make client`"
