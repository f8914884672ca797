"""What can be said about cutting: more than the machine has, less than it can, a blade, a mat or a belief that will not
do, and detail too fine for the blade.
"""

import math
from collections.abc import Sequence

import shapely

from vamper.core.art.inspect import place_of, size_fix
from vamper.core.cutting.care import TAPE_AT, WASH_AT, held_of
from vamper.core.cutting.ladder import COMFORTABLE_SHARE
from vamper.core.cutting.outlook import SURE_AT
from vamper.core.cutting.setting import LEAST_RADIUS_MM, CutSetting
from vamper.core.cutting.tabs import MOST_TABBED, tabs_that_fit
from vamper.core.edge.bends import tight_places
from vamper.core.edge.edge import Edge
from vamper.core.sheet.layout import THROUGH_GAP_MM
from vamper.core.values.blade import WORN_AT, Blade, BladeIn
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import Finding, Fix, FixTarget, Severity
from vamper.core.values.geometry import ring_points
from vamper.core.values.item import ItemSpec
from vamper.core.values.lengths import figure, mm
from vamper.core.values.mat import MatIn
from vamper.core.values.stock import Stock
from vamper.core.values.tried import MOST_PASSES

_THROUGH = Fix("Cut it through", f"{mm(THROUGH_GAP_MM)} between pieces", FixTarget.ITEM, {"cut": Cut.THROUGH.value})
_MOST_PLACES = 12
_ROOM_MM = 0.6
# A design is not offered larger than by this to cure a tight bend.
_MOST_GROWTH = 2.0
# A narrower tab does not hold.
_LEAST_TAB_MM = 0.3
_BARE = "bare"
# Kinds whose tips are as round as their border is wide.
_ROUND_AT_TIPS = ("follow", "hull")
# What is measured of a bend comes out a little under what was asked for.
_ROOM_TENTHS = 0.5


def cut_findings(setting: CutSetting, stock: Stock, cutter: Cutter) -> list[Finding]:
    """A cut the machine cannot make, or only too deep, or not in the passes that were chosen. What was told to be clean
    is none of these.
    """
    if setting.spoken.speaks:
        # Its forces are only believed, and what a setting does is told, not reckoned.
        return []
    if setting.is_too_hard and not setting.was_clean:
        return [
            Finding(
                "cut.too-hard",
                Severity.STOP,
                "This machine cannot cut it",
                f"Even {MOST_PASSES} passes take {setting.needed_gf:.0f} gf each for {stock.name}, and this machine "
                f"has {cutter.force_gf.max:g} gf, of which nine tenths can be relied on. Take a thinner stock, "
                "a stronger machine, or cut it by hand.",
                {
                    "needed_gf": round(setting.needed_gf),
                    "most_gf": round(COMFORTABLE_SHARE * cutter.force_gf.max),
                },
            )
        ]
    if setting.reached_um > setting.bands.most_um and not setting.was_clean:
        return [_too_deep(setting, stock, cutter)]
    if setting.reached_um < setting.bands.least_um and setting.passes < setting.least_passes:
        return [
            Finding(
                "cut.too-few-passes",
                Severity.LOOK,
                f"{_in_passes(setting.passes)} will not get through",
                f"{setting.force_gf:g} gf {_in_passes(setting.passes, 'in ')} goes {_um(setting.reached_um)} deep into "
                f"{stock.name}; {_um(setting.bands.least_um)} are needed, and {setting.least_passes} passes go there.",
                {"reached_um": round(setting.reached_um), "least_um": round(setting.bands.least_um)},
                fixes=_other_passes(setting, setting.least_passes),
            )
        ]
    return []


def _too_deep(setting: CutSetting, stock: Stock, cutter: Cutter) -> Finding:
    least = cutter.force_gf.min
    fewer = [n for n in range(1, setting.passes) if setting.needed_in(n) >= least]
    figures = {"reached_um": round(setting.reached_um), "most_um": round(setting.bands.most_um)}
    deep = (
        f"{setting.force_gf:g} gf {_in_passes(setting.passes, 'in ')} goes {_um(setting.reached_um)} deep into "
        f"{stock.name}; {_um(setting.bands.most_um)} would still be clean."
    )
    if fewer:
        better = setting.least_passes if setting.least_passes in fewer else fewer[-1]
        title = f"{_in_passes(setting.passes)} are too many"
        return Finding("cut.too-deep", Severity.LOOK, title, deep, figures, fixes=_other_passes(setting, better))
    title = "The gentlest force is too much" if setting.force_gf <= least else "It goes too deep"
    return Finding("cut.too-deep", Severity.LOOK, title, deep, figures)


