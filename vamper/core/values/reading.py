"""What the reading of marks depends on beside the stock: the sensor, the light of the room, the printer's black, and
the remedies that a maker has taken.

Each is said in a word of three steps, whose figures are in `reading.toml`; sensor and light can be given as figures.
"""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le

from vamper.core.values.colour import luminance, rgb_of
from vamper.core.values.limits import STRICT
from vamper.core.values.tables import row, table

_TABLE = table(__package__, "reading.toml")


@dataclass(frozen=True, slots=True)
class Sensor:
    """A sensor in figures: its own `lamp`, its noise `n0`, how much glare it takes in (`k`), and how many times the
    noise a signal must be to be found in half of all tries (`t`).
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    lamp: Annotated[float, Ge(0), Le(10)]
    n0: Annotated[float, Gt(0), Le(10)]
    k: Annotated[float, Ge(0), Le(10)]
    t: Annotated[float, Ge(0), Le(100)]


class SensorWord(StrEnum):
    """A sensor in a word."""

    WEAK = "weak"
    USUAL = "usual"
    STRONG = "strong"


class RoomLight(StrEnum):
    """The light of the room in a word."""

    DIM = "dim"
    USUAL = "usual"
    BRIGHT = "bright"


class Black(StrEnum):
    """How black the printer's black is."""

    FULL = "full"
    FADING = "fading"
    LOW = "low"


class Remedy(StrEnum):
    """The remedies that help a mark to be read."""

    MATTE_TAPE = "matte-tape"
    DIM_ROOM = "dim-room"
    MORE_LIGHT = "more-light"
    DARKEN_MARKS = "darken-marks"
    THICKER_STROKE = "thicker-stroke"
    WHITE_PATCHES = "white-patches"
    WHITE_SURROUND = "white-surround"
    MORE_INSET = "more-inset"


AnySensor = SensorWord | Sensor
Light = RoomLight | Annotated[float, Ge(0), Le(3)]

DARK_FACE: float = _TABLE["faces"]["dark"]
WHITE_FACE: float = _TABLE["faces"]["white"]
SENSORS = {SensorWord(word): row(Sensor, data) for word, data in _TABLE["sensors"].items()}
ROOMS = {RoomLight(word): float(light) for word, light in _TABLE["rooms"].items()}
BLACKS = {Black(word): float(reflectance) for word, reflectance in _TABLE["blacks"].items()}
SENSOR_WORDS: dict[str, str] = _TABLE["words"]["sensors"]
ROOM_WORDS: dict[str, str] = _TABLE["words"]["rooms"]
BLACK_WORDS: dict[str, str] = _TABLE["words"]["blacks"]


def sensor_of(sensor: AnySensor) -> Sensor:
    """A sensor in figures."""
    return sensor if isinstance(sensor, Sensor) else SENSORS[sensor]


def light_of(light: Light) -> float:
    """A light in figures."""
    return ROOMS[light] if isinstance(light, RoomLight) else light


def reflectance_of(colour: str) -> float:
    """The reflectance of a face of a colour (#RRGGBB), 0..1: dark card's at least, white paper's at most."""
    return DARK_FACE + (WHITE_FACE - DARK_FACE) * luminance(rgb_of(colour))
