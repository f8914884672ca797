"""The editable state of a job in the workshop: what the interface changes, what undo brings back.

It says the same as a job file, but names printer, cutter, stock and art by their keys in the workshop. A change is a
set of dotted fields with their new values; it is applied to the data and the whole read again, so that nothing out of
range is ever stored.
"""

import hashlib
from collections.abc import Mapping
from typing import Annotated, Any, TypeVar

from pydantic import Field, ValidationError

from vamper.core.findings import BadInput
from vamper.core.job import EdgeKind, Pin, Purpose
from vamper.formats.fields import Strict
from vamper.formats.jobfile import EdgeModel, MarksModel, PackingModel, PaperModel, SizedModel
from vamper.formats.safe_text import ONE_LINE
from vamper.formats.sentences import sentence_of

_FIRMNESS = (Pin.FREE, Pin.KEPT, Pin.HAND, Pin.LOCKED)
_SIDES = ("width_mm", "height_mm", "longest_mm")
RowId = Annotated[int, Field(ge=1, lt=2**63)]
DesignNumber = Annotated[int, Field(ge=1, le=1_000_000)]
T = TypeVar("T", bound=Strict)


class ItemDocument(SizedModel):
    """One design. `number` names it within the job; `art` is the digest of its file; `back_of` the design whose back
    it is.
    """

    number: DesignNumber
    name: Annotated[str, Field(min_length=1, max_length=200), ONE_LINE]
    art: Annotated[str, Field(max_length=64)]
    back_of: DesignNumber | None = None


class HeldDocument(Strict):
    """One piece that lies where it is; `number` is its design's, `sheet` counts from 0."""

    number: DesignNumber
    sheet: Annotated[int, Field(ge=0, lt=1000)]
    x_mm: Annotated[float, Field(ge=-3000, le=3000, allow_inf_nan=False)]
    y_mm: Annotated[float, Field(ge=-3000, le=3000, allow_inf_nan=False)]
    turn_deg: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] = 0.0
    pin: Pin = Pin.HAND


class JobDocument(Strict):
    """A job as it is kept."""

    title: Annotated[str, Field(min_length=1, max_length=200), ONE_LINE]
    paper: PaperModel
    printer_id: RowId
    cutter_id: RowId
    stock: Annotated[str, Field(max_length=100)]
    purpose: Purpose = Purpose.VEHICLE
    marks: MarksModel = MarksModel()
    packing: PackingModel = PackingModel()
    items: Annotated[tuple[ItemDocument, ...], Field(max_length=1000)] = ()
    held: tuple[HeldDocument, ...] = ()
    last_number: Annotated[int, Field(ge=0)] = 0
    """The greatest number that a design of this job ever had: a number is never given to another design."""

    @property
    def revision(self) -> str:
        """Changes with everything that a layout, a search or a gesture may have been made on."""
        content = self.model_dump_json(exclude={"title", "last_number"})
        return hashlib.sha256(content.encode()).hexdigest()[:16]

    def item(self, number: int) -> ItemDocument:
        for item in self.items:
            if item.number == number:
                return item
        raise BadInput("this design is no longer in the job; it may have been removed in another window", "items")

    def next_number(self) -> int:
        return max((self.last_number, *(item.number for item in self.items))) + 1

    def with_items(self, items: tuple[ItemDocument, ...]) -> "JobDocument":
        return self.model_copy(update={"items": items})

    def holding(self, held: tuple[HeldDocument, ...]) -> "JobDocument":
        return self.model_copy(update={"held": held})

    def consistent(self) -> "JobDocument":
        """The job without what points nowhere: held pieces and backs of designs that are gone, and held pieces beyond
        a design's number, the loosest first.

        Raises
        ------
        BadInput
            If a back is its own front, or the back of a back.
        """
        numbers = {item.number: item for item in self.items}
        for item in self.items:
            if item.back_of == item.number:
                raise BadInput("a design cannot be its own back; name another one as its front", "back_of")
            if item.back_of in numbers and numbers[item.back_of].back_of is not None:
                raise BadInput("the front that is named is a back itself; name a design that is none", "back_of")
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
    return _read(ItemDocument, _suited_to_kind(_set(data, changes), changes, item.edge.kind))


def _suited_to_kind(data: dict[str, Any], changes: Mapping[str, Any], before: EdgeKind) -> dict[str, Any]:
    """A change of the edge's kind alone brings the border along: `bare` has none, and what was bare gets the usual."""
    edge = data.get("edge")
    if not isinstance(edge, dict) or "edge.kind" not in changes:
        return data
    start = EdgeModel.model_fields["distance_mm"].default
    now_bare, was_bare = edge.get("kind") == EdgeKind.BARE, before is EdgeKind.BARE
    if now_bare and not was_bare:
        start = 0.0
        if "edge.rings" not in changes:
            edge["rings"] = []
    if now_bare is not was_bare and "edge.distance_mm" not in changes:
        edge["distance_mm"] = start
    return data


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
