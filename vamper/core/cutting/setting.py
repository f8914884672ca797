"""Blade, force, passes, speed and mat for one stock and one kind of cut, each with its reason in a sentence.

The force is the one with the best outlook on everything that is believed, with a look before the sheet is unloaded
(`outlook`): gently first, and over it once more where it is not through. A worn blade takes more force by
itself. Two gentle passes beat one hard one where the stock is soft or fibrous and the detail is small. One tight bend
sets neither blade nor speed for a whole sheet: the blade goes by the designs' usual detail, the speed by each loop.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np

from vamper.core.cutting.belief import HardnessBelief, posterior, prior
from vamper.core.cutting.cut_history import NOTHING_KNOWN, CutHistory
from vamper.core.cutting.depth import Bands, bands_of, depth_um, force_for
from vamper.core.cutting.known_outcomes import KnownOutcome, is_allowed, that_worked
from vamper.core.cutting.ladder import COMFORTABLE_SHARE, ForceProposal, best_at, best_of, proposal_at, settable
from vamper.core.cutting.machine_settings import NamedProposal, propose_setting
from vamper.core.edge.bends import EASY_RADIUS_MM
from vamper.core.values.blade import Blade
from vamper.core.values.chances import good_in
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed, Route
from vamper.core.values.lengths import figure, mm
from vamper.core.values.stock import Stock, Tack
from vamper.core.values.tried import MOST_PASSES, Outcome

STEEP_THICKNESS_UM = 350.0
STEEP_RADIUS_MM = EASY_RADIUS_MM
SMALL_RADIUS_MM = 1.5
THROUGH_EXPOSURE_UM = 100.0
# Forces nearer than this are the same.
_SAME_GF = 1e-6
# What each blade goes round cleanly, mm.
LEAST_RADIUS_MM = {Blade.GENERAL: STEEP_RADIUS_MM, Blade.STEEP: 0.35}


@dataclass(frozen=True, slots=True)
class EdgeDetail:
    """How fine the edges are: `radius_mm` is the tightest bend of the usual design, `easiest_mm` that of the loop that
    can be run fastest; sharp corners do not count. `thin` says that necks come near the stock's limit.
    """

    radius_mm: float = math.inf
    easiest_mm: float = math.inf
    thin: bool = False

    @property
    def is_small(self) -> bool:
        return self.radius_mm < SMALL_RADIUS_MM or self.thin


@dataclass(frozen=True)
class CutSetting:
    """The settings of the machine for a cut of a stock.

    Parameters
    ----------
    cut, blade, force_gf, passes, speed_mm_s, mat, exposure_mm : Cut, Blade, float, int, float, Tack, float
        What is set: the force in gf, and how far the tip looks out of its holder.
    bands, reached_um : Bands, float
        The depths that are too shallow, right and too deep, and the depth that the model expects, µm.
    why : tuple of str
        The reasons, a sentence each.
    least_passes, needed_gf : int, float
        The passes that detail and force ask for; the force that reaches the target in the most passes there are.
    is_too_hard : bool
        Even that force is more than the machine can be relied on for.
    outlook, belief : ForceProposal, HardnessBelief
        What comes of it, and the belief it was taken from.
    seen, was_clean : bool
        Whether anything was tried, and whether this cut was told clean with anything this machine can be set to.
    cutter, told : Cutter, tuple of KnownOutcome
        The machine, and what was told of this cut outright.
    spoken : NamedProposal
        The same in the words of the machine's own settings.
    instead : str
        What would be proposed now, where a run is made again exactly.
    """

    cut: Cut
    blade: Blade
    force_gf: float
    passes: int
    speed_mm_s: float
    mat: Tack
    exposure_mm: float
    bands: Bands
    reached_um: float
    why: tuple[str, ...]
    least_passes: int
    needed_gf: float
    outlook: ForceProposal
    seen: bool
    is_too_hard: bool
    belief: HardnessBelief = field(repr=False)
    cutter: Cutter = field(repr=False)
    spoken: NamedProposal
    told: tuple[KnownOutcome, ...] = field(repr=False)
    instead: str = ""
    was_clean: bool = False

    def needed_in(self, passes: int) -> float:
        """The force (gf) that reaches the target in so many passes, on what is believed."""
        return _needed_gf(self.belief, passes)

    def proposed_in(self, passes: int) -> ForceProposal:
        """The proposal for so many passes, by the same rules."""
        return in_passes(self.belief, self.cutter, passes, self.told)

    @property
    def chance(self) -> float:
        """That of a clean cut at the first go with the force."""
        return self.outlook.chance

    @property
    def usable(self) -> float:
        """The chance of a usable sheet with a look before it is unloaded, with what this machine can be told."""
        return self.spoken.usable if self.spoken.speaks else self.outlook.usable

    @property
    def at_first(self) -> float:
        """The chance of a usable sheet at the first go, with what this machine can be told."""
        return self.spoken.at_first if self.spoken.speaks else self.outlook.at_first


def propose(
    stock: Stock, cut: Cut, cutter: Cutter, detail: EdgeDetail = EdgeDetail(), known: CutHistory = NOTHING_KNOWN
) -> CutSetting:
    """The setting for cutting `stock` on `cutter`."""
    bands = bands_of(stock, cut)
    blade, why_blade = _blade(stock, cut, detail.radius_mm, known)
    belief = _believed(stock, cut, blade, known)
    least, why_passes = _passes(belief, cutter, detail)
    told, spoken, best = _reckoned(stock, cut, blade, cutter, least, known)
    force, passes = best.force_gf, best.passes
    if known.passes is None and passes != least:
        why_passes = f"{_passes_words(passes)}, by what was told of them"
    if known.passes and passes != least:
        why_passes = f"{passes} pass{'es' if passes > 1 else ''}, as you chose; {least} would be proposed"
    instead = ""
    if (then := known.set_then(cut, cutter)) is not None:
        instead = f"{force:g} gf × {passes}"
        why_passes = f"set as in the run that is made again; {instead} would be proposed now"
        best = proposal_at(belief, then.force_gf, then.passes)
        force, passes = best.force_gf, best.passes
    middle = float(belief.quantile(0.5))
    needed = _needed_gf(belief, MOST_PASSES)
    reached = depth_um(force, passes, stock, blade, belief.sharpness) * stock.hardness_gf_per_um / middle
    speed, why_speed = _speed(stock, cutter, detail.easiest_mm)
    what = "face and a little of the backing" if len(bands.outcomes) > 2 else "the whole sheet and a little more"
    each = f" in each of {passes} passes" if passes > 1 else ""
    worn_words = f"; the blade is down to {belief.sharpness * 100:.0f} %" if belief.sharpness < 0.95 else ""
    by_force = (
        f"{force:g} gf{each} goes {figure(reached, 'µm', 0)} deep; "
        f"aimed at {figure(bands.target_um, 'µm', 0)}, {what}{worn_words}",
        why_passes,
        why_speed,
    )
    why = (
        why_blade,
        *((_why_named(spoken),) if cutter.has_own_program else by_force),
        *((f"a mat of {stock.tack} tack suits {stock.name}",) if cutter.feed is Feed.MAT else ()),
    )
    exposure = round(_exposure_um(stock, cut) / 1000, 2)
    return CutSetting(
        cut=cut,
        blade=blade,
        force_gf=force,
        passes=passes,
        speed_mm_s=speed,
        mat=stock.tack,
        exposure_mm=exposure,
        bands=bands,
        reached_um=reached,
        why=why,
        least_passes=least,
        needed_gf=needed,
        outlook=best,
        seen=known.has_seen,
        is_too_hard=needed > COMFORTABLE_SHARE * cutter.force_gf.max,
        belief=belief,
        cutter=cutter,
        spoken=spoken,
        told=told,
        instead=instead,
        was_clean=any(
            one.outcome is Outcome.CLEAN and one.cut in (None, cut) and one.force_gf <= cutter.force_gf.max
            for one in (*known.tries, *known.runs)
        )
        or spoken.worked,
    )


def _why_named(spoken: NamedProposal) -> str:
    """Why one of the machine's own settings is taken."""
    if spoken.choice is None:
        return spoken.look_for
    before = "it was clean on this stock before" if spoken.worked else good_in(spoken.usable)
    return f"{spoken.choice.words}: {before}"


