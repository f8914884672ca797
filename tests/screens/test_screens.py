"""The built interface in a real browser, from pictures to files, by mouse and by keyboard."""

import time
from collections.abc import Callable
from pathlib import Path

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.conftest import disc_png
from tests.screens.asked import ASKED
from tests.screens.conftest import Screen

pytestmark = pytest.mark.screens

STATIONS = ("art", "edge", "sheet", "marks", "print", "cut")


def test_from_pictures_to_files(screen: Screen, tmp_path: Path) -> None:
    files = {"disc.png": disc_png(), "small disc.png": disc_png(200, 0.3), "broken.png": disc_png()[:200]}
    for name, data in files.items():
        (tmp_path / name).write_bytes(data)
    screen.open("/")
    screen.button("New job").click()
    screen.says("Begin with pictures")
    picker = screen.find('input[type="file"]')
    picker.send_keys("\n".join(str(tmp_path / name) for name in files))
    # The broken one gets its own sentence, the others are in.
    screen.says("Not added: the picture is cut short or damaged")
    screen.says("2 designs")
    screen.button("Sheet").click()
    screen.wait(lambda: screen.pieces() == 2, "two pieces on the sheet")
    screen.driver.find_element(By.CSS_SELECTOR, '[data-phrase="pieces"]').click()
    # As many as go on one sheet in plain rows: none of it waits for the search.
    field = screen.find('input[id][inputmode="numeric"]')
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("5", Keys.ENTER)
    screen.wait(lambda: screen.pieces() == 6, "six pieces")
    screen.press(Keys.ESCAPE)
    screen.wait(lambda: "6 pieces of 2 designs" in screen.find('[data-testid="brief"]').text, "the brief")
    # Undo and redo by key, and a reload loses nothing.
    screen.driver.find_element(By.TAG_NAME, "body").send_keys("z")
    screen.wait(lambda: screen.pieces() == 2, "undone")
    screen.driver.find_element(By.TAG_NAME, "body").send_keys(Keys.SHIFT, "z")
    screen.wait(lambda: screen.pieces() == 6, "redone")
    screen.driver.refresh()
    screen.wait(lambda: screen.pieces() == 6, "the same after a reload")
    screen.driver.find_element(By.TAG_NAME, "body").send_keys("h")
    link = screen.button("Everything (zip)").get_attribute("href")
    assert ASKED.get(link or "").content.startswith(b"PK")
    assert not screen.errors()


def test_a_fix_is_one_action_and_can_be_undone(screen: Screen) -> None:
    screen.open("/jobs/2/edge")
    screen.says("Falls into 5 pieces")
    screen.button("Join the 5 parts").click()
    screen.wait(lambda: "Falls into 5 pieces" not in screen.text(), "joined")
    screen.button("Undo").click()
    screen.says("Falls into 5 pieces")


def undo_until(screen: Screen, condition: Callable[[], bool]) -> None:
    """Presses Undo; on a busy machine keys come so slowly that they are more than one step."""
    for _ in range(10):
        if condition():
            return
        undo = screen.button("Undo")
        if undo.is_enabled():
            undo.click()
        time.sleep(1)
    assert condition()


def test_the_edge_follows_the_slider(screen: Screen) -> None:
    screen.open("/jobs/4/edge")
    screen.find('[data-testid="item-view"]')
    before = screen.find('[data-testid="item-view"]').get_dom_attribute("viewBox")
    slider = screen.find('input[type="range"]')
    for _ in range(10):
        slider.send_keys(Keys.ARROW_RIGHT)
    screen.wait(lambda: screen.find('[data-testid="item-view"]').get_dom_attribute("viewBox") != before, "a wider edge")
    screen.says("4.0 mm")
    undo_until(screen, lambda: screen.find('[data-testid="item-view"]').get_dom_attribute("viewBox") == before)


def test_the_edge_follows_while_the_slider_moves_and_is_kept_when_it_rests(screen: Screen) -> None:
    screen.open("/jobs/4/edge")
    path = screen.find('[data-testid="edge"]').get_dom_attribute("d")
    slider = screen.find('input[type="range"]')
    for _ in range(5):
        slider.send_keys(Keys.ARROW_RIGHT)
    screen.wait(lambda: screen.find('[data-testid="edge"]').get_dom_attribute("d") != path, "the tried edge")
    screen.wait(lambda: screen.find('button[title="border"]').is_enabled(), "the kept step")
    undo_until(screen, lambda: screen.find('[data-testid="edge"]').get_dom_attribute("d") == path)


