"""Blade, force, passes, speed and mat for one stock and one kind of cut, each with its reason in a sentence.

The model: one pass at force F reaches depth z = F · sharp / (hardness · b), b = 1.00 for the 45° blade and 0.85 for the
60° one; pass n adds z · 0.6^(n−1). The target depth is the face and a little of the backing (kiss), or all of it and a
little of the mat (through). Two gentle passes beat one hard one where the stock is soft or fibrous and the detail is
small. Speed is the lower of what the stock takes and √(a · smallest radius).
"""

import math
from dataclasses import dataclass
from enum import StrEnum

from vamper.core.values.cutter import Cutter
from vamper.core.values.item import Cut
from vamper.core.values.lengths import figure, mm
from vamper.core.values.stock import Stock, StockClass, Tack

PASS_FADE = 0.6
MOST_PASSES = 6
COMFORTABLE_SHARE = 0.9
STEEP_THICKNESS_UM = 250.0
STEEP_RADIUS_MM = 0.7
SMALL_RADIUS_MM = 1.5
THROUGH_EXPOSURE_UM = 100.0


class Blade(StrEnum):
    """By the angle of its cutting edge to the stock, degrees."""

    GENERAL = "45"
    STEEP = "60"


_EFFORT = {Blade.GENERAL: 1.0, Blade.STEEP: 0.85}


@dataclass(frozen=True, slots=True)
class DepthBand:
    """Depths that count as a clean cut, µm, and the depth aimed at."""

    least_um: float
    target_um: float
    most_um: float


@dataclass(frozen=True, slots=True)
class CutSetting:
    """What to set on the machine. `reached_um` is the depth the model expects of it."""

    cut: Cut
    blade: Blade
    force_gf: float
    passes: int
    speed_mm_s: float
    mat: Tack
    exposure_mm: float
    band: DepthBand
    reached_um: float
    why: tuple[str, ...]


def depth_band(stock: Stock, cut: Cut) -> DepthBand:
    """How deep the blade should go. Kiss: clean from the face to face + 0.3 backing; through: everything and more."""
    face, backing = stock.face_um, stock.backing_um
    if cut is Cut.KISS:
        return DepthBand(face, face + 0.15 * backing, face + 0.3 * backing)
    whole = face + backing
    return DepthBand(whole, 1.15 * whole, 1.4 * whole)


def depth_um(force_gf: float, passes: int, stock: Stock, blade: Blade, sharpness: float = 1.0) -> float:
    """Depth after `passes` at `force_gf`: z · (1 − 0.6^n) / 0.4."""
    first = force_gf * sharpness / (stock.hardness_gf_per_um * _EFFORT[blade])
    return first * (1 - PASS_FADE**passes) / (1 - PASS_FADE)


def force_for(depth: float, passes: int, stock: Stock, blade: Blade, sharpness: float = 1.0) -> float:
    """The force (gf) that reaches `depth` (µm) in `passes`; the inverse of `depth_um`."""
    return depth / depth_um(1.0, passes, stock, blade, sharpness)


def propose(stock: Stock, cut: Cut, cutter: Cutter, least_radius_mm: float) -> CutSetting:
    """The starter setting for cutting `stock` on `cutter`.

    Parameters
    ----------
    least_radius_mm : float
        The smallest radius of the edges to be cut (mm); sharp corners do not count.
    """
    band = depth_band(stock, cut)
    blade, why_blade = _blade(stock, cut, least_radius_mm)
    passes, why_passes = _passes(stock, cutter, blade, band, least_radius_mm)
    wanted = force_for(band.target_um, passes, stock, blade)
    force = cutter.force_gf.settle(wanted)
    reached = depth_um(force, passes, stock, blade)
    speed, why_speed = _speed(stock, cutter, least_radius_mm)
    what = "face and a little of the backing" if cut is Cut.KISS else "the whole sheet and a little more"
    why = (
        why_blade,
        f"{force:g} gf{f' in each of {passes} passes' if passes > 1 else ''} goes {figure(reached, 'µm', 0)} deep; "
        f"aimed at {figure(band.target_um, 'µm', 0)}, {what}",
        why_passes,
        why_speed,
        f"a mat of {stock.tack} tack suits {stock.name}",
    )
    exposure = round(_exposure_um(stock, cut) / 1000, 2)
    return CutSetting(cut, blade, force, passes, speed, stock.tack, exposure, band, reached, why)


def _exposure_um(stock: Stock, cut: Cut) -> float:
    """How far the tip looks out of its holder: into the backing and no farther, or well through the sheet."""
    return stock.face_um + stock.backing_um / 2 if cut is Cut.KISS else stock.thickness_um + THROUGH_EXPOSURE_UM


def _blade(stock: Stock, cut: Cut, radius: float) -> tuple[Blade, str]:
    if stock.stock_class is StockClass.TRANSFER:
        return Blade.GENERAL, "the 45° blade: a steep one would go through the backing of soft transfer paper"
    if cut is Cut.THROUGH and stock.thickness_um > STEEP_THICKNESS_UM:
        return Blade.STEEP, f"the 60° blade, since {figure(stock.thickness_um, 'µm', 0)} are to be cut through"
    if radius < STEEP_RADIUS_MM:
        return Blade.STEEP, f"the 60° blade, since the tightest bend has a radius of {mm(radius, 1)}"
    return (
        Blade.GENERAL,
        f"the 45° blade: {figure(stock.thickness_um, 'µm', 0)} of stock and no bend tighter than {mm(STEEP_RADIUS_MM)}",
    )


def _passes(stock: Stock, cutter: Cutter, blade: Blade, band: DepthBand, radius: float) -> tuple[int, str]:
    comfortable = COMFORTABLE_SHARE * cutter.force_gf.max
    needed = next(
        (n for n in range(1, MOST_PASSES + 1) if force_for(band.target_um, n, stock, blade) <= comfortable),
        None,
    )
    if needed is None:
        return MOST_PASSES, f"even {MOST_PASSES} passes ask for more force than this machine has"
    if needed > 1:
        return (
            needed,
            f"{needed} passes, so that the force stays under {comfortable:.0f} gf, 90 % of the machine's",
        )
    if stock.soft_or_fibrous and radius < SMALL_RADIUS_MM:
        return 2, f"two gentle passes: {stock.name} is soft or fibrous and the detail small ({mm(radius, 1)})"
    return 1, "one pass is enough"


def _speed(stock: Stock, cutter: Cutter, radius: float) -> tuple[float, str]:
    round_bend = math.sqrt(cutter.acceleration_mm_s2 * radius) if math.isfinite(radius) else math.inf
    if round_bend < stock.speed_mm_s:
        # Down to the next five, as machines are set.
        speed = max(5.0, math.floor(round_bend / 5) * 5)
        return speed, f"{figure(speed, 'mm/s')}, so that the blade stays on the line round a bend of {mm(radius, 1)}"
    return stock.speed_mm_s, f"{figure(stock.speed_mm_s, 'mm/s')}, the most that {stock.name} takes cleanly"


def settings_for(stock: Stock, cutter: Cutter, least_radius_mm: float) -> dict[Cut, CutSetting]:
    """Settings for every cut that the stock allows."""
    return {cut: propose(stock, cut, cutter, least_radius_mm) for cut in Cut if stock.has_backing or cut is Cut.THROUGH}
