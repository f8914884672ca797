"""What simulated devices really do, where that is not what the profile believes, and the faults that are switched on.

Everything is left out where the devices do as they are believed to. `map` is where cuts land, as a calibration writes
it; `read_mm` and `slip_mm` are σ an axis, shared by a sheet and each piece's own for each pass; `scale` is what the
printer makes of a length; `hardness` are factors on the hardness of stocks, by their keys; `sharpness` that of the
blade.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le, Len

from vamper.core.values.calibration import AffineMap, Calibration
from vamper.core.values.limits import STRICT
from vamper.core.values.printer import PrintScale
from vamper.core.values.reading import AnySensor

# By their names, in their order, so that whoever holds them can be told from others at once.
Factors = tuple[tuple[str, float], ...]


class Device(StrEnum):
    """The simulated devices, in the order of the work."""

    PRINTER = "printer"
    SENSOR = "sensor"
    CUTTER = "cutter"


class FaultKey(StrEnum):
    """The faults that can be switched on."""

    LOST_PICTURE = "lost-picture"
    WRONG_SIDE = "wrong-side"
    LINES = "lines"
    PAGE_SIZE_RESET = "page-size-reset"
    STRETCHED_PRINT = "stretched-print"
    CROOKED_FEED = "crooked-feed"
    BLEED_LEFT_ON = "bleed-left-on"
    LOW_BLACK = "low-black"
    BRIGHT_LIGHT = "bright-light"
    COVERED_MARK = "covered-mark"
    WEAK_LAMP = "weak-lamp"
    NOT_CALIBRATED = "not-calibrated"
    FAR_END = "far-end"
    BLADE_OFFSET = "blade-offset"
    SLIPPING_STOCK = "slipping-stock"
    CABLE_BEHIND = "cable-behind"
    TIRED_MAT = "tired-mat"
    LINT = "lint"
    DULL_BLADE = "dull-blade"
    TUFT = "tuft"
    HARDER_STOCK = "harder-stock"
    SOFTER_STOCK = "softer-stock"
    UNLOADED_BETWEEN = "unloaded-between"
    EJECTED_EARLY = "ejected-early"
    ROLLER_CREASE = "roller-crease"


@dataclass(frozen=True, slots=True)
class ByName:
    """A mapping from names to numbers in data, kept as pairs so that it can be compared and looked up by value."""

    def __get_pydantic_core_schema__(self, _source: Any, handler: Callable[[Any], dict[str, Any]]) -> dict[str, Any]:
        def pairs(value: Mapping[str, float]) -> Factors:
            return tuple(sorted(value.items()))

        return {
            "type": "function-after",
            "function": {"type": "no-info", "function": pairs},
            "schema": handler(dict[str, Annotated[float, Gt(0), Le(20)]]),
            "serialization": {"type": "function-plain", "function": dict},
        }


@dataclass(frozen=True, slots=True)
class TwinSpec:
    """Errors of simulated machines, where these differ from the beliefs about the real machines; None leaves it so.

    Parameters
    ----------
    map : AffineMap or None
        Where the blade goes for a place on the sheet.
    read_mm, slip_mm : float or None
        How far the reading of marks differs from sheet to sheet (σ an axis), and what a pass moves the stock, mm.
    scale : PrintScale or None
        Printed / meant length.
    hardness : pairs of str and float
        Factors of hardness, by the stock's key.
    sharpness : float or None
        Of the blade; 1 is new.
    sensor : AnySensor or None
        How well it finds marks.
    faults : tuple of FaultKey
        What is broken.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    map: AffineMap | None = None
    read_mm: Annotated[float, Ge(0), Le(10)] | None = None
    slip_mm: Annotated[float, Ge(0), Le(10)] | None = None
    scale: PrintScale | None = None
    hardness: Annotated[Factors, ByName()] = ()
    sharpness: Annotated[float, Gt(0), Le(1)] | None = None
    sensor: AnySensor | None = None
    faults: Annotated[tuple[FaultKey, ...], Len(0, len(FaultKey))] = ()

    def __post_init__(self) -> None:
        if self.map is not None:
            # A map that no calibration could have says so in its words.
            Calibration(map=self.map)

    def hardness_of(self, stock: str) -> float | None:
        return dict(self.hardness).get(stock)
