"""The rooms of the front end: nothing imports upwards, and nothing goes round in a circle."""

import re
from pathlib import Path

import pytest

from vamper.core.ledger.diagnosis import SYMPTOMS

SOURCE = Path(__file__).parents[1] / "ui" / "src"
# Lowest first; `kit` and `api` stand beside each other on the ground.
ROOMS = {
    "kit": 0,
    "api": 0,
    "look": 1,
    "shop": 2,
    "stations": 3,
    "phone": 4,
    "tonight": 4,
    "ledger": 4,
    "practise": 4,
    "app": 5,
}
FILES = [path for path in SOURCE.rglob("*.ts*") if path.name != "schema.d.ts"]


def imported(path: Path) -> set[Path]:
    """The files of ours that a file imports by name."""
    found = set()
    for name in re.findall(r"(?:from|import) '(\.[^']+)'", path.read_text()):
        base = (path.parent / name).resolve()
        found |= {file for end in ("", ".ts", ".tsx", "/index.ts") if (file := Path(f"{base}{end}")).is_file()}
    return found


def room(path: Path) -> tuple[str, ...]:
    return path.relative_to(SOURCE).parts[:-1]


@pytest.mark.parametrize("path", FILES, ids=lambda path: str(path.relative_to(SOURCE)))
def test_nothing_imports_upwards(path: Path) -> None:
    here = room(path)
    for other in imported(path):
        there = room(other)
        if not here or not there or here[0] == there[0]:
            if here and there and here[0] == "stations":
                assert here == there, f"{path.name} knows another station's {other.name}"
            continue
        assert ROOMS[there[0]] < ROOMS[here[0]], f"{path.name} looks up at {other.name}"


def test_nothing_goes_round_in_a_circle() -> None:
    graph = {path: imported(path) for path in FILES}
    done: set[Path] = set()

    def walk(path: Path, behind: tuple[Path, ...]) -> None:
        assert path not in behind, " → ".join(one.name for one in (*behind, path))
        if path not in done:
            for other in graph.get(path, ()):
                walk(other, (*behind, path))
            done.add(path)

    for path in FILES:
        walk(path, ())


def test_every_symptom_has_a_picture() -> None:
    drawn = set(re.findall(r"^  '([a-z-]+)':", (SOURCE / "look" / "SymptomPicture.tsx").read_text(), re.MULTILINE))
    assert drawn == SYMPTOMS.keys()
