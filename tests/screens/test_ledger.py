"""The ledger in a real browser: from a hand-off over a spoilt piece to its cause, and to the changed proposal."""

import httpx
import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.screens.conftest import Screen
from tests.screens.test_finish import pressed
from tests.screens.test_marks_print import axe

pytestmark = pytest.mark.screens

HANDED_OFF = 3


def test_from_a_hand_off_over_a_spoilt_sheet_to_its_cause(screen: Screen) -> None:
    job = f"{screen.base}/api/jobs/{HANDED_OFF}"

    def proposed() -> str:
        stations = httpx.get(job).json()["stations"]
        return str(next(one["figure"] for one in stations if one["station"] == "cut"))

    before = proposed()

    screen.open(f"/jobs/{HANDED_OFF}/cut")
    screen.says("How did sheet 1 come out?")
    pressed(screen, "Some spoiled")
    screen.says("Tap each piece that came out so")
    assert axe(screen) == []
    for piece in screen.driver.find_elements(By.CSS_SELECTOR, 'g[role="button"]'):
        piece.send_keys(Keys.ENTER)
    pressed(screen, "spoilt pieces")
    screen.says("Find out what went wrong")
    pressed(screen, "Find out what went wrong")
    # All were not through, and the stock is known: that is ticked already.
    screen.says("This tells most for its time")
    assert axe(screen) == []
    ticked = [one.get_attribute("checked") for one in screen.driver.find_elements(By.CSS_SELECTOR, "fieldset input")]
    assert "true" in ticked
    pressed(screen, "Yes")
    screen.says("Take the answers back")
    pressed(screen, "It was this")
    screen.says("Noted")
    screen.open("/ledger")
    screen.says("It was this:")
    assert axe(screen) == []
    screen.open(f"/jobs/{HANDED_OFF}/cut")
    assert "How did sheet 1 come out?" not in screen.text()
    runs = httpx.get(f"{screen.base}/api/ledger").json()["runs"]
    assert runs[0]["came_out"] == "some spoiled"
    assert runs[0]["cause"]
    assert proposed() != before
    screen.open("/")
    screen.says("sheet 1: 0 of 12 good")
    assert screen.errors() == []


def test_a_table_goes_out_and_comes_back(screen: Screen) -> None:
    table = httpx.get(f"{screen.base}/api/ledger/runs.csv").content
    before = httpx.get(f"{screen.base}/api/ledger").json()["total"]
    sent = httpx.post(f"{screen.base}/api/ledger/runs", files={"file": ("runs.csv", table)})
    assert sent.json() == {"taken": 0, "known": before}
    broken = httpx.post(f"{screen.base}/api/ledger/runs", files={"file": ("runs.csv", b"a;b\n1;2\n")})
    assert broken.status_code == 422
    assert "this is no ledger" in broken.json()["detail"]
