"""What pieces go on, as `targets.toml` tells it: a mug, a dark shirt; and what is usual for motifs on cloth."""

from dataclasses import dataclass

from vamper.core.values.art import Purpose
from vamper.core.values.finish import Target
from vamper.core.values.tables import table

_TABLE = table(__package__, "targets.toml")


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
    """What a piece goes on: in words, its purpose, the processes for it, the usual one first, whether it stands an
    oven (None where nobody puts it in one), its starter among the cups, whether it is cloth, and dark, and what matters
    of it where something can hurt (`dangers.toml`).
    """

    words: str
    purpose: Purpose
    processes: tuple[str, ...]
    heat: bool | None = None
    cup: str | None = None
    cloth: bool = False
    dark: bool = False
    traits: tuple[str, ...] = ()


TARGETS: dict[Target, TargetFacts] = {
    target: TargetFacts(
        **{
            **data,
            "purpose": Purpose(data["purpose"]),
            "processes": tuple(data["processes"]),
            "traits": tuple(data.get("traits", ())),
        },
    )
    for target, data in ((one, _TABLE["targets"][one]) for one in Target)
}
