"""What a maker makes most, as asked at first run: what a first job begins with."""

from dataclasses import dataclass
from enum import StrEnum

from vamper.core.values.finish import Target
from vamper.core.values.tables import row, table

_TABLE = table(__package__, "makes.toml")


class Makes(StrEnum):
    """The kinds of work that makers do most."""

    STICKERS = "stickers"
    LABELS = "labels"
    CUPS = "cups"
    CLOTH = "cloth"
    OUTDOORS = "outdoors"
    CARDS = "cards"


@dataclass(frozen=True, slots=True)
class FirstJob:
    """The fields that a first job begins with."""

    name: str
    stock: str
    target: Target


FIRST_JOBS: dict[Makes, FirstJob] = {one: row(FirstJob, _TABLE[one]) for one in Makes}
