"""The bench card: everything that has to be done at the machine for one job, in order, and how the sheet is loaded.

It is one printed page, and the same steps are read from a phone with one hand free.
"""

import numpy as np

from vamper.core.bench_step import BenchStep
from vamper.core.cutting.care import Urgency, blade_advice, mat_advice
from vamper.core.cutting.drops import DROP_MM
from vamper.core.cutting.outlook import SURE_AT
from vamper.core.cutting.setting import CutSetting
from vamper.core.finishing.on_the_card import after_the_cut, before_the_cut
from vamper.core.marks.reading import REMEDIES
from vamper.core.plan import Plan, metres_of
from vamper.core.printing.guides import guides_for
from vamper.core.program.card import at_the_machine, before_loading, telling
from vamper.core.tell_tale import tell_tale_of
from vamper.core.values.chances import good_in, in_100
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Feed
from vamper.core.values.drawing import Anchor, Drawing, Filled, Stroke, Words, line, outline, rectangle
from vamper.core.values.geometry import parts
from vamper.core.values.lengths import figure, mm, size_mm
from vamper.core.values.paper import Paper, named
from vamper.core.values.sides import sides_of
from vamper.core.values.tables import table

_TABLE = table("vamper.core", "bench_card.toml")
_HALF_DROP_MM = DROP_MM / 2
# The loading picture: a page of this size, mm, and what it is drawn in.
_PICTURE = Paper(70.0, 78.0)
_MAT, _SHEET, _PRINTED, _INK = "#D8E4DF", "#FFFFFF", "#B9C8CF", "#22262E"


def bench_steps(plan: Plan) -> list[BenchStep]:
    """Everything from the printer to the last cut; empty while nothing is laid on a sheet."""
    if not plan.sheets:
        return []
    if not plan.job.cutter.is_machine:
        return [*_printing(plan), *before_the_cut(plan), _loading(plan), _taking_off(plan), after_the_cut(plan)]
    if plan.job.cutter.has_own_program:
        return [
            *before_loading(plan),
            _loading(plan),
            *at_the_machine(plan),
            _taking_off(plan),
            after_the_cut(plan),
            telling(),
        ]
    return [
        *_printing(plan),
        *before_the_cut(plan),
        _blade(plan),
        _loading(plan),
        *_marks(plan),
        *_trying(plan),
        _tell_tale(plan),
        *_cutting(plan),
        _said("pause"),
        _said("unload"),
        _taking_off(plan),
        after_the_cut(plan),
    ]


def _said(key: str, figures: tuple[str, ...] = (), *more: str) -> BenchStep:
    words = _TABLE[key]
    return BenchStep(key, words["do"], figures, (*words["lines"], *more))


def used_settings(plan: Plan) -> list[CutSetting]:
    """The settings that the job cuts with; kiss first: what lies loose is cut last, while everything holds still."""
    wanted = {item.spec.cut for item in plan.items}
    return [plan.settings[cut] for cut in (Cut.KISS, Cut.THROUGH) if cut in wanted]


def _printing(plan: Plan) -> list[BenchStep]:
    job = plan.job
    if not job.stock.printable:
        return []
    paper = named(job.paper)
    size = size_mm(job.paper.width_mm, job.paper.height_mm)
    own = ("mirror_done",) if plan.mirror else ()
    lines = [_TABLE["print"][key] for key in ("scale", "rims", *own)]
    count = len(plan.sheets)
    copies = (f"{job.copies} copies of each",) if job.copies > 1 else ()
    figures = (f"{paper.words}, {size}" if paper else size, *copies)
    return [BenchStep("print", f"Print {count} page{'s' if count > 1 else ''}", figures, tuple(lines))]


def _blade(plan: Plan) -> BenchStep:
    settings, words = used_settings(plan), _TABLE["blade"]
    angles = dict.fromkeys(setting.blade.value for setting in settings)
    figures = tuple(
        f"{setting.blade}° blade, {mm(setting.exposure_mm)} out" + (f" ({setting.cut})" if len(settings) > 1 else "")
        for setting in settings
    )
    lines = list(words["lines"])
    inside = plan.job.blade
    if inside is not None:
        right = inside.angle.value in angles and len(angles) == 1
        state = f"in the machine: a {inside.angle}° blade at {inside.sharpness * 100:.0f} % of its edge"
        lines.insert(0, state if right else f"{state}: change it")
        metres = sum(metres_of(plan, sheet) for sheet in range(len(plan.sheets))) * plan.job.copies
        lines += [one.do for one in blade_advice(inside, plan.job.stock, metres) if one.urgency is not Urgency.FINE]
    if plan.job.stock.tuft:
        lines.append(words["tip"])
    return BenchStep("blade", words["do"], figures, tuple(lines))


def _loading(plan: Plan) -> BenchStep:
    job, words = plan.job, _TABLE["load"][plan.job.cutter.feed]
    lines = list(words["lines"])
    sides = sides_of(job.stock)
    up = sides.up
    if sides.why and job.cutter.is_machine:
        lines.insert(0, sides.why)
    if job.cutter.feed is Feed.MAT:
        if job.mat is not None:
            lines += [f"{one.do}: {one.why}" for one in mat_advice(job.mat, job.stock) if one.do != "nothing to do"]
        return BenchStep("load", words["do"], (f"{job.stock.tack} tack, {up}",), tuple(lines))
    return BenchStep("load", words["do"], (up,) if job.cutter.is_machine else (), tuple(lines))


def _marks(plan: Plan) -> list[BenchStep]:
    if plan.reading is None:
        return []
    words = _TABLE["marks"]
    taken = [REMEDIES[remedy].text for remedy in plan.job.marks.remedies]
    chance = f"read in {in_100(plan.reading.chance)} of 100 tries"
    return [BenchStep("marks", words["do"], (chance,), (*taken, *words["lines"], words["moved"]))]


