"""What the documents name is there: every file and folder, every link."""

import re
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
DOCUMENTS = [ROOT / name for name in ("README.md", "CONTRIBUTING.md")] + sorted((ROOT / "docs").rglob("*.md"))
_PATH = re.compile(r"\b(?:vamper|ui/src|tests)/[\w./-]+\b/?")
_SHORT = re.compile(r"`((?:core|formats|services|store|api|cli)/[\w./]+\.(?:py|toml))`")
_LINK = re.compile(r"\]\((?!http)([^)#]+)[^)]*\)")


@pytest.mark.parametrize("document", DOCUMENTS, ids=lambda path: path.name)
def test_everything_that_a_document_names_is_there(document: Path) -> None:
    text = document.read_text()
    named = {ROOT / one for one in _PATH.findall(text)} | {ROOT / "vamper" / one for one in _SHORT.findall(text)}
    named |= {document.parent / one for one in _LINK.findall(text)}
    assert sorted(str(path.relative_to(ROOT)) for path in named if not path.exists()) == []


def test_the_architecture_names_each_file_of_its_flows_once() -> None:
    text = (ROOT / "docs" / "architecture.md").read_text()
    flows = "".join(text.split("```")[3::2])
    files = [one for one in _PATH.findall(flows) if one.endswith((".py", ".ts", ".tsx"))]
    assert sorted({one for one in files if files.count(one) > 1}) == []
