"""What core says of whole jobs and over the range of what it is asked is what was looked through and kept.

Other tests say what is right and why; this one notices that anything has changed at all. Where the change is meant,
`make approve` keeps what is said now, and the difference is looked through like code.
"""

import pytest

from tests.approved.sections import SECTIONS
from tests.approved.told import FOLDER, apart, lines_of, read

MOST_BYTES = 200_000


@pytest.mark.parametrize("name", SECTIONS)
def test_nothing_is_said_otherwise_than_it_was_approved(name: str) -> None:
    kept = read((FOLDER / f"{name}.txt").read_text())
    now = {key: lines_of(thing) for key, thing in SECTIONS[name]()}
    assert list(kept) == list(now)
    assert [line for key, lines in now.items() for line in apart(kept[key], lines, key)][:20] == []


def test_what_is_kept_can_be_read() -> None:
    """A figure a line, short lines, and little enough that a difference is looked at."""
    texts = [path.read_text() for path in FOLDER.iterdir()]
    assert sum(len(text.encode()) for text in texts) < MOST_BYTES
    assert max(len(line) for text in texts for line in text.splitlines()) <= 120
