"""Named settings as JSON, and which of them to take."""

from dataclasses import asdict, dataclass, replace
from typing import Any, ClassVar

from pydantic import TypeAdapter

from vamper.core.cutting.belief import prior
from vamper.core.cutting.depth import bands_of
from vamper.core.cutting.machine_settings import NamedProposal, propose_setting
from vamper.core.effective_job import effective_cut
from vamper.core.values.blade import Blade, WornMetres
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import ForceRange
from vamper.core.values.findings import BadInput
from vamper.core.values.limits import STRICT
from vamper.core.values.named_settings import NamedSetting, NamedSettings, SettingChoice, check_settings
from vamper.core.values.stock import STOCK_BY_KEY, Stock
from vamper.core.values.tried import Outcome, Passes
from vamper.formats.json_object import object_in
from vamper.formats.sentences import read_as
from vamper.formats.stock_name import settings_in, stock_in

_FORCE = ForceRange()


@dataclass(frozen=True, slots=True, kw_only=True)
class SettingsFile:
    """A machine's named settings, and the stock that is to be cut.

    Parameters
    ----------
    stock, cut : Stock, Cut
        What is cut, and how deep.
    force_gf : ForceRange
        What the machine is assumed to span, gf.
    blade, metres : Blade, float
        The blade, and how worn it is, metres times abrasion.
    passes : int
        The fewest that are wanted.
    settings : tuple of NamedSetting
        The machine's list.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    stock: Stock
    cut: Cut = Cut.KISS
    force_gf: ForceRange = _FORCE
    blade: Blade = Blade.GENERAL
    metres: WornMetres = 0.0
    passes: Passes = 1
    settings: NamedSettings = ()

    def __post_init__(self) -> None:
        check_settings(self.settings)


_SETTINGS = TypeAdapter(SettingsFile)


def read_settings(text: str | bytes) -> SettingsFile:
    """Named settings from the text of a file; what they did is told as of the cut that the stock allows.

    Raises
    ------
    BadInput
        Names the field that cannot be used, and what it should be.
    """
    raw = object_in(text, "the settings file")
    raw = raw | ({"stock": stock_in(raw["stock"])} if "stock" in raw else {})
    raw = raw | ({"settings": settings_in(raw["settings"], "settings")} if "settings" in raw else {})
    read = read_as(_SETTINGS, raw)
    check_seen(read.settings)
    cut = effective_cut(read.stock, read.cut)
    return replace(read, cut=cut, settings=tuple(_as_cut(one) for one in read.settings))


def check_seen(settings: tuple[NamedSetting, ...], where: str = "settings") -> None:
    """Refuse what a cut cannot look like.

    Raises
    ------
    BadInput
        Names the setting and the field.
    """
    for place, setting in enumerate(settings):
        for number, one in enumerate(setting.seen):
            known = {outcome for outcome, _, _ in bands_of(one.stock, one.cut).outcomes} | {Outcome.TORN}
            if one.outcome not in known:
                raise BadInput(
                    f"“{setting.name}” cannot have done that to {one.stock.name}: there is no backing to mark in this "
                    "cut; say not-through, clean or torn",
                    f"{where}.{place}.seen.{number}.outcome",
                )


def _as_cut(setting: NamedSetting) -> NamedSetting:
    return replace(setting, seen=tuple(replace(one, cut=effective_cut(one.stock, one.cut)) for one in setting.seen))


def settings_result(file: SettingsFile) -> NamedProposal:
    """The setting to choose."""
    belief = prior(file.stock, file.cut, file.blade, file.metres)
    return propose_setting(file.settings, belief, file.force_gf, file.passes)


def settings_document(found: NamedProposal) -> dict[str, Any]:
    """The advice on named settings, as data; shares to four digits."""
    chosen = None if found.choice is None else _chosen(found.choice) | _chances(found)
    return {
        "proposal": chosen,
        "placed": [
            {
                "setting": one.name,
                "pressure": one.pressure,
                "gf": {"p5": round(one.p5_gf, 2), "median": round(one.median_gf, 2), "p95": round(one.p95_gf, 2)},
                "usable": round(one.usable, 4),
            }
            for one in found.placed
        ],
        "next_try": None if found.next_try is None else _chosen(found.next_try),
        "done": found.done,
        "look_for": found.look_for,
    }


def _chances(found: NamedProposal) -> dict[str, float]:
    return {"usable": round(found.usable, 4), "at_first": round(found.at_first, 4)}


def _chosen(choice: SettingChoice) -> dict[str, Any]:
    data = asdict(choice)
    return {"setting": data.pop("name"), **data}


def settings_schema() -> dict[str, Any]:
    """The JSON Schema of a settings file."""
    schema = _SETTINGS.json_schema()
    names = {"enum": list(STOCK_BY_KEY)}
    of_seen = schema["$defs"]["SettingSeen"]["properties"]
    for owner in (schema["properties"], of_seen):
        owner["stock"] = {"anyOf": [names, owner["stock"]]}
    return schema
