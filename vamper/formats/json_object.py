"""A file that holds one JSON object, with a sentence for each way in which it does not."""

import json
from typing import Any

from vamper.core.values.findings import BadInput


def object_in(text: str | bytes, what: str) -> dict[str, Any]:
    """The object; `what` is what the file is called in a sentence.

    Raises
    ------
    BadInput
        If it is no JSON, nested without end, or something else than an object.
    """
    try:
        raw = json.loads(text)
    except ValueError as error:
        at = f" in line {error.lineno}" if isinstance(error, json.JSONDecodeError) else ""
        raise BadInput(f"{what} is not valid JSON{at}") from None
    except RecursionError:
        raise BadInput(f"{what} is nested too deeply") from None
    if not isinstance(raw, dict):
        raise BadInput(f"{what} must hold one JSON object")
    return raw
