"""One noun, one class: no two public classes of the program share a name, and no file outgrows a reader."""

import ast
import re
from collections import defaultdict
from pathlib import Path

PROGRAM = Path(__file__).parents[1] / "vamper"
MOST_LINES = 400
MANY_FIELDS = 6


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


def test_a_dataclass_of_many_fields_lists_them_and_lists_no_other() -> None:
    """From six fields on they stand as `Parameters`; a list of them names fields that are there, and all of them."""
    wrong = list[str]()
    for path in sorted(PROGRAM.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if not isinstance(node, ast.ClassDef) or not any(
                "dataclass" in ast.unparse(d) for d in node.decorator_list
            ):
                continue
            fields = {n.target.id for n in node.body if isinstance(n, ast.AnnAssign) and isinstance(n.target, ast.Name)}
            fields -= {name for name in fields if name.startswith("_")}
            lead, listed, text = (ast.get_docstring(node) or "").partition("\nParameters\n")
            if not listed:
                wrong += (
                    [f"{node.name}: no list"] if len(fields) >= MANY_FIELDS and not node.name.startswith("_") else []
                )
                continue
            terms = {
                name.strip()
                for line in text.splitlines()[1:]
                if line[:1].strip()
                for name in line.split(" : ")[0].split(",")
            }
            told = terms | set(re.findall(r"`(\w+)`", lead + text))
            wrong += [f"{node.name}: no field {name}" for name in terms - fields]
            wrong += [f"{node.name}: nothing of {name}" for name in fields - told]
    assert wrong == []
