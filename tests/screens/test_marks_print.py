"""Marks and Print in a real browser: what the sensor sees, a vernier sheet read tick by tick, a proof and its bars."""

import math
import re

import numpy as np
import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.screens.asked import ASKED
from tests.screens.conftest import Screen
from vamper.core.marks.vernier import COARSE_MM, MOST_TICK, possible_miss

pytestmark = pytest.mark.screens

HULL, SHIMMER, SHED = 4, 3, 11
NUMBERS = re.compile(r"-?\d+\.\d+")
# Where cuts land on the machine of this test.
OFF = {"x": 0.8, "y": -0.3}


def click(screen: Screen, selector: str) -> None:
    """Press something small in a drawing."""
    script = "arguments[0].dispatchEvent(new MouseEvent('click', {bubbles: true}))"
    screen.driver.execute_script(script, screen.find(selector))


def test_a_shiny_sheet_in_bright_light_is_told_and_saved(screen: Screen) -> None:
    screen.open(f"/jobs/{SHIMMER}/marks")
    screen.says("Read in 2 of 100 tries")
    screen.says("glare")
    picture = screen.find("canvas")
    before = screen.driver.execute_script("return arguments[0].toDataURL()", picture)
    slider = screen.find("#room-light")
    slider.send_keys(Keys.HOME)
    screen.wait(lambda: re.search(r"Read in (9\d|more than 99) of 100 tries", screen.text()), "a better chance")
    screen.wait(
        lambda: screen.driver.execute_script("return arguments[0].toDataURL()", picture) != before, "another picture"
    )
    screen.wait(lambda: screen.find('button[title="light of the room"]').is_enabled(), "the kept step")
    screen.button("Undo").click()
    # The list of what helps comes with the reading, a moment after the finding that says the same.
    screen.wait(lambda: screen.text().count("Read in 2 of 100 tries") == 2, "the reading and its finding")
    screen.find('input[type="checkbox"]').click()
    screen.says("Read in more than 99 of 100 tries")
    screen.says("taken")
    assert screen.faults_of_access() == []
    screen.button("Undo").click()
    assert not screen.errors()


def _points(cut: str) -> np.ndarray:
    return np.array([float(one) for path in re.findall(r' d="([^"]+)"', cut) for one in NUMBERS.findall(path)])


def _meets(coarse: float, off: float) -> int:
    """The printed tick that a cut one meets."""
    said = {tick: possible_miss(tick, coarse) for tick in range(-MOST_TICK, MOST_TICK + 1)}
    return min(said, key=lambda tick: math.inf if said[tick] is None else abs(said[tick] - off))


