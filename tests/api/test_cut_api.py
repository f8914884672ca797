"""The Cut station over HTTP: the window of force, ladders, the replay, care and the card; and what is refused."""

from collections.abc import Iterator
from typing import Any

import pypdfium2
import pytest
from fastapi.testclient import TestClient

from tests.conftest import disc_png
from vamper.api.app import create_app
from vamper.services.workshop import Workshop


@pytest.fixture
def client(workshop: Workshop) -> Iterator[TestClient]:
    with TestClient(create_app(workshop), base_url="http://127.0.0.1:8484") as test_client:
        yield test_client


@pytest.fixture
def job(client: TestClient, workshop: Workshop) -> int:
    number: int = client.post("/api/jobs", json={"title": "Discs"}).json()["id"]
    client.post(f"/api/jobs/{number}/art", files={"file": ("disc.png", disc_png())})
    workshop.repacking.begin(workshop.jobs.get(number))
    workshop.packing.stop(number)
    return number


def force(client: TestClient, job: int, **query: object):  # type: ignore[no-untyped-def]
    return client.get(f"/api/jobs/{job}/force", params=query).json()


def test_the_window_adds_up_and_narrows_as_drops_are_judged(client: TestClient, job: int) -> None:
    before = force(client, job)
    for shares in zip(*(band["chances"] for band in before["bands"]), strict=True):
        assert sum(shares) == pytest.approx(1, abs=2e-3)
    assert max(before["hill"]) == pytest.approx(1, abs=0.02)
    assert before["axis_gf"] == sorted(before["axis_gf"])
    assert before["outcomes"] == ["not-through", "clean", "backing-marked", "backing-through", "torn"]
    ladder = client.post(f"/api/jobs/{job}/ladders", json={"cut": "kiss", "passes": 1})
    assert ladder.status_code == 201
    number = ladder.json()["id"]
    now = force(client, job)
    assert [one["force_gf"] for one in now["ladder"]["drops"]] == before["next_gf"]
    assert now["ladder"]["open"]
    for place, outcome in enumerate(["not-through"] * 3 + ["clean", "backing-marked", "backing-marked"]):
        answer = client.put(f"/api/jobs/{job}/records/{number}/drops/{place}", json={"outcome": outcome})
        assert answer.status_code == 204
    after = force(client, job)
    assert not after["ladder"]["open"]
    assert after["usable"] > before["usable"]
    assert after["gain_points"] < before["gain_points"]
    assert sum(after["hill"]) < 0.6 * sum(before["hill"])
    # The dashed hill is what was believed before anything.
    assert after["prior"] == pytest.approx(before["hill"], abs=0.01)
    view = client.get(f"/api/jobs/{job}").json()
    (cut,) = (one for one in view["stations"] if one["station"] == "cut")
    assert cut["figure"].startswith(f"{after['proposal_gf']:g} gf")
    assert client.delete(f"/api/jobs/{job}/records/{number}").status_code == 204
    assert force(client, job)["usable"] == before["usable"]


def test_other_passes_are_only_looked_at_until_they_are_chosen(client: TestClient, job: int) -> None:
    one, two = force(client, job), force(client, job, passes=2)
    assert two["passes"] == 2
    # A second go adds less to two passes than to one, so they begin nearer to what is wanted.
    assert 1 / 1.6 < two["proposal_gf"] / one["proposal_gf"] < 0.75
    assert [each["passes"] for each in one["each_passes"]] == [1, 2, 3]
    client.post(f"/api/jobs/{job}/changes", json={"label": "two", "changes": {"passes": 2}})
    assert force(client, job)["passes"] == 2


