"""A job: everything a maker decides, and nothing that is computed from it.

These are the names of the job file. The stations take the parts they need.
"""

from dataclasses import dataclass
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len

from vamper.core.values.answers import OF_JOB, Codes, check_codes
from vamper.core.values.art import Purpose
from vamper.core.values.blade import BladeIn
from vamper.core.values.calibration import Calibration
from vamper.core.values.composition import ComposedSpec
from vamper.core.values.cutter import Cutter
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import FinishSpec, Target
from vamper.core.values.item import MOST_PIECES, ItemSpec
from vamper.core.values.limits import STRICT, Colour, Title
from vamper.core.values.marks import NO_MARKS, MarksSpec
from vamper.core.values.mat import MatIn
from vamper.core.values.miss import LoggedMiss
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import Paper
from vamper.core.values.placement import Sheet
from vamper.core.values.printer import Printer
from vamper.core.values.product import Products
from vamper.core.values.reading import Light, RoomLight
from vamper.core.values.run_seen import RunSeen
from vamper.core.values.shrink import ShrinkSpec
from vamper.core.values.stock import Stock
from vamper.core.values.tried import Passes, SetThen, Try
from vamper.core.values.twin import TwinSpec

SettingsThen = Annotated[tuple[SetThen, ...], Len(0, 4)]
Tries = Annotated[tuple[Try, ...], Len(0, 2000)]
Runs = Annotated[tuple[RunSeen, ...], Len(0, 2000)]
MOST_ITEMS = 1000
MOST_SHEETS = 1000
# What is not said.
_PRINTER, _CUTTER, _MARKS, _PACKING, _FINISH = Printer(), Cutter(), MarksSpec(), PackingSpec(), FinishSpec()


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """A whole job: the machines, the sheet, the designs and everything decided about them. Lengths in mm.

    Parameters
    ----------
    title, customer : str
        What the job is called, and whom it is for.
    paper, printer, cutter, marks, stock : Paper, Printer, Cutter, MarksSpec, Stock
        What it is printed on, by which machines, with which marks, and the material.
    plain : bool
        Card that is cut only, not printed.
    purpose : Purpose
        What the pieces must stand; `target` is the finer word, where it is known.
    from_inside : bool
        A clear decal that is read through a pane from its other side.
    room_light : Light
        The light in which the marks are read.
    stock_colour : Colour or None
        The face, where the stock comes in several colours.
    calibration : Calibration or None
        That of this printer with this cutter; `misses` are the misses measured on runs of both.
    job_line : bool
        Print a line of facts and a bar of 100 mm into the waste.
    overcut_mm : float
        How far the blade runs on past the beginning of a loop.
    passes : int or None
        Passes over each line; None leaves them to the proposal.
    set_then : tuple of SetThen
        The settings of the run that is made again exactly.
    blade, mat : BladeIn, MatIn or None
        What is in the machine and how worn it is; `steep_at_hand`: a steep blade lies in the drawer.
    tries, runs : tuple of Try, tuple of RunSeen
        Trial cuts in this stock on this cutter, and runs of any stock on it.
    twin : TwinSpec or None
        Errors of simulated machines where these differ from the beliefs about the real machines.
    copies : int
        How often its sheets are made.
    packing, finish : PackingSpec, FinishSpec
        How pieces are laid, and how they are made ready after the cut.
    products : tuple of ProductSpec
        Prints that are made up into one thing.
    shrink : ShrinkSpec or None
        How a film shrinks in the oven: sizes and borders are then measured on the finished piece.
    items, composed : tuple of ItemSpec, tuple of ComposedSpec
        The designs, and designs that are still to be drawn.
    held : tuple of Sheet
        Pieces that stay where they lie, sheet by sheet; the others are packed round them.
    scale_to_fill : int or None
        Scale all designs together to the largest size at which everything fits on so many sheets.
    meant : tuple of str
        Codes of findings about the job that the maker has answered.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    title: Title = "Untitled job"
    customer: Title = ""
    paper: Paper
    printer: Printer = _PRINTER
    cutter: Cutter = _CUTTER
    marks: MarksSpec = _MARKS
    stock: Stock
    plain: bool = False
    purpose: Purpose = Purpose.VEHICLE
    from_inside: bool = False
    room_light: Light = RoomLight.USUAL
    stock_colour: Colour | None = None
    calibration: Calibration | None = None
    misses: Annotated[tuple[LoggedMiss, ...], Len(0, 1000)] = ()
    job_line: bool = False
    overcut_mm: Annotated[float, Ge(0), Le(10)] = 0.5
    passes: Passes | None = None
    set_then: SettingsThen = ()
    blade: BladeIn | None = None
    steep_at_hand: bool = False
    mat: MatIn | None = None
    tries: Tries = ()
    runs: Runs = ()
    twin: TwinSpec | None = None
    copies: Annotated[int, Ge(1), Le(MOST_SHEETS)] = 1
    packing: PackingSpec = _PACKING
    finish: FinishSpec = _FINISH
    target: Target | None = None
    products: Products = ()
    shrink: ShrinkSpec | None = None
    items: Annotated[tuple[ItemSpec, ...], Len(0, MOST_ITEMS)] = ()
    composed: Annotated[tuple[ComposedSpec, ...], Len(0, 100)] = ()
    held: Annotated[tuple[Sheet, ...], Len(0, MOST_SHEETS)] = ()
    scale_to_fill: Annotated[int, Ge(1), Le(50)] | None = None
    meant: Codes = ()

    def __post_init__(self) -> None:
        check_codes(self.meant, OF_JOB)
        # Whoever plans cuts a stock that is not printed, and needs to know no more of it.
        object.__setattr__(self, "stock", self.stock.plainly(self.plain))

    def item(self, number: int) -> ItemSpec:
        return next(item for item in self.items if item.number == number)

    @property
    def for_own_program(self) -> bool:
        """Whether the finished sheet goes to the machine's own program, which adds marks and finds the cut itself."""
        if self.cutter.has_own_program:
            return True
        # A machine that takes cut files may have such a program beside; its jobs then print no marks.
        return self.cutter.is_machine and self.stock.printable and self.marks.family == NO_MARKS

    @property
    def mirrored(self) -> bool:
        """Whether the files are mirrored: what goes on face down, and clear decals that are read through a pane."""
        return self.stock.mirrored or (self.from_inside and self.stock.is_clear)

    def check_quantity(self) -> None:
        """Raise `BadInput` if the job asks for more pieces than can be planned."""
        total = sum(item.quantity for item in self.items)
        if total > MOST_PIECES:
            raise BadInput(f"{total} pieces are more than the {MOST_PIECES} that one job can hold; split it", "items")
