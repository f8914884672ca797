"""One design at a time over HTTP: tried, split, prepared, composed; saved edges; all of it in the job file."""

import io
import json
import zipfile
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from tests.api.test_api import add, change, client, job  # noqa: F401
from tests.conftest import disc_alpha, disc_png, picture_of, png_of
from tests.view import whole_view
from vamper.formats.job_file import read_job


def view(client: TestClient, job: int) -> dict:  # type: ignore[type-arg]  # noqa: F811
    answer = whole_view(client, job)
    assert answer["problem"] is None
    return answer


def several() -> bytes:
    alpha = np.zeros((300, 500))
    for x, y in ((60, 60), (250, 70), (430, 50)):
        alpha = np.maximum(alpha, disc_alpha(500, 35, (x, y))[:300])
    return png_of(picture_of(alpha))


def on_white() -> bytes:
    disc = Image.open(io.BytesIO(disc_png()))
    ground = Image.new("RGB", disc.size, "white")
    ground.paste(disc, mask=disc.getchannel("A"))
    out = io.BytesIO()
    ground.save(out, format="PNG")
    return out.getvalue()


def test_a_trial_shows_and_saves_nothing(client: TestClient, job: int) -> None:  # noqa: F811
    before = view(client, job)["plan"]["items"][0]
    tried = client.post(f"/api/jobs/{job}/items/1/trial", json={"changes": {"edge.distance_mm": 6}}).json()
    assert tried["edge_size"]["width_mm"] == pytest.approx(before["edge_size"]["width_mm"] + 6, abs=0.05)
    assert view(client, job)["plan"]["items"][0]["edge_path"] == before["edge_path"]
    refused = client.post(f"/api/jobs/{job}/items/1/trial", json={"changes": {"edge.distance_mm": 600}})
    assert refused.status_code == 422


def test_shapes_are_offered_with_what_they_take(client: TestClient, job: int) -> None:  # noqa: F811
    shapes = client.get(f"/api/jobs/{job}/items/1/shapes").json()
    assert {"Close", "Smooth", "Hull"} <= {one["name"] for one in shapes["candidates"]}
    for one in shapes["candidates"]:
        assert change(client, job, one["changes"], [1]).status_code == 200
        assert view(client, job)["plan"]["items"][0]["area_cm2"] == pytest.approx(one["area_cm2"], rel=0.01)


def test_several_drawings_become_designs_and_undo_brings_the_one_back(client: TestClient, job: int) -> None:  # noqa: F811
    add(client, job, "set.png", several())
    groups = client.get(f"/api/jobs/{job}/items/2/groups").json()
    assert len(groups["boxes"]) == 3
    fix = next(f for f in view(client, job)["findings"] if f["code"] == "art.several")["fixes"][0]
    assert fix["target"] == "split"
    assert client.post(f"/api/jobs/{job}/items/2/split", json=fix["changes"]).status_code == 200
    items = view(client, job)["plan"]["items"]
    assert [item["name"] for item in items[1:]] == ["set 1", "set 2", "set 3"]
    assert {item["parts"] for item in items} == {1}
    assert client.get(items[1]["picture"] + "&px=64").content.startswith(b"\x89PNG")
    client.post(f"/api/jobs/{job}/undo")
    assert len(view(client, job)["plan"]["items"]) == 2
    too_far = client.post(f"/api/jobs/{job}/items/2/split", json={"apart_mm": 500})
    assert "one drawing" in too_far.json()["detail"]


def test_lifting_the_background_is_one_fix_and_can_be_undone(client: TestClient, job: int) -> None:  # noqa: F811
    add(client, job, "white.png", on_white())
    fix = next(f for f in view(client, job)["findings"] if f["code"] == "art.opaque")["fixes"][0]
    change(client, job, fix["changes"], [2])
    lifted = view(client, job)
    assert "art.opaque" not in {f["code"] for f in lifted["findings"]}
    disc = lifted["plan"]["items"]
    assert disc[1]["area_cm2"] == pytest.approx(disc[0]["area_cm2"], rel=0.02)
    client.post(f"/api/jobs/{job}/undo")
    assert "art.opaque" in {f["code"] for f in view(client, job)["findings"]}


