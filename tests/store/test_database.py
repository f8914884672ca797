"""The file: its shape equals the models', pragmas are on, copies are whole."""

import json
from pathlib import Path
from typing import Any

from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from alembic.operations import Operations
from alembic.script import ScriptDirectory
from pydantic import TypeAdapter
from sqlalchemy import Engine, create_engine, inspect, text

import vamper.store
from vamper.core.ledger.run import UsedSetting
from vamper.core.values.finish import CoverKind, CoverSpec, CoverWhen, Target
from vamper.core.values.named_settings import NamedSetting
from vamper.core.values.stock import STARTER_STOCKS, Stock
from vamper.core.values.tried import Pressure
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop
from vamper.store.database import copy_database, migrate, open_database
from vamper.store.differences import difference
from vamper.store.tables import TableBase

_STOCK = TypeAdapter(Stock)
_FILLED = {"made_at": "2026-05-02 18:00:00"}


def shape(engine: Engine) -> dict[str, set[str]]:
    """The columns of each table, with their kinds."""
    return {
        table: {
            f"{column['name']} {column['type']} {column['nullable']}" for column in inspect(engine).get_columns(table)
        }
        for table in inspect(engine).get_table_names()
    }


def test_migrations_lead_to_the_models_and_a_new_file_is_made_like_that(tmp_path: Path) -> None:
    migrated = create_engine(f"sqlite:///{tmp_path / 'steps.db'}")
    migrate(migrated)
    made = open_database(tmp_path / "made.db")
    revisions = []
    for engine in (migrated, made):
        with engine.connect() as connection:
            context = MigrationContext.configure(connection)
            assert compare_metadata(context, TableBase.metadata) == []
            revisions.append(context.get_current_revision())
    assert revisions[0] == revisions[1] is not None
    assert shape(migrated) == shape(made)


def test_pragmas(tmp_path: Path) -> None:
    with open_database(tmp_path / "a.db").connect() as connection:
        assert connection.execute(text("PRAGMA journal_mode")).scalar() == "wal"
        assert connection.execute(text("PRAGMA foreign_keys")).scalar() == 1


def test_starters_come_back_as_they_are(workshop: Workshop) -> None:
    assert tuple(kept.value for kept in workshop.shop.stocks.all().values()) == STARTER_STOCKS


def test_a_copy_made_while_in_use_holds_everything(workshop: Workshop, tmp_path: Path) -> None:
    number = workshop.jobs.create("Kept")
    copy_database(workshop.path, tmp_path / "copy.db")
    with open_database(tmp_path / "copy.db").connect() as connection:
        assert connection.execute(text("SELECT title FROM job WHERE id = :n"), {"n": number}).scalar() == "Kept"


def test_settings_by_steps_become_settings_by_name(tmp_path: Path) -> None:
    """A file of 1.0: a list in order with notches, and a run that was set to one of them."""
    path = tmp_path / "old.db"
    engine = create_engine(f"sqlite:///{path}")
    with engine.begin() as connection:
        context = MigrationContext.configure(connection)
        steps = ScriptDirectory(str(Path(vamper.store.__file__).parent / "migrations"))
        with Operations.context(context):
            steps.get_revision("1.0").module.upgrade()
        context.stamp(steps, "1.0")
        seen = {"stock": _STOCK.dump_python(STARTER_STOCKS[0], mode="json"), "cut": "kiss", "outcome": "clean"}
        cutter = {"settings": [{"name": "soft", "seen": [seen]}, {"name": "hard", "notches": True, "seen": []}]}
        connection.execute(
            text("INSERT INTO cutter (id, name, revision, value) VALUES (1, 'old', 1, :value)"),
            {"value": json.dumps(cutter)},
        )
        used = {"cut": "kiss", "force_gf": None, "passes": 1, "speed_mm_s": 80, "blade": "45"}
        run = {"settings": [{**used, "step": "“hard”, one notch down"}, {**used, "step": "soft"}]}
        columns = {one["name"] for one in inspect(connection).get_columns("run") if not one["nullable"]}
        given = {name: _FILLED.get(name, 1) for name in columns} | {"value": json.dumps(run)}
        names = ", ".join(given)
        connection.execute(text(f"INSERT INTO run ({names}) VALUES ({', '.join(':' + name for name in given)})"), given)
    migrate(engine)
    with engine.connect() as connection:
        settings = json.loads(connection.execute(text("SELECT value FROM cutter")).scalar_one())["settings"]
        soft, hard = (TypeAdapter(NamedSetting).validate_python(one) for one in settings)
        assert (soft.gentler_than, soft.pressures, len(soft.seen)) == (("hard",), (), 1)
        assert hard.pressures == tuple(Pressure)
        told = json.loads(connection.execute(text("SELECT value FROM run")).scalar_one())["settings"]
        first, second = (TypeAdapter(UsedSetting).validate_python(one) for one in told)
        assert (first.setting, first.pressure) == ("hard", Pressure.LESS)
        assert (second.setting, second.pressure) == ("soft", None)


