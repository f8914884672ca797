"""The cutter as the planner sees it: how it moves the stock, what it reaches, and with how much force."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le, Len

from vamper.core.values.accepted_size import AcceptedSize
from vamper.core.values.limits import STRICT, Distance, Length, PracticeSeed
from vamper.core.values.named_settings import NamedSettings, check_settings
from vamper.core.values.paper import Paper
from vamper.core.values.program import UNKNOWN_PROGRAM, Program
from vamper.core.values.reading import AnySensor, SensorWord

# What scissors go round without a slip.
HAND_RADIUS_MM = 4.0


class Feed(StrEnum):
    """How the cutter moves the stock: on a carrier mat, or between rollers; `hand` is no machine but scissors."""

    MAT = "mat"
    ROLLER = "roller"
    HAND = "hand"


class Route(StrEnum):
    """Who leads the cut: cut files that Vamper writes, the machine's own program with one picture, or scissors."""

    FILES = "files"
    PROGRAM = "program"
    HAND = "hand"


@dataclass(frozen=True, slots=True)
class Reach:
    """How far the blade gets from the sheet's top left, mm."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    width: Length = 310.0
    height: Length = 420.0


@dataclass(frozen=True, slots=True)
class Mat:
    """The window of a carrier mat that the stock may lie in, mm."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    width: Length
    height: Length


@dataclass(frozen=True, slots=True)
class ForceRange:
    """The forces that the blade can be pressed with, gf; `step` is the machine's own resolution."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    min: Annotated[float, Gt(0), Le(5000)] = 20.0
    max: Annotated[float, Gt(0), Le(5000)] = 380.0
    step: Annotated[float, Gt(0), Le(500)] = 4.0

    def __post_init__(self) -> None:
        if self.max <= self.min:
            raise ValueError("max must be greater than min")

    def settle(self, force_gf: float) -> float:
        """The nearest force the machine can be set to."""
        steps = round((force_gf - self.min) / self.step)
        most = int((self.max - self.min) / self.step + 1e-9)
        return self.min + min(max(steps, 0), most) * self.step


@dataclass(frozen=True, slots=True)
class Cutter:
    """A cutter, or scissors.

    Parameters
    ----------
    route : Route
        Who leads the cut: files that Vamper writes, the machine's own program with one picture, or scissors.
    feed : Feed
        How the sheet is moved; `hand` is no machine: guide lines and trim ticks are printed, and rows are straight.
    reach_mm : Reach
        The area that the blade gets to, from the sheet's top left.
    force_gf : ForceRange
        The forces that can be set; for a machine that is set by names, the range that its settings are assumed to span.
    head_mm, tail_mm : float
        The strips under the rollers of a roller-fed cutter.
    mat_mm : Mat or None
        The window of the mat of a mat-fed cutter.
    acceleration_mm_s2 : float
        Bounds the speed round a bend.
    program : Program or None
        What is known of the machine's own program.
    granted : tuple of AcceptedSize
        The sizes that the program takes, paper by paper.
    sensor : AnySensor
        How well it finds marks.
    feed_mm : float
        How much less exact a cut is along the feed than across it (σ, mm), where rollers move the stock.
    settings : tuple of NamedSetting
        The machine's own list of settings, in any order.
    practice : int or None
        Makes it a simulated machine: the seed of its errors.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    route: Route = Route.FILES
    feed: Feed = Feed.MAT
    reach_mm: Reach = Reach()
    force_gf: ForceRange = ForceRange()
    head_mm: Distance = 0.0
    tail_mm: Distance = 0.0
    mat_mm: Mat | None = None
    acceleration_mm_s2: Annotated[float, Ge(100), Le(100_000)] = 3000.0
    program: Program | None = None
    granted: Annotated[tuple[AcceptedSize, ...], Len(0, 100)] = ()
    sensor: AnySensor = SensorWord.USUAL
    feed_mm: Annotated[float, Ge(0), Le(10)] = 0.0
    settings: NamedSettings = ()
    practice: PracticeSeed | None = None

    def __post_init__(self) -> None:
        check_settings(self.settings)

    @property
    def is_machine(self) -> bool:
        return self.feed is not Feed.HAND and self.route is not Route.HAND

    @property
    def has_own_program(self) -> bool:
        """Whether the machine's own program prints and cuts."""
        return self.is_machine and self.route is Route.PROGRAM

    @property
    def program_facts(self) -> Program:
        """The facts known of its own program, possibly none."""
        return self.program or UNKNOWN_PROGRAM

    def granted_of(self, paper: Paper) -> AcceptedSize | None:
        """The sizes known of a paper; None where nobody has tried."""
        return next((one for one in self.granted if one.is_for(paper)), None)
