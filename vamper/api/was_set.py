"""What was set on the machine, on the wire: as it was proposed, something else for each cut, or not said."""

from typing import Annotated, Literal

from annotated_types import Len
from pydantic import BaseModel

from vamper.core.plan import Plan
from vamper.core.values.cut import Cut
from vamper.core.values.tried import Pressure, WasSet
from vamper.services.ledger.logging import AS_PROPOSED, WasSetAs, really_set

WasSetIn = Annotated[list[WasSet], Len(0, 4)] | Literal["as proposed"] | None


class SettingOffered(BaseModel):
    """A setting of the machine's list, and what it can be set to."""

    name: str
    pressures: list[Pressure]


class ProposedOut(BaseModel):
    """The force proposed for a cut, or the machine's own `settings`; both empty where nothing is proposed yet."""

    cut: Cut
    passes: int
    force_gf: float | None
    setting: str
    pressure: Pressure | None
    settings: list[SettingOffered]


def set_as(said: WasSetIn) -> WasSetAs:
    return tuple(said) if isinstance(said, list) else said


def proposed_out(plan: Plan, cut: Cut) -> ProposedOut:
    """The settings proposed for a cut of a plan."""
    one = really_set(plan, AS_PROPOSED).get(cut)
    settings = [
        SettingOffered(name=setting.name, pressures=list(setting.pressures)) for setting in plan.job.cutter.settings
    ]
    if one is None:
        passes = plan.settings[cut].passes
        return ProposedOut(cut=cut, passes=passes, force_gf=None, setting="", pressure=None, settings=settings)
    return ProposedOut(
        cut=cut,
        passes=one.passes,
        force_gf=one.force_gf,
        setting=one.setting,
        pressure=one.pressure,
        settings=settings,
    )
