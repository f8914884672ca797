"""Takes docs/screenshots from a fresh demo workshop: one picture of each main view."""

import tempfile
import time
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.screens.browser import open_browser
from tests.screens.conftest import ROOT, Screen, running

FOLDER = ROOT / "docs" / "screenshots"
VIEWS = {
    "jobs": "/",
    "art": "/jobs/2/art",
    "edge": "/jobs/4/edge",
    "sheet": "/jobs/4/sheet",
    "print": "/jobs/4/print",
    "cut": "/jobs/9/cut",
}


# As long as the program itself searches: pictures show what a maker gets.
_SEARCH_SECONDS = 20

# How many pictures the sheets on the list of jobs have by now.
_SHEETS = "return document.querySelectorAll('li svg image').length"


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, running("demo", Path(folder) / "demo.db", _SEARCH_SECONDS) as base:
        driver = open_browser()
        screen = Screen(driver, base)
        try:
            screen.open("/jobs/4/sheet")
            _packed(screen)
            for name, path in VIEWS.items():
                screen.open(path)
                screen.wait(lambda: "Opening" not in screen.text() and len(screen.text()) > 60, name)
                if name == "jobs":
                    screen.wait(lambda: driver.execute_script(_SHEETS) > 20, "the sheets of the jobs")
                _pictures(screen)
                driver.save_screenshot(str(FOLDER / f"{name}.png"))
            _marks(screen)
            _program(screen)
            _twin(screen)
            _practise(screen)
            _compose(screen)
            driver.save_screenshot(str(FOLDER / "compose.png"))
            _finish(screen)
            _ledger(screen)
            _bench(screen)
        finally:
            driver.quit()
        _first_run(Path(folder) / "new.db")


def _packed(screen: Screen) -> None:
    """The hull stickers packed on one sheet; while the workshop is still warming up a search may end on two."""
    for _ in range(3):
        screen.wait(lambda: "Looking for" not in screen.text() and screen.pieces() > 0, "packing to end", 60)
        # It may have been found, and the page drawn anew, between looking and pressing.
        if screen.wait(lambda: "on 1 sheet" in screen.text() or _pressed(screen, "Look longer"), "one sheet") is True:
            return
        time.sleep(2)


def _pressed(screen: Screen, words: str) -> str | None:
    """The words of a button that was there and pressed."""
    there = [one for one in screen.driver.find_elements(By.TAG_NAME, "button") if one.text.startswith(words)]
    if there:
        there[0].click()
    return words if there else None


def _pictures(screen: Screen) -> None:
    """Waits until every picture is there; those inside drawings do not tell, so they are asked for once more."""
    screen.wait(lambda: "saving" not in screen.text(), "everything saved")
    script = """
        const done = arguments[0];
        const inside = [...document.querySelectorAll('svg image')].map(image => {
          const again = new Image();
          again.src = image.href.baseVal;
          return again.decode();
        });
        const beside = [...document.querySelectorAll('img')].map(image => image.decode());
        Promise.allSettled([...inside, ...beside, document.fonts.ready]).then(() => done(true));
    """
    screen.driver.execute_async_script(script)
    time.sleep(1.0)


def _marks(screen: Screen) -> None:
    """What the sensor sees, with all families of marks beside it."""
    screen.open("/jobs/4/marks")
    screen.says("What the sensor sees")
    fold = "[...document.querySelectorAll('button')].find(one => one.textContent.includes('The marks'))"
    screen.wait(lambda: screen.driver.execute_script(f"return !!{fold}"), "the families")
    screen.driver.execute_script(f"{fold}.scrollIntoView({{block: 'start'}})")
    _pictures(screen)
    screen.driver.save_screenshot(str(FOLDER / "marks.png"))


