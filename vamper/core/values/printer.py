"""The printer as the planner sees it: how it prints, and what it leaves blank."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Any, ClassVar

from vamper.core.values.limits import STRICT, Distance


class PrinterKind(StrEnum):
    INKJET = "inkjet"
    LASER = "laser"


@dataclass(frozen=True, slots=True)
class Margins:
    """The strips along the paper's sides that a printer leaves blank, mm."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    top: Distance = 3.0
    right: Distance = 3.0
    bottom: Distance = 5.0
    left: Distance = 3.0


@dataclass(frozen=True, slots=True)
class Printer:
    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    kind: PrinterKind = PrinterKind.INKJET
    margins_mm: Margins = Margins()
