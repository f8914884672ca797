"""Designs that are made from other designs: fillers in a range of sizes, backs, and one layer for each colour."""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from enum import StrEnum

import numpy as np

from vamper.core.art.colours import Layer, layers_of
from vamper.core.values.art import SizedOver, SizeSpec
from vamper.core.values.colour import difference, lab_of
from vamper.core.values.findings import BadInput
from vamper.core.values.item import MOST_PIECES, filler_sizes, sized
from vamper.formats.layer_svg import write_layer
from vamper.services.design.arts import Arts
from vamper.services.design.designer import Designer
from vamper.services.jobs.document import JobDocument
from vamper.services.jobs.incoming import numbered
from vamper.services.jobs.job_state import JobState
from vamper.services.jobs.jobs import Jobs
from vamper.services.work.reading_room import SEATS

_COLOUR_WORDS = {
    (0, 0, 0): "black",
    (255, 255, 255): "white",
    (128, 128, 128): "grey",
    (200, 30, 30): "red",
    (235, 130, 30): "orange",
    (240, 205, 60): "yellow",
    (60, 140, 60): "green",
    (30, 110, 130): "teal",
    (40, 80, 160): "blue",
    (30, 50, 95): "navy",
    (110, 60, 150): "purple",
    (230, 130, 160): "pink",
    (120, 75, 40): "brown",
    (225, 205, 170): "sand",
}


class PriorityMove(StrEnum):
    """The changes to a priority for more copies: it shares with the last designs, goes before or behind others, or is
    dropped.
    """

    ON = "on"
    SOONER = "sooner"
    LATER = "later"
    OFF = "off"


@dataclass(frozen=True, slots=True)
class Source:
    """A design that could fill the job's sheets.

    Parameters
    ----------
    job_id, job : int, str
        The job it is of, and what that is called.
    number, name, art : int, str, str
        Its number there, what it is called, and the key of its art.
    is_own : bool
        Whether it is of the job itself.
    """

    job_id: int
    job: str
    number: int
    name: str
    art: str
    is_own: bool


