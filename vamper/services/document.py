"""The editable state of a job in the workshop: what the interface changes, what undo brings back.

It says the same as a job file, but names printer, cutter, stock and art by their keys in the workshop. A change is a
set of dotted fields with their new values; it is applied to the data and the whole read again, so that nothing out of
range is ever stored.
"""

from collections.abc import Mapping
from typing import Annotated, Any, TypeVar

from pydantic import Field, ValidationError

from vamper.core.findings import BadInput
from vamper.core.job import Purpose
from vamper.formats.fields import Strict
from vamper.formats.jobfile import MarksModel, PackingModel, PaperModel, SizedModel, sentence_of

_SIDES = ("width_mm", "height_mm", "longest_mm")
T = TypeVar("T", bound=Strict)


class ItemDocument(SizedModel):
    """One design. `number` names it within the job; `art` is the digest of its file."""

    number: int
    name: Annotated[str, Field(min_length=1, max_length=200)]
    art: str


class JobDocument(Strict):
    """A job as it is kept."""

    title: Annotated[str, Field(min_length=1, max_length=200)]
    paper: PaperModel
    printer_id: int
    cutter_id: int
    stock: str
    purpose: Purpose = Purpose.VEHICLE
    marks: MarksModel = MarksModel()
    packing: PackingModel = PackingModel()
    items: tuple[ItemDocument, ...] = ()

    def item(self, number: int) -> ItemDocument:
        for item in self.items:
            if item.number == number:
                return item
        raise BadInput("this design is no longer in the job; it may have been removed in another window", "items")

    def next_number(self) -> int:
        return max((item.number for item in self.items), default=0) + 1

    def with_items(self, items: tuple[ItemDocument, ...]) -> "JobDocument":
        return self.model_copy(update={"items": items})

    def changed(self, changes: Mapping[str, Any]) -> "JobDocument":
        """The job with some of its own fields set.

        Raises
        ------
        BadInput
            For a field that is unknown or out of range; nothing is changed then.
        """
        return _read(JobDocument, _set(self.model_dump(mode="json"), changes))

    def items_changed(self, numbers: tuple[int, ...], changes: Mapping[str, Any]) -> "JobDocument":
        """The job with the same fields set on some of its items."""
        for number in numbers:
            self.item(number)
        return self.with_items(
            tuple(_changed_item(item, changes) if item.number in numbers else item for item in self.items)
        )


def _changed_item(item: ItemDocument, changes: Mapping[str, Any]) -> ItemDocument:
    data = item.model_dump(mode="json")
    # A size is one side; naming one side lets go of the other.
    if any(changes.get(side) is not None for side in _SIDES):
        data.update(dict.fromkeys(_SIDES))
    return _read(ItemDocument, _set(data, changes))


def _set(data: dict[str, Any], changes: Mapping[str, Any]) -> dict[str, Any]:
    for path, value in changes.items():
        *parents, last = path.split(".")
        target = data
        for name in parents:
            inner = target.get(name)
            if not isinstance(inner, dict):
                raise BadInput("this field is unknown", path)
            target = inner
        target[last] = value
    return data


def _read(model: type[T], data: dict[str, Any]) -> T:
    try:
        return model.model_validate(data)
    except ValidationError as error:
        raise sentence_of(error) from None
