"""How a job is finished after the cut, where that is not left to what follows from its stock and its use."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le, Len

from vamper.core.values.limits import ONE_LINE, STRICT
from vamper.core.values.sheen import Sheen


class Target(StrEnum):
    """The thing that a piece goes on, finer than its purpose: it decides how it is finished and what it must stand."""

    HAND_OUT = "hand-out"
    ANYTHING = "anything"
    PARCEL = "parcel"
    NOTEBOOK = "notebook"
    PLANNER = "planner"
    LAPTOP = "laptop"
    JAR = "jar"
    CANDLE = "candle"
    WOOD = "wood"
    CERAMIC = "ceramic"
    MUG = "mug"
    CUP = "cup"
    BOTTLE = "bottle"
    GLASS = "glass"
    HELMET = "helmet"
    SHIRT = "shirt"
    DARK_SHIRT = "dark-shirt"
    BAG = "bag"
    BLANK = "blank"
    KEY_RING = "key-ring"
    WINDOW = "window"
    VEHICLE = "vehicle"
    BOAT = "boat"
    OUTDOORS = "outdoors"


class CoverKind(StrEnum):
    """The kinds of cover over a print."""

    NONE = "none"
    COAT = "coat"
    LAMINATE = "laminate"


class CoverWhen(StrEnum):
    """When a coat is laid: on the whole sheet, or on the pieces."""

    BEFORE_CUT = "before-cut"
    AFTER_CUT = "after-cut"


@dataclass(frozen=True, slots=True)
class CoverSpec:
    """The cover over the print.

    Parameters
    ----------
    kind, when : CoverKind, CoverWhen
        A laminate or coats, and whether it comes before or after the cut; a laminate always comes before.
    um : float
        The laminate's thickness, µm; 0 on a job as it is made, where the film is part of the face.
    coats : int or None
        How many; None as the label says, or as is usual.
    product : str
        The maker's own name of it.
    look : Sheen or None
        How its face looks; None where nobody said.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    kind: CoverKind = CoverKind.NONE
    when: CoverWhen = CoverWhen.BEFORE_CUT
    um: Annotated[float, Ge(0), Le(1000)] = 60.0
    coats: Annotated[int, Ge(0), Le(12)] | None = None
    product: Annotated[str, Len(0, 80), ONE_LINE] = ""
    look: Sheen | None = None


class TransferMask(StrEnum):
    """The mask that carries pieces to their place, so that parts keep their places."""

    NONE = "none"
    PAPER = "paper"
    CLEAR = "clear"


class SetWay(StrEnum):
    """How a water-slide decal is set once it lies."""

    AIR = "air"
    OVEN = "oven"
    TOP_COAT = "top-coat"


class TimeFor(StrEnum):
    """The area that a label's time under the press is for: every spot that lies under the plate, or the whole motif."""

    SPOT = "spot"
    WHOLE = "whole"


@dataclass(frozen=True, slots=True)
class PressSpec:
    """The press settings on the label of a heat product.

    Parameters
    ----------
    time_for : TimeFor or None
        What the time is for; None where nobody has read the label yet.
    seconds : float or None
        The press's time.
    cold : bool or None
        Whether the carrier is peeled cold; None as is usual for this stock.
    peel_after_s : float or None
        How long after the press it is peeled.
    second_s, twice : float or None, bool
        How long a second press takes, and whether it is wanted.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    time_for: TimeFor | None = None
    seconds: Annotated[float, Ge(1), Le(900)] | None = None
    cold: bool | None = None
    peel_after_s: Annotated[float, Ge(0), Le(3600)] | None = None
    second_s: Annotated[float, Ge(1), Le(900)] | None = None
    twice: bool = False


class Fibre(StrEnum):
    """The fibre that a cloth is woven of."""

    COTTON = "cotton"
    BLEND = "blend"
    POLYESTER = "polyester"


Panel = Annotated[float, Gt(0), Le(2000)]
Plate = Annotated[float, Ge(20), Le(2000)]


@dataclass(frozen=True, slots=True)
class PressFilm:
    """The cloths that a stock holds on, as its package says; two films of one class differ.

    Parameters
    ----------
    fibres, not_for : tuple of Fibre
        The cloth that it is for, and the cloth that it is not for.
    pale_only : bool
        Whether it shows on pale cloth only.
    pale : bool
        Whether it is pale itself, so that dye wanders into it.
    cold_peel : bool
        Whether its carrier is peeled cold.
    presses : int
        How many presses it takes.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    fibres: Annotated[tuple[Fibre, ...], Len(0, 3)] = ()
    not_for: Annotated[tuple[Fibre, ...], Len(0, 3)] = ()
    pale_only: bool = False
    pale: bool = False
    cold_peel: bool = False
    presses: Annotated[int, Ge(1), Le(2)] = 1


