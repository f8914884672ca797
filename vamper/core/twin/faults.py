"""Faults on purpose: each changes a figure of one device, and what happens follows from the models.

The table says what a fault changes; `faults.toml` says it in words.
"""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace

from vamper.core.twin.devices import Devices, TwinCutter, TwinPrinter, TwinSensor
from vamper.core.values.calibration import AffineMap
from vamper.core.values.printer import PrintScale
from vamper.core.values.reading import Black, SensorWord
from vamper.core.values.tables import table
from vamper.core.values.twin import Device, FaultKey

_FIT, _STRETCH, _ASKEW_DEG = 0.94, 1.012, 0.8
_WORK_LIGHT = 2.5
_OFF_MM, _TOO_FAR = (0.75, -0.35), 1.007
_HARDER = 2.0
# What a program’s bleed usually carries.
_BLEEDS_MM = 1.5


@dataclass(frozen=True, slots=True)
class FaultWords:
    device: Device
    name: str
    words: str


FAULTS: dict[FaultKey, FaultWords] = {
    FaultKey(key): FaultWords(Device(data["device"]), data["name"], data["words"])
    for key, data in table(__package__, "faults.toml")["faults"].items()
}


def _printer(change: Callable[[TwinPrinter], TwinPrinter]) -> Callable[[Devices], Devices]:
    return lambda devices: replace(devices, printer=change(devices.printer))


def _sensor(change: Callable[[TwinSensor], TwinSensor]) -> Callable[[Devices], Devices]:
    return lambda devices: replace(devices, sensor=change(devices.sensor))


def _cutter(change: Callable[[TwinCutter], TwinCutter]) -> Callable[[Devices], Devices]:
    return lambda devices: replace(devices, cutter=change(devices.cutter))


def _moved(found: AffineMap, across: float, down: float) -> AffineMap:
    (a, b, c), (d, e, f) = found
    return (a, b, c + across), (d, e, f + down)


def _rolled(found: AffineMap) -> AffineMap:
    """All lengths along the feed by a factor, from the sheet's beginning."""
    first, (d, e, f) = found
    return first, (d * _TOO_FAR, e * _TOO_FAR, f * _TOO_FAR)


def _times(factors: tuple[float, ...], by: float) -> tuple[float, ...]:
    return tuple(one * by for one in factors)


_CHANGES: Mapping[FaultKey, Callable[[Devices], Devices]] = {
    FaultKey.LOST_PICTURE: _printer(lambda one: replace(one, lost=1)),
    FaultKey.WRONG_SIDE: _printer(lambda one: replace(one, density=0.55)),
    FaultKey.LINES: _printer(lambda one: replace(one, lines_mm=6.0)),
    FaultKey.PAGE_SIZE_RESET: _printer(lambda one: replace(one, fit=_FIT)),
    FaultKey.STRETCHED_PRINT: _printer(lambda one: replace(one, scale=PrintScale(one.scale.x, one.scale.y * _STRETCH))),
    FaultKey.CROOKED_FEED: _printer(lambda one: replace(one, askew_deg=_ASKEW_DEG)),
    FaultKey.BLEED_LEFT_ON: _printer(lambda one: replace(one, bleeds_mm=_BLEEDS_MM)),
    FaultKey.LOW_BLACK: _printer(lambda one: replace(one, black=Black.LOW)),
    FaultKey.BRIGHT_LIGHT: _sensor(lambda one: replace(one, room=_WORK_LIGHT)),
    FaultKey.COVERED_MARK: _sensor(lambda one: replace(one, covered=1)),
    FaultKey.WEAK_LAMP: _sensor(lambda one: replace(one, sensor=SensorWord.WEAK)),
    FaultKey.NOT_CALIBRATED: _cutter(lambda one: replace(one, map=_moved(one.map, *_OFF_MM))),
    FaultKey.FAR_END: _cutter(lambda one: replace(one, map=_rolled(one.map))),
    FaultKey.BLADE_OFFSET: _cutter(lambda one: replace(one, drag_mm=0.6)),
    FaultKey.SLIPPING_STOCK: _cutter(lambda one: replace(one, drift_mm=4.0)),
    FaultKey.CABLE_BEHIND: _cutter(lambda one: replace(one, blocked_share=0.03)),
    FaultKey.TIRED_MAT: _cutter(lambda one: replace(one, hold=0.3)),
    FaultKey.LINT: _cutter(lambda one: replace(one, lint=2)),
    FaultKey.DULL_BLADE: _cutter(lambda one: replace(one, sharpness=one.sharpness * 0.5)),
    FaultKey.TUFT: _cutter(lambda one: replace(one, tuft=0.2)),
    FaultKey.HARDER_STOCK: _cutter(lambda one: replace(one, hardness=_times(one.hardness, _HARDER))),
    FaultKey.SOFTER_STOCK: _cutter(lambda one: replace(one, hardness=_times(one.hardness, 1 / _HARDER))),
    FaultKey.UNLOADED_BETWEEN: _cutter(lambda one: replace(one, reload_mm=1.2)),
    FaultKey.EJECTED_EARLY: _cutter(lambda one: replace(one, done_share=0.75)),
    FaultKey.ROLLER_CREASE: _cutter(lambda one: replace(one, crease=True)),
}


def with_faults(devices: Devices, faults: Iterable[FaultKey]) -> Devices:
    """Devices with some faults switched on."""
    for one in faults:
        devices = _CHANGES[one](devices)
    return devices
