"""What core says of whole jobs and over the range of what it is asked is what was looked through and kept.

Other tests say what is right and why; this one notices that anything has changed at all. Where the change is meant,
`make approve` keeps what is said now, and the difference is looked through like code.
"""

import json

import pytest

from tests.approved.sections import SECTIONS
from tests.approved.told import FOLDER, apart, told


@pytest.mark.parametrize("name", SECTIONS)
def test_nothing_is_said_otherwise_than_it_was_approved(name: str) -> None:
    kept = json.loads((FOLDER / f"{name}.json").read_text())
    now = {key: told(thing) for key, thing in SECTIONS[name]()}
    assert apart(kept, now)[:20] == []
