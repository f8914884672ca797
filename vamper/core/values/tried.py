"""What was tried on a stock: a force, its passes, and what the cut looked like."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le, Len

from vamper.core.values.blade import Blade, WornMetres
from vamper.core.values.cut import Cut
from vamper.core.values.limits import ONE_LINE, STRICT

MOST_PASSES = 6
Gf = Annotated[float, Gt(0), Le(5000)]
Passes = Annotated[int, Ge(1), Le(MOST_PASSES)]


class Outcome(StrEnum):
    """The outcomes of a drop, or of a run."""

    NOT_THROUGH = "not-through"
    CLEAN = "clean"
    BACKING_MARKED = "backing-marked"
    BACKING_THROUGH = "backing-through"
    TORN = "torn"


class Pressure(StrEnum):
    """How hard a named setting is pressed, the gentlest first."""

    LESS = "less"
    USUAL = "usual"
    MORE = "more"


@dataclass(frozen=True, slots=True)
class Try:
    """One drop of a ladder, or one run.

    Parameters
    ----------
    force_gf, passes : float, int
        Pressure in gf, and how often the blade went over the line.
    outcome : Outcome
        What it looked like.
    cut, blade, metres : Cut, Blade, float, or None
        How it was cut, with which blade and how worn that was (metres times abrasion); None where that is as in what
        the try is weighed for.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    force_gf: Gf
    passes: Passes = 1
    outcome: Outcome = Outcome.CLEAN
    cut: Cut | None = None
    blade: Blade | None = None
    metres: WornMetres | None = None


@dataclass(frozen=True, slots=True)
class WasSet:
    """The setting that a cut was really made with: a force, or a setting of the machine's own.

    Parameters
    ----------
    cut : Cut
        How deep it was meant to go.
    passes : int
        How often the blade went over the line.
    force_gf : float or None
        The pressure, gf.
    setting, pressure : str, Pressure or None
        The setting's name, and what was chosen with it.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    cut: Cut
    passes: Passes
    force_gf: Gf | None = None
    setting: Annotated[str, Len(0, 80), ONE_LINE] = ""
    pressure: Pressure | None = None

    def __post_init__(self) -> None:
        if (self.force_gf is None) == (not self.setting):
            raise ValueError("force_gf: say a force, or the name of what was set on the machine, not both")


@dataclass(frozen=True, slots=True)
class SetThen:
    """The setting of a cut in a run that is to be made again exactly."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    cut: Cut
    force_gf: Gf
    passes: Passes
