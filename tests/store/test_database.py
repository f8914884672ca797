"""The file: its shape equals the models', pragmas are on, copies are whole."""

from pathlib import Path

from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import Engine, create_engine, inspect, text

from vamper.core.values.stock import STARTER_STOCKS
from vamper.services.workshop import Workshop
from vamper.store.database import copy_database, migrate, open_database
from vamper.store.tables import TableBase


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
