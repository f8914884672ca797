"""A list of names, typed or from a CSV file: one a line, or the column headed `name`, else the first column."""

import csv

from vamper.core.values.composition import LONGEST_NAME, MOST_NAMES
from vamper.core.values.findings import BadInput
from vamper.core.values.text import one_line


def read_names(text: str) -> tuple[str, ...]:
    """The names in their order, blank ones left out.

    Raises
    ------
    BadInput
        If there are too many, or one is too long to be a name.
    """
    lines = [line for line in text.lstrip("\ufeff").splitlines() if line.strip()]
    delimiter = next((mark for mark in (";", "\t", ",") if lines and mark in lines[0]), ",")
    try:
        rows = list(csv.reader(lines, delimiter=delimiter))
    except csv.Error:
        raise BadInput("this is not a list of names: save it as plain text, one name a line", "names") from None
    heads = [cell.strip().lower() for cell in rows[0]] if rows else []
    if "name" in heads:
        column = heads.index("name")
        found = [row[column] for row in rows[1:] if len(row) > column]
    elif len({len(row) for row in rows}) == 1:
        found = [row[0] for row in rows]
    else:
        # Not a table: a comma belongs to its name.
        found = lines
    names = tuple(plain for name in found if (plain := one_line(name)))
    if len(names) > MOST_NAMES:
        raise BadInput(f"{len(names)} names are more than the {MOST_NAMES} that one list can hold; split it", "names")
    for name in names:
        if len(name) > LONGEST_NAME:
            raise BadInput(f"“{name[:30]}…” is longer than {LONGEST_NAME} letters; one name goes on each line", "names")
    return names
