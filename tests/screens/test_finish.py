"""Finish in a real browser: a job's steps, and an evening run at speed, in which something slips."""

import pytest
from selenium.webdriver.chrome.webdriver import WebDriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.demo_file import demo_file
from tests.screens.asked import ASKED
from tests.screens.conftest import Screen, running
from vamper.services.packing.nesting_process import ProcessNester

pytestmark = pytest.mark.screens

MUGS, LABELS, SHIRTS, KEY_RINGS = 2, 10, 13, 14


def pressed(screen: Screen, words: str) -> None:
    button = screen.button(words)
    screen.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", button)
    button.click()


def test_a_job_says_how_it_is_finished(screen: Screen) -> None:
    screen.open(f"/jobs/{MUGS}/finish")
    screen.says("Water-slide decals")
    screen.says("Spray and resin fumes")
    screen.says("The label of your product and your local rules come before this.")
    assert screen.faults_of_access() == []
    radios = screen.driver.find_elements(By.CSS_SELECTOR, '[role="radio"]')
    next(one for one in radios if one.text.startswith("A coat before the cut")).click()
    order = "return [...document.querySelectorAll('ol li b')].map((one) => one.textContent)"

    def coat_comes_first() -> bool:
        steps = screen.driver.execute_script(order)
        names = [one.partition(" ·")[0] for one in steps]
        sprayed = "Spray a thin coat on the sheet"
        return sprayed in names and names.index(sprayed) < names.index("Cut through")

    screen.wait(coat_comes_first, "the coat before the cut")
    labels = screen.driver.find_elements(By.CSS_SELECTOR, "aside label")
    coats = next(one for one in labels if "How many coats" in one.text)
    field = screen.driver.find_element(By.ID, str(coats.get_attribute("for")))
    screen.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", field)
    field.send_keys("2\n")

    def kept() -> bool:
        said = ASKED.get(f"{screen.base}/api/jobs/{MUGS}/finish").json()["labels"]
        return any(one["key"] == "coats" and one["value"] == 2 for one in said)

    screen.wait(kept, "the label's figure")
    assert screen.errors() == []


def test_an_evening_at_speed_and_a_step_that_slips(
    tmp_path_factory: pytest.TempPathFactory, nester: ProcessNester, monkeypatch: pytest.MonkeyPatch, driver: WebDriver
) -> None:
    clock = tmp_path_factory.mktemp("clock") / "minutes"
    clock.write_text("0")
    monkeypatch.setenv("VAMPER_CLOCK", str(clock))
    with running("serve", demo_file(tmp_path_factory, nester)) as base:
        driver.get_log("browser")
        screen = Screen(driver, base)
        ASKED.delete(f"{base}/api/evening")
        for job in (MUGS, LABELS):
            screen.open(f"/jobs/{job}/finish")
            pressed(screen, "Plan it for tonight")
            screen.says("in tonight’s plan")
        screen.open("/tonight")
        screen.says("All done")
        assert screen.faults_of_access() == []
        before = ASKED.get(f"{base}/api/evening").json()
        first = before["next"]
        pressed(screen, "It rests from now")
        screen.wait(lambda: ASKED.get(f"{base}/api/evening").json()["next"] != first, "the next step")
        # Nobody comes for an hour and a half: all that was to come moves.
        clock.write_text("90")
        driver.refresh()
        screen.says("time is up")
        after = ASKED.get(f"{base}/api/evening").json()
        assert after["ends"] > before["ends"]
        coming = [step for batch in after["batches"] for step in batch["steps"] if step["state"] == "to-come"]
        assert all(step["starts"] >= after["now"][:16] for step in coming)
        # A reload loses nothing; the rest that is over still waits for its check.
        driver.refresh()
        screen.says("time is up")
        pressed(screen, "The check is right: done")

        def is_done() -> bool:
            batches = ASKED.get(f"{base}/api/evening").json()["batches"]
            return any(step["state"] == "done" for batch in batches for step in batch["steps"])

        screen.wait(is_done, "the step to be done")
        assert screen.errors() == []


def test_a_design_goes_on_a_cup_and_the_sheet_packs_it_bent(screen: Screen) -> None:
    screen.open(f"/jobs/{MUGS}/finish")
    pressed(screen, "On a cup")
    number = ASKED.get(f"{screen.base}/api/jobs/{MUGS}").json()["job"]["document"]["items"][0]["number"]
    assert ASKED.get(f"{screen.base}/api/jobs/{MUGS}/items/{number}/cup").json() is None
    pressed(screen, "A cup that tapers")
    screen.says("so it is bent, edge and all")
    cup = ASKED.get(f"{screen.base}/api/jobs/{MUGS}/items/{number}/cup").json()
    assert (cup["kind"], round(cup["top_around_mm"], 1)) == ("taper", 263.9)
    turning = screen.find('input[type="range"]')
    turning.send_keys(Keys.ARROW_RIGHT * 30)
    screen.find('svg[aria-label="The piece on its cup, turned by 30 degrees"]')
    assert screen.faults_of_access() == []
    fields = screen.driver.find_elements(By.CSS_SELECTOR, "input")
    field = next(one for one in fields if one.get_attribute("value") == "105")
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("10", Keys.ENTER)
    screen.says("too short for these diameters")
    assert screen.errors() == []


def test_it_is_pressed_in_patches_and_placed_on_the_cloth(screen: Screen) -> None:
    screen.open(f"/jobs/{SHIRTS}/finish")
    screen.says("below the collar")
    pressed(screen, "Under the press")
    screen.says("Set down once")
    screen.says("Else no second round")
    assert screen.faults_of_access() == []
    pressed(screen, "What presses")
    radios = screen.driver.find_elements(By.CSS_SELECTOR, '[role="radio"]')
    next(one for one in radios if one.text == "A press").click()
    screen.says("Closed once")
    select = screen.find("aside select")
    select.send_keys("polyester")
    screen.says("Dye may wander into it")
    template = ASKED.get(f"{screen.base}/api/jobs/{SHIRTS}/placing.pdf")
    assert template.content.startswith(b"%PDF")
    assert screen.errors() == []


def test_a_test_bar_makes_the_print_larger(screen: Screen) -> None:
    screen.open(f"/jobs/{KEY_RINGS}/finish")
    pressed(screen, "As it shrinks")
    screen.says("Punch before it shrinks")
    assert screen.faults_of_access() == []

    def printed() -> float:
        pieces = ASKED.get(f"{screen.base}/api/jobs/{KEY_RINGS}/finish/pieces").json()["shrink"]
        return float(pieces["designs"][0]["printed"].split()[0])

    before = printed()
    fields = screen.driver.find_elements(By.CSS_SELECTOR, "main input")
    baked = next(one for one in fields if one.get_attribute("value") == "44.1")
    baked.send_keys(Keys.CONTROL, "a")
    baked.send_keys("50", Keys.ENTER)
    screen.wait(lambda: printed() < before, "a smaller print")
    screen.wait(lambda: float(screen.find("table td + td").text.split()[0]) == printed(), "it on the screen")
    baked.send_keys(Keys.CONTROL, "a")
    baked.send_keys("150", Keys.ENTER)
    screen.says("shrink film gets smaller")
    assert screen.errors() == []


def test_where_it_lives_decides_how_it_is_finished(screen: Screen) -> None:
    screen.open(f"/jobs/{MUGS}/finish")
    pressed(screen, "a mug")
    screen.says("Not on clear water-slide film")
    assert screen.faults_of_access() == []
    pressed(screen, "a drinking bottle")
    screen.says("Lay the top coat over it")
    assert screen.errors() == []
