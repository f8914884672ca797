"""The cut plan as HP-GL: 40 units a millimetre, y up from the sheet's bottom left; pen 1 kiss cuts, pen 2 cuts through.

Speed (whole cm/s) and force (whole gf) are set with the pen; every pass of a loop is drawn, the loop's overcut with it.
"""

from collections.abc import Mapping

from vamper.core.cutting.plan import CutPlan
from vamper.core.cutting.setting import CutSetting
from vamper.core.values.geometry import Points
from vamper.core.values.item import Cut

UNITS_A_MM = 40
PENS = {Cut.KISS: 1, Cut.THROUGH: 2}


def write_hpgl(plan: CutPlan, settings: Mapping[Cut, CutSetting], overcut_mm: float) -> bytes:
    """One sheet's runs in cutting order."""
    height = plan.paper.height_mm

    def units(points: Points) -> list[str]:
        return [f"{round(float(x) * UNITS_A_MM)},{round((height - float(y)) * UNITS_A_MM)}" for x, y in points]

    lines = ["IN;"]
    pen: Cut | None = None
    for run in plan.runs({cut: setting.passes for cut, setting in settings.items()}, overcut_mm):
        if run.loop.cut is not pen:
            pen = run.loop.cut
            setting = settings[pen]
            speed, force = max(1, round(setting.speed_mm_s / 10)), round(setting.force_gf)
            lines.append(f"SP{PENS[pen]};VS{speed};FS{force};")
        first, *rest = units(run.points)
        lines.append(f"PU{first};PD{','.join(rest)};")
    lines.append("PU;SP0;")
    return "\n".join(lines).encode("ascii") + b"\n"
