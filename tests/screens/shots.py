"""Takes docs/screenshots from a fresh demo workshop: one picture of each main view."""

import tempfile
import time
from pathlib import Path

from tests.screens.browser import open_browser
from tests.screens.conftest import ROOT, Screen, running_demo

FOLDER = ROOT / "docs" / "screenshots"
VIEWS = {
    "jobs": "/",
    "art": "/jobs/1/art",
    "edge": "/jobs/4/edge",
    "sheet": "/jobs/4/sheet",
    "marks": "/jobs/3/marks",
    "print": "/jobs/3/print",
    "cut": "/jobs/4/cut",
}


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, running_demo(Path(folder) / "demo.db") as base:
        driver = open_browser()
        screen = Screen(driver, base)
        try:
            screen.open("/jobs/4/sheet")
            screen.wait(lambda: "Looking for" not in screen.text() and screen.pieces() > 0, "packing to end", 40)
            for name, path in VIEWS.items():
                screen.open(path)
                screen.wait(lambda: "Opening" not in screen.text() and len(screen.text()) > 60, name)
                images = "return [...document.querySelectorAll('img')].every(i => i.complete)"
                screen.wait(lambda images=images: driver.execute_script(images), "pictures")
                # Pictures inside drawings do not tell when they are there.
                time.sleep(1.5)
                driver.save_screenshot(str(FOLDER / f"{name}.png"))
        finally:
            driver.quit()


if __name__ == "__main__":
    main()
