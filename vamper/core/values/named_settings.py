"""A machine's named settings: the names of its own list, as their maker knows them.

The list starts empty and has no order but what the maker says of it. A setting may be pressed less or more, be run over
so many times by itself, and ask for a blade. What it did on a stock is a reading of its force.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Annotated, Any, ClassVar

from annotated_types import Len

from vamper.core.values.blade import Blade, WornMetres
from vamper.core.values.cut import Cut
from vamper.core.values.limits import ONE_LINE, STRICT
from vamper.core.values.stock import Stock
from vamper.core.values.tried import Outcome, Passes, Pressure

SettingName = Annotated[str, Len(1, 80), ONE_LINE]
MOST_SETTINGS = 40
MOST_SEEN = 200


@dataclass(frozen=True, slots=True)
class SettingSeen:
    """The outcome of a setting; outcomes are kept in the order in which they were told.

    Parameters
    ----------
    stock, cut : Stock, Cut
        On what, and how that was cut.
    outcome : Outcome
        What it looked like.
    pressure, passes : Pressure or None, int
        What was chosen with it, and how often it went over the line.
    metres : float
        How worn the blade was, metres times abrasion.
    blade : Blade
        Which blade it was.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    stock: Stock
    cut: Cut
    outcome: Outcome
    pressure: Pressure | None = None
    passes: Passes = 1
    metres: WornMetres = 0.0
    blade: Blade = Blade.GENERAL


@dataclass(frozen=True, slots=True)
class NamedSetting:
    """A setting of the machine's own list.

    Parameters
    ----------
    name : str
        What the machine calls it.
    pressures : tuple of Pressure
        What can be chosen with it; empty where it has no such choice.
    gentler_than : tuple of str
        Names of settings that press at least as hard.
    passes : int
        How often it goes over the line by itself.
    blade : Blade or None
        The blade that the machine asks for.
    seen : tuple of SettingSeen
        What it did.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    name: SettingName
    pressures: Annotated[tuple[Pressure, ...], Len(0, len(Pressure))] = ()
    gentler_than: Annotated[tuple[SettingName, ...], Len(0, MOST_SETTINGS)] = ()
    passes: Passes = 1
    blade: Blade | None = None
    seen: Annotated[tuple[SettingSeen, ...], Len(0, MOST_SEEN)] = ()

    def __post_init__(self) -> None:
        if len(set(self.pressures)) < len(self.pressures):
            raise ValueError(f"“{self.name}” names a pressure twice; name each once")
        wrong = next((one.pressure for one in self.seen if not self.takes(one.pressure)), None)
        if wrong is not None:
            raise ValueError(f"“{self.name}” cannot be set to “{wrong}” pressure; add that to its pressures first")

    def takes(self, pressure: Pressure | None) -> bool:
        """Whether it can be set so; none said is as usual."""
        return pressure is None or pressure is Pressure.USUAL or pressure in self.pressures

    @property
    def choices(self) -> tuple[Pressure | None, ...]:
        """The pressures that it can be set to, the gentlest first; None alone where it has no such choice."""
        return tuple(one for one in Pressure if one in self.pressures) or (None,)


NamedSettings = Annotated[tuple[NamedSetting, ...], Len(0, MOST_SETTINGS)]


@dataclass(frozen=True, slots=True)
class SettingChoice:
    """A choice on the machine: a setting by its name, how hard it is pressed, and how often it is run."""

    name: str
    pressure: Pressure | None
    passes: int

    @property
    def words(self) -> str:
        """As a maker says it."""
        pressed = "" if self.pressure in (None, Pressure.USUAL) else f", {self.pressure} pressure"
        times = f", {self.passes} passes" if self.passes > 1 else ""
        return f"“{self.name}”{pressed}{times}"


def same_name(one: str, other: str) -> bool:
    """Whether two names mean the same setting: case and blanks do not tell them apart."""
    return "".join(one.split()).casefold() == "".join(other.split()).casefold()


def check_settings(settings: Sequence[NamedSetting]) -> None:
    """Refuse a list that contradicts itself.

    Raises
    ------
    ValueError
        If two settings share a name, a setting is gentler than one that is not there, or an order goes in a circle.
    """
    for place, one in enumerate(settings):
        if any(same_name(one.name, other.name) for other in settings[:place]):
            raise ValueError(f"two settings are called “{one.name}”; give each a name of its own")
        for name in one.gentler_than:
            if place_of(name, settings) is None:
                raise ValueError(f"“{one.name}” is gentler than “{name}”, which is not in the list; add that one too")
    above = harder_settings(settings)
    circle = next((place for place, found in enumerate(above) if place in found), None)
    if circle is not None:
        others = [settings[place].name for place in sorted(above[circle]) if circle in above[place] and place != circle]
        named = " and ".join(f"“{name}”" for name in others) or "itself"
        raise ValueError(f"“{settings[circle].name}” is both gentler and harder than {named}; take one of the two away")


def placed_below(settings: Sequence[NamedSetting], name: str, above: Sequence[str]) -> tuple[NamedSetting, ...]:
    """The list with one setting harder than the settings `above` it and gentler than all others. What was said of its
    place before goes; what was said of the others stays, also where it was said through this one.
    """
    through = next((one.gentler_than for one in settings if same_name(one.name, name)), ())
    placed = list[NamedSetting]()
    for one in settings:
        said = [other for other in one.gentler_than if not same_name(other, name)]
        if len(said) < len(one.gentler_than):
            said += [other for other in through if other not in said]
        if same_name(one.name, name):
            below = (other.name for other in settings if not any(same_name(other.name, it) for it in (name, *above)))
            said = list(below)
        elif any(same_name(one.name, it) for it in above):
            said.append(name)
        placed.append(replace(one, gentler_than=tuple(said)))
    return tuple(placed)


def place_of(name: str, settings: Sequence[NamedSetting]) -> int | None:
    """Where a setting stands in a list, None where it does not."""
    return next((place for place, one in enumerate(settings) if same_name(one.name, name)), None)


def harder_settings(settings: Sequence[NamedSetting]) -> list[set[int]]:
    """The places of all settings that are said to press at least as hard as each, by one word or through others."""
    direct = [
        {place for name in one.gentler_than if (place := place_of(name, settings)) is not None} for one in settings
    ]
    found = [set(one) for one in direct]
    for _ in settings:
        for one in found:
            one |= set().union(*(direct[place] for place in one))
    return found
