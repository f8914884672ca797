"""Vamper gone for a while: nothing that was changed is lost, and the page says at every moment how it stands."""

import time

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.screens.asked import ASKED
from tests.screens.conftest import Screen

pytestmark = pytest.mark.screens

HULL = 4


def _gone(screen: Screen, gone: bool) -> None:
    """Whether the browser finds the server."""
    screen.driver.execute_cdp_cmd("Network.enable", {})
    screen.driver.execute_cdp_cmd(
        "Network.emulateNetworkConditions",
        {"offline": gone, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1},
    )


def _type(screen: Screen, label: str, words: str) -> None:
    field = screen.find(f'input[aria-label="{label}"]')
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys(words, Keys.ENTER)


def _state(screen: Screen) -> str:
    return screen.find('header [role="status"]').text


def test_what_is_changed_while_vamper_is_gone_is_sent_in_order_when_it_is_back(screen: Screen) -> None:
    job = ASKED.post(f"{screen.base}/api/jobs/{HULL}/copy").json()["id"]
    screen.open(f"/jobs/{job}/sheet")
    screen.wait(lambda: _state(screen) == "saved", "the job")
    title, whom = (
        one.get_attribute("aria-label") for one in screen.driver.find_elements(By.CSS_SELECTOR, "header input")
    )
    _gone(screen, gone=True)
    try:
        _type(screen, str(title), "first")
        screen.wait(lambda: _state(screen) == "not saved, trying", "the page to say so")
        screen.says("sent again until it is saved")
        # Newer ones of the same field, and another, while the first is waiting.
        _type(screen, str(whom), "the paddlers")
        _type(screen, str(title), "second")
        _type(screen, str(title), "third")
        until = time.monotonic() + 10
        while time.monotonic() < until:
            assert _state(screen) == "not saved, trying"
            time.sleep(0.5)
        assert "first" not in str(ASKED.get(f"{screen.base}/api/jobs/{job}").json()["job"]["document"]["title"])
    finally:
        _gone(screen, gone=False)
    screen.wait(lambda: _state(screen) == "saved", "everything saved")
    document = ASKED.get(f"{screen.base}/api/jobs/{job}").json()["job"]["document"]
    assert (document["title"], document["customer"]) == ("third", "the paddlers")
    assert screen.find(f'input[aria-label="{title}"]').get_attribute("value") == "third"
    screen.driver.get_log("browser")


@pytest.mark.parametrize("path", [f"/jobs/{HULL}/anything", "/nothing", "/jobs/999/sheet", "/jobs/x/sheet"])
def test_an_address_that_is_nowhere_says_so_and_leads_back(screen: Screen, path: str) -> None:
    screen.open(path)
    assert screen.find('[role="alert"]').text
    assert screen.faults_of_access() == []
    screen.button("To all jobs").click()
    screen.says("Each is one order or one idea")
    screen.driver.get_log("browser")


_REFUSED = """
const asked = window.fetch;
window.refused = ['/care', '/misses'];
window.fetch = (request, init) =>
  window.refused.some((one) => (request.url ?? String(request)).includes(one))
    ? Promise.resolve(new Response(JSON.stringify({ detail: 'the shelf is being moved' }), { status: 422 }))
    : asked(request, init);
"""


def test_what_is_refused_says_why_and_can_be_asked_again(screen: Screen) -> None:
    """With words of its own where it was to be shown, at the foot of the page where nothing else would say so."""
    run = screen.driver.execute_cdp_cmd
    added = run("Page.addScriptToEvaluateOnNewDocument", {"source": _REFUSED})["identifier"]
    try:
        screen.open(f"/jobs/{HULL}/cut")
        screen.button("Blade and mat").click()
        screen.says("The shelf is being moved.")
        assert "Looking at blades and mats" not in screen.text()
        screen.driver.execute_script("window.refused = []")
        screen.button("Ask again").click()
        screen.says("This job needs the")
        screen.open(f"/jobs/{HULL}/marks")
        screen.button("Where cuts land").click()
        screen.wait(lambda: "The shelf is being moved." in screen.find('[aria-live="polite"]').text, "the notice")
    finally:
        run("Page.removeScriptToEvaluateOnNewDocument", {"identifier": added})
