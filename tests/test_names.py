"""One noun, one class: no two public classes of the program share a name, and no file outgrows a reader."""

import ast
from collections import defaultdict
from pathlib import Path

PROGRAM = Path(__file__).parents[1] / "vamper"
MOST_LINES = 400


def test_no_two_public_classes_share_a_name() -> None:
    homes = defaultdict[str, list[str]](list)
    for path in sorted(PROGRAM.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
                homes[node.name].append(str(path.relative_to(PROGRAM)))
    assert {name: files for name, files in homes.items() if len(files) > 1} == {}


def test_no_file_outgrows_a_reader() -> None:
    lengths = {str(path.relative_to(PROGRAM)): len(path.read_text().splitlines()) for path in PROGRAM.rglob("*.py")}
    assert {name: length for name, length in lengths.items() if length > MOST_LINES} == {}
