"""Motifs on cloth: how wide for a panel, how far below the collar, and where on the fold line.

The panel is measured across, flat. The art takes a share of it (a starter), hangs so far below the collar on a grown
person's panel and less on a smaller one in the same proportion, and lies with the part that the maker chose on the fold
line: a word or a face is seldom in the middle of its drawing.
"""

from dataclasses import dataclass

from vamper.core.finishing.targets import CLOTH
from vamper.core.values.finish import ClothSpec


@dataclass(frozen=True, slots=True)
class OnCloth:
    """Where a motif goes, mm: the width that suits the panel, how far below the collar, and how far its left and right
    reach from the fold line.
    """

    art_width_mm: float
    drop_mm: float
    left_of_fold_mm: float
    right_of_fold_mm: float
    off_panel_mm: float

    @property
    def fits(self) -> bool:
        return self.off_panel_mm <= 0


def on_cloth(spec: ClothSpec, panel_mm: float, width_mm: float) -> OnCloth:
    """Where a motif of this width goes on a panel."""
    left, right = spec.centre * width_mm, (1 - spec.centre) * width_mm
    return OnCloth(
        CLOTH.art_share * panel_mm,
        CLOTH.drop_mm * min(1.0, panel_mm / CLOTH.panel_mm),
        left,
        right,
        max(left, right) - panel_mm / 2,
    )
