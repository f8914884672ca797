"""Finish in a real browser: a job's steps, and an evening run at speed, in which something slips."""

from collections.abc import Iterator
from datetime import datetime
from pathlib import Path
from typing import Any

import pytest
from selenium.webdriver.chrome.webdriver import WebDriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.demo_file import demo_file
from tests.screens.asked import ASKED
from tests.screens.conftest import Screen, running
from vamper.services.packing.nesting_process import ProcessNester

pytestmark = pytest.mark.screens

MUGS, LABELS, SHIRTS, KEY_RINGS = 2, 11, 8, 10


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


@pytest.fixture
def evening(
    tmp_path_factory: pytest.TempPathFactory, nester: ProcessNester, monkeypatch: pytest.MonkeyPatch, driver: WebDriver
) -> Iterator[tuple[Screen, Path]]:
    """An empty evening of a demo workshop, and the file that puts its clock forward, in minutes."""
    clock = tmp_path_factory.mktemp("clock") / "minutes"
    clock.write_text("0")
    monkeypatch.setenv("VAMPER_CLOCK", str(clock))
    with running("serve", demo_file(tmp_path_factory, nester)) as base:
        driver.get_log("browser")
        ASKED.delete(f"{base}/api/evening")
        yield Screen(driver, base), clock


def test_an_evening_at_speed_and_a_step_that_slips(evening: tuple[Screen, Path]) -> None:
    screen, clock = evening
    base, driver = screen.base, screen.driver
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


# A decal set that dries in air, a shirt that is peeled cold, a sheet under a laminate, a product of two prints.
KINDS: dict[str, tuple[dict[str, object], int]] = {
    "candles": ({"stock": "water-slide-white", "target": "candle"}, 1),
    "shirts": ({"stock": "print-flex", "target": "shirt", "finish.press": {"cold": True, "time_for": "whole"}}, 1),
    "labels": ({"stock": "gloss-label", "target": "hand-out", "finish.cover": {"kind": "laminate"}}, 1),
    "coasters": ({"stock": "dye-paper", "target": "blank"}, 2),
}
READ = {"press_c": "160", "press_s": "30", "pressure": "2", "oven_c": "150", "oven_minutes": "30", "peel": "180"}


# The clock is put forward in steps that a minute is rounded in.
_SLACK_MINUTES = 0.1
# What must be among the steps of each.
HEARD_OF = {
    "candles": "Slide it on, pat it down, let it dry",
    "shirts": "Let it cool before it is peeled",
    "labels": "Cut through laminate and face",
    "coasters": "Press a plateful under fresh paper",
}


def job_of(base: str, title: str, changes: dict[str, object], designs: int) -> int:
    job = int(ASKED.post(f"{base}/api/jobs", json={"title": title}).json()["id"])
    drawing = (b'<svg xmlns="http://www.w3.org/2000/svg" width="30mm" height="30mm"><circle cx="57" cy="57" r="50" '
               b'fill="#0A6E7C"/></svg>')  # fmt: skip
    for number in range(designs):
        files = {"file": (f"buoy{number}.svg", drawing, "image/svg+xml")}
        ASKED.post(f"{base}/api/jobs/{job}/art", files=files).raise_for_status()
    ASKED.post(f"{base}/api/jobs/{job}/changes", json={"label": "kind", "changes": changes}).raise_for_status()
    if designs > 1:
        numbers = [one["number"] for one in ASKED.get(f"{base}/api/jobs/{job}").json()["job"]["document"]["items"]]
        product = {"products": [{"name": "coaster", "items": numbers, "quantity": 1}]}
        ASKED.post(f"{base}/api/jobs/{job}/changes", json={"label": "p", "changes": product}).raise_for_status()
    return job


def test_an_evening_of_four_kinds_is_worked_through_in_the_page(evening: tuple[Screen, Path]) -> None:
    screen, clock = evening
    base, driver = screen.base, screen.driver
    for title, (changes, designs) in KINDS.items():
        job = job_of(base, title, changes, designs)
        screen.open(f"/jobs/{job}/finish")
        pressed(screen, "Plan it for tonight")
        screen.says("in tonight’s plan")
    screen.open("/tonight")
    screen.says("All done")
    minutes, now = 0.0, Evening(base)
    for _ in range(400):
        step, at = now.next, now.at
        if step is None or at is None:
            break
        if (wait := now.wait_minutes) > 0:
            minutes += wait + _SLACK_MINUTES
            clock.write_text(f"{minutes}")
            driver.refresh()
        for label in step["unread"]:
            read_label(screen, label["key"])
        press_now(screen, "I begin" if step["hands_on"] else "It is in" if step["greatest"] else "It rests from now")
        now = becomes(screen, at, "running")
        minutes += now.minutes_to_end(at) + (0 if step["hands_on"] else _SLACK_MINUTES)
        clock.write_text(f"{minutes}")
        if step["hands_on"]:
            press_now(screen, "It is done")
            now = becomes(screen, at, "done")
        else:
            now = Evening(base)
    else:
        raise AssertionError("the evening never ended")
    for name, steps in now.names.items():
        assert any(step.startswith(HEARD_OF[name]) for step in steps)
    assert screen.errors() == []


class Evening:
    """An evening as the page is told it, and what it asks for next."""

    def __init__(self, base: str) -> None:
        self.base = base
        self.told: dict[str, Any] = ASKED.get(f"{base}/api/evening").json()
        place = self.told["next"]
        self.at = None if place is None else (place["batch"], place["step"])
        self.next = None if self.at is None else self.step(self.at)

    @property
    def wait_minutes(self) -> float:
        assert self.next is not None
        starts, now = (datetime.fromisoformat(one) for one in (self.next["starts"], self.told["now"]))
        return (starts - now).total_seconds() / 60

    def minutes_to_end(self, at: tuple[int, int]) -> float:
        """How long a step that runs still takes."""
        ends, now = (datetime.fromisoformat(one) for one in (self.step(at)["ends"], self.told["now"]))
        return max(0.0, (ends - now).total_seconds() / 60)

    @property
    def names(self) -> dict[str, set[str]]:
        return {one["name"]: {step["name"] for step in one["steps"]} for one in self.told["batches"]}

    def step(self, at: tuple[int, int]) -> dict[str, Any]:
        batch = next(one for one in self.told["batches"] if one["number"] == at[0])
        return next(one for one in batch["steps"] if one["step"] == at[1])


def press_now(screen: Screen, words: str) -> None:
    """Press what the card of the next step asks for, once it does."""
    script = """
        const of = document.querySelectorAll('section[aria-label="Now"] button');
        const found = [...of].find((one) => one.textContent.startsWith(arguments[0]) && !one.disabled);
        found?.click();
        return !!found;"""
    screen.wait(lambda: screen.driver.execute_script(script, words), words)


def becomes(screen: Screen, at: tuple[int, int], state: str) -> Evening:
    def so() -> Evening | None:
        now = Evening(screen.base)
        return now if now.step(at)["state"] == state else None

    return screen.wait(so, f"it to be {state}")  # type: ignore[no-any-return]


def read_label(screen: Screen, key: str) -> None:
    def typed() -> bool:
        field = screen.find('section[aria-label="Now"] input')
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(READ[key], Keys.ENTER)
        return True

    def is_read() -> bool:
        step = Evening(screen.base).next
        return step is None or all(one["key"] != key for one in step["unread"])

    screen.wait(typed, f"the field of {key}")
    screen.wait(is_read, f"{key} to be read")


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
    screen.says("Dye may bleed into it")
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