def test_a_ladder_comes_as_files_for_the_sheet_or_an_offcut(client: TestClient, job: int) -> None:
    number = client.post(f"/api/jobs/{job}/ladders", json={"cut": "kiss", "passes": 1}).json()["id"]
    place = client.get(f"/api/jobs/{job}/sheets/1/ladder-place").json()
    assert len(place["paths"]) == len(place["slits"]) == 6
    for kind, begins in (("svg", b"<?xml"), ("dxf", b"  0"), ("hpgl", b"IN;")):
        answer = client.get(f"/api/jobs/{job}/sheets/1/ladder-{number}.{kind}")
        assert answer.content.startswith(begins)
        assert f"ladder-{number}.{kind}" in answer.headers["content-disposition"]
    offcut = client.get(f"/api/jobs/{job}/sheets/1/ladder-{number}.svg", params={"width_mm": 60, "height_mm": 30})
    assert b'width="60mm"' in offcut.content
    small = client.get(f"/api/jobs/{job}/sheets/1/ladder-place", params={"width_mm": 10, "height_mm": 10}).json()
    assert "must be at least" in small["problem"]
    assert client.get(f"/api/jobs/{job}/sheets/1/tell-tale.hpgl").content.startswith(b"IN;")


def test_the_replay_is_every_run_in_time(client: TestClient, job: int) -> None:
    replay = client.get(f"/api/jobs/{job}/sheets/1/replay").json()
    assert len(replay["runs"]) == replay["lifts"] == 1
    assert replay["runs"][0]["ends"] == pytest.approx(replay["seconds"], abs=0.01)
    assert sum(replay["parts"].values()) == pytest.approx(replay["seconds"], abs=0.05)
    assert replay["tell_tale"]["problem"] is None
    assert client.get(f"/api/jobs/{job}/sheets/9/replay").status_code == 404


def test_the_blade_is_confirmed_before_a_run_counts(client: TestClient, job: int) -> None:
    blade = client.post("/api/blades", json={"name": "first", "blade": {"angle": "45"}}).json()["id"]
    client.post(f"/api/blades/{blade}/put-in", json={"cutter_id": 1})
    run = {"sheets": 2, "outcomes": {"kiss": "clean"}}
    refused = client.post(f"/api/jobs/{job}/runs", json=run)
    assert refused.status_code == 422
    assert "confirm first that “first” is the blade" in refused.json()["detail"]
    assert client.post(f"/api/jobs/{job}/runs", json={**run, "blade_id": blade}).status_code == 204
    care = client.get(f"/api/jobs/{job}/care").json()
    (mine,) = care["blades"]
    assert mine["in_machine"]
    assert mine["blade"]["metres"] == pytest.approx(2 * care["metres"], abs=0.02)
    assert mine["confirmed_at"]
    mat = client.post("/api/mats", json={"name": "blue", "mat": {"tack": "medium", "loads": 30}}).json()["id"]
    client.post(f"/api/mats/{mat}/put-in", json={"cutter_id": 1})
    assert "cut.mat-tired" in {one["code"] for one in client.get(f"/api/jobs/{job}").json()["findings"]}
    client.post(f"/api/mats/{mat}/washed")
    assert "cut.mat-tired" not in {one["code"] for one in client.get(f"/api/jobs/{job}").json()["findings"]}


