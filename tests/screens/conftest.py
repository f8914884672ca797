"""A running demo workshop and a real browser on it."""

import json
import os
import re
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

import pytest
from selenium.common.exceptions import NoSuchElementException, StaleElementReferenceException
from selenium.webdriver.chrome.webdriver import WebDriver
from selenium.webdriver.common.by import By
from selenium.webdriver.remote.webelement import WebElement

from tests.demo_file import demo_file
from tests.screens.asked import ASKED
from tests.screens.browser import open_browser
from vamper.services.packing.nesting_process import ProcessNester

ROOT = Path(__file__).parents[2]
_AXE = (ROOT / "ui" / "node_modules" / "axe-core" / "axe.min.js").read_text()
# Searches go on beside whatever a test does next.
_SEARCH_SECONDS = 1
_SHORTEST_PAUSE_S, _LONGEST_PAUSE_S = 0.03, 0.3


@contextmanager
def running(what: str, data: Path, search_seconds: int = _SEARCH_SECONDS) -> Iterator[str]:
    """The address of a server: a fresh `demo` workshop, or one that `serve`s what is in a file."""
    command = [sys.executable, "-u", "-m", "vamper", what, "--data", str(data), "--port", "8600",
               "--search-seconds", str(search_seconds)]  # fmt: skip
    environment = {name: value for name, value in os.environ.items() if name not in ("DISPLAY", "WAYLAND_DISPLAY")}
    server = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, cwd=ROOT, env=environment)
    assert server.stdout is not None
    try:
        address = re.search(r"http://\S+", server.stdout.readline())
        assert address, "the server did not print its address"
        base = address[0].rstrip("/")
        _wait_until_up(base)
        yield base
    finally:
        server.terminate()
        server.wait(60)


def _wait_until_up(base: str) -> None:
    import httpx

    for _ in range(1200):
        try:
            ASKED.get(base)
        except httpx.TransportError:
            time.sleep(0.1)
        else:
            return
    raise AssertionError("the server printed its address but does not answer")


class Screen:
    """A browser on the application, with the few gestures the tests need.

    Waits end as soon as what is waited for is there; their limits are for a machine that is busy with other things.
    """

    def __init__(self, driver: WebDriver, base: str) -> None:
        self.driver = driver
        self.base = base

    def open(self, path: str) -> None:
        self.driver.get(self.base + path)

    def wait(self, condition, what: str, seconds: float = 90):  # type: ignore[no-untyped-def]
        until, pause = time.monotonic() + seconds, _SHORTEST_PAUSE_S
        while True:
            # An element that was drawn anew between finding and asking is found again.
            with suppress(NoSuchElementException, StaleElementReferenceException):
                if found := condition():
                    return found
            if time.monotonic() > until:
                shown = f"{self.driver.current_url} shows:\n{self.text()}\nand complains:\n{self.errors()}"
                raise AssertionError(f"waited {seconds:g} s for {what}; {shown}")
            # Asking takes the page and its driver more than it takes to wait.
            time.sleep(pause)
            pause = min(1.4 * pause, _LONGEST_PAUSE_S)

    def find(self, selector: str, seconds: float = 90) -> WebElement:
        def first() -> WebElement | None:
            found = self.driver.find_elements(By.CSS_SELECTOR, selector)
            return found[0] if found else None

        return self.wait(first, selector, seconds)

    def button(self, words: str) -> WebElement:
        path = f"//button[contains(normalize-space(.), '{words}')] | //a[contains(normalize-space(.), '{words}')]"

        def first() -> WebElement | None:
            found = [e for e in self.driver.find_elements(By.XPATH, path) if e.is_displayed()]
            return found[0] if found else None

        return self.wait(first, words)

    def choose(self, design: str) -> None:
        """Press a design in the strip, wherever that is scrolled to."""
        self.find(f'[data-strip] button[aria-label="{design}"]')
        script = """document.querySelector(`[data-strip] button[aria-label="${arguments[0]}"]`).click()"""
        self.driver.execute_script(script, design)

    def text(self) -> str:
        # What the driver itself calls the text of an element takes it half a second where many pieces are drawn.
        return str(self.driver.execute_script("return document.body.innerText"))

    def says(self, words: str, seconds: float = 90) -> None:
        self.wait(lambda: words in self.text(), f"the words {words!r}", seconds)

    def press(self, keys: str) -> None:
        self.driver.switch_to.active_element.send_keys(keys)

    def faults_of_access(self) -> list[str]:
        """What axe finds wrong with the page as it stands."""
        script = "axe.run({resultTypes: ['violations']}).then(r => arguments[0](JSON.stringify(r.violations)))"
        if not self.driver.execute_script("return !!window.axe"):
            self.driver.execute_script(_AXE)
        return [
            f"{one['id']}: {node['html'][:160]} {node['failureSummary'][:200]}"
            for one in json.loads(self.driver.execute_async_script(script))
            for node in one["nodes"]
        ]

    def pieces(self) -> int:
        return int(self.find('[data-testid="sheet"]').get_attribute("data-pieces") or -1)

    def errors(self) -> list[str]:
        """What the browser complained about, answers that were meant to be refusals left out."""
        return [
            entry["message"]
            for entry in self.driver.get_log("browser")
            if entry["level"] == "SEVERE" and " 422 " not in entry["message"]
        ]


@pytest.fixture(scope="session")
def demo(tmp_path_factory: pytest.TempPathFactory, nester: ProcessNester) -> Iterator[str]:
    with running("demo", demo_file(tmp_path_factory, nester)) as base:
        yield base


@pytest.fixture(scope="session")
def driver() -> Iterator[WebDriver]:
    opened = open_browser()
    opened.set_script_timeout(120)
    yield opened
    opened.quit()


@pytest.fixture
def screen(driver: WebDriver, demo: str) -> Screen:
    driver.get_log("browser")
    return Screen(driver, demo)
