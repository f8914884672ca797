"""What pieces go on, as `targets.toml` tells it: a mug, a dark shirt; and what is usual for motifs on cloth."""

from dataclasses import dataclass
from enum import StrEnum

from vamper.core.values.art import Purpose
from vamper.core.values.finish import SetWay, Target
from vamper.core.values.tables import row, table

_TABLE = table(__package__, "targets.toml")


class TargetKind(StrEnum):
    """A kind of target, for how pieces come onto it."""

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
    """A target that pieces go on.

    Parameters
    ----------
    words, purpose, kind : str, Purpose, TargetKind
        What it is called, the purpose that it belongs to, and what kind of thing it is.
    heat : bool
        It surely stands an oven.
    set : tuple of SetWay
        How a water-slide decal can be set on it, the usual way first.
    curved, outdoors, clean, dark : bool
        Whether it is round, weathered, wiped with alcohol before, and dark cloth.
    cup : str or None
        Its starter among the cups.
    ball_mm : float or None
        The diameter of a ball that lies on it, where it is round both ways.
    traits : tuple of str
        What of it matters where something can hurt (`dangers.toml`).
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
