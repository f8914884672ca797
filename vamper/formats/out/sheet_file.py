"""A file of one sheet: what it is called, what it is, and how it is written.

Each is a module in `kinds`; adding one touches nothing else: it is in the bundle, in `plan.json` and at its address.
"""

from collections.abc import Callable
from dataclasses import dataclass

from vamper.core.art.picture import Picture
from vamper.core.plan import Plan
from vamper.core.values.job import Job
from vamper.core.values.registry import Registry

# What is printed of a design, by its number.
Printed = Callable[[int], Picture]


def always(_job: Job) -> bool:
    return True


def never(_job: Job) -> bool:
    return False


def leads_by_files(job: Job) -> bool:
    """Whether cut files are what a job is cut by."""
    return not job.cutter.has_own_program


@dataclass(frozen=True, slots=True)
class SheetFile:
    """One kind of file.

    Parameters
    ----------
    key, place : str, int
        What `plan.json` calls it, and where it stands in a list of all kinds.
    ending, media_type : str
        What its name ends in, after the sheet's number, and its media type on the wire.
    write : callable
        Its bytes, for a plan and a sheet (from 0).
    is_for : callable
        Whether a job is handed over with such a file.
    on_request : callable
        Whether it can be had all the same where a job is handed over without it.
    words : str
        What it is for a person.
    missing : str
        What to say where it has not.
    """

    key: str
    place: int
    ending: str
    media_type: str
    words: str
    write: Callable[[Plan, int, Printed], bytes]
    is_for: Callable[[Job], bool] = always
    on_request: Callable[[Job], bool] = never
    missing: str = ""


SHEET_FILES: Registry[SheetFile] = Registry("vamper.formats.out.kinds")


def sheet_files(sheet: int, job: Job) -> dict[str, str]:
    """The names of a sheet's files; `sheet` counts from 0."""
    return {one.key: f"sheet-{sheet + 1:02d}-{one.ending}" for one in SHEET_FILES if one.is_for(job)}


def sheet_title(plan: Plan, sheet: int) -> str:
    colour = plan.sheet_colour(sheet)
    of_colour = f", {colour}" if colour else ""
    return f"{plan.job.title}, sheet {sheet + 1} of {len(plan.sheets)}{of_colour}"
