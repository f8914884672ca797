"""The machine on the kitchen table: its own program prints and cuts, it is set by names, and five runs were told."""

from datetime import timedelta

from vamper.core.values.accepted_size import AcceptedSize, SizeBounds
from vamper.core.values.blade import Blade
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Mat, Reach, Route
from vamper.core.values.named_settings import NamedSetting
from vamper.core.values.program import Program, ProgramBleed, ProgramMarks, RimDistances
from vamper.core.values.reading import Remedy, RoomLight
from vamper.core.values.run_seen import MarksSeen
from vamper.core.values.tried import Outcome, Pressure
from vamper.services.shop.tried import CutRecord, JudgedDrop, RecordKind
from vamper.services.workshop import Workshop
from vamper.store.tables import now

KITCHEN = "the machine on the kitchen table"
_EVERY = tuple(Pressure)
_SETTINGS = (
    NamedSetting("thin paper", _EVERY, gentler_than=("label paper",)),
    NamedSetting("label paper", _EVERY, gentler_than=("thick label paper",)),
    NamedSetting("thick label paper", _EVERY),
    NamedSetting("vinyl", _EVERY),
    NamedSetting("thick card", _EVERY),
    NamedSetting("poster board"),
)
_LETTER = AcceptedSize(215.9, 279.4, SizeBounds(taken=184.0, refused=190.0), SizeBounds(taken=240.0))
_USUAL, _MORE = Pressure.USUAL, Pressure.MORE
# What was set, what it did, and whether the marks were read; the oldest first.
_RUNS = (
    (40, "gloss-label", "label paper", _USUAL, Outcome.NOT_THROUGH, MarksSeen(False, 2), ()),
    (33, "gloss-label", "label paper", _MORE, Outcome.CLEAN, MarksSeen(True, 2), (Remedy.MATTE_TAPE,)),
    (24, "matte-label", "label paper", _USUAL, Outcome.CLEAN, MarksSeen(True), ()),
    (15, "satin-vinyl", "vinyl", _USUAL, Outcome.BACKING_MARKED, MarksSeen(True), ()),
    (6, "gloss-label", "label paper", _MORE, Outcome.CLEAN, MarksSeen(True), (Remedy.MATTE_TAPE,)),
)


def prepare_kitchen(workshop: Workshop) -> int:
    """Put the machine and what was told of it into a workshop; returns its number."""
    shop = workshop.shop
    ten = RimDistances(11.0, 12.5, 11.0, 12.5)
    machine = Cutter(
        route=Route.PROGRAM,
        reach_mm=Reach(305.0, 305.0),
        mat_mm=Mat(305.0, 305.0),
        program=Program(ProgramMarks(rim_mm=ten), ProgramBleed(True, 1.5), finds_holes=True, tell_tale=True),
        granted=(_LETTER,),
        settings=_SETTINGS,
    )
    number = shop.cutters.keep(KITCHEN, machine)
    for days, key, name, pressure, outcome, seen, remedies in _RUNS:
        drop = JudgedDrop(None, 1, outcome, name, pressure)
        record = CutRecord(RecordKind.RUN, Cut.KISS, (drop,), Blade.GENERAL, 0.0, seen, RoomLight.USUAL, remedies)
        shop.tried.keep(number, shop.stock(key), machine.force_gf, record, now() - timedelta(days=days))
    return number
