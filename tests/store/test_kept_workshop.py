"""A workshop of 1.0 opens in every later version: the very file is kept here, and never made anew."""

import gzip
from pathlib import Path

import pytest

from vamper.core.values.cut import Cut
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop
from vamper.store.workshop_file import check_workshop

KEPT = Path(__file__).parent / "kept" / "workshop-1.0.db.gz"


@pytest.fixture
def file(tmp_path: Path) -> Path:
    path = tmp_path / "mine.db"
    path.write_bytes(gzip.decompress(KEPT.read_bytes()))
    return path


def test_a_workshop_of_1_0_opens_with_all_that_is_in_it(file: Path, nester: ProcessNester) -> None:
    check_workshop(file)
    workshop = Workshop(file, nester, 1)
    try:
        (summary,) = workshop.jobs.all()
        assert (summary.title, summary.pieces, summary.customer) == (
            "Buoys for the reach",
            6,
            "Gannet Reach Paddle Club",
        )
        state = workshop.jobs.get(summary.id)
        assert state.document.stock == "satin-vinyl"
        assert workshop.arts.file(state.document.items[0].art).data.startswith(b"\x89PNG")
        plan = workshop.plans.of(state).plan
        assert plan.layout.pieces == 6
        assert plan.settings[Cut.KISS].seen, "what was logged is still known"
        # Its history can be gone back along, and forth again.
        for _ in range(3):
            workshop.jobs.undo(summary.id)
        assert workshop.jobs.get(summary.id).document.items == ()
        for _ in range(3):
            workshop.jobs.redo(summary.id)
        assert workshop.jobs.get(summary.id).document == state.document
        assert workshop.plays.progress("Ada")[1].open_play == 1
        assert workshop.plays.get(1).play.lesson.key == "letters"
    finally:
        workshop.close()
