"""Practice in the browser: a lesson to its end, the practice job, free play; by keyboard, and read by axe."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.screens.conftest import Screen


def test_a_lesson_is_played_to_its_end(screen: Screen) -> None:
    screen.open("/")
    screen.button("Practise").click()
    screen.says("Lessons, in the order of the work")
    assert screen.faults_of_access() == []
    screen.find("[aria-label='Begin: HULL in four pieces']").click()
    screen.says("minutes left of 60")
    screen.wait(lambda: screen.driver.execute_script(_DRAWN), "the pictures")
    assert screen.faults_of_access() == []
    # Nothing is told before it was tried or asked for.
    assert "not joined by a border" not in screen.text()
    screen.button("Print and cut a sheet").click()
    screen.says("8 in loose letters.")
    screen.button("Ask for a hint").click()
    screen.says("Count the lines that the blade followed.")
    screen.button("Join the parts at Edge").click()
    screen.wait(lambda: "Join the parts" in _did(screen), "the move")
    screen.button("Print and cut a sheet").click()
    screen.says("The order is filled.", 30)
    screen.says("What was wrong:")
    screen.says("A good hand", 60)
    assert screen.faults_of_access() == []
    assert screen.errors() == []


_DRAWN = "return [...document.images].length > 0 && [...document.images].every(i => i.complete && i.naturalWidth)"


def _did(screen: Screen) -> str:
    return screen.find('[aria-label="What you did"]').text


def test_the_practice_job_is_changed_by_hand_and_is_in_no_list(screen: Screen) -> None:
    screen.open("/practise")
    screen.find("[aria-label='Begin: Torn points']").click()
    screen.says("minutes left of 60")
    screen.find("main a[href^='/jobs/']").click()
    screen.says("Back to the lesson")
    screen.find('[data-testid="brief"]')
    assert screen.faults_of_access() == []
    screen.find("a[href^='/practise/plays/']").click()
    screen.says("minutes left of 60")
    screen.open("/")
    screen.says("Find")
    assert "Practice: Torn points" not in screen.text()


def test_a_spoilt_sheet_is_found_out_by_keyboard_alone(screen: Screen) -> None:
    screen.open("/practise/find/easy/7")
    screen.says("Say what it was")
    screen.wait(lambda: screen.driver.execute_script(_DRAWN), "the pictures")
    assert screen.faults_of_access() == []

    def is_at(section: str) -> bool:
        inside = f"document.activeElement.closest('[aria-label=\"{section}\"]')"
        return bool(screen.driver.execute_script(f"return !!{inside} && document.activeElement.tagName === 'BUTTON'"))

    for _ in range(30):
        screen.press(Keys.TAB)
        if is_at("Checks"):
            break
    screen.press(Keys.ENTER)
    screen.wait(lambda: screen.driver.find_elements(By.CSS_SELECTOR, '[aria-label="Checked"] li'), "the answer")
    for _ in range(40):
        screen.press(Keys.TAB)
        if is_at("It was this"):
            break
    screen.press(Keys.ENTER)
    screen.wait(lambda: screen.driver.find_elements(By.CSS_SELECTOR, '[aria-label="What it was"]'), "what it was")
    screen.says("You made 1 check")
    assert screen.faults_of_access() == []
