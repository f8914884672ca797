"""What pieces go on, as `targets.toml` tells it: a mug, a dark shirt; and what is usual for motifs on cloth."""

from dataclasses import dataclass
from enum import StrEnum

from vamper.core.values.art import Purpose
from vamper.core.values.finish import SetWay, Target
from vamper.core.values.tables import row, table

_TABLE = table(__package__, "targets.toml")


class TargetKind(StrEnum):
    """What kind of thing a target is, for how pieces come onto it."""

    GIVEN = "given"
    THING = "thing"
    PLACE = "place"
    CLOTH = "cloth"
    BLANK = "blank"


@dataclass(frozen=True, slots=True)
class ClothFacts:
    """Starters for motifs on cloth: their share of the panel's width, how far below the collar, mm, on a panel of
    `panel_mm`, and how much patches of an iron lie over each other.
    """

    art_share: float
    drop_mm: float
    panel_mm: float
    patch_overlap: float


CLOTH = ClothFacts(**_TABLE["cloth"])


@dataclass(frozen=True, slots=True)
class TargetFacts:
    """What a piece goes on: in words, its purpose and kind, whether it surely stands an oven, how a water-slide decal
    is set on it (the usual way first), whether it is `curved`, `outdoors`, wiped `clean` with alcohol, its starter
    among the cups, whether it is dark cloth, how large a ball lies on it where it is round both ways, and what matters
    of it where something can hurt (`dangers.toml`).
    """

    words: str
    purpose: Purpose
    kind: TargetKind
    heat: bool = False
    set: tuple[SetWay, ...] = (SetWay.AIR,)
    curved: bool = False
    outdoors: bool = False
    clean: bool = False
    cup: str | None = None
    dark: bool = False
    ball_mm: float | None = None
    traits: tuple[str, ...] = ()

    @property
    def is_cloth(self) -> bool:
        return self.kind is TargetKind.CLOTH


TARGETS: dict[Target, TargetFacts] = {target: row(TargetFacts, _TABLE["targets"][target]) for target in Target}
KIND_OF_PURPOSE: dict[Purpose, TargetKind] = {purpose: TargetKind(_TABLE["kinds"][purpose]) for purpose in Purpose}
"""What a purpose stands for where no target is named."""
