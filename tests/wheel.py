"""`python -m tests.wheel FOLDER`: one wheel with the built front end inside, so that installing it needs no Node."""

import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).parents[1]
_TAKEN = ("vamper", "pyproject.toml", "requirements.in", "README.md", "LICENSE")


def build_wheel(folder: Path) -> Path:
    """Build it from a copy: the front end is put beside the modules there, never in the checkout."""
    with tempfile.TemporaryDirectory() as staged:
        stage = Path(staged)
        for name in _TAKEN:
            source = ROOT / name
            if source.is_dir():
                shutil.copytree(source, stage / name, ignore=shutil.ignore_patterns("__pycache__"))
            else:
                shutil.copy(source, stage / name)
        shutil.copytree(ROOT / "ui" / "dist", stage / "vamper" / "web")
        built = stage / "built"
        command = [sys.executable, "-m", "pip", "wheel", "--quiet", "--disable-pip-version-check", "--no-deps"]
        subprocess.run([*command, "--no-build-isolation", "-w", str(built), str(stage)], check=True)
        (wheel,) = built.glob("*.whl")
        folder.mkdir(parents=True, exist_ok=True)
        return Path(shutil.copy(wheel, folder / wheel.name))


if __name__ == "__main__":
    build_wheel(Path(sys.argv[1]))
