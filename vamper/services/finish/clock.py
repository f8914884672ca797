"""The time where the workshop is, with its offset: an hour that the clocks skip or repeat is still an hour long.

A rehearsal, or a test, can put it forward: `VAMPER_CLOCK` names a file that holds the minutes to add; it is read every
time, so that an evening can run at speed.
"""

import os
from collections.abc import Callable
from contextlib import suppress
from datetime import datetime, timedelta
from pathlib import Path

_NAME = "VAMPER_CLOCK"


def local(time: datetime) -> datetime:
    """A time as the workshop's clock shows it; a time without an offset is meant there."""
    return time.astimezone()


def workshop_clock() -> Callable[[], datetime]:
    """The clock of the workshop."""
    file = os.environ.get(_NAME)
    if file is None:
        return lambda: local(datetime.now())
    path = Path(file)

    def shifted() -> datetime:
        minutes = 0.0
        with suppress(OSError, ValueError):
            minutes = float(path.read_text())
        return local(local(datetime.now()) + timedelta(minutes=minutes))

    return shifted
