"""A cut as HP-GL: 40 units a millimetre, y up from the sheet's bottom left; pen 1 kiss cuts, pen 2 cuts through.

Speed (whole cm/s) and force (whole gf) are set with the pen, and again where a line asks for others; every pass of a
loop is drawn, the loop's overcut with it.
"""

import math
from collections.abc import Iterable
from dataclasses import dataclass

from vamper.core.values.cut import Cut
from vamper.core.values.geometry import Points
from vamper.core.values.paper import Paper

UNITS_A_MM = 40
_EXACT = 1e-9
PENS = {Cut.KISS: 1, Cut.THROUGH: 2}


@dataclass(frozen=True, slots=True)
class PenLine:
    """One time that the blade goes down: how it cuts, what the machine is set to, and where it goes, shape (n, 2)."""

    cut: Cut
    speed_mm_s: float
    force_gf: float
    points: Points


def write_hpgl(paper: Paper, lines: Iterable[PenLine]) -> bytes:
    """The lines of one sheet in cutting order."""

    def units(points: Points) -> list[str]:
        return [f"{round(float(x) * UNITS_A_MM)},{round((paper.height_mm - float(y)) * UNITS_A_MM)}" for x, y in points]

    written = ["IN;"]
    before: tuple[Cut | None, int, int] = (None, 0, 0)
    for line in lines:
        # A limit is kept, so whole centimetres a second are the ones below it.
        now = (line.cut, max(1, math.floor(line.speed_mm_s / 10 + _EXACT)), round(line.force_gf))
        if now != before:
            pen = f"SP{PENS[line.cut]};" if line.cut is not before[0] else ""
            written.append(f"{pen}VS{now[1]};FS{now[2]};")
            before = now
        first, *rest = units(line.points)
        written.append(f"PU{first};PD{','.join(rest)};")
    written.append("PU;SP0;")
    return "\n".join(written).encode("ascii") + b"\n"
