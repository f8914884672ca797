"""Cut in a real browser: a ladder judged by clicks, and the proposal and the bench card that follow."""

import io
import re

import numpy as np
import pytest
from PIL import Image
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.screens.asked import ASKED
from tests.screens.conftest import Screen
from vamper.core.cutting.depth import bands_of, depth_um
from vamper.core.values.blade import Blade, sharpness_of
from vamper.core.values.cut import Cut
from vamper.core.values.stock import STOCK_BY_KEY

pytestmark = pytest.mark.screens

CHANDLERY, TAGS, PEARL, SHED, JARS = 1, 5, 9, 11, 13
NAMES = {
    "not-through": "not through",
    "clean": "clean",
    "backing-marked": "backing marked",
    "backing-through": "through the backing",
}
# How much harder the film of this test is than its starter, and how worn the demo's blade is.
HARDER, METRES = 1.2, 8.0


def judged(screen: Screen) -> None:
    """Say of every drop on the screen what the film of this test would look like."""
    stock = STOCK_BY_KEY["gloss-vinyl"]
    bands, sharp = bands_of(stock, Cut.KISS), sharpness_of(METRES)
    for place in range(6):
        group = screen.find(f'[role="radiogroup"][aria-label^="Drop {place + 1},"]')
        gf = float(re.search(r", ([\d.]+) gf", group.get_attribute("aria-label") or "")[1])  # type: ignore[index]
        depth = depth_um(gf, 1, stock, Blade.GENERAL, sharp) / HARDER
        outcome = next(one for one, low, high in bands.outcomes if low <= depth < high)
        (radio,) = (one for one in group.find_elements(By.CSS_SELECTOR, '[role="radio"]') if one.text == NAMES[outcome])
        screen.driver.execute_script("arguments[0].scrollIntoView({block: 'center'}); arguments[0].click()", radio)
        path = f'[role="radiogroup"][aria-label^="Drop {place + 1},"] [aria-checked="true"]'
        screen.wait(
            lambda path=path, outcome=outcome: any(
                one.text == NAMES[outcome] for one in screen.driver.find_elements(By.CSS_SELECTOR, path)
            ),
            f"drop {place + 1} judged",
        )


def test_a_ladder_finds_the_force_and_the_card_follows(screen: Screen) -> None:
    screen.open(f"/jobs/{CHANDLERY}/cut")
    screen.says("No ladder yet")
    screen.says("if you look before unloading")
    heading = screen.find('section[aria-label="kiss cut"] h2').text
    screen.button("Lay out a ladder").click()
    screen.find('[role="radiogroup"][aria-label^="Drop 1,"]')
    screen.says("Cut it, look at each drop")
    judged(screen)
    screen.says("judged")
    screen.wait(lambda: screen.find('section[aria-label="kiss cut"] h2').text != heading, "another force")
    assert screen.faults_of_access() == []
    heading = screen.find('section[aria-label="kiss cut"] h2').text
    proposed = float(re.search(r"([\d.]+) gf", heading)[1])  # type: ignore[index]
    stock = STOCK_BY_KEY["gloss-vinyl"]
    reached = depth_um(proposed, 1, stock, Blade.GENERAL, sharpness_of(METRES)) / HARDER
    # At the first go, or with one pass more.
    bands = bands_of(stock, Cut.KISS)
    assert bands.least_um / 1.6 < reached < bands.usable_um
    screen.button("Bench card").click()
    screen.says(f"{proposed:g} gf, one pass")
    assert "Try it first" not in screen.text()
    assert screen.faults_of_access() == []
    assert not screen.errors()


def test_the_blade_goes_its_way_under_a_slider(screen: Screen) -> None:
    screen.open(f"/jobs/{PEARL}/cut")
    screen.says("Ladder 2, judged")
    screen.button("The cut path").click()
    slider = screen.find('input[aria-label="Time at the machine"]')
    whole = screen.wait(lambda: re.search(r"of (0:[1-9]\d|[1-9]:\d\d)\n", screen.text()), "the time")[1]
    assert re.search(rf"{whole} at the machine", screen.text())
    drawn = 'path[stroke="var(--d-edge)"][stroke-width="2.4"]'
    everything = len(screen.find(drawn).get_attribute("d") or "")
    slider.send_keys(Keys.HOME)
    screen.wait(lambda: not screen.find(drawn).get_attribute("d"), "nothing cut yet")
    for _ in range(5):
        slider.send_keys(Keys.PAGE_UP)
    screen.wait(lambda: 0 < len(screen.find(drawn).get_attribute("d") or "") < everything, "some of it")
    screen.button("Play").click()
    screen.says("Stop")
    screen.button("Stop").click()
    assert screen.faults_of_access() == []
    tale = ASKED.get(screen.base + f"/api/jobs/{PEARL}/sheets/1/tell-tale.hpgl").text
    numbers = np.array([float(one) for one in re.findall(r"-?\d+", re.search(r"PD([\d,]+);", tale)[1])])  # type: ignore[index]
    assert np.ptp(numbers[::2]) < 6 * 40