# Asked anew with every change of an edge, which mostly leaves both as they are, and for every stock by whoever chooses
# one: as many as there are stocks for a few machines.
_KEPT = 256


@lru_cache(_KEPT)
def _reckoned(
    stock: Stock, cut: Cut, blade: Blade, cutter: Cutter, least: int, known: CutHistory
) -> tuple[tuple[KnownOutcome, ...], NamedProposal, ForceProposal]:
    """The outcomes told outright, the choice in the machine's own words, and the best force in `least` passes."""
    belief = _believed(stock, cut, blade, known)
    told = known.outright(cut, blade, belief.sharpness)
    spoken = spoken_setting(cutter, belief, known.passes or least, known.passes is not None)
    best = in_passes(belief, cutter, known.passes or spoken.passes or least, told)
    if known.passes is None and not spoken.speaks:
        best = _in_other_passes(belief, cutter, best, told)
    return told, spoken, best


@lru_cache(_KEPT)
def _believed(stock: Stock, cut: Cut, blade: Blade, known: CutHistory) -> HardnessBelief:
    """The posterior of a stock with a blade as worn as the blade in the machine, where it is of that angle."""
    worn = known.blade.metres if known.blade is not None and known.blade.angle is blade else 0.0
    first = prior(stock, cut, blade, worn)
    return posterior(first, known.tries, known.runs) if known.has_seen else first