def _other_passes(setting: CutSetting, passes: int) -> tuple[Fix, ...]:
    # A run that is made again is set as it was, whatever passes the job asks for.
    if setting.instead:
        return ()
    words = f"about {setting.needed_in(passes):.0f} gf each"
    return (Fix(f"Take {_in_passes(passes).lower()}", words, FixTarget.JOB, {"passes": passes}),)


def _in_passes(count: int, before: str = "") -> str:
    words = "one pass" if count == 1 else f"{count} passes"
    return f"{before}{words}" if before else words.capitalize()


def _um(depth: float) -> str:
    return figure(depth, "µm", 0)


def other_finding(setting: CutSetting, stock: Stock) -> list[Finding]:
    """The finding on an outcome that does not fit the stock, the unit or the blade that it was told of."""
    if setting.belief.as_assumed:
        return []
    times = setting.belief.from_starter
    way, share = ("hard", times) if times > 1 else ("soft", 1 / times)
    return [
        Finding(
            "cut.not-as-assumed",
            Severity.LOOK,
            f"This does not cut like {stock.name}",
            f"What you noted fits a stock about {share:.0f} times as {way}. Usually the numbers of a machine’s own "
            "dial or list were typed as grams of force; or the stock is not the chosen one, or the "
            "blade’s tip is broken or stands at another depth. Look at these before the next sheet: what is proposed "
            "follows what you noted.",
            {"times_as_hard": round(times, 3)},
        )
    ]


def unsure_finding(setting: CutSetting, stock: Stock) -> list[Finding]:
    """A cut that is not likely enough to come out, even with a look before unloading, to risk the sheet on it."""
    if setting.usable >= SURE_AT:
        return []
    share, figures = round(setting.usable * 100), {"usable": round(setting.usable, 4)}
    figures["at_first"] = round(setting.at_first, 4)
    spoken = setting.spoken
    if not spoken.speaks:
        figures |= {"force_gf": setting.force_gf, "passes": setting.passes}
    return [
        Finding(
            "cut.unsure",
            Severity.LOOK,
            f"{_cut_words(setting)} comes out good in only {share} of 100: make a test cut first",
            f"{_why_unsure(setting, stock)} {_what_helps(setting)}",
            figures,
        )
    ]


def _cut_words(setting: CutSetting) -> str:
    if setting.cut is Cut.THROUGH:
        return "The cut through"
    return "The cut through the face" if setting.spoken.speaks else "The kiss cut"


def _why_unsure(setting: CutSetting, stock: Stock) -> str:
    spoken = setting.spoken
    if spoken.speaks and not spoken.placed:
        return f"Vamper does not know yet what your machine’s settings do to {stock.name}."
    if spoken.speaks and spoken.choice is None:
        return f"No setting in your list is left to try on {stock.name}."
    what = f"{setting.force_gf:g} gf" if spoken.choice is None else spoken.choice.words
    told = setting.seen or any(one.seen for one in spoken.placed)
    known = "What you have noted so far is not enough:" if told else "So far this is only a starter figure:"
    return f"{known} {what} on {stock.name} may not cut right, even if you look before you unload."


def _what_helps(setting: CutSetting) -> str:
    """The remedy that would raise the outlook most."""
    spoken = setting.spoken
    if not spoken.speaks:
        return "Cut six small drops in the waste of this sheet and say what each looks like: that finds the force."
    if not spoken.placed:
        return f"{spoken.look_for} Type the settings that might suit under Cut, and make one test cut on an offcut."
    if spoken.choice is None:
        return spoken.look_for
    return "Make one test cut on an offcut and note the result under Cut: nothing tells more."


