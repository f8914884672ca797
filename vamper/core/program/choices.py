"""What to choose in a machine's own program for a sheet, and why: bleed, mirror, and what it cannot do.

Whether colour runs to the edge decides on the bleed; the picture is mirrored already where it must be. Source:
craft/program.md, "The picture".
"""

from dataclasses import dataclass
from enum import StrEnum

from vamper.core.marks.printed_helpers import HelperScene, cover_trim
from vamper.core.marks.program_marks import looked_for, looked_for_spec
from vamper.core.plan import Plan
from vamper.core.values.findings import BadInput
from vamper.core.values.lengths import mm


class Switch(StrEnum):
    """A switch of a program."""

    ON = "on"
    OFF = "off"


@dataclass(frozen=True, slots=True)
class ProgramChoices:
    """The choices to make in the machine's own program; `why` has a sentence for each, `asks_bleed` says that the bleed
    switch matters now and nobody knows yet whether there is one.
    """

    bleed: Switch
    mirror: Switch
    why: tuple[str, ...]
    asks_bleed: bool = False


def program_choices(plan: Plan) -> ProgramChoices:
    """The choices to make in the machine's own program for the sheets of a plan."""
    known = plan.job.cutter.program_facts.bleed
    wanting = [item.bleed.width_mm > 0 for item in plan.items]
    asks = False
    if not plan.job.stock.printable:
        bleed, why = Switch.OFF, "bleed off: nothing is printed"
    elif not any(wanting):
        bleed, why = Switch.OFF, "bleed off: white border on white"
    elif known is None:
        bleed, asks = Switch.OFF, True
        why = "bleed off: nobody has said yet whether this program has such a switch"
    elif not known.switch:
        bleed, why = (
            Switch.OFF,
            "no bleed to switch on: colour ends at the cut; a white border hides a small miss best",
        )
    elif all(wanting):
        bleed, why = Switch.ON, f"bleed on: colour runs to the edge, and is carried {mm(known.width_mm)} past the cut"
    else:
        bleed = Switch.OFF
        why = "bleed off: some pieces have a white border; the others carry their colour to the very edge already"
    mirror = (
        "mirror off: the picture is mirrored already" if plan.mirror else "mirror off: the picture reads as it is to be"
    )
    return ProgramChoices(bleed, Switch.OFF, (why, mirror), asks)


def cover_trim_mm(plan: Plan) -> tuple[float, float] | None:
    """The largest laminate (width, height) that ends inside the marks of a sheet; None where nobody measured them."""
    marks = looked_for(plan.job)
    if not marks:
        return None
    try:
        return cover_trim(HelperScene(plan.job.paper, marks, looked_for_spec(plan.job), ())).size_mm
    except BadInput:
        return None