def spoken_setting(
    cutter: Cutter, belief: HardnessBelief, passes: int, only_these: bool, with_next: bool = False
) -> NamedProposal:
    """The setting to choose in a machine's own words; empty for a machine that takes a force and has no settings."""
    if not cutter.settings and cutter.route is not Route.PROGRAM:
        return NamedProposal()
    return propose_setting(cutter.settings, belief, cutter.force_gf, passes, only_these, with_next)


def most_passes(stock: Stock, cutter: Cutter, known: CutHistory = NOTHING_KNOWN) -> int:
    """The most passes that any cut of a stock takes, before it is known how fine its edges are."""
    if known.passes:
        return known.passes
    proposals = (
        propose(stock, cut, cutter, known=known).passes for cut in Cut if stock.has_backing or cut is Cut.THROUGH
    )
    return max(*proposals, *(one.passes for one in known.then), 1)


def in_passes(belief: HardnessBelief, cutter: Cutter, passes: int, told: Sequence[KnownOutcome] = ()) -> ForceProposal:
    """The force for so many passes with the best outlook of the forces that were not told to be too much or too little;
    between the forces that were clean, where any were.
    """
    # More than the machine can be relied on for is only taken where it takes that even in the most passes.
    most = COMFORTABLE_SHARE * cutter.force_gf.max
    most = max(most, min(_needed_gf(belief, passes), cutter.force_gf.max))
    worked = [one.level for one in that_worked(told) if one.passes == passes]
    forces = settable(cutter.force_gf)
    if worked:
        between = forces[(forces >= min(worked) - _SAME_GF) & (forces <= max(worked) + _SAME_GF)]
        return best_of(belief, between if len(between) else np.array(sorted(worked)), passes)
    open_to = forces[[one <= most and is_allowed(one, passes, told) for one in forces.tolist()]]
    return best_of(belief, open_to, passes) if len(open_to) else best_at(belief, cutter.force_gf, passes, most)


def _in_other_passes(
    belief: HardnessBelief, cutter: Cutter, best: ForceProposal, told: Sequence[KnownOutcome]
) -> ForceProposal:
    """What was clean in other passes than are reckoned, where nothing was in these; or more, where none of these may be
    taken.
    """
    worked = {one.passes for one in that_worked(told)}
    if best.passes in worked:
        return best
    if worked:
        others = (in_passes(belief, cutter, passes, told) for passes in sorted(worked))
        return max(others, key=lambda one: one.worth)
    every = [best, *(in_passes(belief, cutter, n, told) for n in range(best.passes + 1, MOST_PASSES + 1) if told)]
    return next((one for one in every if is_allowed(one.force_gf, one.passes, told)), best)


def _exposure_um(stock: Stock, cut: Cut) -> float:
    """How far the tip looks out of its holder: into the backing and no farther, or well through the sheet."""
    return stock.face_um + stock.backing_um / 2 if cut is Cut.KISS else stock.thickness_um + THROUGH_EXPOSURE_UM