def test_settings_are_typed_told_and_taken_back(client: TestClient, job: int) -> None:
    (cutter, *_) = client.get("/api/cutters").json()
    profile = cutter["profile"]
    twice = {**profile, "cutter": {**profile["cutter"], "settings": [{"name": "foil"}, {"name": "Foil"}]}}
    refused = client.put("/api/cutters/1", json=twice)
    assert refused.status_code == 422
    assert "two settings are called “Foil”" in refused.json()["detail"]
    assert client.put("/api/cutters/1/route", json={"route": "program"}).status_code == 204

    def settings() -> dict[str, Any]:
        found: dict[str, Any] = client.get(f"/api/jobs/{job}/settings").json()
        return found

    assert "vinyl" in settings()["look_for"]
    typed = {"lines": "vinyl\n\n  label   paper \nposter board", "pressures": ["less", "usual", "more"]}
    assert client.post(f"/api/jobs/{job}/settings", json=typed).status_code == 204
    found = settings()
    assert [one["name"] for one in found["settings"]] == ["label paper", "vinyl", "poster board"], "gentlest on top"
    place = {"name": "poster board", "above": []}
    assert client.put(f"/api/jobs/{job}/settings/place", json=place).status_code == 204
    assert settings()["settings"][0]["name"] == "poster board"
    assert client.put(f"/api/jobs/{job}/settings/place", json={**place, "above": ["felt"]}).status_code == 404
    back = {"name": "poster board", "above": ["vinyl", "label paper"]}
    assert client.put(f"/api/jobs/{job}/settings/place", json=back).status_code == 204
    assert found["proposal"]["setting"] in ("vinyl", "label paper")
    assert found["next_try"] is not None
    told = {"setting": "vinyl", "pressure": "usual", "cut": "kiss", "outcome": "clean"}
    answer = client.post(f"/api/jobs/{job}/settings/told", json=told)
    assert answer.status_code == 201
    found = settings()
    assert (found["proposal"]["words"], found["worked"], found["done"]) == ("“vinyl”", True, True)
    (vinyl,) = [one for one in found["settings"] if one["name"] == "vinyl"]
    assert vinyl["seen"] == ["clean on satin vinyl"]
    assert [one["words"] for one in found["told"]] == ["“vinyl”"]
    assert client.delete(f"/api/jobs/{job}/records/{answer.json()['id']}").status_code == 204
    assert settings()["told"] == []
    wrong = {**told, "outcome": "backing-marked", "cut": "through"}
    assert "no backing to mark" in client.post(f"/api/jobs/{job}/settings/told", json=wrong).json()["detail"]
    unknown = client.post(f"/api/jobs/{job}/settings/told", json={**told, "setting": "felt"})
    assert unknown.status_code == 404
    circle = {"name": "vinyl", "changed": {"name": "vinyl", "gentler_than": ["vinyl"]}}
    assert "than itself" in client.put(f"/api/jobs/{job}/settings", json=circle).json()["detail"]
    assert client.post(f"/api/jobs/{job}/settings", json={"lines": "  \n"}).status_code == 422
    assert client.get(f"/api/jobs/{job}/test-cut.png").content.startswith(b"\x89PNG")


def test_stocks_are_copied_changed_and_put_aside(client: TestClient) -> None:
    shelf = {one["key"]: one for one in client.get("/api/stocks").json()}
    assert shelf["glitter-card"]["group"] == "Cards, boxes and magnets"
    copy = {**shelf["satin-vinyl"]["stock"], "name": "harbour vinyl"}
    key = client.post("/api/stocks", json=copy).json()["key"]
    assert key == "harbour-vinyl"
    assert client.put(f"/api/stocks/{key}", json={**copy, "face_um": 130}).status_code == 204
    refused = client.put(f"/api/stocks/{key}", json={**copy, "face_um": 0})
    assert refused.status_code == 422
    assert "face_um" in refused.json()["detail"]
    assert "copy it and change the copy" in client.put("/api/stocks/card", json=copy).json()["detail"]
    new = client.post("/api/stocks/proposed", json={"name": "own", "stock_class": "card", "grams_m2": 220}).json()
    assert (new["face_um"], new["grams_m2"]) == (275, 220)
    assert new["like"]
    assert client.put("/api/stocks/magnet/hidden", json={"hidden": True}).status_code == 204
    assert client.delete(f"/api/stocks/{key}").status_code == 204


def test_readings_out_of_range_are_refused_with_a_sentence(client: TestClient, job: int) -> None:
    reading = {"cut": "kiss", "force_gf": 900, "outcome": "clean"}
    assert "outside this machine's range" in client.post(f"/api/jobs/{job}/readings", json=reading).json()["detail"]
    assert client.post(f"/api/jobs/{job}/readings", json={**reading, "force_gf": 112}).status_code == 201
    unknown = client.post(f"/api/jobs/{job}/readings", json={**reading, "outcome": "scorched"})
    assert unknown.status_code == 422
    assert "outcome" in unknown.json()["detail"]
    assert client.delete(f"/api/jobs/{job}/records/77").status_code == 404


def test_the_card_and_how_the_sheet_is_loaded(client: TestClient, job: int) -> None:
    card = client.get(f"/api/jobs/{job}/bench-card.pdf")
    assert len(pypdfium2.PdfDocument(card.content)) == 1
    assert b"<svg" in client.get(f"/api/jobs/{job}/loading.svg").content
    client.post(f"/api/jobs/{job}/changes", json={"label": "by hand", "changes": {"cutter_id": 3}})
    assert client.get(f"/api/jobs/{job}/bench-card.pdf").status_code == 200
    refused = client.get(f"/api/jobs/{job}/force")
    assert refused.status_code == 422
    assert "no machine cuts this job" in refused.json()["detail"]