_OLD_FINISH = {"process": None, "school": None, "coats": None}


def _as_1_1(document: dict[str, Any], **said: Any) -> dict[str, Any]:
    """A job's document as 1.1 wrote it."""
    rest = {name: one for name, one in document.items() if name not in ("products", "border")}
    finish = {name: one for name, one in document["finish"].items() if name not in ("cover", "mask", "set", "press")}
    given = said.pop("finish", {})
    return {**rest, "coated": False, "laminate_um": 0.0, **said, "finish": {**finish, **_OLD_FINISH, **given}}


def test_recipes_become_one_chain_with_its_history(tmp_path: Path, nester: ProcessNester) -> None:
    """A file of 1.1: a job coated after the cut, before that under a laminate, and a batch of it in the evening."""
    path = tmp_path / "old.db"
    opened = Workshop(path, nester)
    number = opened.jobs.create("Boats")
    opened.jobs.change(number, "a name", {"title": "Boats again"})
    opened.close()
    engine = create_engine(f"sqlite:///{path}")
    with engine.begin() as connection:
        now = json.loads(connection.execute(text("SELECT document FROM job")).scalar_one())
        before = _as_1_1({name: one for name, one in now.items() if name != "last_number"}, laminate_um=80.0)
        after = _as_1_1(now, coated=True, finish={"process": "sealed-coat", "school": "B", "coats": 2})
        later = {name: one for name, one in after.items() if name != "last_number"}
        connection.execute(text("UPDATE job SET document = :it"), {"it": json.dumps(after)})
        connection.execute(
            text("UPDATE step SET back = :back, forth = :forth WHERE number = 1"),
            {"back": json.dumps(difference(later, before)), "forth": json.dumps(difference(before, later))},
        )
        work = {"pieces": 4, "sheets": 1, "coats": 2, "plate": 6, "school": "B", "label": {}, "added": []}
        work |= {"patches": 1, "backs": 0, "record": {}, "where": {"stock_class": "vinyl", "target": "boat"}}
        batch = {"number": 1, "job_id": number, "stock": "satin-vinyl", "name": "Boats", "process": "sealed-coat"}
        batch |= {"work": work, "happened": [{"step": 0, "began": "2026-11-30T18:00:00+00:00"}]}
        connection.execute(
            text("INSERT INTO preference (key, value) VALUES ('evening', :it)"),
            {"it": json.dumps({"batches": [batch], "places": {"oven": 1, "spray": 1, "mat": 1, "rack": 9}})},
        )
        for later_table in ("play", "puzzle"):
            connection.execute(text(f"DROP TABLE {later_table}"))
        connection.execute(text("UPDATE alembic_version SET version_num = '1.1'"))
    again = Workshop(path, nester)
    try:
        cover = again.jobs.get(number).document.finish.cover
        assert cover == CoverSpec(CoverKind.COAT, CoverWhen.AFTER_CUT, coats=2)
        assert again.jobs.undo(number).document.finish.cover == CoverSpec(CoverKind.LAMINATE, um=80.0)
        assert again.jobs.redo(number).document.finish.cover == cover
        (kept,) = again.evenings.document().batches
        keys = [one.step.key for one in kept.steps]
        assert keys.index("cut") < keys.index("coat")
        assert (kept.facts.target, kept.happened) == (Target.BOAT, ())
    finally:
        again.close()
