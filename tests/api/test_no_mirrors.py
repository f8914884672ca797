"""Answers are core's and services' own dataclasses: a model of the API that only repeats one is a second place for it.

A model of its own is for what becomes another shape on the way out: an outline a path, a sum words in a currency.
"""

import dataclasses
import importlib
import pkgutil
from collections.abc import Iterator
from types import ModuleType

import pydantic

import vamper
import vamper.api
import vamper.core
import vamper.formats
import vamper.services

# Of the same names, but not of the same shape.
_OTHER_SHAPE = {
    "PlacesOut": "bounds become named sides",
    "NamedOut": "what a hundred things are called, whatever they are",
}
# Two fields are alike by chance.
_FEWEST = 3
# A class that knows so much more is another thing.
_MOST_MORE = 2


def _classes(of: ModuleType) -> Iterator[type]:
    for module in pkgutil.walk_packages(of.__path__, f"{of.__name__}."):
        found = importlib.import_module(module.name)
        yield from (one for one in vars(found).values() if isinstance(one, type) and one.__module__ == module.name)


def test_no_answer_repeats_a_dataclass() -> None:
    below = {
        one.__name__: {field.name for field in dataclasses.fields(one)}
        for floor in (vamper.core, vamper.formats, vamper.services)
        for one in _classes(floor)
        if dataclasses.is_dataclass(one)
    }
    answers = {
        one.__name__: set(one.model_fields)
        for one in _classes(vamper.api)
        if issubclass(one, pydantic.BaseModel) and one.__name__.endswith("Out")
    }
    mirrors = {
        name: sorted(
            known for known, theirs in below.items() if fields <= theirs and len(theirs) <= _MOST_MORE * len(fields)
        )
        for name, fields in answers.items()
        if len(fields) >= _FEWEST and name not in _OTHER_SHAPE
    }
    assert {name: found for name, found in mirrors.items() if found} == {}
    assert len(answers) > 50
    assert set(_OTHER_SHAPE) <= set(answers)