@dataclass(frozen=True, slots=True)
class ClothSpec:
    """The cloth that a motif is pressed on: its fibre, whether it is dark, and the panel it goes on, measured across,
    mm. `centre` is the part of the art that comes to lie on the fold line, as a share of its width from the left.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    fibre: Fibre = Fibre.COTTON
    dark: bool = False
    panel_mm: Panel | None = None
    centre: Annotated[float, Ge(0), Le(1)] = 0.5


@dataclass(frozen=True, slots=True)
class HeatSpec:
    """The hot plate: that of a press, or the sole of an `iron`, mm."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    iron: bool = False
    width_mm: Plate = 380.0
    height_mm: Plate = 380.0


@dataclass(frozen=True, slots=True)
class BlankSpec:
    """A blank that is printed all over: its sides, mm, and how far the print reaches past it all round."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    width_mm: Panel
    height_mm: Panel
    past_mm: Annotated[float, Ge(0), Le(20)] = 2.0

    @property
    def covered_mm(self) -> tuple[float, float]:
        """Width and height of a print that covers it."""
        return self.width_mm + 2 * self.past_mm, self.height_mm + 2 * self.past_mm


@dataclass(frozen=True, slots=True)
class PlaceSpec:
    """Where a piece goes on a pane, a wall or a vehicle: the free place as it was measured, mm, and from how far it is
    to be read, m (0: no matter).
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    width_mm: Annotated[float, Gt(0), Le(10_000)]
    height_mm: Annotated[float, Gt(0), Le(10_000)]
    distance_m: Annotated[float, Ge(0), Le(200)] = 0.0


@dataclass(frozen=True, slots=True)
class AddedStep:
    """A step by hand that the chain does not have of itself, done after one of its steps, or first of all where none is
    named: pens, metallic paint, a fold.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    do: Annotated[str, Len(1, 80), ONE_LINE]
    minutes: Annotated[int, Ge(1), Le(600)]
    after: Annotated[str, Len(0, 40), ONE_LINE] = ""


@dataclass(frozen=True, slots=True)
class LabelFigure:
    """A figure that the label of a product says, by its key in the table of labels."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    key: Annotated[str, Len(1, 40), ONE_LINE]
    value: Annotated[float, Ge(0), Le(100_000)]


_HEAT, _PRESS = HeatSpec(), PressSpec()


@dataclass(frozen=True, slots=True)
class FinishSpec:
    """The decisions on the work after the print; None leaves a thing to what follows from stock and target.

    Parameters
    ----------
    cover : CoverSpec or None
        The laminate or coats over the print.
    mask : TransferMask or None
        What carries the pieces to their place.
    set : SetWay or None
        How a water-slide decal is set.
    press, heat : PressSpec, HeatSpec
        What the label of a heat product says, and by what it is heated.
    plate : int
        How many pieces the press or the oven holds at once.
    cloth, blank : ClothSpec, BlankSpec or None
        The cloth it is pressed on; the blank that is printed all over.
    place, ball_mm : PlaceSpec, float or None
        Where it goes, as measured; the diameter of a ball that lies on a place that is round both ways.
    added : tuple of AddedStep
        Steps that the maker added.
    label, record : tuple of LabelFigure
        What was read on the products' labels, and how long the maker's own runs waited.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    cover: CoverSpec | None = None
    mask: TransferMask | None = None
    set: SetWay | None = None
    press: PressSpec = _PRESS
    plate: Annotated[int, Ge(1), Le(1000)] = 6
    cloth: ClothSpec | None = None
    heat: HeatSpec = _HEAT
    blank: BlankSpec | None = None
    place: PlaceSpec | None = None
    ball_mm: Annotated[float, Ge(40), Le(5000)] | None = None
    added: Annotated[tuple[AddedStep, ...], Len(0, 12)] = ()
    label: Annotated[tuple[LabelFigure, ...], Len(0, 40)] = ()
    record: Annotated[tuple[LabelFigure, ...], Len(0, 40)] = ()

    @property
    def coated(self) -> bool:
        """Whether a coat was decided on; what a stock wants of itself is not counted."""
        return self.cover is not None and self.cover.kind is CoverKind.COAT

    @property
    def laminate_um(self) -> float:
        """How thick a film lies over the face, µm; 0 where none does, or where it is part of the face already."""
        return self.cover.um if self.cover is not None and self.cover.kind is CoverKind.LAMINATE else 0.0
