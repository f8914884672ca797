"""A table that nobody makes for a while falls behind what it measures: the ledger's is made here with few runs."""

from tests.bench import report
from tests.bench.ledger import ledger


def test_the_ledgers_table_is_made() -> None:
    assert all(row.figure and row.wanted for row in ledger(many=60))


def test_every_table_has_a_title_of_its_own() -> None:
    titles = [section.title for section in report.SECTIONS]
    assert len(set(titles)) == len(titles)
