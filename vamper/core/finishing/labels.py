"""What the label of a product must say before it is used for real, and what a label can say at all.

Heat, pressure and times have a range for each class of stock (`dangers.toml`): outside it a figure was misread or typed
in another unit, and it counts as not read. Heats are °C here; the sentence that refuses one tells both units.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from vamper.core.finishing.dangers import range_of
from vamper.core.values.findings import BadInput
from vamper.core.values.stock import StockClass
from vamper.core.values.tables import table

HEAT_UNIT = "°C"
_SECONDS_OF = {"s": 1, "min": 60}
_FAHRENHEIT, _FREEZES = 1.8, 32.0


@dataclass(frozen=True, slots=True)
class Label:
    """A figure that only the product's label can say.

    Parameters
    ----------
    key, name, unit : str
        Its code, what it is called, and what it is measured in.
    ask : str
        The question that is asked for it.
    least, most : float
        What an answer must lie between.
    first : bool
        Whether nothing is begun before it is known.
    greatest : bool
        Whether it is a time that is never to be passed.
    """

    key: str
    name: str
    unit: str
    ask: str
    least: float
    most: float
    first: bool = False
    greatest: bool = False

    def holds(self, value: float) -> bool:
        """Whether a label can say so."""
        return self.least <= value <= self.most

    def seconds(self, value: float) -> float:
        """A time as it is typed, in seconds."""
        return value * _SECONDS_OF[self.unit]


def _label(key: str, data: dict[str, str]) -> Label:
    least, most = range_of(key, None)
    return Label(key=key, least=least, most=most, **data)  # type: ignore[arg-type]


LABELS: dict[str, Label] = {key: _label(key, data) for key, data in table(__package__, "chain.toml")["label"].items()}


# What the dial of an iron says, up to so many °C at its sole; it is coarse, and differs from iron to iron.
_DIAL = ((120.0, "one dot, synthetics"), (160.0, "two dots, wool"), (210.0, "three dots, cotton and linen"))


def dial_words(celsius: float) -> str:
    """How a heat is set on the dial of an iron, about."""
    return next((words for most, words in _DIAL if celsius <= most), "more than an iron gives")


def label_in(stock: StockClass, key: str) -> Label:
    """A figure that a label of one class of stock can say.

    Raises
    ------
    BadInput
        If no label says such a thing.
    """
    if key not in LABELS:
        raise BadInput(f"no label says “{key[:40]}”; known are {', '.join(LABELS)}", "label")
    least, most = range_of(key, stock)
    return replace(LABELS[key], least=least, most=most)


def believed(stock: StockClass, figures: Mapping[str, float]) -> dict[str, float]:
    """The figures that were read, without figures that no label can say."""
    return {key: value for key, value in figures.items() if key in LABELS and label_in(stock, key).holds(value)}


def check_figures(stock: StockClass, figures: Mapping[str, float | None]) -> None:
    """Refuse what no label of such a product can say; None says nothing.

    Raises
    ------
    BadInput
        Naming the figure, its range, and the other unit where that is what was typed.
    """
    for key, value in figures.items():
        label = label_in(stock, key)
        if value is not None and not label.holds(value):
            raise BadInput(_refusal(label, value), key)


def _refusal(label: Label, value: float) -> str:
    if label.unit != HEAT_UNIT:
        what = f"{label.least:g} and {label.most:g} {label.unit}".rstrip()
        return f"{label.name} is between {what}, and {value:g} is not; read the label again"
    said = f"{_both(value)} is no {label.name} for this: it is between {_both(label.least)} and {_both(label.most)}"
    other = _celsius(value), _fahrenheit(value)
    if label.holds(other[0]):
        return f"{said}. If your label says {value:.0f} °F, that is {other[0]:.0f} °C; type it with its unit"
    if label.holds(other[1]):
        return f"{said}. If your label says {other[1]:.0f} °C, type it as {other[1]:.0f} C, with its unit"
    return f"{said}; read the label again"


def _both(celsius: float) -> str:
    return f"{celsius:.0f} °C ({_fahrenheit(celsius):.0f} °F)"


def _fahrenheit(celsius: float) -> float:
    return celsius * _FAHRENHEIT + _FREEZES


def _celsius(fahrenheit: float) -> float:
    return (fahrenheit - _FREEZES) / _FAHRENHEIT
