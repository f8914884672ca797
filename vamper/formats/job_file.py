"""The job file: a whole job as JSON, lengths in mm, read strictly.

The file says what `Job` says, in the same fields. It may use short forms, which are spelt out before it is read: paper
and stock by name, an edge or a cut that is left out (the stock's usual one), fillers in a range of sizes. In it designs
go by their place in `items`, and sheets count from 1; inside the program they go by their numbers, and from 0.
"""

import json
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len
from pydantic import TypeAdapter

from vamper.core.edge.kind import KINDS
from vamper.core.effective_job import initial_edge
from vamper.core.finishing.labels import check_figures
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import CoverKind
from vamper.core.values.item import MOST_PIECES, ItemSpec, filler_sizes, sized
from vamper.core.values.job import MOST_ITEMS, MOST_SHEETS, Job
from vamper.core.values.limits import STRICT, Constraint, Length
from vamper.core.values.paper import PAPER_BY_KEY, named
from vamper.core.values.placement import OnSheet, Pin, Placement, Sheet, TurnDeg
from vamper.core.values.product import check_products, made_as_often
from vamper.core.values.stock import STOCK_BY_KEY, Stock
from vamper.formats.json_object import object_in
from vamper.formats.sentences import read_as
from vamper.formats.settings_file import check_seen
from vamper.formats.stock_name import settings_in, stock_in

FORMAT = "vamper-job"
_OF_RUN = ("room_light", "stock", "remedies")
VERSION = 1


