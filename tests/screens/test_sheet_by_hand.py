"""The sheet by hand in a real browser: drag, collide, slide, turn, undo, reload, and everything is in its place."""

import io
import json
import re
import zipfile

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.actions.wheel_input import ScrollOrigin
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from tests.screens.asked import ASKED
from tests.screens.conftest import Screen

PIECE = "[data-piece]"
# A point of the drawing, from its middle, where no piece lies.
BARE = """
const box = arguments[0].getBoundingClientRect();
for (let x = 20; x < box.width; x += 7) for (let y = 20; y < box.height; y += 7) {
  const there = document.elementFromPoint(box.x + x, box.y + y);
  if (there && arguments[0].contains(there) && !there.closest('[data-piece]'))
    return [Math.round(x - box.width / 2), Math.round(y - box.height / 2)];
}
"""


@pytest.fixture
def job(screen: Screen) -> int:
    """A copy of the hull stickers with few enough pieces that there is room to move."""
    number: int = ASKED.post(f"{screen.base}/api/jobs/4/copy").json()["id"]
    for item in (1, 2, 3, 4, 5, 6, 7):
        body = {"label": "fewer", "numbers": [item], "changes": {"quantity": 2}}
        assert ASKED.post(f"{screen.base}/api/jobs/{number}/changes", json=body).status_code == 200
    screen.open(f"/jobs/{number}/sheet")
    screen.wait(lambda: screen.pieces() == 14, "all pieces")
    screen.wait(lambda: "Looking for" not in screen.text(), "packing to end")
    return number


def where(screen: Screen) -> dict[str, str]:
    """Every piece's place, by its number on the sheet."""
    script = """return Object.fromEntries([...document.querySelectorAll(arguments[0])].map(
        (one) => [one.dataset.piece, one.getAttribute('transform')]))"""
    found: dict[str, str] = screen.driver.execute_script(script, PIECE)
    return found


def piece(screen: Screen, index: int) -> WebElement:
    return screen.find(f'[data-piece="{index}"]')


