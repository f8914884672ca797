"""The time where the workshop is. A rehearsal, or a test, can put it forward.

`VAMPER_CLOCK` names a file that holds the minutes to add; it is read every time, so that an evening can run at speed.
"""

import os
from collections.abc import Callable
from contextlib import suppress
from datetime import datetime, timedelta
from pathlib import Path

_NAME = "VAMPER_CLOCK"


def workshop_clock() -> Callable[[], datetime]:
    """What tells the time, without a zone."""
    file = os.environ.get(_NAME)
    if file is None:
        return datetime.now
    path = Path(file)

    def shifted() -> datetime:
        minutes = 0.0
        with suppress(OSError, ValueError):
            minutes = float(path.read_text())
        return datetime.now() + timedelta(minutes=minutes)

    return shifted
