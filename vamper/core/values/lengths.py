"""Lengths in sentences. A sentence is a template with its figures; what writes it down for somebody knows their unit.

A figure stands in the sentence between signs that no keyboard has, as it reads in millimetres and, behind an equals
sign, what it is exactly: "a border of ⟨3 mm=3⟩". `in_unit` turns all of them at once into the maker's unit: inches are
fractions where a ruler has such a line, and decimals elsewhere. Sentences are kept and cached as templates, and written
where they leave: answers over HTTP, plan files, the command line.
"""

import re
from dataclasses import dataclass
from enum import StrEnum

from vamper.core.values.units import MM_PER_INCH

_OPEN, _CLOSE, _EXACT = "⟨", "⟩", "="
_NUMBER = r"-?\d+(?:\.\d+)?(?:e[-+]?\d+)?"
_FIGURE = re.compile(rf"{_OPEN}([^{_OPEN}{_CLOSE}{_EXACT}]*){_EXACT}((?:{_NUMBER},?)+){_CLOSE}")
_SHOWN = re.compile(_NUMBER)
# A ruler's finest lines, under an inch and over it, and how near to one of them (in them) a length is called by it.
_FINEST_LINES, _LINES = 32, 16
_NEAR = 0.02
_FIGURES_UNDER_ONE = 3
_FIGURES = 2


class Unit(StrEnum):
    """The unit that the maker measures in."""

    MM = "mm"
    INCH = "in"


@dataclass(frozen=True, slots=True)
class _Imperial:
    """The imperial unit of a metric unit: `value` = metric · `factor` + `offset`."""

    name: str
    factor: float
    offset: float = 0.0
    fractions: bool = False


_IMPERIAL = {
    "mm²": _Imperial("in²", MM_PER_INCH**-2),
    "cm²": _Imperial("in²", (MM_PER_INCH / 10) ** -2),
    "mm/s": _Imperial("in/s", 1 / MM_PER_INCH),
    "µm": _Imperial("mil", 1 / 25.4),
    "kg": _Imperial("lb", 1 / 0.45359237),
    "°C": _Imperial("°F", 1.8, 32.0),
    "cm": _Imperial("in", 10 / MM_PER_INCH),
    "m": _Imperial("ft", 1 / 0.3048),
    "mm": _Imperial("in", 1 / MM_PER_INCH, fractions=True),
}
# A figure that shares its unit with the one before it.
_SHARED = _Imperial("", 1 / MM_PER_INCH, fractions=True)


def _figure(shown: str, *exact: float) -> str:
    return f"{_OPEN}{shown}{_EXACT}{','.join(f'{value:.6g}' for value in exact)}{_CLOSE}"


def _number(value: float, digits: int | None) -> str:
    return f"{value:g}" if digits is None else f"{value:.{digits}f}"


def mm(value: float, digits: int | None = None) -> str:
    """A length; `digits` behind the point in millimetres, as many as it has where None."""
    return _figure(f"{_number(value, digits)} mm", value)


def bare_mm(value: float, digits: int | None = None) -> str:
    """A length without its unit, after a length that has it."""
    return _figure(_number(value, digits), value)


def size_mm(width: float, height: float, digits: int | None = None) -> str:
    """A width and a height."""
    return _figure(f"{_number(width, digits)} × {_number(height, digits)} mm", width, height)


def span_mm(low: float, high: float, digits: int | None = None) -> str:
    """From one length to another."""
    return _figure(f"{_number(low, digits)} to {_number(high, digits)} mm", low, high)


def figure(value: float, unit: str, digits: int | None = None) -> str:
    """Another measure that makers have two units for: mm², cm², cm, m, mm/s, µm, kg, °C."""
    return _figure(f"{_number(value, digits)} {unit}", value)


def in_unit(sentence: str, unit: Unit = Unit.MM) -> str:
    """A sentence, or any text that holds some, with its figures in the maker's unit."""
    if _OPEN not in sentence:
        return sentence
    return _FIGURE.sub(lambda found: _written(found[1], found[2], unit), sentence)


def _written(shown: str, exact: str, unit: Unit) -> str:
    if unit is Unit.MM:
        return shown
    metric = next((name for name in _IMPERIAL if shown.endswith(f" {name}")), "")
    other = _IMPERIAL.get(metric, _SHARED)
    values = [float(value) * other.factor + other.offset for value in exact.split(",")]
    words = iter(_inches(values) if other.fractions else [_decimal(value) for value in values])
    return _SHOWN.sub(lambda _: next(words), shown.removesuffix(metric), count=len(values)) + other.name


def _inches(values: list[float]) -> list[str]:
    lines = [(value * below, below) for value in values for below in (_FINEST_LINES if abs(value) < 1 else _LINES,)]
    if all(abs(line - round(line)) <= _NEAR and round(line) for line, _ in lines):
        return [_fraction(round(line), below) for line, below in lines]
    return [_decimal(value) for value in values]


def _fraction(lines: int, below: int) -> str:
    """So many parts of an inch, in lowest terms: 8 1/2."""
    sign, (whole, part) = "-" if lines < 0 else "", divmod(abs(lines), below)
    while part and part % 2 == 0:
        part, below = part // 2, below // 2
    words = [str(whole)] if whole or not part else []
    return sign + " ".join([*words, f"{part}/{below}"] if part else words)


def _decimal(value: float) -> str:
    digits = _FIGURES_UNDER_ONE if abs(value) < 1 else _FIGURES
    return f"{value:.{digits}f}".rstrip("0").rstrip(".") or "0"