def blade_findings(blade: BladeIn | None, stock: Stock, settings: Sequence[CutSetting]) -> list[Finding]:
    """The blade that is in the machine: too steep for a soft backing, or worn."""
    if blade is None:
        return []
    found = list[Finding]()
    kissed = any(setting.cut is Cut.KISS for setting in settings)
    if blade.angle is Blade.STEEP and stock.soft_backing and kissed:
        found.append(
            Finding(
                "cut.steep-blade",
                Severity.STOP,
                "The steep blade would cut the backing",
                f"The 60° blade is in the machine. On the soft backing of {stock.name} it goes through whatever the "
                "force: put the 45° blade in, with the machine off and fingers away from the tip.",
                {"angle_deg": 60},
            )
        )
    if blade.sharpness < WORN_AT:
        found.append(
            Finding(
                "cut.blade-worn",
                Severity.LOOK,
                "The blade is worn",
                f"It is down to {blade.sharpness * 100:.0f} % of its edge after {figure(blade.metres, 'm', 0)} "
                "(times abrasion). Change it before this sheet: a dull one tears, and asks for more and more force.",
                {"sharpness": round(blade.sharpness, 3), "metres": round(blade.metres, 1)},
            )
        )
    return found


def mat_findings(mat: MatIn | None) -> list[Finding]:
    """A mat that no longer holds."""
    if mat is None or held_of(mat) >= WASH_AT:
        return []
    held = held_of(mat)
    taped = " Tape the rim of the sheet until then, clear of the marks." if held < TAPE_AT and not mat.taped else ""
    return [
        Finding(
            "cut.mat-tired",
            Severity.LOOK,
            "The mat is tired",
            f"After {mat.loads} loads it holds {held * 100:.0f} % of what it did, and the sheet may slip: wash it with "
            f"mild soap and let it dry in air.{taped}",
            {"held": round(held, 3), "loads": mat.loads},
        )
    ]


def detail_findings(edge: Edge, item: ItemSpec, setting: CutSetting, stock: Stock, number: int) -> list[Finding]:
    """Bends that are too tight for the blade, with their places."""
    limit = LEAST_RADIUS_MM[setting.blade]
    if edge.smallest_radius_mm >= limit:
        return []
    rings = [ring for part in edge.shape.geoms for ring in (part.exterior, *part.interiors)]
    bends = [place for ring in rings for place in tight_places(ring_points(ring), limit)]
    if not bends:
        return []
    places = tuple(place_of(shapely.MultiPoint(bend).buffer(_ROOM_MM).bounds) for bend in bends[:_MOST_PLACES])
    least = edge.smallest_radius_mm
    one, gentler = len(bends) == 1, setting.passes > setting.least_passes
    fixes = []
    more = max(setting.passes, setting.least_passes) + 1
    if more <= MOST_PASSES and not gentler:
        fixes.append(Fix(f"Take {more} passes", "each gentler, so that less is torn", FixTarget.JOB, {"passes": more}))
    # On the outline itself bends are the drawing's; a border makes its own.
    rounder = _larger(item, least, limit) if item.edge.kind == _BARE else _rounder(item.edge, limit)
    if rounder is not None:
        fixes.append(rounder)
    return [
        Finding(
            "cut.small-detail",
            Severity.NOTE if gentler else Severity.LOOK,
            f"{'A bend' if one else f'{len(bends)} bends'} too tight for this blade",
            f"The tightest has a radius of {mm(least, 2)}; the {setting.blade}° blade goes round {mm(limit, 2)} "
            f"cleanly. Tighter ones come out torn or rounded, and {stock.name} holds no neck under "
            f"{mm(stock.least_neck_mm)}: go gentler in more passes, or make the bends rounder.",
            {"bends": len(bends), "radius_mm": round(least, 3), "least_mm": limit, "neck_mm": stock.least_neck_mm},
            item=number,
            places=places,
            fixes=tuple(fixes),
        )
    ]


def _larger(item: ItemSpec, least_mm: float, limit_mm: float) -> Fix | None:
    """On the outline itself bends grow with the drawing."""
    growth = limit_mm / least_mm
    # An inset, a rounded corner, a part's seam and a front's edge turned over do not grow along.
    own = item.edge.distance_mm < 0 or item.edge.fillet_mm > 0 or item.tile is not None or item.back_of is not None
    if growth > _MOST_GROWTH or own:
        return None
    return size_fix(item, math.ceil(item.size.wanted_mm * growth * 10) / 10, "its bends become rounder")