def _passes_words(passes: int) -> str:
    return "one pass" if passes == 1 else f"{passes} passes"


def _blade(stock: Stock, cut: Cut, radius: float, known: CutHistory) -> tuple[Blade, str]:
    """The angle of the blade in the machine, which cuts the stocks of most makers; a steep blade where it is worth it
    and at hand.
    """
    inside = Blade.GENERAL if known.blade is None else known.blade.angle
    thickness = figure(stock.thickness_um, "µm", 0)
    if stock.soft_backing and cut is Cut.KISS:
        return Blade.GENERAL, f"the 45° blade: a steep one would go through the soft backing of {stock.name}"
    if inside is Blade.STEEP:
        return Blade.STEEP, "the 60° blade, which is in the machine"
    if cut is Cut.THROUGH and stock.thickness_um > STEEP_THICKNESS_UM and known.takes_steep:
        return Blade.STEEP, f"the 60° blade, since {thickness} are to be cut through"
    if radius < STEEP_RADIUS_MM and known.takes_steep:
        return Blade.STEEP, f"the 60° blade, since the tightest bend has a radius of {mm(radius, 1)}"
    return Blade.GENERAL, f"the 45° blade: the usual one, for {thickness} of stock"


def _passes(belief: HardnessBelief, cutter: Cutter, detail: EdgeDetail) -> tuple[int, str]:
    """The fewest passes with a force within 90 % of the machine's; two gentle ones for small detail in soft stock."""
    stock, comfortable = belief.stock, COMFORTABLE_SHARE * cutter.force_gf.max
    needed = next((n for n in range(1, MOST_PASSES + 1) if _needed_gf(belief, n) <= comfortable), None)
    if needed is None:
        return (
            MOST_PASSES,
            f"even {MOST_PASSES} passes take more than 90 % of this machine’s force: go gently, and look",
        )
    if needed > 1:
        return (
            needed,
            f"{needed} passes, so that the force stays under {comfortable:.0f} gf, 90 % of the machine's",
        )
    if stock.soft_or_fibrous and detail.is_small:
        small = f"the detail small ({mm(detail.radius_mm, 1)})" if detail.radius_mm < SMALL_RADIUS_MM else "necks thin"
        return 2, f"two gentle passes: {stock.name} is soft or fibrous and {small}"
    return 1, "one pass is enough"


def _needed_gf(belief: HardnessBelief, passes: int) -> float:
    """The force that reaches the target depth in so many passes, on the hardness that is believed."""
    harder = float(belief.quantile(0.5)) / belief.stock.hardness_gf_per_um
    return harder * force_for(belief.bands.target_um, passes, belief.stock, belief.blade, belief.sharpness)


def loop_speed_mm_s(stock: Stock, cutter: Cutter, radius_mm: float) -> float:
    """The speed of one loop by its tightest bend: √(a · r), down to the next five as machines are set, no more than the
    stock takes cleanly.
    """
    if not math.isfinite(radius_mm):
        return stock.speed_mm_s
    round_bend = math.sqrt(cutter.acceleration_mm_s2 * radius_mm)
    return stock.speed_mm_s if round_bend >= stock.speed_mm_s else max(5.0, math.floor(round_bend / 5) * 5.0)


def _speed(stock: Stock, cutter: Cutter, easiest_mm: float) -> tuple[float, str]:
    speed = loop_speed_mm_s(stock, cutter, easiest_mm)
    if speed < stock.speed_mm_s:
        return (
            speed,
            f"{figure(speed, 'mm/s')} at most, so that the blade stays on the line round a bend of {mm(easiest_mm, 1)}",
        )
    return speed, f"{figure(speed, 'mm/s')}, the most that {stock.name} takes cleanly; tight loops go slower"


def settings_for(
    stock: Stock, cutter: Cutter, detail: EdgeDetail = EdgeDetail(), known: CutHistory = NOTHING_KNOWN
) -> dict[Cut, CutSetting]:
    """Settings for every cut that the stock allows."""
    return {cut: propose(stock, cut, cutter, detail, known) for cut in Cut if stock.has_backing or cut is Cut.THROUGH}
