"""A cut file in HP-GL, read as a cutter reads it: pen up, pen down, and what speed and force are set to."""

import re

import numpy as np

from vamper.core.twin.strokes import CutStroke
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.paper import Paper
from vamper.formats.out.cut_hpgl import PENS, UNITS_A_MM

_WORD = re.compile(r"([A-Z]{2})([^;A-Z]*)")
_CUT_OF = {pen: cut for cut, pen in PENS.items()}
_MM_A_CM = 10


def read_hpgl(data: bytes, paper: Paper) -> tuple[CutStroke, ...]:
    """The strokes of a cut file, in their order, in the frame of a sheet.

    Raises
    ------
    BadInput
        If it holds something that is no number where one belongs.
    """
    strokes: list[CutStroke] = []
    cut, speed, force = Cut.KISS, 0.0, 0.0
    line: list[tuple[float, float]] = []
    at = (0.0, paper.height_mm)

    def lift() -> None:
        if len(line) > 1:
            strokes.append(CutStroke(cut, speed, force, np.array(line)))
        line.clear()

    for word, rest in _WORD.findall(data.decode("ascii", "replace")):
        try:
            numbers = [float(one) for one in rest.replace(" ", ",").split(",") if one]
        except ValueError:
            raise BadInput(f"the cut file says {word} with something that is no number", "cut file") from None
        places = [
            (x / UNITS_A_MM, paper.height_mm - y / UNITS_A_MM)
            for x, y in zip(numbers[::2], numbers[1::2], strict=False)
        ]
        if word == "PD":
            line[:] = line or [at]
            line += places
        elif word in ("PU", "SP", "IN"):
            lift()
        if places and word in ("PU", "PD"):
            at = places[-1]
        if word == "SP" and numbers and int(numbers[0]) in _CUT_OF:
            cut = _CUT_OF[int(numbers[0])]
        elif word == "VS" and numbers:
            lift()
            speed = numbers[0] * _MM_A_CM
        elif word == "FS" and numbers:
            lift()
            force = numbers[0]
    lift()
    return tuple(strokes)
