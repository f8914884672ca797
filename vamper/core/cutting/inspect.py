"""What can be said about cutting: more than the machine has, less than it can, a kiss with nothing to stop in."""

from collections.abc import Sequence

from vamper.core.cutting.setting import CutSetting
from vamper.core.sheet.layout import THROUGH_GAP_MM
from vamper.core.values.cutter import Cutter
from vamper.core.values.findings import Finding, Fix, FixTarget, Severity
from vamper.core.values.item import Cut
from vamper.core.values.lengths import figure, mm
from vamper.core.values.stock import Stock

_THROUGH = Fix("Cut it through", f"{mm(THROUGH_GAP_MM)} between pieces", FixTarget.ITEM, {"cut": Cut.THROUGH.value})


def cut_findings(setting: CutSetting, stock: Stock, cutter: Cutter) -> list[Finding]:
    """A cut the machine cannot make, or only too deep."""
    if setting.reached_um < setting.band.least_um:
        return [
            Finding(
                "cut.too-hard",
                Severity.STOP,
                "This machine cannot cut it",
                f"Even {setting.passes} passes at {setting.force_gf:g} gf reach {figure(setting.reached_um, 'µm', 0)} "
                f"of the {figure(setting.band.least_um, 'µm', 0)} that are needed.",
                {"reached_um": round(setting.reached_um), "needed_um": round(setting.band.least_um)},
            )
        ]
    if setting.reached_um > setting.band.most_um:
        return [
            Finding(
                "cut.too-deep",
                Severity.LOOK,
                "The gentlest force is too much",
                f"At its least, {cutter.force_gf.min:g} gf, this machine goes {figure(setting.reached_um, 'µm', 0)} "
                f"deep into {stock.name}; {figure(setting.band.most_um, 'µm', 0)} would still be clean.",
                {"reached_um": round(setting.reached_um), "most_um": round(setting.band.most_um)},
            )
        ]
    return []


def kiss_without_backing(stock: Stock, numbers: Sequence[int]) -> list[Finding]:
    """Kiss cuts asked of a stock that has no backing to stop in."""
    if stock.has_backing:
        return []
    return [
        Finding(
            "cut.no-backing",
            Severity.LOOK,
            "Nothing to kiss",
            f"{stock.title} has no backing, so it is cut through.",
            item=number,
            fixes=(_THROUGH,),
        )
        for number in numbers
    ]
