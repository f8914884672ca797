"""Will the sensor read the marks?

The signal is what the stock reflects more than the ink, S = L · (R_stock − R_ink), under the light of lamp and room
L = lamp + room. The noise is the sensor's own and the glare of a shining face, N² = n0² + (k · gloss · room)². One mark
is read with the chance 1 / (1 + e^−(S/N − t)), the sheet with the product over its marks.

A wider stroke lets the sensor look longer: its own noise falls with the root of the width, beside the usual 0.8 mm.
Nearer to the paper's edge than 4 mm the edge may be taken for the mark. A remedy changes what goes into the model, and
its chance is that of the job with it.
"""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from vamper.core.marks.mark import FAMILIES, Mark
from vamper.core.marks.program_marks import LOOKED_FOR, looked_for, looked_for_spec
from vamper.core.marks.reading_offsets import NOTHING_TOLD, ReadingOffsets, moved, offsets_of
from vamper.core.marks.sheet_marks import marks_made
from vamper.core.sheet.live_area import cutter_bounds
from vamper.core.values.findings import BadInput
from vamper.core.values.job import Job
from vamper.core.values.marks import LEAST_INSET_MM, NO_MARKS, MarksSpec
from vamper.core.values.reading import (
    BLACKS,
    ROOMS,
    WHITE_FACE,
    Black,
    Remedy,
    RoomLight,
    Sensor,
    light_of,
    sensor_of,
)
from vamper.core.values.tables import table

_TABLE = table(__package__, "remedies.toml")
# Chances are told to so many digits; what is equal then is equal.
_DIGITS = 4
# Under this a cause is not worth a word, and within it two causes take the same.
_WORTH = 0.005
# Over this a chance is told as more than that; under the other's complement something is to blame.
_CERTAIN, _UNLIKELY = 0.99, 0.05
_NEARLY_MM = 1e-6
_USUAL_STROKE_MM = MarksSpec().stroke_mm
# How the chance to take the edge for a mark rises towards the edge: half at 2 mm, hardly any at 4.
_EDGE_HALF_MM, _EDGE_SCALE_MM = 2.0, 0.25
# White paper round a mark throws this share of the light back onto it.
_SURROUND = 0.35
_TAPE_GLOSS = 0.02


class ReadingCause(StrEnum):
    """The causes that lower the chance to be read."""

    GLOSS = "gloss"
    PALE_MARKS = "pale-marks"
    LITTLE_LIGHT = "little-light"
    DARK_STOCK = "dark-stock"
    EDGE = "edge"
    OUT_OF_REACH = "out-of-reach"
    NONE = "none"


@dataclass(frozen=True, slots=True)
class Scene:
    """The scene that a sensor meets: all that the model of reading knows.

    Parameters
    ----------
    sensor : Sensor
        The cutter's eye.
    room : float
        The light of the room, in the measure of the sensor's lamp.
    face, ink : float
        The light that the bare stock and the mark throw back, 0 to 1.
    gloss : float
        The stock's shine, matte 0 to glass 1.
    stroke_mm, inset_mm : float
        Width of the mark's lines; from the paper's edge to its outer rim.
    surround : float
        How much more light a white surround brings, as a share of the room's and the lamp's.
    """

    sensor: Sensor
    room: float
    face: float
    ink: float
    gloss: float
    stroke_mm: float = _USUAL_STROKE_MM
    inset_mm: float = 2 * LEAST_INSET_MM
    surround: float = 0.0

    @property
    def light(self) -> float:
        return (self.sensor.lamp + self.room) * (1 + self.surround)

    @property
    def signal(self) -> float:
        """S: how much darker the mark looks than the stock."""
        return self.light * (self.face - self.ink)

    @property
    def noise(self) -> float:
        """N: the σ of what the sensor sees."""
        own = self.sensor.n0 * math.sqrt(_USUAL_STROKE_MM / self.stroke_mm)
        return math.hypot(own, self.sensor.k * self.gloss * self.room)

    @property
    def threshold(self) -> float:
        """The signal that is found in half of all tries."""
        return self.sensor.t * self.noise

    @property
    def chance(self) -> float:
        """Of one mark to be read."""
        return _logistic(self.signal / self.noise - self.sensor.t) * self.edge_missed

    @property
    def edge_missed(self) -> float:
        """The chance that the paper's edge is not taken for the mark."""
        if self.inset_mm >= LEAST_INSET_MM:
            return 1.0
        return _logistic((self.inset_mm - _EDGE_HALF_MM) / _EDGE_SCALE_MM)


