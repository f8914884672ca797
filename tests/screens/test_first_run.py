"""A workshop in which nobody has done anything yet."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.remote.webdriver import WebDriver
from selenium.webdriver.remote.webelement import WebElement

from tests.conftest import disc_png
from tests.screens.asked import ASKED
from tests.screens.conftest import Screen, running

# Long enough to see a layout get better, on a machine that is busy with other things.
LONG_SEARCH_SECONDS = 30


@pytest.fixture(scope="module")
def empty(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    with running("serve", tmp_path_factory.mktemp("empty") / "new.db") as base:
        yield base


@pytest.fixture
def screen(driver: WebDriver, empty: str) -> Screen:
    driver.get_log("browser")
    return Screen(driver, empty)


@pytest.fixture
def patient(driver: WebDriver, tmp_path: Path) -> Iterator[Screen]:
    """A workshop of its own, where a search goes on long enough to be seen and stopped."""
    with running("serve", tmp_path / "new.db", LONG_SEARCH_SECONDS) as base:
        driver.get_log("browser")
        yield Screen(driver, base)


def test_questions_can_be_left_for_later(screen: Screen) -> None:
    screen.open("/")
    for question in ("What cuts?", "What prints?", "What do you make most?"):
        screen.says(question)
        screen.button("I’ll say later").click()
    screen.wait(lambda: "What do you make most?" not in screen.text(), "the questions to go")
    screen.open("/")
    screen.says("Drop your pictures anywhere on this page")
    assert "What cuts?" not in screen.text()


def test_three_questions_one_press_each_and_they_do_not_come_again(patient: Screen) -> None:
    screen = patient
    screen.open("/")
    screen.says("What cuts?")
    # Pictures can be dropped before anything is answered.
    screen.says("Drop your pictures anywhere on this page")
    assert screen.faults_of_access() == []
    answer(screen, "A machine with its own program")
    screen.says("What prints?")
    screen.button("Back").click()
    chosen = screen.find('[aria-label="Three questions"] [aria-pressed="true"]')
    assert "own program" in chosen.text
    answer(screen, "A machine with its own program")
    screen.says("What prints?")
    assert screen.faults_of_access() == []
    answer(screen, "Inkjet printer")
    screen.says("What do you make most?")
    assert screen.faults_of_access() == []
    answer(screen, "Labels for jars")
    screen.wait(lambda: "What do you make" not in screen.text(), "the questions to go")
    screen.open("/")
    screen.says("Drop your pictures anywhere on this page")
    assert "What cuts?" not in screen.text()
    assert screen.errors() == []
    usual = ASKED.get(f"{screen.base}/api/usual").json()
    assert (usual["makes"], usual["asked"]) == ("labels", True)
    assert usual["printer_id"] is not None
    assert usual["cutter_id"] is not None


def answer(screen: Screen, words: str) -> None:
    path = f"//*[@aria-label='Three questions']//button[contains(., '{words}')]"
    screen.wait(lambda: screen.driver.find_element(By.XPATH, path).click() is None, words)


def test_pictures_that_come_in_make_a_job_named_after_them(screen: Screen, tmp_path: Path) -> None:
    picture = tmp_path / "mooring_ring.png"
    picture.write_bytes(disc_png())
    screen.open("/")
    screen.find('input[type="file"]').send_keys(str(picture))
    screen.wait(lambda: "/art" in screen.driver.current_url, "the new job")
    titled = "return document.querySelector('[aria-label=\"Title of the job\"]')?.value === 'Mooring ring'"
    screen.wait(lambda: screen.driver.execute_script(titled), "its title")
    # Neither was named.
    screen.says("the inkjet printer (assumed for now)")
    screen.says("cutter (assumed for now)")
    screen.open("/")
    screen.says("1 on the sheet")
    assert screen.errors() == []


def test_a_picture_is_pasted_into_a_job(screen: Screen) -> None:
    screen.open("/")
    screen.button("New job").click()
    screen.wait(lambda: "/art" in screen.driver.current_url, "the new job")
    screen.find('[aria-label="Title of the job"]')
    screen.driver.execute_script(
        """
        const canvas = document.createElement('canvas');
        canvas.width = canvas.height = 300;
        const pen = canvas.getContext('2d');
        pen.fillStyle = '#2F6F86';
        pen.arc(150, 150, 130, 0, 7);
        pen.fill();
        canvas.toBlob((blob) => {
          const data = new DataTransfer();
          data.items.add(new File([blob], 'pasted.png', { type: 'image/png' }));
          document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));
        });
        """
    )
    screen.says("1 piece of 1 design")
    assert screen.errors() == []


# The first reading of a job is answered late, by what the job was before; no event tells of what came since.
LATE = """
window.EventSource = class extends EventTarget { close() {} };
const asking = window.fetch;
let late = true;
window.fetch = async (...asked) => {
  const answer = await asking(...asked);
  const path = new URL(asked[0].url ?? asked[0], location.href).pathname;
  if (late && /^.api.jobs.\\d+$/.test(path)) {
    late = false;
    await new Promise((go) => setTimeout(go, 2500));
  }
  return answer;
};
"""


def test_what_comes_in_while_a_job_is_first_read_is_shown(screen: Screen, tmp_path: Path) -> None:
    picture = tmp_path / "shackle.png"
    picture.write_bytes(disc_png())
    script = screen.driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", {"source": LATE})
    try:
        screen.open("/")
        screen.find('input[type="file"]').send_keys(str(picture))
        screen.wait(lambda: "/art" in screen.driver.current_url, "the new job")
        screen.says("1 piece of 1 design")
    finally:
        screen.driver.execute_cdp_cmd("Page.removeScriptToEvaluateOnNewDocument", script)


def test_the_example_opens_with_one_press(screen: Screen) -> None:
    # Only a workshop without jobs offers it.
    def menus() -> list[WebElement]:
        return screen.driver.find_elements(By.CSS_SELECTOR, 'button[aria-label^="More for "]')

    screen.open("/")
    screen.wait(menus, "the jobs so far")
    while left := menus():
        left[0].click()
        screen.button("Remove it").click()
        screen.wait(lambda n=len(left): len(menus()) < n, "the job to go")
    screen.button("Look at an example job").click()
    screen.wait(lambda: "/sheet" in screen.driver.current_url, "the example")
    screen.wait(lambda: screen.pieces() > 0, "its sheet")
    assert screen.errors() == []


def test_packing_gets_better_by_itself_and_can_be_stopped(patient: Screen) -> None:
    screen = patient
    job = ASKED.post(f"{screen.base}/api/example").json()["id"]
    change = {"label": "one sheet", "changes": {"packing.max_sheets": 1}}
    numbers = {"label": "many", "changes": {"quantity": 9}, "numbers": [1, 2, 4, 5]}
    screen.open(f"/jobs/{job}/sheet")
    screen.wait(lambda: screen.pieces() > 0, "the first layout")
    # The page is there before the search begins, which lasts seconds only.
    for body in (change, numbers):
        assert ASKED.post(f"{screen.base}/api/jobs/{job}/changes", json=body).status_code == 200
    screen.says("Not placed")
    first = screen.pieces()
    screen.wait(lambda: screen.pieces() > first, "a better layout, told by the server")
    screen.driver.find_element(By.TAG_NAME, "body").send_keys("s")
    screen.says("the best so far is kept")
    assert "Not placed" in screen.text()


def test_a_sheet_goes_to_the_machines_own_program(screen: Screen) -> None:
    """From the marks to the picture: sizes are learnt, the live area follows, and what will be cut is drawn."""
    screen.open("/")
    screen.wait(lambda: screen.driver.find_elements(By.CSS_SELECTOR, 'a[href$="/sheet"]'), "the jobs")
    screen.find('a[href$="/sheet"]').click()
    screen.wait(lambda: "/sheet" in screen.driver.current_url, "a job")
    screen.open(screen.driver.current_url.removeprefix(screen.base).replace("/sheet", "/marks"))
    screen.find('[role=radiogroup][aria-label="Family of marks"]')
    screen.driver.find_elements(By.CSS_SELECTOR, '[aria-label="Family of marks"] [role=radio]')[-1].click()
    screen.says("nothing known yet")
    assert screen.faults_of_access() == []
    screen.button("It was taken").click()
    screen.says("taken up to")
    screen.open(screen.driver.current_url.removeprefix(screen.base).replace("/marks", "/print"))
    screen.says("outlines, at most")
    assert screen.faults_of_access() == []
    assert screen.errors() == []
