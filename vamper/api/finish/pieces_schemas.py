"""What is told of single pieces after the cut: how they are pressed, how they shrink, which layer comes first."""

from pydantic import BaseModel

from vamper.core.finishing.press_plan import Patch
from vamper.core.values.finish import BlankSpec, ClothSpec, HeatSpec


class FibreOut(BaseModel):
    key: str
    name: str


class PressedOut(BaseModel):
    """One design under the press: its edge and drawing as SVG paths, and the patches in their order."""

    number: int
    name: str
    box: list[float]
    edge: str
    drawing: str
    patches: list[Patch]
    words: str


class PressOut(BaseModel):
    heat: HeatSpec
    designs: list[PressedOut]
    lines: list[str]


class OnClothOut(BaseModel):
    """Designs on their panel, mm, as SVG paths: `box` is what to show; the fold is x = 0, the collar y = 0."""

    box: list[float]
    panel: str
    motifs: str


class ClothProductOut(BaseModel):
    """A stock that could be pressed on this cloth, beside the others; `against` is what speaks against it."""

    key: str
    name: str
    feel: str
    sharp: str
    wash: str
    weed: str
    price: str
    """A sheet of it, where that is known."""
    against: str
    chosen: bool


class ClothOut(BaseModel):
    """The cloth that a job is pressed on; `lines` say how wide, how far down, and where on the fold."""

    spec: ClothSpec
    fibres: list[FibreOut]
    art_width_mm: float | None
    numbers: list[int]
    """The designs that may be made so wide."""
    picture: OnClothOut | None
    products: list[ClothProductOut]
    lines: list[str]


class ShrunkOut(BaseModel):
    number: int
    name: str
    finished: str
    printed: str


class PunchOut(BaseModel):
    hole: str
    punch: str


class ShrinkOut(BaseModel):
    """How a film shrinks; nothing of it while no test bar was measured."""

    lines: list[str]
    designs: list[ShrunkOut]
    holes: list[PunchOut]


class BlankOut(BaseModel):
    spec: BlankSpec | None
    per_plate: int | None
    lines: list[str]


class LayerOut(BaseModel):
    """A layer from the back; `cut_off` is the smallest piece of stock that it needs, `scraps` are kept
    offcuts that hold it, the tightest first.
    """

    number: int
    name: str
    colour: str
    cut_off: str
    scraps: list[str]


class PiecesOut(BaseModel):
    """The work on the pieces of a job after the cut; a field is None where it does not concern them."""

    goes_round: bool
    press: PressOut | None
    cloth: ClothOut | None
    shrinks: bool
    shrink: ShrinkOut | None
    blank: BlankOut | None
    layers: list[LayerOut]
    layer_words: list[str]