def test_several_designs_are_set_at_once(screen: Screen) -> None:
    job = ASKED.post(f"{screen.base}/api/jobs/4/copy").json()["id"]
    screen.open(f"/jobs/{job}/edge")
    screen.button("Pick all").click()
    screen.says("Border of 7 designs")
    screen.button("Hull").click()
    screen.says("a 3 mm plain hull")
    screen.button("Pick none").click()


def test_splitting_and_lifting_are_one_click(screen: Screen) -> None:
    job = ASKED.post(f"{screen.base}/api/jobs/1/copy").json()["id"]
    screen.open(f"/jobs/{job}/art")
    screen.choose("harbour set")
    screen.button("Split into 6 designs").click()
    screen.find('[data-strip] button[aria-label="harbour set 6"]')
    screen.button("Undo").click()
    screen.choose("harbour set")
    # A hole is kept by a click on it in the drawing or in the list beside it.
    screen.open(f"/jobs/{job}/edge")
    screen.choose("life buoy")
    screen.says("1 open, 0 filled")
    # Findings that come late move what lies under them.
    screen.driver.execute_script("arguments[0].click()", screen.button("Holes"))
    screen.find('section li button[aria-pressed="true"]').click()
    screen.says("0 open, 1 filled")


def test_a_piece_is_composed_for_each_name(screen: Screen) -> None:
    job = ASKED.post(f"{screen.base}/api/jobs", json={"title": "Crew"}).json()["id"]
    screen.open(f"/jobs/{job}/art")
    screen.button("Compose a piece").click()
    screen.find("textarea").send_keys("Ada\nBo\nCleo")
    screen.find('svg[aria-label="The piece for Ada"]')
    assert screen.faults_of_access() == []
    screen.button("Add to the job").click()
    screen.says("3 pieces of 3 designs")
    screen.choose("name label Cleo")
    screen.button("Change this one").click()
    screen.says("The name on it")


def test_true_size_and_zoom(screen: Screen) -> None:
    screen.open("/jobs/4/art")
    screen.find('[data-testid="item-view"]')
    screen.driver.execute_script("localStorage.removeItem('vamper-screen')")
    screen.button("True size").click()
    screen.says("How large is this screen?")
    screen.button("It fits").click()
    wide = screen.find('[data-testid="item-view"]')
    box = [float(side) for side in (wide.get_dom_attribute("viewBox") or "").split()]
    assert wide.size["width"] / box[2] == pytest.approx(96 / 25.4, rel=0.02)
    screen.button("Fit").click()
    for _ in range(12):
        closer = screen.find('button[aria-label="Closer"]')
        if closer.is_enabled():
            closer.click()
    screen.says("800 %")


def test_stations_by_keyboard_alone(screen: Screen) -> None:
    screen.open("/jobs/1/art")
    screen.find('[aria-current="step"]')
    for station in STATIONS:
        if station != STATIONS[0]:
            screen.driver.find_element(By.TAG_NAME, "body").send_keys("j")
        screen.wait(lambda station=station: screen.driver.current_url.endswith(station), station)
        screen.wait(lambda: len(screen.text()) > 60 and "Opening" not in screen.text(), "the screen")
        assert screen.faults_of_access() == [], station
    screen.driver.find_element(By.TAG_NAME, "body").send_keys("k")
    screen.wait(lambda: screen.driver.current_url.endswith("print"), "back to print")
    screen.driver.find_element(By.TAG_NAME, "body").send_keys("?")
    screen.says("next, previous station")
    # They can be switched off, for voices and hands that press them unmeant; those with names still act.
    screen.find('[role="dialog"] input').click()
    screen.press(Keys.ESCAPE)
    screen.wait(lambda: "next, previous station" not in screen.text(), "the list to close")
    screen.driver.find_element(By.TAG_NAME, "body").send_keys("k")
    screen.driver.find_element(By.TAG_NAME, "body").send_keys("?")
    time.sleep(0.5)
    assert screen.driver.current_url.endswith("print")
    assert "next, previous station" not in screen.text()
    screen.button("?").click()
    screen.find('[role="dialog"] input').click()
    screen.press(Keys.ESCAPE)
    screen.wait(lambda: "next, previous station" not in screen.text(), "the list to close")
    # Tab reaches the brief, and Enter opens a phrase.
    seen = set()
    for _ in range(25):
        screen.press(Keys.TAB)
        seen.add(screen.driver.switch_to.active_element.get_attribute("data-phrase"))
        if "stock" in seen:
            break
    assert "stock" in seen
    screen.press(Keys.ENTER)
    screen.says("matte label paper")
    screen.press(Keys.ESCAPE)


