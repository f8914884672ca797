"""Errors in data from outside, in words: one sentence for each way it can fail to be what it should.

The library that reads the data names each failure by a type; the table here says it for people. What was given is never
repeated, and figures are those of the field's own limits.
"""

from collections.abc import Mapping, Sequence
from typing import Any, TypeVar

from pydantic import TypeAdapter, ValidationError

from vamper.core.values.findings import BadInput

_UNKNOWN = "this field is unknown; check its spelling or leave it out"
_LIST = "must be a list"
_NUMBER = "must be a number"
_WHOLE = "must be a whole number"
_TEXT = "must be text"
_OBJECT = "must be a group of fields"
_SENTENCES = {
    "missing": "this field is missing",
    "extra_forbidden": _UNKNOWN,
    "unexpected_keyword_argument": _UNKNOWN,
    "json_invalid": "what was sent is not valid JSON",
    "greater_than": "must be greater than {gt:g}",
    "greater_than_equal": "must be at least {ge:g}",
    "less_than": "must be less than {lt:g}",
    "less_than_equal": "must be at most {le:g}",
    "finite_number": "must be a finite number",
    "int_type": _WHOLE,
    "int_parsing": _WHOLE,
    "int_from_float": _WHOLE,
    "int_parsing_size": "this number is far too large",
    "float_type": _NUMBER,
    "float_parsing": _NUMBER,
    "bool_type": "must be true or false",
    "bool_parsing": "must be true or false",
    "string_type": _TEXT,
    "string_unicode": "must be text without broken letters",
    "string_too_short": "must not be empty",
    "string_too_long": "must have at most {max_length} letters",
    "string_pattern_mismatch": "must look like #RRGGBB",
    "too_short": "needs at least {min_length} entries",
    "too_long": "takes at most {max_length} entries",
    "list_type": _LIST,
    "tuple_type": _LIST,
    "set_type": _LIST,
    "iterable_type": _LIST,
    "dict_type": _OBJECT,
    "mapping_type": _OBJECT,
    "model_type": _OBJECT,
    "model_attributes_type": _OBJECT,
    "dataclass_type": _OBJECT,
    "enum": "must be one of {expected}",
    "literal_error": "must be {expected}",
    "union_tag_invalid": "must be one of {expected_tags}",
    "union_tag_not_found": "its kind is missing",
    "none_required": "must be left empty",
    "bytes_type": "must be a file",
    "is_instance_of": "must be a file",
}
# How the library calls a choice of words among what a field takes.
_WORD = "str-enum["
_OTHERWISE = "this cannot be used here; see what the field takes"


T = TypeVar("T")


def read_as(adapter: TypeAdapter[T], data: Any, where: str = "") -> T:
    """Data from outside as one of our own types; `where` is the field that it is the data of.

    Raises
    ------
    BadInput
        Names the field that cannot be used, and what it should be.
    """
    try:
        return adapter.validate_python(data)
    except ValidationError as error:
        bad = sentence_of(error)
        raise BadInput(bad.sentence, ".".join(part for part in (where, bad.where) if part)) from None


def sentence_of(error: ValidationError) -> BadInput:
    """The first thing wrong, as one sentence that names its field."""
    first, where = _telling(error.errors(include_url=False, include_context=True, include_input=False))
    return BadInput(failure_sentence(first), ".".join(str(part) for part in where))


def _telling(failures: Sequence[Mapping[str, Any]]) -> tuple[Mapping[str, Any], tuple[Any, ...]]:
    """The failure to tell of, and its field.

    A field that takes a word or something else fails once for each; if what was sent was no word, the other one tells.
    """
    first = failures[0]
    place = first["loc"]
    if not place or not str(place[-1]).startswith(_WORD):
        return first, place
    field = place[:-1]
    others = (one for one in failures[1:] if one["loc"][: len(field)] == field)
    other = next((one for one in others if not one["type"].endswith(("_type", "_parsing"))), None)
    return (first, field) if other is None else (other, (*field, *other["loc"][len(place) :]))


def failure_sentence(failure: Mapping[str, Any]) -> str:
    """One failure of the library that reads data, for people."""
    kind, context = failure["type"], failure.get("ctx") or {}
    if kind == "value_error":
        # Ours: raised where a rule spans several fields.
        return str(context.get("error") or _OTHERWISE)
    if kind == "literal_error" and " or " in context.get("expected", ""):
        return f"must be one of {context['expected']}"
    if kind == "too_short" and context.get("min_length") == 1:
        return "needs at least one entry"
    try:
        return _SENTENCES.get(kind, _OTHERWISE).format(**context)
    except (KeyError, ValueError, TypeError):
        return _OTHERWISE
