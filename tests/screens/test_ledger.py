"""The ledger in a real browser: from a hand-off over a spoilt piece to its cause, and to the changed proposal."""

import cv2
import numpy as np
import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from tests.screens.asked import ASKED
from tests.screens.conftest import Screen
from tests.screens.test_finish import pressed

pytestmark = pytest.mark.screens

HANDED_OFF = 3


def test_from_a_hand_off_over_a_spoilt_sheet_to_its_cause(screen: Screen) -> None:
    job = f"{screen.base}/api/jobs/{HANDED_OFF}"

    def proposed() -> str:
        stations = ASKED.get(job).json()["stations"]
        return str(next(one["figure"] for one in stations if one["station"] == "cut"))

    before = proposed()

    screen.open(f"/jobs/{HANDED_OFF}/cut")
    screen.says("How did sheet 1 come out?")
    pressed(screen, "Some spoiled")
    screen.says("Tap each piece that came out so")
    assert screen.faults_of_access() == []
    for piece in screen.driver.find_elements(By.CSS_SELECTOR, 'g[role="button"]'):
        piece.send_keys(Keys.ENTER)
    pressed(screen, "spoilt pieces")
    screen.says("Find out what went wrong")
    pressed(screen, "Find out what went wrong")
    # All were not through, and the stock is known: that is ticked already.
    screen.says("This tells most for its time")
    assert screen.faults_of_access() == []
    ticked = [one.get_attribute("checked") for one in screen.driver.find_elements(By.CSS_SELECTOR, "fieldset input")]
    assert "true" in ticked
    pressed(screen, "Yes")
    screen.says("Clear my answers")
    pressed(screen, "It was this")
    screen.says("Noted")
    screen.open("/ledger?part=runs")
    screen.says("It was this:")
    assert screen.faults_of_access() == []
    screen.open(f"/jobs/{HANDED_OFF}/cut")
    assert "How did sheet 1 come out?" not in screen.text()
    # Where the ledger asks, Cut does not ask once more.
    screen.says("The question at the top of the job asks how each sheet came out")
    runs = ASKED.get(f"{screen.base}/api/ledger").json()["runs"]
    assert runs[0]["came_out"] == "spoiled"
    assert runs[0]["cause"]
    assert proposed() != before
    screen.open("/")
    screen.says("sheet 1: 0 of 8 good")
    assert screen.errors() == []


def test_a_sheet_is_made_again_and_its_rest_is_the_sheet_of_another(screen: Screen) -> None:
    # Fewer than would fit, so that something is left of the sheet.
    change = {"label": "few", "numbers": [1, 2], "changes": {"quantity": 1}}
    job = f"{screen.base}/api/jobs/{HANDED_OFF}"
    ASKED.post(f"{job}/changes", json=change).raise_for_status()
    ASKED.post(f"{job}/hand-off").raise_for_status()
    ASKED.post(f"{job}/came-out", json={"sheet": 1, "came_out": "good"}).raise_for_status()
    screen.open("/ledger?part=runs")
    pressed(screen, "Keep the rest of the sheet")
    screen.says("Its rest is kept")
    pressed(screen, "Make it again")
    screen.says("exactly as it was, on")
    assert screen.faults_of_access() == []
    pressed(screen, "Make it again")
    screen.wait(lambda: "/sheet" in screen.driver.current_url, "the new job")
    screen.wait(lambda: screen.pieces() == 2, "its pieces")
    # All of it would go on what is left: that is offered, and taken.
    # Notes are folded away only where there is more to look at.
    if "Use the offcut" not in screen.text():
        pressed(screen, "note")
    pressed(screen, "Use the offcut")
    screen.says("part used")
    screen.wait(lambda: screen.pieces() == 2, "its pieces on the offcut")
    assert screen.errors() == []


def test_the_shelf_takes_what_was_bought_and_a_used_sheet(screen: Screen) -> None:
    screen.open("/ledger?part=shelf")
    screen.says("On the shelf")
    assert screen.faults_of_access() == []
    Select(screen.find('[aria-label="What was bought"] select')).select_by_value("ink")
    screen.says("millilitres in the bottle")
    pressed(screen, "Put it on the shelf")
    screen.says("of 70 ml left")
    pressed(screen, "Add an offcut")
    screen.says("Drag over what is used")
    assert screen.faults_of_access() == []
    screen.find('input[placeholder="half a sheet of gold"]').send_keys("half of it" + Keys.ENTER)
    pressed(screen, "Mark as used")
    screen.wait(lambda: screen.driver.find_elements(By.CSS_SELECTOR, "svg polygon"), "what is used")
    screen.find('[role="dialog"]').find_elements(By.XPATH, ".//button[.='Put it on the shelf']")[0].click()
    screen.says("half of it")
    offcut = ASKED.get(f"{screen.base}/api/offcuts").json()[0]
    assert offcut["paper"]["gone"] == [[0, 0, 50, 0, 50, 50, 0, 50]]
    assert screen.errors() == []


def test_what_is_gone_of_a_sheet_is_found_in_a_picture(screen: Screen) -> None:
    picture = np.full((560, 400, 3), 235, np.uint8)
    picture[100:200, 60:240] = (30, 90, 110)
    found = ASKED.post(
        f"{screen.base}/api/offcuts/look",
        data={"width_mm": 200, "height_mm": 280, "corners": "0,0,1,0,1,1,0,1"},
        files={"file": ("sheet.png", cv2.imencode(".png", picture[..., ::-1])[1].tobytes())},
    ).json()
    (ring,) = found["gone"]
    assert [min(ring[::2]), min(ring[1::2]), max(ring[::2]), max(ring[1::2])] == pytest.approx(
        [30, 50, 120, 100], abs=0.6
    )
    assert found["words"] == "1 part of the sheet look used."


def test_jobs_are_found_by_whom_they_are_for(screen: Screen) -> None:
    screen.open("/")
    screen.says("for the junior crew")
    screen.find("label input.field").send_keys("junior crew")
    screen.wait(lambda: len(screen.driver.find_elements(By.CSS_SELECTOR, "main li.panel")) == 1, "one job")
    pressed(screen, "More")
    screen.says("Put it aside")
    pressed(screen, "Put it aside")
    screen.says("Put aside · 1")
    pressed(screen, "Put aside · 1")
    screen.says("for the junior crew")
    assert screen.faults_of_access() == []
    assert screen.errors() == []


def test_a_table_goes_out_and_comes_back(screen: Screen) -> None:
    table = ASKED.get(f"{screen.base}/api/ledger/runs.csv").content
    before = ASKED.get(f"{screen.base}/api/ledger").json()["total"]
    sent = ASKED.post(f"{screen.base}/api/ledger/runs", files={"file": ("runs.csv", table)})
    assert sent.json() == {"taken": 0, "known": before, "on_shelf": 0}
    broken = ASKED.post(f"{screen.base}/api/ledger/runs", files={"file": ("runs.csv", b"a;b\n1;2\n")})
    assert broken.status_code == 422
    assert "this is not a ledger" in broken.json()["detail"]