def _logistic(x: float) -> float:
    return 1 / (1 + math.exp(-min(max(x, -700.0), 700.0)))


@dataclass(frozen=True, slots=True)
class RemedyWords:
    """A remedy in words; `cost` orders remedies that do equally well: free ones first."""

    text: str
    name: str
    cost: int


@dataclass(frozen=True, slots=True)
class RemedyEffect:
    """A remedy, and the chance of the sheet once it is taken."""

    remedy: Remedy
    chance: float


@dataclass(frozen=True, slots=True)
class MarkReading:
    """The chance that a sheet's marks are read.

    Parameters
    ----------
    scene : Scene
        What the sensor meets.
    chance : float
        For all marks together, moved by what runs said.
    marks : tuple of float
        For each mark, by the model alone.
    cause : ReadingCause
        What takes most away from it.
    remedies : tuple of RemedyEffect
        What helps, and how far.
    offsets : ReadingOffsets
        How far runs moved the model.
    """

    scene: Scene
    chance: float
    marks: tuple[float, ...]
    cause: ReadingCause
    remedies: tuple[RemedyEffect, ...]
    offsets: ReadingOffsets = NOTHING_TOLD


REMEDIES: dict[Remedy, RemedyWords] = {Remedy(key): RemedyWords(**data) for key, data in _TABLE["remedies"].items()}
CAUSE_WORDS: dict[ReadingCause, str] = {ReadingCause(key): words for key, words in _TABLE["causes"].items()}

_ASKED_FOR: dict[Remedy, Callable[[Scene], Scene]] = {
    Remedy.MATTE_TAPE: lambda scene: replace(scene, gloss=min(scene.gloss, _TAPE_GLOSS)),
    Remedy.DIM_ROOM: lambda scene: replace(scene, room=min(scene.room, ROOMS[RoomLight.DIM])),
    Remedy.MORE_LIGHT: lambda scene: replace(scene, room=max(scene.room, ROOMS[RoomLight.BRIGHT])),
    Remedy.DARKEN_MARKS: lambda scene: replace(scene, ink=min(scene.ink, BLACKS[Black.FULL])),
    Remedy.WHITE_PATCHES: lambda scene: replace(scene, face=WHITE_FACE, gloss=min(scene.gloss, _TAPE_GLOSS)),
    Remedy.WHITE_SURROUND: lambda scene: replace(scene, surround=_SURROUND),
}
# These are drawn: they are part of the job as it is made, and a program's marks are not Vamper's to draw.
_DRAWN = frozenset(Remedy) - frozenset(_ASKED_FOR)

_WITHOUT: tuple[tuple[ReadingCause, Callable[[Scene], Scene]], ...] = (
    (ReadingCause.GLOSS, lambda scene: replace(scene, gloss=0.0)),
    (ReadingCause.LITTLE_LIGHT, lambda scene: _lit(scene)),
    (ReadingCause.PALE_MARKS, lambda scene: replace(scene, ink=min(scene.ink, BLACKS[Black.FULL]))),
    (ReadingCause.EDGE, lambda scene: replace(scene, inset_mm=LEAST_INSET_MM)),
    (ReadingCause.DARK_STOCK, lambda scene: replace(scene, face=max(scene.face, WHITE_FACE))),
)
"""What the scene would be without each cause, the cheapest to mend first."""


def scene_of(job: Job) -> Scene:
    """The scene that the sensor meets on a sheet of a job as it is made."""
    marks = looked_for_spec(job)
    scene = Scene(
        sensor_of(job.cutter.sensor),
        light_of(job.room_light),
        job.stock.face_reflectance,
        BLACKS[job.printer.black],
        job.stock.gloss,
        marks.stroke_mm if FAMILIES[marks.family].of_strokes else _USUAL_STROKE_MM,
        marks.inset_mm,
    )
    for remedy in marks.remedies:
        if remedy in _ASKED_FOR:
            scene = _ASKED_FOR[remedy](scene)
    return scene


