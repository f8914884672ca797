"""What is installed is whole: every file of the package is in the wheel, and it starts without the checkout."""

import os
import subprocess
import sys
import zipfile
from pathlib import Path

import pytest

from tests.wheel import ROOT, build_wheel


@pytest.fixture(scope="module")
def installed(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The wheel, unpacked where nothing of the checkout lies beside it."""
    folder = tmp_path_factory.mktemp("wheel")
    wheel = build_wheel(folder)
    with zipfile.ZipFile(wheel) as packed:
        packed.extractall(folder / "site")
    return folder / "site"


def vamper(installed: Path, home: Path, *words: str) -> subprocess.CompletedProcess[str]:
    environment = {**os.environ, "PYTHONPATH": str(installed), "XDG_DATA_HOME": str(home), "HOME": str(home)}
    command = [sys.executable, "-m", "vamper", *words]
    return subprocess.run(command, cwd=home, env=environment, capture_output=True, text=True, timeout=120)


def test_every_file_of_the_package_is_in_it(installed: Path) -> None:
    kept = {path for path in (ROOT / "vamper").rglob("*") if path.is_file() and "__pycache__" not in path.parts}
    missing = [path for path in kept if not (installed / path.relative_to(ROOT)).exists()]
    assert missing == []
    assert (installed / "vamper" / "web" / "index.html").exists()


def test_it_says_its_version_and_looks_itself_over(installed: Path, tmp_path: Path) -> None:
    said = vamper(installed, tmp_path, "--version")
    assert said.returncode == 0, said.stderr
    assert said.stdout.startswith("vamper ")
    looked = vamper(installed, tmp_path, "doctor")
    assert looked.returncode == 0, looked.stdout + looked.stderr
    lines = looked.stdout.splitlines()
    assert [line.split(":")[0].split()[-1] for line in lines] == ["Python", "disk", "workshop", "page", "fonts", "port"]
    # A workshop of one's own lies in the user's folder, the page in what was installed.
    assert str(tmp_path / "vamper" / "workshop.db") in lines[2]
    assert str(installed) in lines[3]


def test_it_plans_without_the_checkout(installed: Path, tmp_path: Path) -> None:
    picture = tmp_path / "disc.svg"
    picture.write_text('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><circle cx="4" cy="4" r="3"/></svg>')
    checked = vamper(installed, tmp_path, "check", str(picture), "--width", "40")
    assert checked.returncode in (0, 3), checked.stderr


def test_a_broken_workshop_is_told(tmp_path: Path, installed: Path) -> None:
    broken = tmp_path / "mine.db"
    broken.write_bytes(b"no workshop at all, and longer than a header of one is, so that it is looked at")
    looked = vamper(installed, tmp_path, "doctor", "--data", str(broken))
    assert looked.returncode == 2
    assert any(line.startswith("look") and "workshop" in line for line in looked.stdout.splitlines())