def _trying(plan: Plan) -> list[BenchStep]:
    unsure = [setting for setting in used_settings(plan) if setting.usable < SURE_AT]
    if not unsure:
        return []
    key = "setting" if unsure[0].spoken.speaks else "ladder"
    return [_said(key, tuple(f"{one.cut}: {good_in(one.usable)}" for one in unsure))]


def _tell_tale(plan: Plan) -> BenchStep:
    place = tell_tale_of(plan, 0)
    if place is None:
        return BenchStep("tell_tale", _TABLE["tell_tale"]["do"], (), (_TABLE["tell_tale"]["none"],))
    x, y = (side + _HALF_DROP_MM for side in place)
    across = plan.job.paper.width_mm - x if plan.mirror else x
    where = f"{mm(across, 0)} from the left, {mm(y, 0)} from the top"
    return _said("tell_tale", (where,))


def _cutting(plan: Plan) -> list[BenchStep]:
    found = list[BenchStep]()
    for setting in used_settings(plan):
        passes = "one pass" if setting.passes == 1 else f"{setting.passes} passes"
        figures = [f"{setting.force_gf:g} gf, {passes}", f"{figure(setting.speed_mm_s, 'mm/s')}"]
        if setting.spoken.choice is not None:
            figures.insert(0, setting.spoken.choice.words)
        lines = (_TABLE["cut"][setting.cut], _TABLE["cut"]["care"])
        found.append(BenchStep("cut", f"{setting.cut.capitalize()} cut", tuple(figures), lines))
    return found


def _taking_off(plan: Plan) -> BenchStep:
    words = _TABLE["off"]
    do = words["do" if plan.job.cutter.is_machine else "do_by_hand"]
    return BenchStep("off", do, (), tuple(words[plan.job.cutter.feed]))


def loading_picture(plan: Plan) -> Drawing:
    """How the sheet is loaded, from above: on the mat's top left corner, or head first under the rollers."""
    job = plan.job
    paper, feed = job.paper, job.cutter.feed
    room_x, room_y = _PICTURE.width_mm - 14, _PICTURE.height_mm - 24
    scale = min(room_x / paper.width_mm, room_y / paper.height_mm)
    width, height = paper.width_mm * scale, paper.height_mm * scale
    left, top = (9.0, 13.0) if feed is Feed.MAT else ((_PICTURE.width_mm - width) / 2, 16.0)
    fills, strokes, words = list[Filled](), list[Stroke](), list[Words]()
    if feed is Feed.MAT:
        fills.append(Filled((rectangle(4, 8, _PICTURE.width_mm - 8, _PICTURE.height_mm - 14),), _MAT))
        words.append(Words(5, 6, "mat, its top left corner here", 1.9))
    fills.append(Filled((rectangle(left, top, width, height),), _SHEET))
    strokes.append(outline(rectangle(left, top, width, height), 0.35))
    for edge in plan.sheets[0].edges if plan.sheets else ():
        for part in parts(edge.simplify(1.0)):
            points = part.exterior.coords
            x = [(paper.width_mm - px if plan.mirror else px) * scale + left for px, _ in points]
            y = [py * scale + top for _, py in points]
            fills.append(Filled((np.column_stack([x, y]),), _PRINTED))
    for mark in plan.setup.marks:
        box = mark.box_mm
        fills.append(
            Filled(
                (
                    rectangle(
                        left + box.x_mm * scale,
                        top + box.y_mm * scale,
                        max(0.6, box.width_mm * scale),
                        max(0.6, box.height_mm * scale),
                    ),
                ),
                _INK if max(box.width_mm, box.height_mm) < paper.width_mm / 2 else _PRINTED,
            )
        )
    if feed is Feed.ROLLER:
        for share in (0.04, 0.82):
            fills.append(Filled((rectangle(left + width * share, top - 3, width * 0.14, 4),), _INK))
        words.append(Words(_PICTURE.width_mm / 2, top - 5, "rollers, on the margins", 1.9, Anchor.MIDDLE))
    middle, foot = left + width / 2, top + height
    if job.cutter.is_machine:
        strokes += _arrow(middle - 14, foot + 7)
        if feed is Feed.MAT:
            strokes += _corner(left, top)
        # In the picture there is room for a few words.
        words.append(Words(middle, foot + 4.2, sides_of(job.stock).up.partition(":")[0], 2.2, Anchor.MIDDLE))
    elif plan.sheets:
        guides = guides_for(plan.sheets[0].edges, plan.sheets[0].live.shape)
        strokes += [
            line(*(left + x0 * scale, top + y0 * scale), *(left + x1 * scale, top + y1 * scale), 0.4)
            for (x0, y0), (x1, y1) in guides.ticks
        ]
        words.append(Words(middle, foot + 4.2, "trim along the ticks", 2.2, Anchor.MIDDLE))
    return Drawing(_PICTURE, "How the sheet is loaded", tuple(fills), tuple(strokes), tuple(words))


def _arrow(x: float, foot: float) -> list[Stroke]:
    """Which way the sheet goes in."""
    tip = foot - 5
    return [
        line(x, foot, x, tip, 0.4),
        line(x, tip, x - 1.2, tip + 1.6, 0.4),
        line(x, tip, x + 1.2, tip + 1.6, 0.4),
    ]


def _corner(left: float, top: float) -> list[Stroke]:
    """The corner where the sheet's origin goes, made heavy."""
    return [line(left, top, left + 7, top, 1.0), line(left, top, left, top + 7, 1.0)]
