"""Words of the craft: told on a press where they stand, by keyboard too, and all of them on a page."""

import pytest
from selenium.webdriver.common.keys import Keys

from tests.screens.conftest import Screen

pytestmark = pytest.mark.screens

NEWCOMERS = 7


def test_a_word_in_a_finding_is_explained_where_it_stands(screen: Screen) -> None:
    screen.open(f"/jobs/{NEWCOMERS}/sheet")
    screen.driver.execute_script("document.body.focus()")
    word = screen.find('button[aria-label$=": what is that?"]')
    screen.driver.execute_script("arguments[0].scrollIntoView({block: 'center'}); arguments[0].focus()", word)
    said = word.text.lower()
    word.send_keys(Keys.ENTER)
    screen.wait(lambda: word.get_attribute("aria-controls"), "the explanation")
    panel = screen.find(f'[id="{word.get_attribute("aria-controls")}"]')
    screen.wait(lambda: len(panel.text) > 30, "its words")
    assert said[:4] in panel.text.lower()
    assert screen.faults_of_access() == []
    word.send_keys(Keys.ENTER)
    screen.wait(lambda: not word.get_attribute("aria-controls"), "it to close")


def test_the_page_of_words_has_all_of_them(screen: Screen) -> None:
    screen.open("/words")
    screen.says("kiss cut")
    shown = screen.driver.execute_script("return document.querySelectorAll('li h2').length")
    drawn = screen.driver.execute_script(
        "return [...document.querySelectorAll('li svg')].filter(s => s.children.length).length"
    )
    assert shown == drawn >= 12
    assert screen.faults_of_access() == []
    assert screen.errors() == []
