"""What a run showed: how its cut looked, and whether its marks were read."""

from dataclasses import dataclass, replace
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len

from vamper.core.values.blade import Blade, WornMetres
from vamper.core.values.cut import Cut
from vamper.core.values.limits import STRICT
from vamper.core.values.reading import Light, Remedy
from vamper.core.values.stock import Stock
from vamper.core.values.tried import Gf, Outcome, Passes, Try

MOST_TRIES = 20


@dataclass(frozen=True, slots=True)
class MarksSeen:
    """Whether the marks were read, and at which try; `tries` is how often it was tried where they were not."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    read: bool
    tries: Annotated[int, Ge(1), Le(MOST_TRIES)] = 1

    @property
    def failed(self) -> int:
        return self.tries - 1 if self.read else self.tries


@dataclass(frozen=True, slots=True)
class RunSeen:
    """A run on this machine, as far as it bears on later settings and on the reading of marks.

    Parameters
    ----------
    force_gf : float or None
        None where nobody remembers, or where the machine is set by names.
    passes, outcome, cut, blade, metres : int, Outcome, Cut, Blade, float
        Passes over the line, how the cut came out, which cut it was, with which blade, and how far that had cut before.
    marks : MarksSeen or None
        Whether the marks were read.
    stock, room_light, remedies : Stock, Light, tuple of Remedy, or None
        Stock, light and remedies of the run; None where they were the job's own.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    force_gf: Gf | None = None
    passes: Passes = 1
    outcome: Outcome = Outcome.CLEAN
    cut: Cut | None = None
    blade: Blade | None = None
    metres: WornMetres | None = None
    marks: MarksSeen | None = None
    stock: Stock | None = None
    room_light: Light | None = None
    remedies: Annotated[tuple[Remedy, ...], Len(0, len(Remedy))] | None = None

    @classmethod
    def of(cls, one: Try) -> "RunSeen":
        return cls(one.force_gf, one.passes, one.outcome, one.cut, one.blade, one.metres)

    def as_try(self, stock: Stock) -> Try | None:
        """The run as a try of a force on a stock; None where the force is not known, or it was another stock."""
        if self.force_gf is None or (self.stock is not None and self.stock.key != stock.key):
            return None
        return Try(self.force_gf, self.passes, self.outcome, self.cut, self.blade, self.metres)

    def on(self, stock: Stock) -> "RunSeen":
        """The same, its stock said."""
        return self if self.stock is not None else replace(self, stock=stock)
