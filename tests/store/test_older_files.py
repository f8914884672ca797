"""A workshop's file from before is opened as it is: nothing in it is lost."""

import json
import sqlite3
from pathlib import Path

import pytest
from alembic import command
from alembic.config import Config
from sqlalchemy import create_engine

from tests.conftest import disc_png
from vamper.core.ledger.run import CameOut
from vamper.core.values.findings import BadInput
from vamper.services.design.designer import ArtFile
from vamper.services.ledger.logging import Said
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop
from vamper.store.workshop_file import MIGRATIONS

EDGE = {"kind": "follow", "distance_mm": 2.5, "smooth_mm": 2.0, "fill_holes": True, "join": True, "corner_mm": 3.0}


def first_version(path: Path) -> str:
    """A file of the first version with one job of one disc; returns the art's digest."""
    engine = create_engine(f"sqlite:///{path}")
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0001")
    engine.dispose()
    art = ArtFile.of("disc.png", disc_png())
    when = "2026-01-01 10:00:00"
    document = {
        "title": "Old",
        "paper": {"width_mm": 215.9, "height_mm": 279.4},
        "printer_id": 1,
        "cutter_id": 1,
        "stock": "satin-vinyl",
        "items": [
            {"number": 1, "name": "disc", "art": art.digest, "width_mm": 40, "quantity": 3, "edge": EDGE, "cut": "kiss"}
        ],
    }
    with sqlite3.connect(path) as db:
        db.execute("INSERT INTO art VALUES (?, 'disc.png', 'image/png', 300, 300, ?, ?)", (art.digest, art.data, when))
        db.execute("INSERT INTO printer VALUES (1, 'inkjet', 'inkjet', 3, 3, 5, 3)")
        db.execute("INSERT INTO cutter VALUES (1, 'cutter', 'mat', 310, 420, 20, 380, 4, 3000)")
        db.execute(
            "INSERT INTO stock VALUES ('satin-vinyl', 0, 'satin vinyl', 'vinyl', 110, 120, 0.85, 1.0, 0.8, "
            "'white, satin', 100, 'medium', 0, 0, 1, '#FFFFFF')"
        )
        db.execute(
            "INSERT INTO job (id, title, paper_width_mm, paper_height_mm, printer_id, cutter_id, stock_key, purpose, "
            "marks, packing, step, created_at, changed_at) VALUES (1, 'Old', 215.9, 279.4, 1, 1, 'satin-vinyl', "
            "'vehicle', '{}', '{}', 0, ?, ?)",
            (when, when),
        )
        db.execute(
            "INSERT INTO item (id, job_id, number, position, name, art_digest, width_mm, height_mm, quantity, cut, "
            "edge) VALUES (1, 1, 1, 0, 'disc', ?, 40, NULL, 3, 'kiss', ?)",
            (art.digest, json.dumps(EDGE)),
        )
        db.execute("INSERT INTO step VALUES (1, 0, 'new job', '', ?, ?)", (json.dumps(document), when))
    return art.digest


def test_a_first_version_workshop_opens_with_everything(tmp_path: Path, nester: ProcessNester) -> None:
    digest = first_version(tmp_path / "old.db")
    workshop = Workshop(tmp_path / "old.db", nester, 1)
    try:
        state = workshop.jobs.get(1)
        (item,) = state.document.items
        assert (item.art, item.width_mm, item.quantity, item.edge.distance_mm) == (digest, 40, 3, 2.5)
        assert (item.loose, item.bleed_mm, item.size_over, item.prepare.threshold) == (False, None, "ink", 0.5)
        planned = workshop.plan(state).plan
        assert planned.layout.pieces == 3
        # Its history goes on: a change can be undone to what it was.
        workshop.jobs.change_items(1, "loose", (1,), {"loose": True})
        assert workshop.jobs.undo(1).document == state.document
    finally:
        workshop.close()


def test_a_file_of_the_version_before_keeps_its_runs_and_finds_its_designs(tmp_path: Path) -> None:
    path = tmp_path / "before.db"
    workshop = Workshop(path, ProcessNester())
    art = workshop.arts.take_in("disc.png", disc_png())
    job = workshop.jobs.create("Before")
    workshop.jobs.add_item(job, art.digest, "disc of the club", 30.0, {})
    workshop.record_hand_off(workshop.jobs.get(job))
    workshop.made.log_outcome(job, Said(1, 1, CameOut.GOOD))
    before = workshop.runs.all()
    workshop.close()
    _migrated(path, "0009")
    again = Workshop(path, ProcessNester())
    try:
        assert again.runs.all() == before
        (kept,) = again.jobs.all()
        assert (kept.names, kept.customer, kept.is_template) == (("disc of the club",), "", False)
        # What was handed over before its layout was kept is asked about as the job stands, and cannot be made again.
        handed = again.made.last_handed(job)
        assert handed.number == before[0].hand_off_id
        with pytest.raises(BadInput, match="the plan of this run is not kept"):
            again.run_again(before[0].id, 1)
    finally:
        again.close()


def _migrated(path: Path, revision: str) -> None:
    """Take a file back to what an older version made."""
    engine = create_engine(f"sqlite:///{path}")
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.downgrade(config, revision)
    engine.dispose()
