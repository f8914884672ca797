"""When a calibration is due: never made, something was changed since, or as the maker's school has it."""

from datetime import timedelta

import pytest

from vamper.core.marks.vernier import NarrowSide
from vamper.core.values.calibration import Calibration, thickness_of
from vamper.core.values.miss import LoggedMiss
from vamper.services.shop.measured import CalibrationSchool, MachineChange, Record
from vamper.services.workshop import Workshop
from vamper.store.tables import now

RECORD = Record(Calibration(), (0.0, 0.0), 0.0, (1.0, 1.0), (), NarrowSide.EVEN)
OFF, AT_HOME = LoggedMiss(0.9, 0.0), LoggedMiss(0.02, -0.01)


def due(
    workshop: Workshop,
    school: CalibrationSchool = CalibrationSchool.DRIFT,
    misses: tuple[LoggedMiss, ...] = (),
    days: int = 0,
    change: MachineChange | None = None,
) -> str:
    """What is said of a machine that was calibrated so many days ago."""
    stock = workshop.shop.stock("satin-vinyl")
    measured = workshop.shop.measured
    measured.keep(1, 1, stock, RECORD, now() - timedelta(days=days, minutes=1))
    measured.follow(school)
    for miss in misses:
        measured.log(1, 1, [miss], thickness_of(stock.thickness_um))
    if change is not None:
        measured.changed(1, change)
    return measured.due(1, 1, stock)


def test_what_was_never_calibrated_is_due(workshop: Workshop) -> None:
    assert workshop.shop.measured.due(1, 1, workshop.shop.stock("satin-vinyl")).startswith("Never calibrated")


@pytest.mark.parametrize("school", CalibrationSchool)
def test_a_change_of_the_machine_asks_for_it_in_every_school(workshop: Workshop, school: CalibrationSchool) -> None:
    assert "was changed on" in due(workshop, school, change=next(iter(MachineChange)))


@pytest.mark.parametrize(
    ("school", "misses", "days", "words"),
    [
        (CalibrationSchool.DRIFT, (AT_HOME,), 40, ""),
        (CalibrationSchool.DRIFT, (OFF,), 0, ""),
        (CalibrationSchool.DRIFT, (OFF,) * 5, 0, "drift to one side"),
        (CalibrationSchool.WHEN_OFF, (AT_HOME,), 40, ""),
        (CalibrationSchool.WHEN_OFF, (OFF, AT_HOME), 0, ""),
        (CalibrationSchool.WHEN_OFF, (AT_HOME, OFF), 0, "off by more than usual"),
        (CalibrationSchool.WHEN_OFF, (), 0, ""),
        (CalibrationSchool.EVERY_JOB, (), 2, "before every job"),
    ],
)
def test_each_school_asks_for_its_own_reason(
    workshop: Workshop, school: CalibrationSchool, misses: tuple[LoggedMiss, ...], days: int, words: str
) -> None:
    said = due(workshop, school, misses, days)
    assert (words in said) if words else (said == "")
