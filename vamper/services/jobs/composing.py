"""Composed pieces become art: each name's drawing is made here, and a design of it is cut on the base's outline.

In the workshop a drawing remembers how it was composed, so that it can be changed; a job file's compositions are drawn
when it is planned.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

from pydantic import TypeAdapter
from sqlalchemy import select

from vamper.core.effective_job import initial_edge
from vamper.core.values.art import Preparation, SizeSpec
from vamper.core.values.composition import BaseShape, ComposedSpec, Composition
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.item import ItemSpec
from vamper.core.values.job import Job
from vamper.core.values.stock import Stock
from vamper.formats.composed_svg import Art, Places, no_own_fonts, places_of, width_of, write_composed
from vamper.formats.lettering import FontData
from vamper.services.design.art_reading import preview
from vamper.services.design.arts import Arts
from vamper.services.design.designer import AS_IT_CAME, ArtFile, Designer
from vamper.services.jobs.document import JobDocument
from vamper.services.jobs.job_state import JobState
from vamper.services.jobs.jobs import Jobs
from vamper.services.shop.own_fonts import OwnFonts
from vamper.store.database import Sessions
from vamper.store.tables import CompositionRow

_COMPOSITION = TypeAdapter(Composition)
# The size at which the share of a drawing that is inked is found.
_ANY_MM = 100.0
_ANY_SIZE = SizeSpec(width_mm=_ANY_MM)


@dataclass(frozen=True, slots=True)
class Composer:
    """Draws compositions; `art` finds an art file by the name or digest that a composition uses, `font` a font of the
    maker's own by its family.
    """

    designer: Designer
    art: Callable[[str], ArtFile]
    font: FontData = no_own_fonts

    def draw(self, composition: Composition, name: str, title: str) -> ArtFile:
        """The drawing for one name.

        Raises
        ------
        BadInput
            If an art cannot be used.
        """
        arts = self._arts(composition)
        return ArtFile.of(f"{title}.svg", write_composed(composition.named(name), arts, title, self.font))

    def places(self, composition: Composition, name: str) -> Places:
        """Where everything lies on the piece for one name."""
        return places_of(composition.named(name), self._arts(composition), self.font)

    def inked_width_mm(self, drawing: ArtFile, composition: Composition, name: str) -> float:
        """How wide what is drawn is, for a piece without a base."""
        left, _, right, _ = self.places(composition, name).frame
        outline = self.designer.outline(drawing, _ANY_SIZE, Preparation())
        return (right - left) * _ANY_MM / outline.picture_box_mm[2]

    def _arts(self, composition: Composition) -> list[Art]:
        arts = []
        for placed in composition.arts:
            file, prepare = self.art(placed.art), placed.prepare
            size = SizeSpec(width_mm=placed.width_mm)
            if placed.cover:
                at_any = self.designer.outline(file, size, prepare)
                size = SizeSpec(width_mm=width_of(placed, composition.base, at_any))
            arts.append((self.designer.picture(file, size, prepare), self.designer.outline(file, size, prepare)))
        return arts


def titles_of(composed: ComposedSpec, stem: str) -> list[tuple[str, str]]:
    """Name and title of each piece; a single piece without a name where no line takes names."""
    if not composed.composition.takes_names:
        return [("", stem)]
    if not composed.names:
        raise BadInput("a line takes names but none are given; type some, one on each line", "names")
    return [(name, f"{stem} {name}") for name in composed.names]


def pieces_of(composed: ComposedSpec, stem: str) -> list[tuple[ComposedSpec, str, str]]:
    """The pieces to draw, each with its name and title: every piece, and its curved lettering where that is apart."""
    several = composed.composition.curved_apart() if composed.curved_apart else (composed.composition,)
    return [
        (replace(composed, composition=one), name, title if place == 0 else f"{title}, lettering")
        for name, title in titles_of(composed, stem)
        for place, one in enumerate(several)
    ]


def composed_item(composed: ComposedSpec, art: str, number: int, name: str, width_mm: float, stock: Stock) -> ItemSpec:
    """The design of a composed piece, cut on its base's outline; without a base it is an art like any other."""
    edge = initial_edge(stock) if composed.composition.base.shape is BaseShape.NONE else EdgeSpec("bare", 0.0)
    return ItemSpec(
        number=number, name=name, art=art, width_mm=width_mm, quantity=composed.quantity, cut=composed.cut, edge=edge
    )


