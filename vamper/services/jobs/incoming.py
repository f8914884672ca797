"""Designs that come into a job: the edge they begin with, the answers given for all of them, and their numbers.

Art that has a border of its own is cut on it, and gets no second border unasked; a job remembers where its maker
decided otherwise, or that a possible border is a border.
"""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from vamper.core.art.own_border import ON_BASE
from vamper.core.effective_job import initial_edge
from vamper.core.values.item import ItemSpec
from vamper.core.values.stock import Stock
from vamper.formats.job_file import read_item
from vamper.services.jobs.document import UNTITLED, JobDocument, written_edge

Fields = Mapping[str, Any]


def with_designs(
    document: JobDocument, stock: Stock, designs: Sequence[Fields], based: Sequence[bool | None] = ()
) -> JobDocument:
    """A job with more designs after the others, from their fields; where no edge is said, it is the stock's usual edge.
    `based` says of each whether it surely (True) or perhaps (False) has a border of its own.
    """
    border = document.border if stock.printable else None
    usual = written_edge(border or initial_edge(stock))
    bases = (*based, *(None for _ in designs))
    whole = [
        {
            "cut": stock.starts,
            "meant": list(document.meant_by_new),
            **design,
            "edge": {**usual, **design.get("edge", {}), **_on_base(document, stock, base)},
        }
        for design, base in zip(designs, bases, strict=False)
    ]
    items = numbered(whole, document.next_number())
    if document.title == UNTITLED and not document.last_number and items:
        document = replace(document, title=_titled(items[0].name))
    return document.with_items((*document.items, *items))


def _on_base(document: JobDocument, stock: Stock, based: bool | None) -> Fields:
    """The edge of art that has a border of its own, where it is to be cut on that."""
    if based is None or not stock.printable or document.on_base is False:
        return {}
    return ON_BASE if based or document.on_base else {}


def numbered(designs: Sequence[Fields], first: int) -> tuple[ItemSpec, ...]:
    """New designs from their fields, with the numbers from `first` on."""
    return tuple(read_item({"number": first + place, **design}) for place, design in enumerate(designs))


def _titled(name: str) -> str:
    """The title of a job after its first art."""
    words = name.replace("_", " ").strip()
    return words[:1].upper() + words[1:] if words else UNTITLED
