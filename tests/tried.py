"""On how many examples a property is tried: a third of them in the usual run, all with `VAMPER_ALL_EXAMPLES=1`.

The examples are others in every run, so that runs together see more than one long run would.
"""

import os
from typing import Any

from hypothesis import settings

_SHARE = 1 if os.environ.get("VAMPER_ALL_EXAMPLES") else 3
# Of the examples that are usual with nothing said.
_USUAL = 100


def tried(on: int, **more: Any) -> settings:
    """Settings for a property that is to hold on so many examples; the clock does not judge it."""
    return settings(max_examples=max(1, on // _SHARE), deadline=None, **more)


def load_usual() -> None:
    """The same for every property that says nothing of it."""
    settings.register_profile("usual", tried(_USUAL))
    settings.load_profile("usual")