def _rounder(spec: EdgeSpec, limit_mm: float) -> Fix | None:
    """A border makes its own bends, whatever the size of the drawing: no field that sets their radius lies under what
    the blade goes round.
    """
    if spec.follows and spec.fillet_mm > 0:
        # Rounded tips leave cusps between them that none of its radii undoes.
        return None
    wanted = math.ceil(limit_mm * 10 + _ROOM_TENTHS) / 10
    radii = {"smooth_mm": spec.smooth_mm, "corner_mm": spec.corner_mm}
    changes = {f"edge.{name}": wanted for name, radius in radii.items() if spec.uses(name) and radius < wanted}
    # Corners that are not rounded at all are no bends.
    if spec.uses("fillet_mm") and 0 < spec.fillet_mm < wanted:
        changes["edge.fillet_mm"] = wanted
    if spec.kind in _ROUND_AT_TIPS and not spec.rings and spec.distance_mm < wanted:
        changes["edge.distance_mm"] = wanted
    if not changes:
        return None
    words = {"edge.distance_mm": "Border of", "edge.smooth_mm": "smoothed by"}
    named = [f"{word} {mm(wanted)}" for field, word in words.items() if field in changes]
    label = ", ".join(named) or f"Corners rounded by {mm(wanted)}"
    return Fix(label[0].upper() + label[1:], "its bends become rounder", FixTarget.ITEM, changes)


def tab_findings(edge: Edge, item: ItemSpec) -> list[Finding]:
    """A piece that is too small for the tabs that are to hold it."""
    tabs = item.tabs
    if tabs is None or item.cut is not Cut.THROUGH:
        return []
    shortest = min(float(part.exterior.length) for part in edge.shape.geoms)
    fit = tabs_that_fit(shortest, tabs)
    if fit >= tabs.count:
        return []
    narrower = math.floor(MOST_TABBED * shortest / tabs.count * 10) / 10
    fixes = []
    if fit:
        changes = {"tabs": {"count": fit, "width_mm": tabs.width_mm}}
        fixes.append(Fix(f"{fit} of them", "as many as it has room for", FixTarget.ITEM, changes))
    if narrower >= _LEAST_TAB_MM:
        changes = {"tabs": {"count": tabs.count, "width_mm": narrower}}
        fixes.append(Fix(f"Tabs of {mm(narrower)}", "as many, but narrower", FixTarget.ITEM, changes))
    return [
        Finding(
            "cut.tabs",
            Severity.LOOK,
            "Too small for its tabs",
            f"{tabs.count} tabs of {mm(tabs.width_mm)} would take more than half of the {mm(shortest, 0)} round it, "
            f"and it would not come off; {fit or 'none'} of them will be left.",
            {"tabs": tabs.count, "fit": fit, "around_mm": round(shortest, 1)},
            item=item.number,
            fixes=tuple(fixes),
        )
    ]


def unfound_holes_finding(holes: int, number: int) -> list[Finding]:
    """Holes of a design that the machine's own program does not cut: it finds outsides only."""
    if not holes:
        return []
    one = holes == 1
    return [
        Finding(
            "cut.holes",
            Severity.LOOK,
            f"{'A hole stays' if one else f'{holes} holes stay'} uncut",
            f"Your machine’s program finds outsides only, so {'this hole is' if one else 'these holes are'} left for "
            "knife or punch; or fill them under Edge.",
            {"holes": holes},
            item=number,
            fixes=(Fix("Fill the holes", "cut as one piece", FixTarget.ITEM, {"edge.fill_holes": True}),),
        )
    ]


def kiss_without_backing(stock: Stock, numbers: Sequence[int]) -> list[Finding]:
    """Kiss cuts asked of a stock that has no backing to stop in."""
    if stock.has_backing:
        return []
    return [
        Finding(
            "cut.no-backing",
            Severity.LOOK,
            "No backing to stop in",
            f"{stock.title} has no backing, so it is cut through.",
            item=number,
            fixes=(_THROUGH,),
        )
        for number in numbers
    ]
