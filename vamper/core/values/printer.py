"""The printer as the planner sees it: how it prints, and what it leaves blank."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le

from vamper.core.values.limits import STRICT, Distance, Length, PracticeSeed
from vamper.core.values.reading import Black


class PrinterKind(StrEnum):
    INKJET = "inkjet"
    LASER = "laser"


class Ink(StrEnum):
    """The ink of a printer: ordinary ink or toner, or ink that turns to gas in a press."""

    ORDINARY = "ordinary"
    DYE = "dye"


class TrayFace(StrEnum):
    """The side of a sheet in its tray that a printer prints: the side that looks up, or the side that looks down."""

    UP = "up"
    DOWN = "down"


class PageBox(StrEnum):
    """The page of a print file: the sheet itself, or, for printers that only take sizes with a name, the named size
    next above, with the sheet where the printer puts it.
    """

    SHEET = "sheet"
    CENTRED = "centred"
    LEFT = "left"
    RIGHT = "right"


@dataclass(frozen=True, slots=True)
class Margins:
    """The strips along the paper's sides that a printer leaves blank, mm."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    top: Distance = 3.0
    right: Distance = 3.0
    bottom: Distance = 5.0
    left: Distance = 3.0


@dataclass(frozen=True, slots=True)
class PrintScale:
    """Printed length / meant length along either side of the sheet, as the last proof measured it."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    x: Annotated[float, Ge(0.8), Le(1.25)] = 1.0
    y: Annotated[float, Ge(0.8), Le(1.25)] = 1.0

    @property
    def off(self) -> float:
        """The share by which it is off at most."""
        return max(abs(self.x - 1), abs(self.y - 1))


TRUE_SCALE = PrintScale()


@dataclass(frozen=True, slots=True)
class TraySize:
    """The paper size that a printer is set to, mm."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    width: Length
    height: Length


@dataclass(frozen=True, slots=True)
class Printer:
    """A printer.

    Parameters
    ----------
    kind, ink, black : PrinterKind, Ink, Black
        How it prints, with what, and how black its black is to a sensor.
    margins_mm : Margins
        The rim of the sheet that it leaves blank.
    scale : PrintScale
        Printed / meant length; compensated when a page is drawn.
    ml_per_cm2 : float
        The ink that full cover of one colour takes.
    page : PageBox
        The page it is sent: the sheet itself, or a larger box round it.
    set_to : TraySize or None
        The paper that its own dialog is set to, where that is known.
    tray : TrayFace or None
        Which side of a sheet in its tray it prints; None until somebody has found out.
    practice : int or None
        Makes it a simulated printer: the seed of its errors.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    kind: PrinterKind = PrinterKind.INKJET
    margins_mm: Margins = Margins()
    ink: Ink = Ink.ORDINARY
    black: Black = Black.FULL
    scale: PrintScale = TRUE_SCALE
    ml_per_cm2: Annotated[float, Ge(0), Le(1)] = 0.0012
    page: PageBox = PageBox.SHEET
    set_to: TraySize | None = None
    tray: TrayFace | None = None
    practice: PracticeSeed | None = None