def drag(screen: Screen, index: int, dx: int, dy: int, look: bool = False) -> None:
    chain = ActionChains(screen.driver, duration=60).move_to_element(piece(screen, index)).click_and_hold()
    for _ in range(4):
        chain.move_by_offset(dx // 4, dy // 4)
    chain.perform()
    if look:
        screen.find('[data-testid="distances"]')
    ActionChains(screen.driver).release().perform()


def settled(screen: Screen, before: dict[str, str]) -> dict[str, str]:
    screen.wait(lambda: where(screen) != before and "saved" in screen.text(), "the pieces to lie elsewhere")
    return where(screen)


def step(screen: Screen, job: int) -> object:
    """What the server has of the job; each step changes it."""
    return ASKED.get(f"{screen.base}/api/jobs/{job}").json()["job"]


def is_sound(screen: Screen, job: int) -> bool:
    codes = {finding["code"] for finding in ASKED.get(f"{screen.base}/api/jobs/{job}").json()["findings"]}
    return not codes & {"sheet.gap", "sheet.overlap", "sheet.outside"}


def test_drag_collide_slide_undo_reload(screen: Screen, job: int) -> None:
    start = where(screen)
    onto = piece(screen, 1).rect
    own = piece(screen, 0).rect
    drag(screen, 0, int(onto["x"] - own["x"]), int(onto["y"] - own["y"]), look=True)
    # It was dropped on another piece: it slides to a free place near by, or goes back with a sentence.
    screen.wait(lambda: "nearest free place" in screen.text() or "nothing was moved" in screen.text(), "a word on it")
    assert is_sound(screen, job)
    after_first = where(screen)
    # A place that is free is taken as it is: one piece sent to a sheet of its own, and moved there.
    piece(screen, 13).click()
    screen.button("Send to").click()
    screen.button("a new sheet").click()
    screen.wait(lambda: screen.pieces() == 1, "the new sheet")
    alone = where(screen)
    drag(screen, 0, 80, 120)
    moved = settled(screen, alone)
    assert is_sound(screen, job)
    # Undo goes back through all of it, redo forward again, and a reload finds the same.
    screen.button("Undo").click()
    assert settled(screen, moved) == alone
    screen.button("Redo").click()
    assert settled(screen, alone) == moved
    screen.driver.refresh()
    screen.wait(lambda: screen.pieces() == 13, "the first sheet again")
    screen.find('[data-sheet="1"]').click()
    screen.wait(lambda: screen.pieces() == 1, "the second sheet")
    assert where(screen) == moved
    for _ in range(12):
        undo = screen.button("Undo")
        if not undo.is_enabled() or where(screen) == start:
            break
        before = step(screen, job)
        undo.click()
        # "saved" alone stands there until the press has come through.
        screen.wait(lambda n=before: step(screen, job) != n and "saved" in screen.text(), "the step back")
    screen.wait(lambda: where(screen) in (start, after_first), "everything as it was")


def test_by_keyboard_alone(screen: Screen, job: int) -> None:
    body = screen.driver.find_element(By.TAG_NAME, "body")
    body.send_keys("n")
    screen.wait(lambda: screen.driver.find_elements(By.CSS_SELECTOR, '[aria-selected="true"]'), "a piece in hand")
    active = screen.driver.switch_to.active_element
    assert active.get_dom_attribute("data-piece") == "0"
    screen.press("l")
    screen.wait(lambda: piece(screen, 0).get_dom_attribute("data-pin") == "locked", "the lock")
    before = where(screen)
    screen.press(Keys.ARROW_DOWN)
    screen.says("locked where it is")
    assert where(screen) == before
    screen.press("l")
    screen.wait(lambda: piece(screen, 0).get_dom_attribute("data-pin") == "hand", "no lock")
    screen.press("d")
    screen.wait(lambda: screen.pieces() == 15, "one more")
    screen.says("15 pieces of 7 designs")
    screen.press(Keys.BACKSPACE)
    screen.wait(lambda: screen.pieces() == 14, "one fewer")
    before = where(screen)
    body.send_keys("n")
    screen.press("r")
    screen.wait(
        lambda: where(screen) != before or "no free place" in screen.text() or "Slid" in screen.text(), "a turn"
    )
    screen.press(Keys.ESCAPE)
    screen.says("Press a piece to take it up")
    assert is_sound(screen, job)


@pytest.mark.usefixtures("job")
def test_zoom_and_pan(screen: Screen) -> None:
    sheet = screen.find('[data-testid="sheet"]')
    fitted = sheet.get_dom_attribute("viewBox")
    ActionChains(screen.driver).scroll_from_origin(ScrollOrigin.from_element(sheet), 0, -400).perform()
    screen.wait(lambda: sheet.get_dom_attribute("viewBox") != fitted, "a closer look")
    closer = sheet.get_dom_attribute("viewBox")
    bare = screen.driver.execute_script(BARE, sheet)
    ActionChains(screen.driver).move_to_element_with_offset(sheet, *bare).click_and_hold().move_by_offset(
        30, 30
    ).release().perform()
    screen.wait(lambda: sheet.get_dom_attribute("viewBox") not in (fitted, closer), "another part")
    screen.driver.find_element(By.TAG_NAME, "body").send_keys("0")
    screen.wait(lambda: sheet.get_dom_attribute("viewBox") == fitted, "the whole sheet")


def test_every_window_is_accessible(screen: Screen) -> None:
    screen.open("/jobs/4/sheet")
    for tool, words in {
        "How many fit?": "a sheet",
        "Fill what is left": "in a range of sizes",
        "Scale to fill": "Find the size",
        "Compare layouts": "used of the area",
    }.items():
        screen.button(tool).click()
        screen.find('[role="dialog"]')
        screen.says(words)
        assert screen.faults_of_access() == [], tool
        screen.press(Keys.ESCAPE)
        screen.wait(lambda: not screen.driver.find_elements(By.CSS_SELECTOR, '[role="dialog"]'), "the sheet again")


@pytest.mark.usefixtures("job")
def test_a_layout_is_kept_under_a_name_and_put_back(screen: Screen) -> None:
    first = where(screen)
    screen.button("Compare layouts").click()
    screen.find('[role="dialog"] input').send_keys("first")
    screen.button("Keep it").click()
    screen.wait(lambda: screen.driver.find_elements(By.CSS_SELECTOR, 'section[aria-label="first"]'), "the kept one")
    screen.button("Close").click()
    screen.driver.find_element(By.TAG_NAME, "body").send_keys("n")
    screen.press("d")
    screen.wait(lambda: screen.pieces() == 15, "another layout")
    screen.button("Compare layouts").click()
    side = screen.find('section[aria-label="first"]')
    side.find_element(By.XPATH, ".//button[contains(., 'Keep this one')]").click()
    screen.wait(lambda: screen.pieces() in (14, 15) and where(screen).get("3") == first["3"], "the first layout")


def test_the_live_area_is_explained_and_machines_are_changed(screen: Screen, job: int) -> None:
    screen.button("Area you can use").click()
    # The station of the same name is a link; the limit is a button.
    screen.driver.find_element(By.XPATH, "//button[@aria-pressed][contains(., '8 inset')]").click()
    screen.find('[data-testid="bound"]')
    screen.find('[data-phrase="cutter"]').click()
    screen.button("Add a cutter").click()
    name = screen.find('[role="dialog"] form input')
    name.send_keys(f"a short one {job}")
    reach = screen.driver.find_elements(By.CSS_SELECTOR, '[role="dialog"] form input')[1]
    reach.send_keys(Keys.CONTROL, "a")
    reach.send_keys("150", Keys.TAB)
    screen.button("Save").click()
    # The list of cutters names it before the job is made on it.
    phrase = '[data-phrase="cutter"]'
    screen.wait(lambda: screen.find(phrase).text == f"a short one {job}", "the job to be made on it")
    screen.open(f"/jobs/{job}/sheet")
    screen.says("139.2 mm")


def test_24_pieces_are_packed_adjusted_and_handed_over(screen: Screen) -> None:
    """The whole way, as a maker goes it."""
    job = ASKED.post(f"{screen.base}/api/jobs/4/copy").json()["id"]
    body = {"label": "24 pieces", "numbers": [7], "changes": {"quantity": 0, "fill_priority": 1}}
    assert ASKED.post(f"{screen.base}/api/jobs/{job}/changes", json=body).status_code == 200
    screen.open(f"/jobs/{job}/sheet")
    screen.wait(lambda: "24 of 24" in screen.text(), "all 24 placed")
    # A layout that is still getting better moves away under a click.
    screen.wait(lambda: "Packed" in screen.text(), "the search to end")
    screen.press("n")
    screen.find('[data-piece][aria-selected="true"]')
    screen.press("l")
    screen.wait(lambda: screen.driver.find_elements(By.CSS_SELECTOR, '[data-pin="locked"]'), "the piece to be locked")
    screen.button("Hand off").click()
    screen.says("Everything (zip)")
    answer = ASKED.get(f"{screen.base}/api/jobs/{job}/hand-off.zip", timeout=120)
    archive = zipfile.ZipFile(io.BytesIO(answer.content))
    plan = json.loads(archive.read("plan.json"))
    placements = [one for sheet in plan["sheets"] for one in sheet["placements"]]
    assert len(placements) == 24
    assert [one["pin"] for one in placements].count("locked") == 1
    kept = json.loads(archive.read("job.json"))["placed"]
    assert [one["pin"] for one in kept].count("locked") == 1
    assert re.match(rb"%PDF", archive.read("sheet-01-print.pdf"))
