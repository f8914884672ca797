"""What is told of one job as one thing after another is asked of it otherwise."""

from collections.abc import Iterator
from typing import Any

from tests.approved.drawings import ART
from tests.approved.told import told
from tests.covers import COATED, coats, laminated
from tests.scenes import item, scene
from vamper.core.bench_card import bench_steps, loading_picture, used_settings
from vamper.core.inspect import findings_of
from vamper.core.ledger.facts import facts_of
from vamper.core.plan import cut_of, metres_of, timing_of
from vamper.core.twin.devices import devices_of
from vamper.core.values.art import Purpose
from vamper.core.values.blade import Blade, BladeIn
from vamper.core.values.calibration import Calibration
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed, ForceRange
from vamper.core.values.finish import CoverWhen, FinishSpec, SetWay, Target
from vamper.core.values.item import Turn
from vamper.core.values.marks import MarksSpec
from vamper.core.values.mat import MatIn, Tack
from vamper.core.values.named_settings import NamedSetting, SettingSeen
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import PAPER_BY_KEY, Paper, Spent
from vamper.core.values.printer import Black, Ink, Printer, PrinterKind, PrintScale, TraySize
from vamper.core.values.reading import Remedy, RoomLight
from vamper.core.values.stock import USUAL_STOCK
from vamper.core.values.tried import Outcome, Pressure, Try
from vamper.core.values.twin import FaultKey, TwinSpec

Told = Iterator[tuple[str, Any]]
_STEPS = (
    NamedSetting("soft", seen=(SettingSeen(USUAL_STOCK, Cut.KISS, Outcome.NOT_THROUGH),)),
    NamedSetting("hard", tuple(Pressure)),
)
VARIANTS: dict[str, dict[str, Any]] = {
    "plain": {},
    **{f"light {light.value}": {"room_light": light} for light in RoomLight},
    **{f"black {black.value}": {"printer": Printer(black=black)} for black in Black},
    **{f"for {purpose.value}": {"purpose": purpose} for purpose in Purpose},
    **{f"on {target.value}": {"target": target, "stock": "water-slide-clear"} for target in Target},
    **{f"set in {way.value}": {"finish": FinishSpec(set=way), "stock": "water-slide-clear"} for way in SetWay},
    **{f"family {key}": {"marks": MarksSpec(family=key)} for key in ("frame", "dot", "cross", "ring", "none")},
    **{f"mat {tack.value}": {"mat": MatIn(tack, loads=12, lint=True)} for tack in Tack},
    **{f"packed {mode}": {"packing": PackingSpec(mode=mode, fill=True)} for mode in ("tidy", "kits", "one-per-sheet")},
    "laser": {"printer": Printer(kind=PrinterKind.LASER)},
    "dye": {"printer": Printer(ink=Ink.DYE, scale=PrintScale(0.985, 1.02))},
    "set to other papers": {"printer": Printer(set_to=TraySize(210.0, 297.0))},
    "set to this paper": {"printer": Printer(set_to=TraySize(215.9, 279.4))},
    "laminated": {"finish": laminated(80.0)},
    "coated, from inside": {"finish": COATED, "from_inside": True, "stock": "clear-vinyl"},
    "on rollers": {"cutter": Cutter(feed=Feed.ROLLER, head_mm=15.0, tail_mm=30.0, feed_mm=0.3)},
    "by hand": {"cutter": Cutter(feed=Feed.HAND)},
    "weak": {"cutter": Cutter(force_gf=ForceRange(20, 110, 5), acceleration_mm_s2=800.0)},
    "in steps": {"cutter": Cutter(settings=_STEPS)},
    "steep, worn": {"blade": BladeIn(Blade.STEEP, metres=350.0, tuft=True)},
    "in three passes": {"passes": 3},
    "tried": {"tries": (Try(90, 1, Outcome.NOT_THROUGH), Try(120, 1, Outcome.CLEAN))},
    "on card": {"stock": "kraft-card"},
    "mirrored": {"stock": "light-transfer"},
    "sparkling": {"stock": "shimmer-vinyl"},
    "on a5": {"paper": PAPER_BY_KEY["a5"]},
    "on an offcut": {"paper": Paper(215.9, 279.4, Spent(120.0, 279.4))},
    "one sheet": {"packing": PackingSpec(gap_mm=6.0, max_sheets=1, turn=Turn.UPRIGHT)},
    "small inset": {"marks": MarksSpec(inset_mm=3.0, count=3, remedies=(Remedy.MATTE_TAPE,))},
    "calibrated": {"calibration": Calibration(((1.003, 0.002, 0.9), (-0.002, 0.997, -0.6)), 0.05, 0.1, 0.04, 0.08)},
    "three copies": {"copies": 3, "job_line": True, "overcut_mm": 1.5},
    "coated after the cut": {"finish": coats(2, CoverWhen.AFTER_CUT)},
    "simulated": {"twin": TwinSpec(faults=(FaultKey.BRIGHT_LIGHT,))},
}


def variants() -> Told:
    """What a plan says of itself: of the plain one everything, of all others what they say otherwise."""
    plain: dict[str, Any] = {}
    for name, fields in VARIANTS.items():
        said = {key: told(what) for key, what in _said(fields)}
        plain = plain or said
        yield (
            name,
            {key: _otherwise(plain[key], what) for key, what in said.items() if what != plain[key] or said is plain},
        )


def _said(fields: dict[str, Any]) -> Told:
    plan = scene(
        item(1, quantity=5, fill_priority=1), item(3, quantity=3, width_mm=24.0), pictures=ART, **fields
    ).plan()
    cut = cut_of(plan, 0)
    yield "findings", {f"{one.code} {one.item} {one.sheet}": one for one in findings_of(plan)}
    yield "facts", list(facts_of(plan))
    yield "settings", used_settings(plan)
    yield "bench", {step.key: step for step in bench_steps(plan)}
    yield "loading", loading_picture(plan)
    yield "cut", [len(cut.loops), timing_of(plan, cut), metres_of(plan, 0)]
    yield "miss", plan.misses_mm(0)
    yield "devices", devices_of(plan)
    yield "unplaced", plan.layout.unplaced


def _otherwise(plain: Any, said: Any) -> Any:
    """Of a table only the lines that are not as in the plain one, and the names of those that are missing."""
    if isinstance(plain, dict) and isinstance(said, dict):
        gone = {key: None for key in plain if key not in said}
        return gone | {key: _otherwise(plain.get(key), what) for key, what in said.items() if what != plain.get(key)}
    return said