def test_a_machine_that_is_set_by_names(screen: Screen) -> None:
    screen.open(f"/jobs/{SHED}/cut")
    screen.button("Your machine’s settings").click()
    screen.says("paper, second line")
    screen.says("Choose “")
    assert screen.faults_of_access() == []
    before = screen.find('section[aria-label="What to choose"]').text
    screen.find('section[aria-label="Test cut"]')
    screen.button("through the backing").click()
    screen.says("Take it back")
    screen.wait(lambda: screen.find('section[aria-label="What to choose"]').text != before, "another proposal")
    screen.button("Take it back").click()
    screen.wait(lambda: screen.find('section[aria-label="What to choose"]').text == before, "the first proposal")
    box = screen.find("section + form textarea, form textarea")
    box.send_keys("felt\nthin felt")
    screen.button("Add them").click()
    screen.says("thin felt")
    assert screen.faults_of_access() == []
    screen.button("Blade and mat").click()
    screen.says("change the blade")
    assert screen.faults_of_access() == []
    screen.driver.find_element(
        By.XPATH, "//li[.//b[normalize-space(.)='the blade that came with it']]//button[contains(., 'New tip')]"
    ).click()
    screen.wait(lambda: "The blade is worn" not in screen.text(), "the finding gone")
    assert not screen.errors()


def test_the_machines_own_program_from_the_picture_to_what_it_did(screen: Screen) -> None:
    """One picture and what to type, its marks, a setting by name, and the route changed by one press."""
    screen.open(f"/jobs/{JARS}/print")
    screen.says("Type this size")
    screen.says("It will find")
    assert "PDF" not in screen.find("main, body").text.split("Other files")[0]
    assert screen.faults_of_access() == []
    picture = ASKED.get(screen.base + f"/api/jobs/{JARS}/sheets/1/picture.png")
    with Image.open(io.BytesIO(picture.content)) as image:
        size = f"{image.size[0] * 25.4 / 300:.2f}"
    assert size.rstrip("0").rstrip(".") in screen.text()
    screen.open(f"/jobs/{JARS}/marks")
    screen.says("Your machine reads")
    assert screen.faults_of_access() == []
    screen.button("Calibration").click()
    screen.says("Calibrated in your machine’s program")
    screen.button("Note it").click()
    screen.wait(lambda: "Never calibrated" not in screen.text(), "the calibration noted")
    assert screen.faults_of_access() == []
    screen.open(f"/jobs/{JARS}/cut")
    screen.says("Choose “label paper”, more pressure")
    assert not re.search(r"\bgf\b", screen.text())
    assert screen.faults_of_access() == []
    screen.button("Bench card").click()
    screen.says("Leave the frame on the sheet")
    screen.says("Not through? Once more")
    screen.button("the machine on the kitchen table").click()
    screen.says("What runs the cutter?")
    files = screen.driver.find_element(By.XPATH, "//*[@role='radio'][contains(., 'A machine that takes cut files')]")
    files.click()
    screen.wait(lambda: "The cut path" in screen.text(), "what a machine of cut files has")
    assert not screen.errors()


def test_a_run_is_logged_once_the_blade_is_confirmed(screen: Screen) -> None:
    screen.open(f"/jobs/{PEARL}/cut")
    screen.button("Log a run").click()
    screen.says("The blade in the machine was")
    log = screen.button("Log the run")
    assert not log.is_enabled()
    screen.find('[role="dialog"] input[type="checkbox"]').click()
    (clean,) = (
        one
        for one in screen.driver.find_elements(By.CSS_SELECTOR, '[role="dialog"] [role="radio"]')
        if one.text.startswith("clean")
    )
    clean.click()
    screen.wait(lambda: screen.button("Log the run").is_enabled(), "the button")
    assert screen.faults_of_access() == []
    screen.button("Log the run").click()
    screen.says("1 run")
    assert not screen.errors()


def test_a_stock_of_ones_own_from_its_weight(screen: Screen) -> None:
    screen.open(f"/jobs/{TAGS}/cut")
    screen.button("card, 200").click()
    screen.button("A stock of your own").click()
    screen.says("A new one")
    window = screen.find('[role="dialog"] form')
    window.find_element(By.CSS_SELECTOR, "input").send_keys("hemp card")
    selects = window.find_elements(By.CSS_SELECTOR, "select")
    selects[1].send_keys("its weight in g")
    amount = window.find_elements(By.CSS_SELECTOR, 'input[inputmode="decimal"]')[0]
    amount.send_keys(Keys.CONTROL, "a")
    amount.send_keys("240", Keys.ENTER)
    screen.button("Find similar stocks").click()
    screen.says("Nobody has cut it here yet")
    assert screen.faults_of_access() == []
    screen.button("Keep it and use it here").click()
    screen.wait(lambda: "out of hemp card" in " ".join(screen.text().split()), "the brief")
    kept = {one["key"]: one["stock"] for one in ASKED.get(screen.base + "/api/stocks").json()}
    assert kept["hemp-card"]["face_um"] == 300
    screen.button("Undo").click()
    screen.wait(lambda: "out of card, 200" in " ".join(screen.text().split()), "the old stock")
    assert not screen.errors()
