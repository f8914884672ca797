"""What was set on the machine, on the wire: as it was proposed, something else for each cut, or not said."""

from typing import Annotated, Literal

from annotated_types import Len
from pydantic import BaseModel

from vamper.core.plan import Plan
from vamper.core.values.cut import Cut
from vamper.core.values.tried import WasSet
from vamper.services.ledger.logging import AS_PROPOSED, WasSetAs, really_set

WasSetIn = Annotated[list[WasSet], Len(0, 4)] | Literal["as proposed"] | None


class ProposedOut(BaseModel):
    """What was to be set for one cut: a force, or one of the machine's own `steps`; neither where none of those is
    proposed yet.
    """

    cut: Cut
    passes: int
    force_gf: float | None
    step: str
    steps: list[str]


def set_as(said: WasSetIn) -> WasSetAs:
    return tuple(said) if isinstance(said, list) else said


def proposed_out(plan: Plan, cut: Cut) -> ProposedOut:
    """What is to be set for a cut of a plan."""
    one, steps = really_set(plan, AS_PROPOSED).get(cut), [step.name for step in plan.job.cutter.settings]
    if one is not None and one.step and one.step not in steps:
        # A step and a notch.
        steps = [one.step, *steps]
    if one is None:
        return ProposedOut(cut=cut, passes=plan.settings[cut].passes, force_gf=None, step="", steps=steps)
    return ProposedOut(cut=cut, passes=one.passes, force_gf=one.force_gf, step=one.step, steps=steps)
