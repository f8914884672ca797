"""Sheets over the wire: pieces in hand, layouts, machines, fillers; refusals are sentences."""

from collections.abc import Iterator
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.api.test_api import add, change
from tests.view import figures_of, plan_of
from vamper.api.app import create_app
from vamper.services.workshop import Workshop


@pytest.fixture
def client(workshop: Workshop) -> Iterator[TestClient]:
    with TestClient(create_app(workshop), base_url="http://127.0.0.1:8484") as test_client:
        yield test_client


@pytest.fixture
def job(client: TestClient) -> int:
    number: int = client.post("/api/jobs", json={"title": "Discs"}).json()["id"]
    assert add(client, number).status_code == 201
    change(client, number, {"quantity": 6, "longest_mm": 40}, [1])
    return number


def plan(client: TestClient, job: int) -> dict[str, Any]:
    client.get(f"/api/jobs/{job}")
    client.post(f"/api/jobs/{job}/stop")
    return plan_of(client, job)


def act(client: TestClient, job: int, layout: str, **action: Any):  # type: ignore[no-untyped-def]
    return client.post(f"/api/jobs/{job}/hand", json={"layout": layout, "sheet": 0, **action})


def test_a_piece_in_hand_is_checked_and_dropped(client: TestClient, job: int) -> None:
    before = plan(client, job)
    first = before["sheets"][0]["placements"][0]
    piece = {"index": 0, "x_mm": first["x_mm"] + 20, "y_mm": first["y_mm"], "turn_deg": 0}
    body = {"layout": before["packing"]["layout"], "sheet": 0, "pieces": [piece], "slide": True}
    checked = client.post(f"/api/jobs/{job}/hand/check", json=body).json()
    assert not checked["free"]
    assert any(one["broken"] for one in checked["distances"])
    nudge = {"action": "nudge", "indexes": [5], "dx_mm": 0, "dy_mm": 4}
    done = act(client, job, before["packing"]["layout"], **nudge)
    assert done.status_code == 200
    after = plan(client, job)
    assert after["packing"]["held"] == 6
    assert after["sheets"][0]["placements"][5]["pin"] == "hand"
    assert done.json()["job"]["undo"] == "nudge a piece"
    # The layout that was seen is gone; nothing is applied to another one.
    refused = act(client, job, before["packing"]["layout"], **nudge)
    assert refused.status_code == 422
    assert "better layout" in refused.json()["detail"]


@pytest.mark.parametrize(
    ("action", "words"),
    [
        ({"action": "swap", "indexes": [0]}, "two pieces"),
        ({"action": "align", "indexes": [0], "side": "left"}, "at least 2"),
        ({"action": "nudge", "indexes": [77], "dx_mm": 1, "dy_mm": 0}, "no longer on the sheet"),
        ({"action": "juggle", "indexes": [0]}, "must be one of 'drop'"),
        ({"action": "drop", "pieces": [{"index": 0, "x_mm": -900, "y_mm": 0, "turn_deg": 0}]}, "no free place"),
    ],
)
def test_what_cannot_be_done_by_hand_is_a_sentence(
    client: TestClient, job: int, action: dict[str, Any], words: str
) -> None:
    answer = act(client, job, plan(client, job)["packing"]["layout"], **action)
    assert answer.status_code == 422
    assert words in answer.json()["detail"]


def test_layouts_counts_and_bounds(client: TestClient, job: int) -> None:
    assert figures_of(client, job)["sheets_at_least"] == 1
    assert client.post(f"/api/jobs/{job}/layouts", json={"name": "one"}).status_code == 201
    names = [one["name"] for one in client.get(f"/api/jobs/{job}/layouts").json()]
    assert names == ["on the table", "one", "straight rows"]
    assert client.post(f"/api/jobs/{job}/layouts/keep", json={"name": "two"}).status_code == 404
    assert client.post(f"/api/jobs/{job}/layouts/remove", json={"name": "one"}).status_code == 204
    counted = client.get(f"/api/jobs/{job}/how-many", params={"shape": "circle", "size_mm": 40}).json()
    assert counted["pieces"] > 15
    assert client.get(f"/api/jobs/{job}/how-many/1").json()["rows"]
    assert client.get(f"/api/jobs/{job}/how-many/9").status_code == 422


def test_machines_over_the_wire(client: TestClient, job: int) -> None:
    cutters = client.get("/api/cutters").json()
    profile = cutters[0]["profile"]
    profile["cutter"]["mat_mm"] = {"width": 150, "height": 200}
    assert client.put(f"/api/cutters/{cutters[0]['id']}", json=profile).status_code == 200
    bounds = {bound["name"]: bound["reason"] for bound in plan(client, job)["bounds"]}
    assert "150 × 200 mm" in bounds["mat"]
    profile["cutter"]["reach_mm"] = {"width": -1, "height": 200}
    assert client.put(f"/api/cutters/{cutters[0]['id']}", json=profile).status_code == 422
    printer = client.post("/api/printers", json={"name": "a second", "printer": {}}).json()["id"]
    assert client.delete(f"/api/printers/{printer}").status_code == 204


def test_backs_fillers_and_scaling(client: TestClient, job: int) -> None:
    assert client.post(f"/api/jobs/{job}/items/1/back").json()["document"]["items"][1]["back_of"] == 1
    sources = client.get(f"/api/jobs/{job}/filler-sources").json()
    assert [one["is_own"] for one in sources] == [True]
    filled = client.post(
        f"/api/jobs/{job}/fillers", json={"job_id": job, "number": 1, "least_mm": 12, "most_mm": 18}
    ).json()
    assert filled["document"]["packing"]["fill"]
    assert client.get(f"/api/jobs/{job}/scale-to-fill").json() is None
    assert client.post(f"/api/jobs/{job}/scale-to-fill", json={"sheets": 2}).json()["state"] == "working"
    assert client.post(f"/api/jobs/{job}/scale-to-fill/stop").status_code == 202
    refused = client.post(f"/api/jobs/{job}/items/1/by-colour")
    assert "no two flat colours" in refused.json()["detail"]
