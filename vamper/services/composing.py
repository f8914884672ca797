"""Composed pieces become art: each name's drawing is made here, and a design of it is cut on the base's outline.

In the workshop a drawing remembers how it was composed, so that it can be changed; a job file's compositions are drawn
when it is planned.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from vamper.core.composition import Composition
from vamper.core.findings import BadInput
from vamper.core.job import ComposedSpec, EdgeKind, EdgeSpec, ItemSpec, Job, Preparation, SizeSpec
from vamper.formats.composed_svg import write_composed
from vamper.formats.composition_model import ComposedModel, CompositionModel
from vamper.services.art_reading import preview
from vamper.services.arts import Arts
from vamper.services.design import AS_IT_CAME, ArtFile, Designer
from vamper.services.jobs import Jobs, JobState
from vamper.store.database import Sessions
from vamper.store.models import CompositionRow


@dataclass(frozen=True, slots=True)
class Composer:
    """Draws compositions; `art` finds an art file by the name or digest that a composition uses."""

    designer: Designer
    art: Callable[[str], ArtFile]

    def draw(self, composition: Composition, name: str, title: str) -> ArtFile:
        """The drawing for one name.

        Raises
        ------
        BadInput
            If an art cannot be used.
        """
        arts = []
        for placed in composition.arts:
            size = SizeSpec(width_mm=placed.width_mm)
            file = self.art(placed.art)
            prepare = Preparation(page=placed.page, lift_de=placed.lift_de, crop=placed.crop)
            arts.append((self.designer.picture(file, size, prepare), self.designer.outline(file, size, prepare)))
        return ArtFile.of(f"{title}.svg", write_composed(composition.named(name), arts, title))


def titles_of(composed: ComposedSpec, stem: str) -> list[tuple[str, str]]:
    """Name and title of each piece; a single one without a name where no line takes names."""
    if not composed.composition.takes_names:
        return [("", stem)]
    if not composed.names:
        raise BadInput("a line takes names but none are given; type some, one on each line", "names")
    return [(name, f"{stem} {name}") for name in composed.names]


def composed_item(composed: ComposedSpec, art: str) -> ItemSpec:
    """The design of a composed piece: as large as its base, cut on its outline."""
    width, _ = composed.composition.base.size_mm
    edge = EdgeSpec(EdgeKind.BARE, 0.0, fill_holes=True)
    return ItemSpec(art, SizeSpec(width_mm=width), composed.quantity, composed.cut, edge)


def drawn_job(job: Job, composer: Composer) -> tuple[Job, dict[str, ArtFile]]:
    """A job with its composed pieces drawn, and their drawings by name."""
    items, drawings = list(job.items), {}
    for number, composed in enumerate(job.composed, 1):
        for place, (name, _) in enumerate(titles_of(composed, f"composed-{number}"), 1):
            drawing = composer.draw(composed.composition, name, f"composed-{number}-{place}")
            drawings[drawing.name] = drawing
            items.append(composed_item(composed, drawing.name))
    return replace(job, items=tuple(items), composed=()), drawings


@dataclass(frozen=True, slots=True)
class Composed:
    """How one drawing was composed."""

    composition: CompositionModel
    name: str


class Compositions:
    """Composed pieces of one workshop; their arts go by digest."""

    def __init__(self, sessions: Sessions, arts: Arts, jobs: Jobs, designer: Designer) -> None:
        self._sessions = sessions
        self._arts = arts
        self._jobs = jobs
        self._composer = Composer(designer, arts.file)

    def preview(self, composition: CompositionModel, name: str, longest_px: int) -> bytes:
        """The piece for one name as PNG."""
        drawing = self._composer.draw(composition.to_core(), name, "preview")
        return self._composer.designer.room.run(preview, drawing.data, drawing.name, longest_px, AS_IT_CAME)

    def of(self, digest: str) -> Composed | None:
        """How a drawing was composed; None for art that came as a file."""
        with self._sessions() as session:
            row = session.get(CompositionRow, digest)
        return None if row is None else Composed(CompositionModel.model_validate(row.document), row.name)

    def composed_among(self, digests: set[str]) -> set[str]:
        """Which of some arts were composed."""
        with self._sessions() as session:
            return {digest for digest in digests if session.get(CompositionRow, digest) is not None}

    def add(self, job_id: int, composed: ComposedModel, stem: str) -> JobState:
        """A design for each name, as one step."""
        designs = [self._design(composed, name, title) for name, title in titles_of(composed.to_core(), stem)]
        return self._jobs.add_items(job_id, f"compose {stem}", designs)

    def change(self, state: JobState, number: int, composition: CompositionModel, name: str) -> JobState:
        """Draw a composed design anew; its number, count and cut stay."""
        document = state.document.item(number)
        digest = self._keep(composition, name, document.name)
        width, _ = composition.to_core().base.size_mm
        changed = {"art": digest, "width_mm": width, "size_over": "ink"}
        return self._jobs.replace_item(state.id, f"compose {document.name} anew", number, [changed])

    def _design(self, composed: ComposedModel, name: str, title: str) -> dict[str, Any]:
        width, _ = composed.composition.to_core().base.size_mm
        return {
            "name": title,
            "art": self._keep(composed.composition, name, title),
            "width_mm": width,
            "quantity": composed.quantity,
            "cut": composed.cut.value,
            "edge": {"kind": EdgeKind.BARE.value, "distance_mm": 0.0},
        }

    def _keep(self, composition: CompositionModel, name: str, title: str) -> str:
        """Draw and store; returns the drawing's digest."""
        drawing = self._composer.draw(composition.to_core(), name, title)
        self._arts.keep(drawing)
        with self._sessions.begin() as session:
            document = composition.model_dump(mode="json")
            session.merge(CompositionRow(digest=drawing.digest, name=name, document=document))
        return drawing.digest
