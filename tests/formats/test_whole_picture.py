"""The sheet as one picture for a machine's own program: its size, its colours, and what its outline is."""

import io

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from tests.api.test_api import add, change, client, job

__all__ = ["client", "job"]


def whole(client: TestClient, job: int) -> Image.Image:
    answer = client.get(f"/api/jobs/{job}/sheets/1/whole.png")
    assert answer.status_code == 200, answer.text
    return Image.open(io.BytesIO(answer.content))


@pytest.fixture
def own(client: TestClient, job: int) -> int:
    """A job whose sheet goes to the machine's own program: two discs of 40 mm with 3 mm of bare border."""
    change(client, job, {"marks.family": "none"})
    change(client, job, {"width_mm": 40, "quantity": 2}, [1])
    return job


def test_its_outline_is_the_cut_line(client: TestClient, own: int) -> None:
    found = client.get(f"/api/jobs/{own}/sheets/1/found-cut").json()
    assert (found["found"], found["planned"]) == (2, 2)
    assert found["off_mm"] < 0.1
    picture = whole(client, own)
    assert picture.size == (found["width_px"], found["height_px"])
    assert found["size"]["width_mm"] == pytest.approx(picture.width * 25.4 / 300)
    assert picture.info["dpi"] == pytest.approx((300, 300), abs=0.01)
    # Two edges of 46 mm beside or under each other, and nothing round them.
    sides = sorted(side * 25.4 / 300 for side in picture.size)
    assert sides[0] == pytest.approx(46, abs=0.2)
    assert sides[1] == pytest.approx(94, abs=0.3)


def test_bare_borders_are_white_and_everything_else_is_clear(client: TestClient, own: int) -> None:
    pixels = np.asarray(whole(client, own))
    alpha = pixels[..., 3]
    assert alpha[0, 0] == 0
    area_mm2 = (alpha / 255.0).sum() * (25.4 / 300) ** 2
    assert area_mm2 == pytest.approx(2 * np.pi * 23**2, rel=0.002)
    # One disc across its middle: white rims of 3 mm on both sides of the drawing.
    across = pixels[round(23 * 300 / 25.4), : round(46 * 300 / 25.4)]
    white, blue = ((abs(across[:, :3].astype(int) - colour).max(axis=1) < 3) for colour in ((255,) * 3, (40, 90, 160)))
    assert blue.sum() * 25.4 / 300 == pytest.approx(40, abs=0.5)
    assert (white & (across[:, 3] == 255)).sum() * 25.4 / 300 == pytest.approx(6, abs=0.5)


def test_a_coloured_border_is_printed_and_does_not_bleed(client: TestClient, own: int) -> None:
    change(client, own, {"edge.colour": "#A03020", "quantity": 1}, [1])
    pixels = np.asarray(whole(client, own))
    assert pixels.shape[0] == pytest.approx(46 * 300 / 25.4, abs=2)
    row = pixels[pixels.shape[0] // 2]
    rim = row[np.flatnonzero(row[:, 3] == 255)[3]]
    assert tuple(rim[:3]) == (0xA0, 0x30, 0x20)


def test_a_mirrored_stock_is_mirrored_here_too(client: TestClient) -> None:
    half = np.zeros((200, 200, 4), np.uint8)
    half[20:180, 20:180] = (200, 40, 40, 255)
    half[20:180, 20:60] = (40, 40, 200, 255)
    out = io.BytesIO()
    Image.fromarray(half).save(out, format="PNG")
    number = client.post("/api/jobs", json={}).json()["id"]
    add(client, number, "halves.png", out.getvalue())
    change(client, number, {"marks.family": "none", "packing.turn": "upright"})

    def blue_left() -> bool:
        pixels = np.asarray(whole(client, number)).astype(int)
        blue = (
            np.flatnonzero((pixels[..., 2] > 150) & (pixels[..., 0] < 80) & (pixels[..., 3] == 255)) % pixels.shape[1]
        )
        return bool(blue.mean() < pixels.shape[1] / 2)

    assert blue_left()
    change(client, number, {"stock": "light-transfer"})
    assert not blue_left()


def test_only_a_sheet_for_such_a_program_has_one(client: TestClient, job: int) -> None:
    for address in ("whole.png", "found-cut"):
        answer = client.get(f"/api/jobs/{job}/sheets/1/{address}")
        assert answer.status_code == 422
        assert "choose “none” under Marks" in answer.json()["detail"]
    change(client, job, {"marks.family": "none"})
    assert any(finding["code"] == "sheet.granted" for finding in client.get(f"/api/jobs/{job}").json()["findings"])


def test_answers_of_the_program_bound_the_live_area_and_are_forgotten_again(client: TestClient, own: int) -> None:
    paper = client.get(f"/api/jobs/{own}").json()["job"]["document"]["paper"]
    answer = {"paper": paper, "side": "width", "size_mm": 150, "taken": True}
    assert client.post("/api/cutters/1/granted", json=answer).status_code == 204

    def sheet() -> dict[str, object]:
        part: dict[str, object] = client.get(f"/api/jobs/{own}").json()["parts"]["new_sheet"]
        return part

    told = sheet()
    assert told["live_size"]["width_mm"] == pytest.approx(150, abs=0.085)  # type: ignore[index]
    assert told["granted"][0] == {"side": "width", "taken_mm": 150, "refused_mm": None, "try_mm": 157}  # type: ignore[index]
    too_large = client.post("/api/cutters/1/granted", json={**answer, "size_mm": 300})
    assert too_large.status_code == 422
    assert "larger than the paper" in too_large.json()["detail"]
    assert client.post("/api/cutters/1/granted/forget", json=paper).status_code == 204
    assert sheet()["granted"][0]["taken_mm"] is None  # type: ignore[index]


def test_an_empty_frame_is_there_to_try(client: TestClient) -> None:
    answer = client.get("/api/trial.png?width_mm=190.5&height_mm=254")
    picture = Image.open(io.BytesIO(answer.content))
    assert picture.size == (2250, 3000)
    assert np.asarray(picture)[1500, 1125, 3] == 0
    assert client.get("/api/trial.png?width_mm=1e9&height_mm=2").status_code == 422