@pytest.mark.parametrize(
    "path", ["/", "/phone", "/jobs/4/bench", "/jobs/404/sheet", "/guide", "/guide/marks", "/nowhere"]
)
def test_axe_finds_nothing(screen: Screen, path: str) -> None:
    screen.open(path)
    screen.wait(lambda: len(screen.text()) > 60 and "Opening" not in screen.text(), "the screen")
    assert screen.faults_of_access() == []


def test_pages_that_were_left_keep_no_connection(screen: Screen) -> None:
    """A browser has six to one server; pages kept for the way back once held them all, and the next one stood empty."""
    for station in ("art", "edge", "sheet", "marks", "print", "cut", "art", "sheet"):
        screen.open(f"/jobs/4/{station}")
        screen.find('[data-testid="brief"]', seconds=30)


def test_an_open_popover_is_accessible_too(screen: Screen) -> None:
    screen.open("/jobs/4/sheet")
    screen.find('[data-phrase="packing"]').click()
    screen.says("as many as needed")
    assert screen.faults_of_access() == []


def test_nothing_is_asked_of_other_machines(screen: Screen) -> None:
    screen.open("/jobs/4/sheet")
    screen.wait(screen.pieces, "the sheet")
    names = screen.driver.execute_script("return performance.getEntriesByType('resource').map(e => e.name)")
    assert names
    assert all(name.startswith((screen.base, "data:")) for name in names)
    fonts = screen.driver.execute_script(
        "return [...document.fonts].filter(f => f.status === 'loaded').map(f => f.family)"
    )
    assert any("Atkinson" in family for family in fonts)
    assert not screen.errors()


@pytest.mark.parametrize(("width", "zoom"), [(1024, 1.0), (1280, 2.0)])
def test_nothing_is_cut_off_on_small_screens_or_with_large_text(screen: Screen, width: int, zoom: float) -> None:
    metrics = {"width": width, "height": 800, "deviceScaleFactor": 1, "mobile": False}
    screen.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
    try:
        screen.open("/jobs/4/sheet")
        screen.wait(screen.pieces, "the sheet")
        screen.driver.execute_script(f"document.documentElement.style.fontSize = '{16 * zoom}px'")
        wider = screen.driver.execute_script("return document.documentElement.scrollWidth - window.innerWidth")
        assert wider <= 0
        assert screen.find('[data-testid="sheet"]').size["width"] > 80
        if zoom == 1:
            screen.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", {**metrics, "height": 768})
            rail = "const rail = document.querySelector('nav'); return rail.scrollHeight - rail.clientHeight"
            assert screen.driver.execute_script(rail) <= 0, "all stations are in sight"
    finally:
        screen.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", {**metrics, "width": 1280})


def test_the_unit_is_the_workshops(screen: Screen) -> None:
    """What one page says, the next one reads, after a reload and on any device."""
    screen.open("/jobs/4/sheet")
    screen.find('button[aria-label="Unit: mm, change"]').click()
    try:
        screen.find('button[aria-label="Unit: in, change"]')
        screen.wait(lambda: " in apart" in screen.find('[data-testid="brief"]').text, "the brief in inches")
        assert ASKED.get(f"{screen.base}/api/usual").json()["unit"] == "in"
        screen.open("/jobs/4/edge")
        screen.find('button[aria-label="Unit: in, change"]')
        screen.wait(lambda: " in " in screen.find('[data-testid="brief"]').text, "inches after a reload")
    finally:
        usual = ASKED.get(f"{screen.base}/api/usual").json()
        ASKED.put(f"{screen.base}/api/usual", json={**usual, "unit": "mm"})
