"""The examples in docstrings run."""

import doctest
import importlib
from pathlib import Path

ROOT = Path(__file__).parents[1]


def test_every_example_gives_what_it_says() -> None:
    tried = 0
    for file in sorted((ROOT / "vamper").rglob("*.py")):
        if ">>>" not in file.read_text():
            continue
        name = file.relative_to(ROOT).with_suffix("").as_posix().replace("/", ".")
        result = doctest.testmod(importlib.import_module(name))
        assert result.failed == 0, name
        tried += result.attempted
    assert tried >= 4
