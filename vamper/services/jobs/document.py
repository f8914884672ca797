"""The editable state of a job in the workshop: what the interface changes, what undo brings back.

It says the same as a job, but names printer, cutter, stock and art by their keys in the workshop. A change is a set of
dotted fields with their new values; it is applied to the data and the whole read again, so that nothing out of range is
ever stored.
"""

import hashlib
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len, Lt
from pydantic import TypeAdapter

from vamper.core.edge.kind import KINDS, along_with_kind
from vamper.core.values.answers import OF_DESIGN, OF_JOB, Codes, check_codes
from vamper.core.values.art import SIDES, Purpose
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import FinishSpec, Target
from vamper.core.values.item import ItemSpec
from vamper.core.values.job import MOST_ITEMS, MOST_SHEETS, SettingsThen
from vamper.core.values.layers import in_step
from vamper.core.values.limits import ONE_LINE, STRICT, Colour, Title
from vamper.core.values.marks import MarksSpec
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import USUAL_PAPER, Paper
from vamper.core.values.placement import Sheet, without_gaps
from vamper.core.values.product import Products, as_often_as, check_products, made_as_often
from vamper.core.values.reading import Light, RoomLight
from vamper.core.values.shrink import ShrinkSpec
from vamper.core.values.stock import USUAL_STOCK, StockKey
from vamper.core.values.tried import Passes
from vamper.formats.job_file import read_item
from vamper.formats.sentences import read_as

RowId = Annotated[int, Ge(1), Lt(2**63)]
# A job of this title is named after the first art that comes into it.
UNTITLED = "New job"
_MARKS, _PACKING, _FINISH = MarksSpec(), PackingSpec(), FinishSpec()
# Nothing is made on these: a title tells nobody how to lay a piece.
_BESIDE = dict.fromkeys(
    ("title", "customer", "last_number", "finish", "target", "products", "border", "meant", "meant_by_new", "on_base"),
    True,
)