def test_a_vernier_sheet_is_read_and_the_cut_file_moves(screen: Screen) -> None:
    """A machine that cuts 0.8 mm off, on stock of a thickness that nobody calibrated yet."""
    job = ASKED.post(f"{screen.base}/api/jobs/{SHIMMER}/copy").json()["id"]
    change = {"label": "the stock", "changes": {"stock": "matte-label"}}
    ASKED.post(f"{screen.base}/api/jobs/{job}/changes", json=change).raise_for_status()
    address = f"{screen.base}/api/jobs/{job}/sheets/1/cut.svg"
    screen.open(f"/jobs/{job}/marks")
    screen.button("Calibration").click()
    screen.says("Never calibrated on thin stock")
    before = _points(ASKED.get(address).text)
    scales = ASKED.get(f"{screen.base}/api/jobs/{job}/calibration").json()["scales"]
    for number, scale in enumerate(scales):
        screen.says(f"{number + 1} of 8")
        off = OFF[scale["axis"]]
        coarse = min(COARSE_MM, key=lambda at, off=off: abs(at - off))  # type: ignore[misc]
        tick = _meets(coarse, off)
        if number == 0:
            # All of it by keys.
            area = screen.find('[role="slider"][aria-label^="Scale"]')
            area.send_keys(Keys.ARROW_UP * round(abs(coarse) * 2))
            area.send_keys((Keys.ARROW_LEFT if tick < 0 else Keys.ARROW_RIGHT) * abs(tick))
            screen.says("the cut lies 0.80 mm right")
            area.send_keys(Keys.ENTER)
            continue
        wrong = 5 if number == 5 else 0
        click(screen, f'[data-coarse="{coarse:g}"]')
        click(screen, f'[data-tick="{tick + wrong}"]')
        screen.button("Next scale" if number < 7 else "See the result").click()
    # One tick was misread on purpose.
    screen.says("most likely a misread tick")
    screen.button("Read it again").click()
    screen.says("6 of 8")
    right = _meets(-0.5, OFF["y"])
    click(screen, f'[data-tick="{right}"]')
    screen.button("Result").click()
    screen.says("Cuts 0.80 mm right and 0.30 mm high")
    assert screen.faults_of_access() == []
    screen.button("even").click()
    screen.button("Keep this calibration").click()
    screen.says("look at the scales once more")
    path = "//button[normalize-space(.)='upper right']"
    screen.driver.find_element(By.XPATH, path).click()
    screen.button("Keep this calibration").click()
    screen.says("holds")
    # "holds" stands elsewhere, too.
    screen.wait(lambda: not np.array_equal(_points(ASKED.get(address).text), before), "the calibration kept")
    after = _points(ASKED.get(address).text)
    moved = (after - before).reshape(-1, 2)
    marks = np.all(moved == 0, axis=1)
    assert moved[~marks] == pytest.approx(np.tile([-0.8, 0.3], (int((~marks).sum()), 1)), abs=0.01)
    assert 0 < marks.sum() < len(marks)
    screen.button("Where cuts land").click()
    screen.says("95 of 100 are less than")
    screen.driver.find_element(By.CSS_SELECTOR, 'use[tabindex="0"]').send_keys(Keys.NULL)
    assert screen.faults_of_access() == []
    ASKED.delete(f"{screen.base}/api/calibrations/{_newest(screen, job)}")
    assert _points(ASKED.get(address).text) == pytest.approx(before)


def _newest(screen: Screen, job: int) -> int:
    history = ASKED.get(f"{screen.base}/api/jobs/{job}/calibration").json()["history"]
    return next(one["id"] for one in history if one["holds"])


def test_helpers_are_drawn_on_the_sheet(screen: Screen) -> None:
    screen.open(f"/jobs/{HULL}/marks")
    screen.button("On the sheet").click()
    screen.button("Helpers to print").click()
    screen.says("Cover trim")
    screen.button("Show on the sheet").click()
    assert screen.faults_of_access() == []
    link = screen.button("Cover trim, PDF").get_attribute("href")
    assert ASKED.get(link or "").content.startswith(b"%PDF")


def test_a_proof_is_measured_asked_about_and_compensated(screen: Screen) -> None:
    screen.open(f"/jobs/{SHED}/print")
    screen.says("The last proof came out at the wrong size")
    screen.button("Proof").click()
    across, down = screen.driver.find_elements(By.CSS_SELECTOR, 'form input[inputmode="decimal"]')
    across.send_keys("10")
    down.send_keys("99.8")
    screen.button("Keep the printer’s scale").click()
    screen.says("a slip of the pen")
    across.send_keys(Keys.CONTROL, "a")
    across.send_keys("99.7")
    screen.button("Keep the printer’s scale").click()
    screen.wait(lambda: "came out in the wrong size" not in screen.text(), "the finding to go")
    screen.says("off by -0.30 % across")
    screen.says("0 of 8 ticked")
    screen.find('button[aria-label^="missing: piece 3"]').click()
    screen.says("1 missing")
    screen.driver.refresh()
    screen.button("Proof").click()
    screen.says("1 missing")
    assert screen.faults_of_access() == []
    assert not screen.errors()
