"""The examples in docstrings run."""

import doctest
import importlib
import pkgutil

import vamper


def test_every_example_gives_what_it_says() -> None:
    tried = 0
    for module in pkgutil.walk_packages(vamper.__path__, "vamper."):
        if ".migrations" in module.name or module.name.endswith("__main__"):
            continue
        result = doctest.testmod(importlib.import_module(module.name))
        assert result.failed == 0, module.name
        tried += result.attempted
    assert tried >= 4