def _program(screen: Screen) -> None:
    """What is handed to a machine's own program, and its settings by name."""
    screen.open("/jobs/13/sheet")
    _packed(screen)
    screen.open("/jobs/13/print")
    screen.says("It will find")
    _pictures(screen)
    screen.driver.save_screenshot(str(FOLDER / "program.png"))
    screen.open("/jobs/13/cut")
    screen.says("Choose")
    _pictures(screen)
    screen.driver.save_screenshot(str(FOLDER / "settings.png"))


def _twin(screen: Screen) -> None:
    """A dry run that goes wrong."""
    screen.open("/jobs/7/sheet")
    _packed(screen)
    screen.open("/jobs/7/dry-run")
    screen.button("Do a dry run").click()
    screen.wait(lambda: "Do a dry run again" in screen.text(), "the dry run")
    _pictures(screen)
    screen.driver.save_screenshot(str(FOLDER / "dry-run.png"))


def _practise(screen: Screen) -> None:
    """A lesson with the spoilt sheet it begins with."""
    screen.open("/practise")
    screen.find('[aria-label="Begin: Pieces on the move"]').click()
    screen.says("minutes left")
    _pictures(screen)
    screen.driver.save_screenshot(str(FOLDER / "practise.png"))


def _compose(screen: Screen) -> None:
    """The dialog for composed pieces, with two lines, a picture and names."""
    screen.open("/jobs/4/art")
    screen.button("Compose a piece").click()
    screen.find("textarea").send_keys("Ada\nBo\nCleo")
    screen.find('button[aria-label="Put life buoy on it"]').click()
    across, name = '[aria-label="Text"] input[id]', screen.find('[aria-label="Text of line 1"]')
    fields = screen.driver.find_elements("css selector", across)
    # Size, across, down of the first line: beside the picture.
    for field, value in zip(fields[-2:], ("37", "15"), strict=True):
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(value, Keys.ENTER)
    name.click()
    screen.find('svg[aria-label="The piece for Ada"]')
    time.sleep(2)


def _finish(screen: Screen) -> None:
    """A job's steps, a cup with what goes on it, and the evening."""
    screen.open("/jobs/2/finish")
    screen.says("Spray a thin coat")
    time.sleep(1)
    screen.driver.save_screenshot(str(FOLDER / "finish.png"))
    screen.open("/jobs/12/finish")
    screen.button("On a cup").click()
    screen.says("The cup’s wall laid flat")
    time.sleep(1)
    screen.driver.save_screenshot(str(FOLDER / "cup.png"))
    screen.open("/tonight")
    screen.says("All done")
    screen.button("It rests from now").click()
    time.sleep(2)
    screen.driver.save_screenshot(str(FOLDER / "tonight.png"))


def _ledger(screen: Screen) -> None:
    """A season of runs, and what went wrong with one of them."""
    screen.open("/ledger")
    screen.says("What works")
    time.sleep(1)
    screen.driver.save_screenshot(str(FOLDER / "ledger.png"))
    screen.button("What went wrong?").click()
    screen.says("Press what you see")
    screen.button("Not through, in places").click()
    screen.driver.find_element("xpath", "//label[contains(., 'the blade has many metres')]").click()
    screen.says("This tells most for its time")
    screen.driver.execute_script("window.scrollTo(0, 0)")
    time.sleep(1)
    screen.driver.save_screenshot(str(FOLDER / "wrong.png"))


def _bench(screen: Screen) -> None:
    """A job at the bench, and the evening, as a phone shows them."""
    metrics = {"width": 390, "height": 800, "deviceScaleFactor": 1, "mobile": True}
    screen.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
    screen.open("/jobs/4/bench")
    screen.says("Print")
    _pictures(screen)
    screen.driver.save_screenshot(str(FOLDER / "bench.png"))


def _first_run(data: Path) -> None:
    """A workshop in which nobody has done anything yet."""
    with running("serve", data) as base:
        driver = open_browser()
        try:
            screen = Screen(driver, base)
            screen.open("/")
            screen.says("What cuts?")
            driver.save_screenshot(str(FOLDER / "first-run.png"))
        finally:
            driver.quit()


if __name__ == "__main__":
    main()
