"""What a maker answered to what was found: kept with the job, and forgotten as soon as what it was about changes."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from vamper.core.values.answers import OF_DESIGN, OF_JOB
from vamper.core.values.findings import BadInput
from vamper.core.values.item import ItemSpec
from vamper.services.jobs.document import JobDocument

_BASE = "art.base"


def still_answered(before: JobDocument, after: JobDocument) -> JobDocument:
    """A job after a change, without the answers that the change is about."""
    known = {item.number: item for item in before.items}

    def kept(item: ItemSpec) -> ItemSpec:
        old = known.get(item.number)
        left = tuple(code for code in item.meant if old is None or _same(code, old, item, before, after))
        return item if left == item.meant else replace(item, meant=left)

    meant = tuple(code for code in after.meant if _unchanged(OF_JOB[code].job, before, after))
    items = tuple(kept(item) if item.meant else item for item in after.items)
    if items == after.items and meant == after.meant:
        return after
    return replace(after, items=items, meant=meant)


def _same(code: str, old: ItemSpec, new: ItemSpec, before: JobDocument, after: JobDocument) -> bool:
    # What is answered in this very step is about what it finds now.
    if code not in old.meant:
        return True
    about = OF_DESIGN[code]
    return _unchanged(about.about, old, new) and _unchanged(about.job, before, after)


def _unchanged(names: Sequence[str], before: object, after: object) -> bool:
    return all(_field(before, name) == _field(after, name) for name in names)


def _field(of: object, name: str) -> Any:
    for part in name.split("."):
        of = None if of is None else getattr(of, part)
    return of


def with_answer(
    document: JobDocument, code: str, numbers: Sequence[int] | None, meant: bool, keep: bool = False
) -> JobDocument:
    """A job in which a finding is answered, or asked again: for some designs, or where `numbers` is None for the job.
    With `keep` it is answered for those that come in later, too.

    Raises
    ------
    BadInput
        If there is no such finding, it cannot be answered, or a design is not there.
    """
    if code not in (OF_JOB if numbers is None else OF_DESIGN):
        raise BadInput(f"“{code[:40]}” cannot be answered this way; change what it is about instead", "code")
    if numbers is None:
        return replace(document, meant=_told(document.meant, code, meant))
    for number in numbers:
        document.item(number)
    asked = set(numbers)
    after = document.each_item(
        lambda item: replace(item, meant=_told(item.meant, code, meant)) if item.number in asked else item
    )
    # Whoever asks again for one design asks of new ones as well.
    return replace(after, meant_by_new=_told(after.meant_by_new, code, meant)) if keep or not meant else after


def _told(codes: tuple[str, ...], code: str, meant: bool) -> tuple[str, ...]:
    left = tuple(one for one in codes if one != code)
    return (*left, code) if meant else left


def fixed(
    document: JobDocument,
    code: str,
    each: Sequence[tuple[int, Mapping[str, Any]]],
    keep: bool = False,
    meant: bool = False,
) -> JobDocument:
    """A job in which designs take a fix of one finding at once, each with what it sets for it; where that is `meant`,
    taking it answers the finding. With `keep` art that comes in later with a border of its own begins as these do.
    """
    for number, changes in each:
        document = document.items_changed((number,), changes)
    if meant:
        document = with_answer(document, code, [number for number, _ in each], True, keep)
    if code != _BASE or not keep:
        return document
    return replace(document, on_base=all(not document.item(number).edge.has_border for number, _ in each))
