"""Inches over HTTP: every sentence follows the workshop's unit, and numbers stay millimetres."""

import json
import re

import pytest
from fastapi.testclient import TestClient

from tests.api.test_api import change, client, job
from tests.conftest import disc_png

__all__ = ["client", "job"]

# A length in a sentence; names of fields ("width_mm") and keys are none.
_MM = re.compile(r"\d\s*mm\b")


def measured_in(client: TestClient, unit: str | None) -> None:
    usual = client.get("/api/usual").json()
    assert client.put("/api/usual", json={**usual, "unit": unit}).status_code == 200


def asked(client: TestClient, path: str, unit: str) -> str:
    measured_in(client, unit)
    answer = client.get(path)
    assert answer.status_code == 200
    return answer.text


@pytest.mark.parametrize("phrase", ["stock", "paper", "printer", "cutter", "edge", "packing", "purpose", "cut"])
def test_choices_follow_the_unit(client: TestClient, job: int, phrase: str) -> None:
    path = f"/api/jobs/{job}/choices/{phrase}"
    assert not _MM.search(asked(client, path, "in"))
    assert "⟨" not in asked(client, path, "mm")


def test_brief_findings_bounds_and_bench_follow_the_unit(client: TestClient, job: int) -> None:
    change(client, job, {"longest_mm": 300, "edge.distance_mm": 0.5}, [1])
    for unit in ("in", "mm"):
        view = asked(client, f"/api/jobs/{job}", unit)
        texts = [
            view,
            asked(client, f"/api/jobs/{job}/items/1/shapes", unit),
        ]
        for text in texts:
            assert bool(_MM.search(text)) <= (unit == "mm"), _MM.findall(text)
            assert "⟨" not in text
            assert "⟩" not in text
    change(client, job, {"longest_mm": 30}, [1])
    assert "8 1/2 × 11 in" in asked(client, f"/api/jobs/{job}/bench", "in")


def test_numbers_stay_millimetres_and_fields_keep_their_names(client: TestClient, job: int) -> None:
    paper = json.loads(asked(client, f"/api/jobs/{job}", "in"))["job"]["document"]["paper"]
    assert paper == {"width_mm": 215.9, "height_mm": 279.4, "spent": None, "gone": [], "margin_mm": 0.0}


def test_refusals_follow_the_unit(client: TestClient, job: int) -> None:
    measured_in(client, "in")
    change(client, job, {"paper": {"width_mm": 20, "height_mm": 20}})
    problem = client.get(f"/api/jobs/{job}").json()["problem"]
    assert " in" in problem
    assert not _MM.search(problem)


def test_until_it_is_said_sentences_are_in_millimetres(client: TestClient, job: int) -> None:
    measured_in(client, None)
    answer = client.get(f"/api/jobs/{job}/choices/paper")
    assert "mm" in answer.text
    assert "⟨" not in answer.text
    assert client.put("/api/usual", json={"unit": "furlong"}).status_code == 422


def test_a_new_job_in_inches_begins_with_lines_of_a_ruler(client: TestClient) -> None:
    measured_in(client, "in")
    number = client.post("/api/jobs", json={"title": "Inches"}).json()["id"]
    client.post(f"/api/jobs/{number}/art", files={"file": ("disc.png", disc_png())})
    view = client.get(f"/api/jobs/{number}").json()
    brief = "".join(phrase["text"] for phrase in view["brief"])
    assert "1/8 in" in brief
    assert "3/32 in apart" in brief
    marks = next(one for one in view["stations"] if one["station"] == "marks")
    assert "3/8 in inside" in marks["detail"]
    (item,) = view["job"]["document"]["items"]
    assert item["longest_mm"] == pytest.approx(63.5)


def test_how_many_sheets_are_made_of_each_is_planned_and_told(client: TestClient, job: int) -> None:
    change(client, job, {"copies": 4})
    view = client.get(f"/api/jobs/{job}").json()
    assert "4" in "".join(phrase["text"] for phrase in view["brief"])
    assert client.get(f"/api/jobs/{job}/glance").json()["copies"] == 4
    assert change(client, job, {"copies": 0}).status_code == 422


def test_counts_come_at_once_and_are_refined(client: TestClient, job: int) -> None:
    path = f"/api/jobs/{job}/how-many/1"
    quick, full = (client.get(path, params={"quick": quick}).json() for quick in (True, False))
    assert 0 < quick["pieces"] <= full["pieces"]
    together = f"/api/jobs/{job}/how-many-together"
    rows, searched = (client.get(together, params={"numbers": [1], "quick": quick}).json() for quick in (True, False))
    assert 0 < rows["sets"] <= searched["sets"] <= searched["at_most"]
