"""What is remembered of printing: for each printer and stock the label's preset, the maker's own, and what won on a
swatch strip.
"""

from typing import Any

from pydantic import TypeAdapter

from vamper.core.printing.advice import SCHOOLS, PrintChoice
from vamper.core.values.findings import BadInput
from vamper.formats.sentences import read_as
from vamper.store.database import Sessions
from vamper.store.tables import PrintChoiceRow

_CHOICE = TypeAdapter(PrintChoice)


class PrintChoices:
    """The choices of one workshop."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def get(self, printer_id: int, stock: str) -> PrintChoice:
        with self._sessions() as session:
            row = session.get(PrintChoiceRow, (printer_id, stock))
            return PrintChoice() if row is None else _CHOICE.validate_python(row.value)

    def change(self, printer_id: int, stock: str, changes: dict[str, Any]) -> PrintChoice:
        """Set some of its fields; an empty one is forgotten.

        Raises
        ------
        BadInput
            For a field that is unknown or out of range, or a school that there is not.
        """
        data = _CHOICE.dump_python(self.get(printer_id, stock), mode="json") | changes
        choice = read_as(_CHOICE, data)
        if choice.school and choice.school not in SCHOOLS:
            raise BadInput(f"there is no such choice; known are {', '.join(SCHOOLS)}", "school")
        with self._sessions.begin() as session:
            value = _CHOICE.dump_python(choice, mode="json")
            session.merge(PrintChoiceRow(printer_id=printer_id, stock_key=stock, value=value))
        return choice
