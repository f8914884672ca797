"""A program's marks read off a flat scan: drawn at known places, and found there."""

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.tried import tried
from vamper.core.marks.program_marks import program_marks
from vamper.core.values.findings import BadInput
from vamper.core.values.paper import Paper
from vamper.core.values.program import ProgramFamily, ProgramMarks, RimDistances
from vamper.core.vision.program_marks_scan import measured_marks

LETTER, PX_A_MM = Paper(215.9, 279.4), 150 / 25.4
RIM = st.floats(4, 25)


def scan(known: ProgramMarks, art: bool = True, seed: int = 1) -> np.ndarray:
    """A sheet with marks and some art between them, on paper that is not quite white."""
    random = np.random.default_rng(seed)
    rows, columns = round(279.4 * PX_A_MM), round(215.9 * PX_A_MM)
    picture = np.clip(random.normal(238, 3, (rows, columns, 3)), 0, 255).astype(np.uint8)
    if art:
        cv2.circle(picture, (columns // 2, rows // 2), round(60 * PX_A_MM), (200, 60, 30), -1)
    ink = np.zeros((rows, columns), np.uint8)
    for mark in program_marks(LETTER, known):
        cv2.fillPoly(ink, [np.round((ring * PX_A_MM - 0.5) * 16).astype(np.int32) for ring in mark.rings], 255, shift=4)
    picture[ink > 0] = 35
    return picture


@tried(12)
@given(st.tuples(RIM, RIM, RIM, RIM), st.floats(0.6, 2.5), st.sampled_from(ProgramFamily))
def test_marks_are_found_where_they_were_drawn(rim: tuple, stroke: float, family: ProgramFamily) -> None:
    drawn = ProgramMarks(family, stroke, RimDistances(*rim), arm_mm=14.0)
    found = measured_marks(scan(drawn), 215.9, 279.4)
    assert found.family is family
    assert found.rim_mm is not None
    sides = (found.rim_mm.top, found.rim_mm.right, found.rim_mm.bottom, found.rim_mm.left)
    assert sides == pytest.approx(rim, abs=0.35)
    assert found.stroke_mm == pytest.approx(stroke, abs=0.35)


def test_what_shows_no_marks_or_another_sheet_is_refused_with_a_sentence() -> None:
    blank = np.full((1650, 1275, 3), 240, np.uint8)
    with pytest.raises(BadInput, match="no line was found"):
        measured_marks(blank, 215.9, 279.4)
    with pytest.raises(BadInput, match="another shape"):
        measured_marks(blank[:900], 215.9, 279.4)
