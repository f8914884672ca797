"""The practice bench: a simulated printer and cutter with errors of their own, to find by the usual means.

Each pair is drawn from the seed in its profile, so that no two workshops practise on the same machines: the printer's
true scale, where cuts land, how well marks are read, and for each stock how hard it is here. The figures are of the
size that makers meet: most of a millimetre, a fifth of a degree, some tenths of a percent, a quarter in hardness.
"""

import zlib
from dataclasses import replace

import numpy as np

from vamper.core.twin.devices import TwinCutter, TwinPrinter, TwinSensor
from vamper.core.values.calibration import AffineMap
from vamper.core.values.paper import Paper
from vamper.core.values.printer import PrintScale

_SCALE, _OFF_MM, _TURN_DEG, _STRETCH = 0.009, 0.9, 0.25, 0.003
_READ_MM, _SLIP_MM = (0.05, 0.09), (0.04, 0.08)
_LN_HARDNESS = 0.22


def practice_printer(printer: TwinPrinter, seed: int) -> TwinPrinter:
    """The printer with its true scale; never too true to be worth a proof."""
    random = np.random.default_rng((seed, 1))
    x, y = 1 + random.choice([-1, 1], 2) * random.uniform(0.55, 1.0, 2) * _SCALE
    return replace(printer, scale=PrintScale(float(x), float(y)))


def practice_cutter(cutter: TwinCutter, seed: int, stock: str, paper: Paper) -> TwinCutter:
    """The cutter as it really cuts on a stock (its key)."""
    random = np.random.default_rng((seed, 2))
    slip = float(random.uniform(*_SLIP_MM))
    hard = np.random.default_rng((seed, 3, zlib.crc32(stock.encode()))).normal(0, _LN_HARDNESS)
    hardness = (float(np.exp(np.clip(hard, -0.5, 0.5))),)
    return replace(
        cutter,
        map=hidden_map(seed, paper),
        slip_mm=slip,
        along_mm=0.0,
        far_share=0.0,
        blend=(1.0, 1.0),
        hardness=hardness,
    )


def practice_sensor(sensor: TwinSensor, seed: int) -> TwinSensor:
    random = np.random.default_rng((seed, 4))
    return replace(sensor, read_mm=float(random.uniform(*_READ_MM)))


def hidden_map(seed: int, paper: Paper) -> AffineMap:
    """Where cuts land, turned and stretched about the sheet's middle."""
    random = np.random.default_rng((seed, 5))
    off = random.choice([-1, 1], 2) * random.uniform(0.35, 1.0, 2) * _OFF_MM
    turn = np.radians(random.uniform(-1, 1) * _TURN_DEG)
    stretch = 1 + random.uniform(-1, 1, 2) * _STRETCH
    linear = np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]]) @ np.diag(stretch)
    middle = np.array([paper.width_mm, paper.height_mm]) / 2
    (a, b), (d, e) = linear.tolist()
    c, f = (middle - linear @ middle + off).tolist()
    return (a, b, c), (d, e, f)
