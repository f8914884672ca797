"""Composed pieces by hand: parts are dragged and nudged on the picture, and fonts of the maker's own come in."""

from pathlib import Path

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from tests.formats.test_composed import own_font
from tests.screens.conftest import Screen

LINE = 'rect[aria-label^="Move text"]'


@pytest.fixture
def composing(screen: Screen) -> Screen:
    screen.open("/jobs/4/art")
    screen.button("Compose a piece").click()
    screen.find(LINE)
    return screen


def across(screen: Screen) -> float:
    """The number beside the picture."""
    script = """const labels = [...document.querySelectorAll('fieldset label')];
        return labels.find((one) => one.textContent.startsWith('Across')).control.value"""
    return float(screen.driver.execute_script(script))


def test_a_part_is_nudged_and_dragged_with_its_numbers_beside_it(composing: Screen) -> None:
    screen = composing
    start = across(screen)
    line = screen.find(LINE)
    line.send_keys(Keys.ARROW_RIGHT)
    screen.wait(lambda: across(screen) == start + 0.5, "half a millimetre to the right")
    screen.find(LINE).send_keys(Keys.SHIFT, Keys.ARROW_LEFT)
    screen.wait(lambda: across(screen) == start - 4.5, "five to the left")
    ActionChains(screen.driver).drag_and_drop_by_offset(screen.find(LINE), 60, 0).perform()
    screen.wait(lambda: across(screen) > start, "it to follow the hand")
    assert screen.errors() == []


def test_text_alone_along_an_arc_becomes_a_design(composing: Screen) -> None:
    screen = composing
    screen.button("no base").click()
    screen.button("rainbow").click()
    text = screen.find('[aria-label="Text of line 1"]')
    text.send_keys(Keys.CONTROL, "a")
    text.send_keys("Gannet Reach")
    screen.find('rect[aria-label^="Move text “Gannet Reach”"]')
    screen.button("Add to the job").click()
    screen.wait(lambda: not screen.driver.find_elements(By.CSS_SELECTOR, LINE), "the window to close")
    screen.says("8 designs")
    screen.button("Undo").click()
    screen.says("7 designs")
    assert screen.errors() == []


def test_names_that_are_missing_are_asked_for_in_the_window(composing: Screen) -> None:
    composing.button("Add to the job").click()
    composing.says("A line takes names but none are given")
    assert composing.driver.find_elements(By.CSS_SELECTOR, LINE)


def test_own_fonts_come_in_and_what_is_none_is_refused(composing: Screen, tmp_path: Path) -> None:
    screen = composing
    letter, font = tmp_path / "letter.ttf", tmp_path / "hand.ttf"
    letter.write_text("Dear club,")
    font.write_bytes(own_font())

    def picker() -> WebElement:
        return screen.find('input[aria-label="Font file"]')

    picker().send_keys(str(letter))
    screen.says("This is not a font; fonts are files that end in .ttf or .otf.")
    picker().send_keys(str(font))
    screen.find('[aria-label="Remove the font Gannet Hand"]')
    chosen = "option[value='Gannet Hand']"
    screen.find(chosen).click()
    screen.wait(
        lambda: (
            screen.driver.execute_script(
                "return document.querySelector(\"option[value='Gannet Hand']\").parentElement.value"
            )
            == "Gannet Hand"
        ),
        "the font to be taken",
    )
    screen.find('[aria-label="Remove the font Gannet Hand"]').click()
    screen.wait(
        lambda: not screen.driver.find_elements(By.CSS_SELECTOR, '[aria-label="Remove the font Gannet Hand"]'),
        "the font to go",
    )