def test_sizes_over_the_border_are_worked_back(client: TestClient, job: int) -> None:  # noqa: F811
    for kind in ("follow", "circle", "rounded", "ellipse"):
        changes = {"longest_mm": 75, "size_over": "border", "edge.kind": kind, "edge.distance_mm": 4}
        change(client, job, changes, [1])
        box = view(client, job)["plan"]["items"][0]["edge_size"]
        assert max(box["width_mm"], box["height_mm"]) == pytest.approx(75, abs=0.02)


def test_what_bleeds_is_shown_and_printed(client: TestClient, job: int) -> None:  # noqa: F811
    change(client, job, {"edge.kind": "bare", "edge.distance_mm": 0}, [1])
    item = view(client, job)["plan"]["items"][0]
    assert item["bleed_mm"] == 0.612
    assert item["printed_box"]["width_mm"] > item["edge_size"]["width_mm"] + 1
    png = client.get(f"/api/jobs/{job}/items/1/printed.png?look={item['look']}").content
    printed = np.asarray(Image.open(io.BytesIO(png)))
    assert printed[printed.shape[0] // 2, 4, 3] > 200


def test_holes_are_opened_and_filled_one_by_one(client: TestClient, job: int) -> None:  # noqa: F811
    alpha = disc_alpha(400, 180, (200, 200))
    for x in (130, 270):
        alpha *= 1 - disc_alpha(400, 45, (x, 200))
    add(client, job, "mask.png", png_of(picture_of(alpha)))
    change(client, job, {"edge.distance_mm": 1, "edge.keep_holes": [[0.31, 0.5]]}, [2])

    def holes() -> list[dict[str, Any]]:
        return list(view(client, job)["plan"]["items"][1]["holes"])

    def opened() -> list[bool]:
        return [hole["open"] for hole in holes()]

    def turn(at: list[float]) -> int:
        return client.post(f"/api/jobs/{job}/items/2/hole", json={"at": at}).status_code

    assert sorted(opened()) == [False, True]
    was = opened()
    assert turn(holes()[0]["at"]) == 200
    assert opened() == [not was[0], was[1]]
    # On the outline itself holes are opened and filled one by one as well.
    for kind in ("follow", "bare"):
        change(client, job, {"edge.kind": kind, "edge.fill_holes": False, "edge.keep_holes": []}, [2])
        assert opened() == [True, True]
        assert turn(holes()[1]["at"]) == 200
        assert opened() == [True, False]
    assert turn([0.01, 0.5]) == 422
    # A shape that has no holes offers none.
    change(client, job, {"edge.kind": "circle"}, [2])
    assert holes() == []


def test_of_many_holes_each_turns_alone(client: TestClient, job: int) -> None:  # noqa: F811
    alpha = np.zeros((800, 800), np.float32)
    alpha[20:780, 20:780] = 1
    for x in range(60, 760, 60):
        for y in range(60, 760, 60):
            alpha[y : y + 24, x : x + 24] = 0
    add(client, job, "sieve.png", png_of(picture_of(alpha)))
    change(client, job, {"longest_mm": 150, "edge.kind": "bare", "edge.distance_mm": 0, "edge.fill_holes": False}, [2])
    holes = view(client, job)["plan"]["items"][1]["holes"]
    assert len(holes) == 144
    assert all(hole["open"] for hole in holes)
    assert client.post(f"/api/jobs/{job}/items/2/hole", json={"at": holes[130]["at"]}).status_code == 200
    after = view(client, job)["plan"]["items"][1]["holes"]
    assert [hole["at"] for hole in after if not hole["open"]] == [holes[130]["at"]]


def test_saved_edges_can_be_given_to_others_and_taken_away(client: TestClient, job: int) -> None:  # noqa: F811
    edge = {"kind": "follow", "distance_mm": 4.5, "rings": [{"width_mm": 1, "colour": "#22303A"}, {"width_mm": 2}]}
    assert client.put("/api/edge-styles", json={"name": " Harbour  band ", "edge": edge}).status_code == 204
    (style,) = client.get("/api/edge-styles").json()
    assert style["name"] == "Harbour band"
    change(client, job, {"edge": style["edge"]}, [1])
    assert view(client, job)["plan"]["items"][0]["least_border_mm"] == pytest.approx(3, abs=0.02)
    assert client.delete("/api/edge-styles/Harbour band").status_code == 204
    assert client.get("/api/edge-styles").json() == []


COMPOSITION = {
    "base": {"shape": "rounded", "width_mm": 60, "height_mm": 30, "colour": "#DCE8EA"},
    "lines": [{"text": "{name}", "size_mm": 9, "x_mm": 30, "y_mm": 15}],
}


def test_composed_pieces_one_for_each_name_and_changed_later(client: TestClient, job: int) -> None:  # noqa: F811
    art = view(client, job)["plan"]["items"][0]["art"]
    composition = {**COMPOSITION, "arts": [{"art": art, "width_mm": 12, "x_mm": 10, "y_mm": 15}]}
    preview = client.post("/api/compose/preview.png", json={"composition": composition, "name": "Ada"})
    assert preview.content.startswith(b"\x89PNG")
    body = {"composition": composition, "names": "Ada\nBo\n", "title": "crew", "quantity": 2}
    assert client.post(f"/api/jobs/{job}/compose", json=body).status_code == 201
    items = view(client, job)["plan"]["items"]
    assert [(item["name"], item["wanted"], item["composed"]) for item in items[1:]] == [
        ("crew Ada", 2, True),
        ("crew Bo", 2, True),
    ]
    assert items[1]["edge_size"]["width_mm"] == pytest.approx(60, abs=0.02)
    assert items[1]["edge_size"]["height_mm"] == pytest.approx(30, abs=0.05)
    number = items[2]["number"]
    made = client.get(f"/api/jobs/{job}/items/{number}/composition").json()
    assert made["name"] == "Bo"
    made["composition"]["base"]["width_mm"] = 70
    assert client.put(f"/api/jobs/{job}/items/{number}/composition", json=made).status_code == 200
    again = view(client, job)["plan"]["items"][2]
    assert again["edge_size"]["width_mm"] == pytest.approx(70, abs=0.02)
    assert again["wanted"] == 2
    assert client.get(f"/api/jobs/{job}/items/1/composition").status_code == 404


def test_art_on_a_composed_piece_may_be_lifted_first(client: TestClient, job: int) -> None:  # noqa: F811
    add(client, job, "white.png", on_white())
    art = view(client, job)["plan"]["items"][1]["art"]
    seen = []
    for lift in (None, 12):
        placed = {"art": art, "width_mm": 20, "x_mm": 30, "y_mm": 15, "lift_de": lift}
        body = {"composition": {**COMPOSITION, "lines": [], "arts": [placed]}, "name": ""}
        png = client.post("/api/compose/preview.png?px=620", json=body).content
        pixels = np.asarray(Image.open(io.BytesIO(png)).convert("RGB")).astype(int)
        seen.append(int((pixels.min(axis=2) > 250).sum()))
    # Its white ground is gone, the base shows in its place.
    assert seen[0] > 2000
    assert seen[1] < 50


def test_curved_lettering_is_a_piece_of_its_own_where_that_is_asked_for(
    client: TestClient,  # noqa: F811
    job: int,  # noqa: F811
) -> None:
    straight = COMPOSITION["lines"][0]  # type: ignore[index]
    curved = {**straight, "text": "Gannet Reach", "radius_mm": 30}
    composition = {**COMPOSITION, "lines": [straight, curved]}
    for apart, designs in ((False, 1), (True, 2)):
        before = len(view(client, job)["job"]["document"]["items"])
        body = {"composition": composition, "names": "Ada", "title": "pennant", "curved_apart": apart}
        assert client.post(f"/api/jobs/{job}/compose", json=body).status_code == 201
        items = view(client, job)["job"]["document"]["items"][before:]
        assert len(items) == designs
    whole, lettering = items
    assert lettering["name"] == f"{whole['name']}, lettering"
    # What is cut round itself gets a border; the base is cut on its own rim.
    assert (whole["edge"]["kind"], lettering["edge"]["kind"]) == ("bare", "follow")
    there = client.get(f"/api/jobs/{job}/items/{whole['number']}/composition").json()["composition"]
    assert [line["text"] for line in there["lines"]] == [straight["text"]]  # type: ignore[index]


@pytest.mark.parametrize(
    ("names", "line", "words"),
    [("", "{name}", "takes names"), ("x" * 90, "{name}", "longer than")],
)
def test_names_that_are_missing_or_too_long_get_a_sentence(
    client: TestClient,  # noqa: F811
    job: int,  # noqa: F811
    names: str,
    line: str,
    words: str,
) -> None:
    composition = {**COMPOSITION, "lines": [{**COMPOSITION["lines"][0], "text": line}]}  # type: ignore[dict-item]
    answer = client.post(f"/api/jobs/{job}/compose", json={"composition": composition, "names": names})
    assert answer.status_code == 422
    assert words in answer.json()["detail"]


def test_the_job_file_in_the_bundle_holds_everything(client: TestClient, job: int) -> None:  # noqa: F811
    changes = {
        "edge.keep_holes": [[0.5, 0.5]],
        "edge.fillet_mm": 1.5,
        "edge.rings": [{"width_mm": 2, "colour": "#22303A"}],
        "prepare.threshold": 0.4,
        "loose": True,
        "bleed_mm": 0.8,
        "longest_mm": 50,
        "size_over": "border",
    }
    change(client, job, changes, [1])
    view(client, job)
    archive = zipfile.ZipFile(io.BytesIO(client.get(f"/api/jobs/{job}/hand-off.zip").content))
    raw = json.loads(archive.read("job.json"))["items"][0]
    assert raw["edge"]["rings"] == [{"width_mm": 2.0, "colour": "#22303A"}]
    (item,) = read_job(archive.read("job.json")).items
    assert item.edge.keep_holes == ((0.5, 0.5),)
    assert (item.edge.fillet_mm, item.edge.reach_mm, item.loose, item.bleed_mm) == (1.5, 2, True, 0.8)
    assert (item.prepare.threshold, item.size.longest_mm, item.size_over) == (0.4, 50, "border")


def test_a_piece_too_large_is_made_in_parts_that_fit_with_one_step(client: TestClient, job: int) -> None:  # noqa: F811
    change(client, job, {"longest_mm": 300}, [1])
    view = client.get(f"/api/jobs/{job}").json()
    finding = next(one for one in view["findings"] if one["code"] == "art.too-big")
    fix = next(one for one in finding["fixes"] if one["target"] == "tiles")
    answer = client.post(f"/api/jobs/{job}/items/1/tiles", json=fix["changes"])
    assert answer.status_code == 200, answer.text
    items = answer.json()["document"]["items"]
    assert len(items) == 4
    assert all(one["longest_mm"] == 300 and one["tile"] and one["loose"] for one in items)
    assert items[0]["name"].endswith("part 1 of 4")
    after = client.get(f"/api/jobs/{job}").json()
    assert not {"art.too-big", "sheet.unplaced"} & {one["code"] for one in after["findings"]}
    sheet = client.get(f"/api/jobs/{job}/sheets/1/print.pdf")
    assert sheet.status_code == 200
    again = client.post(f"/api/jobs/{job}/items/{items[0]['number']}/tiles", json={"overlap_mm": 3})
    assert again.status_code == 422
    assert "a part of a piece already" in again.json()["detail"]
    assert client.post(f"/api/jobs/{job}/undo").json()["job"]["document"]["items"][0]["tile"] is None