def reading_of(job: Job) -> MarkReading | None:
    """The reading of a job's sheets; None where nothing looks for marks.

    Parameters
    ----------
    job : Job
        As it is made.
    """
    if not _looks_for_marks(job):
        return None
    scene, marks = scene_of(job), looked_for(job)
    count = _count(job, marks)
    if out_of_reach(job, marks):
        return MarkReading(scene, 0.0, (0.0,) * count, ReadingCause.OUT_OF_REACH, ())
    one = scene.chance
    offsets = _offsets(job)
    chance = moved(one**count, offsets)
    tried = [(remedy, _with(job, remedy, offsets)) for remedy in Remedy if remedy not in job.marks.remedies]
    helped = [RemedyEffect(remedy, after) for remedy, after in tried if after > round(chance, _DIGITS)]
    # What is told as the same figure does equally well; then what costs least comes first.
    helped.sort(key=lambda found: (-_told(found.chance), REMEDIES[found.remedy].cost, -found.chance))
    return MarkReading(
        scene,
        round(chance, _DIGITS),
        tuple(round(one, _DIGITS) for _ in range(count)),
        _cause(scene, count),
        tuple(helped),
        offsets,
    )


def _looks_for_marks(job: Job) -> bool:
    """Whether a sensor looks for marks on the sheets of a job, whoever prints them."""
    return job.marks.family != NO_MARKS or (job.cutter.has_own_program and job.stock.printable)


def _count(job: Job, marks: Sequence[Mark]) -> int:
    """How many looks must all succeed."""
    return LOOKED_FOR if job.cutter.has_own_program else len(marks)


def _offsets(job: Job) -> ReadingOffsets:
    """The reading offsets that the runs of a job give for its machine and its stock."""
    told = [run for run in job.runs if run.marks is not None]
    if not told:
        return NOTHING_TOLD
    return offsets_of(
        [
            (
                stock.key,
                _reckoned(
                    replace(
                        job,
                        stock=stock,
                        room_light=job.room_light if run.room_light is None else run.room_light,
                        marks=replace(job.marks, remedies=job.marks.remedies if run.remedies is None else run.remedies),
                    )
                ),
                run.marks,
            )
            for run in told
            for stock in [run.stock or job.stock]
        ],
        job.stock.key,
    )


def _reckoned(job: Job) -> float:
    """The chance of a sheet by the model alone, without what runs say."""
    made = replace(job, marks=marks_made(job.marks))
    try:
        count = _count(made, looked_for(made))
    except BadInput:
        return 0.0
    return scene_of(made).chance ** count


def _with(job: Job, remedy: Remedy, offsets: ReadingOffsets) -> float:
    """The chance once a remedy is taken; 0 where it cannot be taken."""
    if remedy in _DRAWN and job.cutter.has_own_program:
        return 0.0
    marks = replace(job.marks, remedies=(*job.marks.remedies, remedy))
    return round(moved(_reckoned(replace(job, marks=marks)), offsets), _DIGITS)


def _cause(scene: Scene, count: int) -> ReadingCause:
    chance = scene.chance**count
    gains = [(cause, without(scene).chance ** count - chance) for cause, without in _WITHOUT]
    most = max(gain for _, gain in gains)
    if most < _WORTH and chance > 1 - _UNLIKELY:
        return ReadingCause.NONE
    if most < _WORTH:
        # No cause alone brings it about: the one without which a mark stands out most.
        return max(_WITHOUT, key=lambda one: _stands_out(one[1](scene)))[0]
    return next(cause for cause, gain in gains if gain >= most - _WORTH)


def _stands_out(scene: Scene) -> float:
    return scene.signal / scene.noise


def _told(chance: float) -> int:
    """A chance as it is told, in tries of a hundred."""
    return 100 if chance > _CERTAIN else round(chance * 100)


def out_of_reach(job: Job, marks: Sequence[Mark]) -> list[Mark]:
    """The marks that the cutter's sensor does not get to: under its rollers, off its mat, beyond its reach."""
    regions = [bound.region.buffer(_NEARLY_MM, join_style="mitre") for bound in cutter_bounds(job.paper, job.cutter)]
    return [mark for mark in marks if not all(region.covers(mark.shape) for region in regions)]


def _lit(scene: Scene) -> Scene:
    """A dim scene in bright light, without the glare that more light would bring."""
    if scene.room >= ROOMS[RoomLight.USUAL]:
        return scene
    more = (scene.sensor.lamp + ROOMS[RoomLight.BRIGHT]) / max(scene.sensor.lamp + scene.room, 1e-9)
    return replace(scene, surround=(1 + scene.surround) * more - 1)