class Variants:
    """For the jobs of one workshop."""

    def __init__(self, jobs: Jobs, arts: Arts, designer: Designer) -> None:
        self._jobs = jobs
        self._arts = arts
        self._designer = designer

    def sources(self, state: JobState) -> list[Source]:
        """The job's own designs, and designs of other jobs on the same stock."""
        found = []
        for summary in self._jobs.all():
            other = state if summary.id == state.id else self._jobs.get(summary.id)
            if other.document.stock != state.document.stock:
                continue
            found += [
                Source(other.id, other.document.title, item.number, item.name, item.art, other.id == state.id)
                for item in other.document.items
                if item.back_of is None
            ]
        return sorted(found, key=lambda source: not source.is_own)

    def fill_with(self, state: JobState, job_id: int, number: int, least_mm: float, most_mm: float) -> JobState:
        """Offer a design in a range of sizes to what space is left, after the wishes there are; and fill."""
        other = state if job_id == state.id else self._jobs.get(job_id)
        if other.document.stock != state.document.stock:
            raise BadInput("that job is on another stock; its designs need other settings", "stock")
        source = other.document.item(number)
        sizes = filler_sizes(least_mm, most_mm)

        def edit(document: JobDocument) -> JobDocument:
            priority = max((item.fill_priority or 0 for item in document.items), default=0) + 1
            first = document.next_number()
            new = tuple(
                replace(
                    sized(source, SizeSpec(longest_mm=size)),
                    number=first + place,
                    name=f"{source.name} {size:g} mm"[:200],
                    quantity=0,
                    fill_priority=priority,
                    back_of=None,
                    layer_of=None,
                    keyed=False,
                )
                for place, size in enumerate(sizes)
            )
            return replace(document, items=(*document.items, *new), packing=replace(document.packing, fill=True))

        return self._jobs.edit(state.id, f"fill with {source.name}", edit)

    def prioritise(self, state: JobState, number: int, move: PriorityMove) -> JobState:
        """Say whether more copies of a design are fine, and in which order what space is left is offered.

        The first to be wanted turns filling on.
        """

        def edit(document: JobDocument) -> JobDocument:
            if move is not PriorityMove.OFF and document.item(number).layer_of is not None:
                raise BadInput(
                    "one layer more than of the others is of no use; make more of the whole set", "fill_priority"
                )
            now = document.item(number).fill_priority
            last = max((item.fill_priority or 0 for item in document.items), default=0)
            priority = {
                PriorityMove.ON: now or max(1, last),
                PriorityMove.SOONER: max(1, (now or last) - 1),
                PriorityMove.LATER: (now or last) + 1,
                PriorityMove.OFF: None,
            }[move]
            wished = document.items_changed((number,), {"fill_priority": priority})
            # Whoever wants more of something wants the space that is left to be filled.
            fill = document.packing.fill or move is PriorityMove.ON
            return replace(wished, packing=replace(document.packing, fill=fill))

        return self._jobs.edit(state.id, f"more of {state.document.item(number).name}", edit)

    def make_back(self, state: JobState, number: int) -> JobState:
        """A back for a design: the same art to begin with, as many as there are fronts."""

        def edit(document: JobDocument) -> JobDocument:
            front = document.item(number)
            if front.back_of is not None:
                raise BadInput("this design is a back itself", "back_of")
            if any(item.back_of == number for item in document.items):
                raise BadInput("this design has a back already", "back_of")
            back = replace(
                front,
                number=document.next_number(),
                name=f"{front.name}, back"[:200],
                back_of=number,
                fill_priority=None,
                quantity=max(1, front.quantity),
            )
            return document.in_place_of(number, (front, back))

        return self._jobs.edit(state.id, "make a back", edit)

    def by_colour(self, state: JobState, number: int, keys: bool = True) -> JobState:
        """One design, and sheets of its own, for each flat colour of a drawing; without `keys` none bears any."""
        item = state.document.item(number)
        art = self._arts.file(item.art)
        size = item.size if item.size_over is SizedOver.INK else SizeSpec(longest_mm=item.size.wanted_mm)
        picture = self._designer.picture(art, size, item.prepare)
        layers = self._designer.room.run(layers_of, picture, size, keys)
        names = [f"{item.name}, {colour_word(layer.colour)}"[:200] for layer in layers]

        def take_in(name: str, layer: Layer) -> str:
            return self._arts.take_in(f"{name}.svg", write_layer(layer.shape, layer.colour, name)).digest

        with ThreadPoolExecutor(SEATS) as at_once:
            digests = list(at_once.map(take_in, names, layers))
        designs = [
            {
                "name": name,
                "art": digest,
                "width_mm": round(layer.shape.bounds[2] - layer.shape.bounds[0], 3),
                "quantity": max(1, item.quantity),
                "cut": item.cut,
                "loose": True,
                "sheet_colour": layer.colour,
                "keyed": layer.keyed,
                "edge": {"kind": "bare", "fill_holes": False},
            }
            for name, digest, layer in zip(names, digests, layers, strict=True)
        ]

        def edit(document: JobDocument) -> JobDocument:
            if sum(one.quantity for one in document.items) + item.quantity * len(designs) > MOST_PIECES:
                raise BadInput(f"that would be more than {MOST_PIECES} pieces", "items")
            first = document.next_number()
            layers = numbered([one | {"layer_of": first} for one in designs], first)
            return document.in_place_of(number, layers)

        return self._jobs.edit(state.id, f"{item.name}: one sheet a colour", edit)


def colour_word(colour: str) -> str:
    """The everyday word nearest to a colour, with its code."""
    rgb = tuple(int(colour[n : n + 2], 16) for n in (1, 3, 5))
    words = list(_COLOUR_WORDS)
    apart = difference(lab_of(np.array(words, dtype=np.uint8)), lab_of(np.array(rgb, dtype=np.uint8)))
    near = words[int(apart.argmin())]
    return f"{_COLOUR_WORDS[near]} {colour}"
