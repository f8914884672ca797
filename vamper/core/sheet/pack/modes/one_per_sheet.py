"""One design a sheet: each is searched for by itself, on sheets of its own; see `groups`."""

from vamper.core.sheet.pack.mode import PackingMode
from vamper.core.sheet.pack.modes.mixed import mixed

KIND = PackingMode(
    "one-per-sheet",
    2,
    "one design a sheet",
    "easier to store and to sell",
    "one design a sheet",
    mixed,
    apart=True,
)
