"""The machines that new jobs are made on: the machines that the maker named, and until then the first on the shelf,
which a job's brief says are taken for now.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Lt
from pydantic import TypeAdapter

from vamper.core.values.lengths import Unit
from vamper.core.values.limits import STRICT
from vamper.services.shop.makes import FIRST_JOBS, FirstJob, Makes
from vamper.services.shop.shop import Shop
from vamper.store.database import Sessions
from vamper.store.remembered import Remembered
from vamper.store.tables import PreferenceRow

_KEY = "usual"
RowId = Annotated[int, Ge(1), Lt(2**63)]


@dataclass(frozen=True, slots=True)
class Usual:
    """The usual choices of a workshop; None is an answer left for later.

    Parameters
    ----------
    printer_id, cutter_id : int or None
        The machines.
    makes : Makes or None
        What is made.
    asked : bool
        Off once nothing is to be asked any more.
    unit : Unit or None
        What the workshop measures in, on every device that opens it.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    printer_id: RowId | None = None
    cutter_id: RowId | None = None
    makes: Makes | None = None
    asked: bool = False
    unit: Unit | None = None


_USUAL = TypeAdapter(Usual)


class UsualMachines:
    """The answers of one workshop."""

    def __init__(self, sessions: Sessions, shop: Shop) -> None:
        self._sessions = sessions
        self._shop = shop
        self._kept: Remembered[None, Usual] = sessions.remembered(PreferenceRow)

    def get(self) -> Usual:
        """The answers, without machines that are gone."""
        usual = self._kept.get(None, self._read)
        return replace(
            usual,
            printer_id=usual.printer_id if usual.printer_id in self._shop.printers.all() else None,
            cutter_id=usual.cutter_id if usual.cutter_id in self._shop.cutters.all() else None,
        )

    def _read(self) -> Usual:
        with self._sessions() as session:
            row = session.get(PreferenceRow, _KEY)
            return Usual() if row is None else _USUAL.validate_python(row.value)

    def put(self, usual: Usual) -> None:
        """Keep the answers.

        Raises
        ------
        NotFound
            If a machine that is named is not in the workshop.
        """
        if usual.printer_id is not None:
            self._shop.printers.get(usual.printer_id)
        if usual.cutter_id is not None:
            self._shop.cutters.get(usual.cutter_id)
        with self._sessions.begin() as session:
            session.merge(PreferenceRow(key=_KEY, value=_USUAL.dump_python(usual, mode="json")))

    def unit(self) -> Unit:
        """The unit of sentences and new jobs; millimetres until it is said."""
        return self.get().unit or Unit.MM

    def chosen(self, changes: Mapping[str, Any]) -> None:
        """A machine was chosen for a job: where nobody said yet which machine is usual, this is it."""
        usual = self.get()
        open_ones = {name: changes[name] for name in ("printer_id", "cutter_id") if name in changes}
        # Simulated machines are for practice alone.
        printers, cutters = self._shop.printers.all(), self._shop.cutters.all()
        practice = {key for key, kept in printers.items() if kept.value.practice is not None}
        if open_ones.get("printer_id") in practice:
            del open_ones["printer_id"]
        practice = {key for key, kept in cutters.items() if kept.value.practice is not None}
        if open_ones.get("cutter_id") in practice:
            del open_ones["cutter_id"]
        answers = {name: value for name, value in open_ones.items() if getattr(usual, name) is None}
        if answers:
            self.put(replace(usual, **answers))

    def first_job(self) -> FirstJob:
        """The first job of a workshop where there is none to take after: the work that is done most, else stickers."""
        return FIRST_JOBS[self.get().makes or Makes.STICKERS]

    def machines(self) -> tuple[int, int]:
        """Printer and cutter of a new job."""
        usual = self.get()
        return (
            usual.printer_id or next(iter(self._shop.printers.all())),
            usual.cutter_id or next(iter(self._shop.cutters.all())),
        )
