"""A new workshop: what jobs are made on until somebody said, what they are called, and what the list shows of them."""

import pytest
from fastapi.testclient import TestClient

from tests.api.test_api import add, change, client, job

__all__ = ["client", "job"]


def brief_of(client: TestClient, job: int) -> str:
    return "".join(phrase["text"] for phrase in client.get(f"/api/jobs/{job}").json()["brief"])


def test_machines_that_nobody_named_are_said_to_be_taken_for_now(client: TestClient, job: int) -> None:
    assert client.get("/api/usual").json() == {
        "printer_id": None,
        "cutter_id": None,
        "makes": "outdoors",
        "asked": False,
        "unit": None,
    }
    assert brief_of(client, job).count("(assumed for now)") == 2
    client.put("/api/usual", json={"printer_id": 2, "cutter_id": 3, "asked": True})
    assert "(assumed for now)" not in brief_of(client, job)
    new = client.post("/api/jobs", json={}).json()["id"]
    document = client.get(f"/api/jobs/{new}").json()["job"]["document"]
    assert (document["printer_id"], document["cutter_id"]) == (2, 3)


def test_the_first_machine_that_is_chosen_for_a_job_is_the_answer(client: TestClient, job: int) -> None:
    change(client, job, {"cutter_id": 2})
    assert client.get("/api/usual").json() == {
        "printer_id": None,
        "cutter_id": 2,
        "makes": "outdoors",
        "asked": False,
        "unit": None,
    }
    # Another choice for one job changes nothing for the others.
    change(client, job, {"cutter_id": 3})
    assert client.get("/api/usual").json()["cutter_id"] == 2


@pytest.mark.parametrize("usual", [{"printer_id": 99}, {"cutter_id": 99}, {"cutter_id": 0}, {"scanner_id": 1}])
def test_machines_that_are_not_there_are_no_answer(client: TestClient, usual: dict[str, int]) -> None:
    assert client.put("/api/usual", json=usual).status_code in (404, 422)
    assert client.get("/api/usual").json()["cutter_id"] is None


def test_a_machine_that_is_removed_is_no_longer_the_usual_one(client: TestClient) -> None:
    client.put("/api/usual", json={"cutter_id": 3})
    client.delete("/api/cutters/3")
    assert client.get("/api/usual").json()["cutter_id"] is None


def test_a_job_without_a_title_is_called_after_its_first_art(client: TestClient) -> None:
    number = client.post("/api/jobs", json={}).json()["id"]
    add(client, number, "tide_clock.png")
    add(client, number, "rope.png")
    titles = [client.get("/api/jobs").json()[0]["title"]]
    client.post(f"/api/jobs/{number}/remove-items", json={"numbers": [1, 2]})
    add(client, number, "kelp.png")
    titles.append(client.get("/api/jobs").json()[0]["title"])
    assert titles == ["Tide clock", "Tide clock"]
    named = client.post("/api/jobs", json={"title": "For the gate"}).json()["id"]
    add(client, named, "tide_clock.png")
    assert client.get("/api/jobs").json()[0]["title"] == "For the gate"


def test_the_list_shows_the_fullest_sheet_of_a_job(client: TestClient, job: int) -> None:
    change(client, job, {"quantity": 40}, [1])
    glance = client.get(f"/api/jobs/{job}/glance").json()
    assert len(glance["pieces"]) % 4 == 0
    assert 0 < len(glance["pieces"]) // 4 < 40
    assert glance["sheets"] > 1
    assert [shape["number"] for shape in glance["shapes"]] == [1]
    assert client.get(glance["shapes"][0]["picture"]).status_code == 200
    # A job that cannot be planned has none, and keeps nobody else from theirs.
    change(client, job, {"paper": {"width_mm": 20, "height_mm": 20}})
    assert client.get(f"/api/jobs/{job}/glance").json() is None


def test_the_example_is_a_job_like_any_other(client: TestClient) -> None:
    number = client.post("/api/example").json()["id"]
    view = client.get(f"/api/jobs/{number}").json()
    assert view["problem"] is None
    assert len(view["parts"]["designs"]) == 7
    assert view["job"]["document"]["items"][0]["name"] == "seabird"
