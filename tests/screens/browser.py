"""Chromium and its driver from Debian's packages: found, or installed where that is possible, or asked for.

Run as a script it makes sure that both are there; imported it opens a browser.
"""

import os
import shutil
import subprocess
import sys
import tempfile

PACKAGES = {"chromium": "/usr/bin/chromium", "chromedriver": "/usr/bin/chromedriver"}
_FLAGS = (
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-dev-shm-usage",
    "--hide-scrollbars",
    # No page lives long enough to be worth compiling better.
    "--js-flags=--no-maglev,--no-turbofan",
    # A region that measures in millimetres, whatever this machine is set to.
    "--lang=en-GB",
    "--accept-lang=en-GB",
)


def ensure() -> None:
    """Install what is missing through apt when that is allowed, else end with a clear message."""
    missing = [name for name, path in PACKAGES.items() if not os.path.exists(path)]
    if not missing:
        return
    if os.geteuid() != 0 or shutil.which("apt-get") is None:
        sys.exit(f"The browser tests need {' and '.join(missing)}: install Debian's chromium and chromium-driver.")
    environment = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    quiet = {"env": environment, "stdout": subprocess.DEVNULL, "check": True}
    subprocess.run(["apt-get", "update", "-qq"], **quiet)
    subprocess.run(["apt-get", "install", "-y", "-qq", "chromium", "chromium-driver"], **quiet)


def open_browser(width: int = 1280, height: int = 800, downloads: str | None = None):
    """A headless browser with a profile of its own, `width` × `height` pixels of page."""
    from selenium import webdriver
    from selenium.webdriver.chrome.service import Service

    options = webdriver.ChromeOptions()
    options.binary_location = PACKAGES["chromium"]
    for flag in (*_FLAGS, f"--user-data-dir={tempfile.mkdtemp(prefix='vamper-browser-')}"):
        options.add_argument(flag)
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    if downloads is not None:
        options.add_experimental_option("prefs", {"download.default_directory": downloads})
    driver = webdriver.Chrome(options=options, service=Service(PACKAGES["chromedriver"]))
    metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
    return driver


if __name__ == "__main__":
    ensure()