def _is_held(pin: Pin) -> None:
    if pin is Pin.FREE:
        raise ValueError("must be kept, hand or locked; what is free need not be named")


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedEntry:
    """A piece that lies where it is, while the others are packed round it.

    Parameters
    ----------
    item : int
        Its design's place in `items`, from 0.
    sheet : int
        From 1.
    x_mm, y_mm, turn_deg : float
        As in `Placement`.
    pin : Pin
        Kept pieces are let go when everything is packed again; placed by hand and locked ones stay.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    item: Annotated[int, Ge(0)]
    sheet: Annotated[int, Ge(1), Le(MOST_SHEETS)] = 1
    x_mm: OnSheet
    y_mm: OnSheet
    turn_deg: TurnDeg = 0.0
    pin: Annotated[Pin, Constraint(_is_held)] = Pin.HAND


Sizes = tuple[Length, Length]

_JOB = TypeAdapter(Job)
_ITEM = TypeAdapter(ItemSpec)
_PLACED = TypeAdapter(Annotated[tuple[PlacedEntry, ...], Len(0, MOST_PIECES)])
_SIZES = TypeAdapter(Sizes)


def read_job(text: str | bytes) -> Job:
    """A job from the text of a job file.

    Raises
    ------
    BadInput
        Names the field that cannot be used, and what it should be.
    """
    raw = object_in(text, "the job file")
    return _job_of(raw)


def _job_of(raw: dict[str, Any]) -> Job:
    data = dict(raw)
    for name, wanted in (("format", FORMAT), ("version", VERSION)):
        if name not in data:
            raise BadInput("this field is missing", name)
        if data.pop(name) != wanted:
            raise BadInput(f"must be {wanted!r}", name)
    if "held" in data:
        raise BadInput("this field is unknown; check its spelling or leave it out", "held")
    stock = stock_in(data.get("stock"))
    data = _with_cover(data)
    placed, items = data.pop("placed", ()), data.get("items", ())
    data |= {"paper": _paper_of(data.get("paper"))} if "paper" in data else {}
    data |= {"stock": stock} if "stock" in data else {}
    data |= {"cutter": _cutter_of(data["cutter"])} if "cutter" in data else {}
    if isinstance(runs := data.get("runs"), list):
        data["runs"] = [_run_of(one, f"runs.{place}") for place, one in enumerate(runs)]
    if isinstance(data.get("products"), list):
        data["products"] = [_product_of(one, place, items) for place, one in enumerate(data["products"])]
    sizes: list[Sizes | None] = []
    if isinstance(items, list):
        data["items"] = [_spelt_out(item, place, items, stock, sizes) for place, item in enumerate(items)]
    job = read_as(_JOB, data)
    if not job.items and not job.composed:
        raise BadInput("needs at least one entry", "items")
    job = replace(job, held=_held(read_as(_PLACED, placed, "placed"), job.items), items=_with_fillers(job.items, sizes))
    check_products(job.products)
    job = replace(job, items=made_as_often(job.items, job.products))
    job.check_quantity()
    check_seen(job.cutter.settings, "cutter.settings")
    for name, figures in (("finish.label", job.finish.label), ("finish.record", job.finish.record)):
        try:
            check_figures(job.stock.stock_class, {one.key: one.value for one in figures})
        except BadInput as bad:
            raise BadInput(bad.sentence, f"{name}.{bad.where}") from None
    return job


def _product_of(product: Any, place: int, items: Any) -> Any:
    """A product with its items by their numbers."""
    if not isinstance(product, dict) or not isinstance(product.get("items"), list) or not isinstance(items, list):
        return product
    for one in product["items"]:
        if not isinstance(one, int) or isinstance(one, bool) or not 0 <= one < len(items):
            raise BadInput("names no other item; items count from 0", f"products.{place}.items")
    return {**product, "items": [one + 1 for one in product["items"]]}


def _with_cover(data: dict[str, Any]) -> dict[str, Any]:
    """A job whose cover is said by `laminate_um` or `finish.coats`, with the one decision that both follow from."""
    finish = data.get("finish", {})
    coats = finish.get("coats") if isinstance(finish, dict) else None
    laminate = data.get("laminate_um")
    if laminate is None and coats is None:
        return data
    if isinstance(finish, dict) and finish.get("cover") is not None:
        where = "laminate_um" if laminate is not None else "finish.coats"
        raise BadInput("follows from finish.cover; say it there alone", where)
    rest = {name: value for name, value in data.items() if name != "laminate_um"}
    if laminate is not None and laminate != 0:
        cover: dict[str, Any] | None = {"kind": CoverKind.LAMINATE, "um": laminate}
    else:
        cover = None if coats is None else {"kind": CoverKind.COAT, "coats": coats}
    if cover is None:
        return rest
    kept = {name: value for name, value in finish.items() if name != "coats"} if isinstance(finish, dict) else {}
    return {**rest, "finish": {**kept, "cover": cover}}


def _paper_of(value: Any) -> Any:
    if not isinstance(value, str):
        return value
    paper = PAPER_BY_KEY.get(value.lower())
    if paper is None:
        raise BadInput(f"no paper is called “{value[:40]}”; known are {', '.join(PAPER_BY_KEY)}", "paper")
    return paper


def _run_of(run: Any, where: str) -> Any:
    """A run with its stock spelt out; what stands among its marks and is of the run is moved there."""
    if not isinstance(run, dict):
        return run
    data, marks = dict(run), run.get("marks")
    if isinstance(marks, dict):
        data["marks"] = {name: value for name, value in marks.items() if name not in _OF_RUN}
        data = {name: value for name, value in marks.items() if name in _OF_RUN} | data
    return data | ({"stock": stock_in(data["stock"], f"{where}.stock")} if "stock" in data else {})


def _cutter_of(value: Any) -> Any:
    """A cutter with the stocks of what its settings did spelt out."""
    if not isinstance(value, dict) or "settings" not in value:
        return value
    return {**value, "settings": settings_in(value["settings"], "cutter.settings")}


def _spelt_out(item: Any, place: int, items: list[Any], stock: Any, sizes: list[Sizes | None]) -> Any:
    """One entry of `items` with its number; its range of sizes, if it is a filler, goes to `sizes`."""
    if not isinstance(item, dict):
        return item
    if "number" in item:
        raise BadInput("this field is unknown; check its spelling or leave it out", f"items.{place}.number")
    data = spelt_out_edge(item, stock) | {"number": place + 1}
    if "cut" not in item and isinstance(stock, Stock):
        data["cut"] = stock.starts
    span = data.pop("sizes_mm", None)
    sizes.append(None if span is None else read_as(_SIZES, span, f"items.{place}.sizes_mm"))
    front = item.get("back_of")
    if isinstance(front, int) and not isinstance(front, bool):
        if not 0 <= front < len(items) or front == place:
            raise BadInput("names no other item", f"items.{place}.back_of")
        if isinstance(items[front], dict) and items[front].get("back_of") is not None:
            raise BadInput("names an item that is a back itself", f"items.{place}.back_of")
        data["back_of"] = front + 1
    return data


def spelt_out_edge(item: dict[str, Any], stock: Any) -> dict[str, Any]:
    """An item with what its edge leaves unsaid: its kind's own distance, or the stock's usual edge for none at all."""
    edge = item.get("edge")
    if edge is None and isinstance(stock, Stock):
        return {**item, "edge": initial_edge(stock)}
    known = {kind.key: kind for kind in KINDS}
    if isinstance(edge, dict) and "distance_mm" not in edge and edge.get("kind") in known:
        return {**item, "edge": {**edge, "distance_mm": known[edge["kind"]].start_mm}}
    return item


def _with_fillers(items: tuple[ItemSpec, ...], sizes: Sequence[Sizes | None]) -> tuple[ItemSpec, ...]:
    """All items; fillers of a range of sizes come last, one for each size that is offered."""
    first, fillers = [], list[ItemSpec]()
    for item, span in zip(items, sizes, strict=True):
        if span is None:
            first.append(item)
            continue
        largest, *others = (sized(item, SizeSpec(longest_mm=size)) for size in filler_sizes(*span))
        first.append(largest)
        fillers += [replace(one, quantity=0) for one in others]
    return (*first, *(replace(one, number=len(first) + n) for n, one in enumerate(fillers, 1)))


def _held(placed: tuple[PlacedEntry, ...], items: tuple[ItemSpec, ...]) -> tuple[Sheet, ...]:
    for index, count in Counter(one.item for one in placed).items():
        if index >= len(items):
            raise BadInput(f"there is no item {index}", "placed")
        if count > items[index].quantity:
            raise BadInput(
                f"{count} pieces of item {index} lie on sheets, its quantity is {items[index].quantity}; "
                "raise the quantity",
                "placed",
            )
    sheets: list[list[Placement]] = [[] for _ in range(max((one.sheet for one in placed), default=0))]
    for one in placed:
        sheets[one.sheet - 1].append(Placement(one.item + 1, one.x_mm, one.y_mm, one.turn_deg, one.pin))
    return tuple(tuple(sheet) for sheet in sheets)


def read_item(raw: dict[str, Any], stock: Stock | None = None) -> ItemSpec:
    """One item from data, its number among it; an edge that is left out is the stock's usual edge.

    Raises
    ------
    BadInput
        Names the field that cannot be used, and what it should be.
    """
    return read_as(_ITEM, spelt_out_edge(raw, stock))


def job_document(job: Job) -> dict[str, Any]:
    """A job as the data of a job file; the inverse of `read_job`."""
    data: dict[str, Any] = _JOB.dump_python(job, mode="json")
    places = {item.number: place for place, item in enumerate(job.items)}
    name = named(job.paper)
    if name is not None and not job.paper.is_used:
        data["paper"] = name.key
    if STOCK_BY_KEY.get(job.stock.key) == job.stock:
        data["stock"] = job.stock.key
    for item in data["items"]:
        del item["number"]
        item["back_of"] = places.get(item["back_of"])
    for product in data["products"]:
        product["items"] = [places[number] for number in product["items"]]
    data["placed"] = [
        {**one, "item": places[one["item"]], "sheet": number}
        for number, sheet in enumerate(data.pop("held"), 1)
        for one in sheet
    ]
    return {"format": FORMAT, "version": VERSION, **data}


def write_job(job: Job) -> bytes:
    return json.dumps(job_document(job), indent=2, ensure_ascii=False).encode() + b"\n"


def job_schema() -> dict[str, Any]:
    """The JSON Schema of a job file, published with the documentation: that of a job, with the file's short forms."""
    schema = _JOB.json_schema()
    of_item, of_job = schema["$defs"]["ItemSpec"], schema["properties"]
    entry = TypeAdapter(PlacedEntry).json_schema()
    schema["$defs"] |= {"PlacedEntry": entry} | entry.pop("$defs", {})
    del of_item["properties"]["number"]
    of_item["required"].remove("number")
    schema["$defs"]["ProductSpec"]["properties"]["items"]["items"]["minimum"] = 0
    # Both follow from the cover, and may stand in its place.
    schema["$defs"]["FinishSpec"]["properties"]["coats"] = {"type": "integer", "minimum": 0, "maximum": 12}
    of_item["properties"] |= {
        "back_of": {"anyOf": [{"type": "integer", "minimum": 0}, {"type": "null"}], "default": None},
        "sizes_mm": {"anyOf": [_SIZES.json_schema(), {"type": "null"}], "default": None},
    }
    del of_job["held"]
    of_job |= {
        "format": {"const": FORMAT},
        "version": {"const": VERSION},
        "paper": {"anyOf": [{"enum": list(PAPER_BY_KEY)}, of_job["paper"]]},
        "stock": {"anyOf": [{"enum": list(STOCK_BY_KEY)}, of_job["stock"]]},
        "items": {**of_job["items"], "maxItems": MOST_ITEMS},
        "laminate_um": {"type": "number", "minimum": 0, "maximum": 1000},
        "placed": {"type": "array", "items": {"$ref": "#/$defs/PlacedEntry"}, "maxItems": MOST_PIECES, "default": []},
    }
    return {**schema, "title": "JobFile", "required": ["format", "version", *schema["required"]]}
