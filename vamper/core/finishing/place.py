"""The place on a pane, a wall or a vehicle: whether a piece fits, and how high letters are to be read from afar."""

import math
from collections.abc import Iterator, Sequence

from vamper.core.art.legible import legibility, letter_mm
from vamper.core.design import DesignedItem
from vamper.core.values.findings import Finding, Severity
from vamper.core.values.finish import PlaceSpec
from vamper.core.values.lengths import mm, size_mm


def fits_place(width_mm: float, height_mm: float, place: PlaceSpec) -> bool:
    """Whether a piece lies within the place as it was measured, upright as it is to be read."""
    return width_mm <= place.width_mm and height_mm <= place.height_mm


def place_findings(items: Sequence[DesignedItem], place: PlaceSpec) -> Iterator[Finding]:
    """Pieces that do not fit where they are to go, and drawings too low to hold letters that are read from afar."""
    for item in items:
        width, height = item.edge.size_mm
        if not fits_place(width, height, place):
            yield Finding(
                "finish.place",
                Severity.LOOK,
                "It does not fit its place",
                f"The piece is {size_mm(width, height, 1)}, and the place was measured as "
                f"{size_mm(place.width_mm, place.height_mm)}: make it smaller, or measure again.",
                {"width_mm": round(width, 1), "height_mm": round(height, 1)},
                item=item.number,
            )
        least = letter_mm(place.distance_m)
        if not place.distance_m:
            continue
        legible = legibility(item.outline)
        if legible.letters_mm < least:
            larger = math.ceil(10 * legible.grown_for(place.distance_m)) / 10
            seen = "the whole drawing is" if legible.as_whole else "its lowest line is"
            yield Finding(
                "finish.letters",
                Severity.LOOK,
                f"Letters too small to be read from {place.distance_m:g} m",
                f"Letters are read at a glance from there when they are {mm(least)} high, and {seen} "
                f"{mm(legible.letters_mm, 1)}: at {larger:g} times its size it would be.",
                {"least_mm": least},
                item=item.number,
            )
