"""The editable state of a job in the workshop: what the interface changes, what undo brings back.

It says the same as a job file, but names printer, cutter, stock and art by their keys in the workshop. A change is a
set of dotted fields with their new values; it is applied to the data and the whole read again, so that nothing out of
range is ever stored.
"""

from collections.abc import Mapping
from typing import Annotated, Any, TypeVar

from pydantic import Field, ValidationError

from vamper.core.findings import BadInput
from vamper.core.job import Pin, Purpose
from vamper.formats.fields import Strict
from vamper.formats.jobfile import MarksModel, PackingModel, PaperModel, SizedModel, sentence_of

_FIRMNESS = (Pin.FREE, Pin.KEPT, Pin.HAND, Pin.LOCKED)
_SIDES = ("width_mm", "height_mm", "longest_mm")
T = TypeVar("T", bound=Strict)


class ItemDocument(SizedModel):
    """One design. `number` names it within the job; `art` is the digest of its file; `back_of` the design whose back
    it is.
    """

    number: int
    name: Annotated[str, Field(min_length=1, max_length=200)]
    art: str
    back_of: int | None = None


class HeldDocument(Strict):
    """One piece that lies where it is; `number` is its design's, `sheet` counts from 0."""

    number: int
    sheet: Annotated[int, Field(ge=0, lt=1000)]
    x_mm: Annotated[float, Field(ge=-3000, le=3000, allow_inf_nan=False)]
    y_mm: Annotated[float, Field(ge=-3000, le=3000, allow_inf_nan=False)]
    turn_deg: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] = 0.0
    pin: Pin = Pin.HAND


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
    held: tuple[HeldDocument, ...] = ()

    def item(self, number: int) -> ItemDocument:
        for item in self.items:
            if item.number == number:
                return item
        raise BadInput("this design is no longer in the job; it may have been removed in another window", "items")

    def next_number(self) -> int:
        return max((item.number for item in self.items), default=0) + 1

    def with_items(self, items: tuple[ItemDocument, ...]) -> "JobDocument":
        return self.model_copy(update={"items": items})

    def holding(self, held: tuple[HeldDocument, ...]) -> "JobDocument":
        return self.model_copy(update={"held": held})

    def consistent(self) -> "JobDocument":
        """The job without what points nowhere: held pieces and backs of designs that are gone, and held pieces beyond
        a design's number, the loosest first.
        """
        numbers = {item.number: item for item in self.items}
        left = {number: item.quantity for number, item in numbers.items()}
        kept: list[HeldDocument] = []
        for one in sorted(self.held, key=lambda one: -_FIRMNESS.index(one.pin)):
            if left.get(one.number, 0) > 0:
                left[one.number] -= 1
                kept.append(one)
        items = tuple(
            item if item.back_of is None or item.back_of in numbers else item.model_copy(update={"back_of": None})
            for item in self.items
        )
        order = {id(one): place for place, one in enumerate(self.held)}
        held = tuple(sorted(kept, key=lambda one: order[id(one)]))
        if held == self.held and items == self.items:
            return self
        return self.model_copy(update={"items": items, "held": without_gaps(held)})

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


def without_gaps(held: tuple[HeldDocument, ...]) -> tuple[HeldDocument, ...]:
    """Held pieces with their sheets numbered without a gap."""
    numbers = {sheet: place for place, sheet in enumerate(sorted({one.sheet for one in held}))}
    return tuple(one.model_copy(update={"sheet": numbers[one.sheet]}) for one in held)


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