def width_mm(composer: Composer, drawing: ArtFile, composition: Composition, name: str) -> float:
    """How wide a composed design is."""
    if composition.base.shape is not BaseShape.NONE:
        return composition.base.size_mm[0]
    return composer.inked_width_mm(drawing, composition, name)


def drawn_job(job: Job, composer: Composer) -> tuple[Job, dict[str, ArtFile]]:
    """A job with its composed pieces drawn, and their drawings by name."""
    items, drawings = list(job.items), {}
    for number, composed in enumerate(job.composed, 1):
        for place, (one, name, title) in enumerate(pieces_of(composed, "label"), 1):
            drawing = composer.draw(one.composition, name, f"composed-{number}-{place}")
            drawings[drawing.name] = drawing
            across = width_mm(composer, drawing, one.composition, name)
            called = title.removeprefix("label ") if name else title
            items.append(composed_item(one, drawing.name, len(items) + 1, called, across, job.stock))
    return replace(job, items=tuple(items), composed=()), drawings


@dataclass(frozen=True, slots=True)
class Composed:
    """How one drawing was composed."""

    composition: Composition
    name: str


@dataclass(frozen=True, slots=True)
class ArtNotes:
    """The notes on an art file that the screen needs beside its picture."""

    pages: int
    composed: bool


class Compositions:
    """Composed pieces of one workshop; their arts go by digest."""

    def __init__(self, sessions: Sessions, arts: Arts, jobs: Jobs, designer: Designer, fonts: OwnFonts) -> None:
        self._sessions = sessions
        self._arts = arts
        self._jobs = jobs
        self._composer = Composer(designer, arts.file, fonts.data)

    def preview(self, composition: Composition, name: str, longest_px: int) -> bytes:
        """The piece for one name as PNG."""
        drawing = self._composer.draw(composition, name, "preview")
        return self._composer.designer.room.run(preview, drawing.data, drawing.name, longest_px, AS_IT_CAME)

    def places(self, composition: Composition, name: str) -> Places:
        """Where everything lies on the piece for one name."""
        return self._composer.places(composition, name)

    def of(self, digest: str) -> Composed | None:
        """How a drawing was composed; None for art that came as a file."""
        with self._sessions() as session:
            row = session.get(CompositionRow, digest)
        return None if row is None else Composed(_COMPOSITION.validate_python(row.document), row.name)

    def notes(self, digests: set[str]) -> dict[str, ArtNotes]:
        """The notes on some art files that the screen needs beside their pictures."""
        composed = self._composed_among(digests)
        return {digest: ArtNotes(self._arts.pages(digest), digest in composed) for digest in digests}

    def _composed_among(self, digests: set[str]) -> set[str]:
        """Which of some arts were composed."""
        with self._sessions() as session:
            return set(session.scalars(select(CompositionRow.digest).where(CompositionRow.digest.in_(digests))))

    def add(self, job_id: int, composed: ComposedSpec, stem: str) -> JobState:
        """A design for each name, as one step."""
        drawn = [
            (one, title, *self._keep(one.composition, name, title)) for one, name, title in pieces_of(composed, stem)
        ]
        stock = self._jobs.core_job(self._jobs.get(job_id)).stock

        def edit(document: JobDocument) -> JobDocument:
            first = document.next_number()
            new = (
                composed_item(one, art, first + n, title[:200], across, stock)
                for n, (one, title, art, across) in enumerate(drawn)
            )
            return document.with_items((*document.items, *new))

        return self._jobs.edit(job_id, f"compose {stem}", edit)

    def change(self, state: JobState, number: int, composition: Composition, name: str) -> JobState:
        """Draw a composed design anew; its number, count and cut stay."""
        document = state.document.item(number)
        digest, across = self._keep(composition, name, document.name)
        changed = {"art": digest, "width_mm": across, "size_over": "ink"}
        return self._jobs.replace_item(state.id, f"compose {document.name} anew", number, [changed])

    def _keep(self, composition: Composition, name: str, title: str) -> tuple[str, float]:
        """Draw and store; returns the drawing's digest, and how wide the design of it is, mm."""
        drawing = self._composer.draw(composition, name, title)
        self._arts.keep(drawing)
        with self._sessions.begin() as session:
            document = _COMPOSITION.dump_python(composition, mode="json")
            session.merge(CompositionRow(digest=drawing.digest, name=name, document=document))
        return drawing.digest, width_mm(self._composer, drawing, composition, name)