@dataclass(frozen=True, kw_only=True)
class JobDocument:
    """A job as it is kept.

    Parameters
    ----------
    title, customer : str
        What it is called, and for whom it is made.
    paper, printer_id, cutter_id : Paper, int, int
        The sheet and the machines.
    stock, plain, stock_colour : str, bool, str or None
        The stock's key, whether it is card that is cut only, and its face where it comes in several colours.
    purpose, from_inside : Purpose, bool
        What the pieces must stand, and whether a clear decal is read through a pane from its other side.
    copies : int
        How often every sheet is made.
    room_light : Light
        In which light the marks are read.
    job_line : bool
        Whether a line of facts and a bar of 100 mm are printed into the waste.
    passes, set_then : int or None, tuple
        Passes that its maker wants, and the settings of the run that is made again exactly.
    marks, packing, finish : MarksSpec, PackingSpec, FinishSpec
        How it is marked, laid and finished.
    target, products, shrink : Target or None, tuple of ProductSpec, ShrinkSpec or None
        What it goes on, what is made of it, and how it shrinks.
    items, last_number : tuple of ItemSpec, int
        Its designs, and the greatest number that any design of it ever had: a number is never given twice.
    held : tuple of Sheet
        Pieces that lie where they are.
    border : EdgeSpec or None
        The edge of designs that come in; None as is usual for their stock.
    meant, meant_by_new : tuple of str
        Codes of findings that were answered and are about no design, and of those answered for all designs, so for each
        that comes in.
    on_base : bool or None
        Whether art that comes in with a border of its own is cut on it: None where that is certain, True also where it
        may be a border, False never.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    title: Annotated[str, Len(1, 200), ONE_LINE] = UNTITLED
    customer: Title = ""
    paper: Paper = USUAL_PAPER
    printer_id: RowId
    cutter_id: RowId
    stock: StockKey = USUAL_STOCK.key
    plain: bool = False
    purpose: Purpose = Purpose.VEHICLE
    copies: Annotated[int, Ge(1), Le(MOST_SHEETS)] = 1
    from_inside: bool = False
    room_light: Light = RoomLight.USUAL
    stock_colour: Colour | None = None
    job_line: bool = False
    passes: Passes | None = None
    set_then: SettingsThen = ()
    marks: MarksSpec = _MARKS
    packing: PackingSpec = _PACKING
    finish: FinishSpec = _FINISH
    target: Target | None = None
    products: Products = ()
    shrink: ShrinkSpec | None = None
    items: Annotated[tuple[ItemSpec, ...], Len(0, MOST_ITEMS)] = ()
    held: Annotated[tuple[Sheet, ...], Len(0, MOST_SHEETS)] = ()
    border: EdgeSpec | None = None
    last_number: Annotated[int, Ge(0), Le(1_000_000)] = 0
    meant: Codes = ()
    meant_by_new: Codes = ()
    on_base: bool | None = None

    def __post_init__(self) -> None:
        check_codes(self.meant, OF_JOB)
        check_codes(self.meant_by_new, OF_DESIGN)

    @cached_property
    def revision(self) -> str:
        """Changes with everything that a layout, a search or a gesture may have been made on."""
        return hashlib.sha256(
            _DOCUMENT.dump_json(self, exclude=_BESIDE | {"items": {"__all__": {"meant"}}})
        ).hexdigest()[:16]

    def item(self, number: int) -> ItemSpec:
        for item in self.items:
            if item.number == number:
                return item
        raise BadInput("this design is no longer in the job; it may have been removed in another window", "items")

    def next_number(self) -> int:
        return max((self.last_number, *(item.number for item in self.items))) + 1

    def with_items(self, items: tuple[ItemSpec, ...]) -> "JobDocument":
        return replace(self, items=items)

    def in_place_of(self, number: int, designs: tuple[ItemSpec, ...]) -> "JobDocument":
        """Other designs in the place of a single design."""
        at = self.items.index(self.item(number))
        return self.with_items((*self.items[:at], *designs, *self.items[at + 1 :]))

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
                raise BadInput("the front you named is itself a back; name a design that is not", "back_of")
        products = _left_of(self.products, numbers)
        check_products(products)
        items = tuple(
            item if item.back_of is None or item.back_of in numbers else replace(item, back_of=None)
            for item in self.items
        )
        items = made_as_often(items, products)
        held = _within(self.held, {item.number: item.quantity for item in items})
        if held == self.held and items == self.items and products == self.products:
            return self
        return replace(self, items=items, held=held, products=products)

    def changed(self, changes: Mapping[str, Any]) -> "JobDocument":
        """The job with some of its own fields set.

        Raises
        ------
        BadInput
            For a field that is unknown or out of range; nothing is changed then.
        """
        return read_document(_set(document_json(self), changes))

    def items_changed(self, numbers: tuple[int, ...], changes: Mapping[str, Any]) -> "JobDocument":
        """The job with the same fields set on some of its items; layers of one drawing follow."""
        changed = {number: changed_item(self.item(number), changes) for number in numbers}
        after = self.with_items(in_step(self.items, changed))
        if "quantity" not in changes:
            return after
        counts = {number: item.quantity for number, item in changed.items()}
        return replace(after, products=as_often_as(self.products, counts))

    def each_item(self, change: Callable[[ItemSpec], ItemSpec]) -> "JobDocument":
        return self.with_items(tuple(change(item) for item in self.items))


_DOCUMENT = TypeAdapter(JobDocument)
_ITEM = TypeAdapter(ItemSpec)
_EDGE = TypeAdapter(EdgeSpec)


def read_document(data: Any) -> JobDocument:
    """A document from data; `BadInput` names the field that cannot be used."""
    return read_as(_DOCUMENT, data)


def document_json(document: JobDocument) -> dict[str, Any]:
    """A document as data; the inverse of `read_document`."""
    data: dict[str, Any] = _DOCUMENT.dump_python(document, mode="json")
    return data


def written_edge(edge: EdgeSpec) -> dict[str, Any]:
    """An edge as data."""
    data: dict[str, Any] = _EDGE.dump_python(edge, mode="json")
    return data


def changed_item(item: ItemSpec, changes: Mapping[str, Any]) -> ItemSpec:
    """A design with some of its fields set, dotted where nested."""
    data = _ITEM.dump_python(item, mode="json")
    # A size is one side; naming one side lets go of the other.
    if any(changes.get(side) is not None for side in SIDES):
        data.update(dict.fromkeys(SIDES))
    data = _set(data, changes)
    known = {kind.key: kind for kind in KINDS}
    if isinstance(data["edge"], dict) and changes.get("edge.kind") in known:
        along = along_with_kind(item.edge, known[changes["edge.kind"]])
        data["edge"] |= {name: value for name, value in along.items() if f"edge.{name}" not in changes}
    return read_item(data)


def _left_of(products: Products, numbers: Mapping[int, ItemSpec]) -> Products:
    """Products without designs that are gone; one of which nothing is left goes as well."""
    left = (
        replace(one, items=tuple(number for number in one.items if number in numbers))
        for one in products
        if any(number in numbers for number in one.items)
    )
    return tuple(left)


def _within(held: tuple[Sheet, ...], left: dict[int, int]) -> tuple[Sheet, ...]:
    """Held pieces as far as there are pieces, the firmest first; on sheets without a gap where some had to go."""
    every = [(sheet, place) for sheet, pieces in enumerate(held) for place in range(len(pieces))]
    staying = set()
    for sheet, place in sorted(every, key=lambda at: -held[at[0]][at[1]].pin.firmness):
        item = held[sheet][place].item
        if left.get(item, 0) > 0:
            left[item] -= 1
            staying.add((sheet, place))
    if len(staying) == len(every):
        return held
    return without_gaps(
        tuple(
            tuple(one for place, one in enumerate(pieces) if (sheet, place) in staying)
            for sheet, pieces in enumerate(held)
        )
    )


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
