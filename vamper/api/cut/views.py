"""From a plan's settings to what goes over the wire."""

from vamper.api.cut.schemas import CutPart, SettingOut
from vamper.core.cutting.setting import CutSetting, depth_um, force_for
from vamper.core.plan import Plan


def cut_part(plan: Plan, revision: str) -> CutPart:
    used = {item.spec.cut for item in plan.items}
    settings = [_setting(plan, setting, setting.cut in used) for setting in plan.settings.values()]
    return CutPart(revision=revision, settings=settings)


def _setting(plan: Plan, setting: CutSetting, used: bool) -> SettingOut:
    stock, force = plan.job.stock, plan.job.cutter.force_gf

    def needed(depth: float) -> float:
        return force_for(depth, setting.passes, stock, setting.blade)

    return SettingOut(
        cut=setting.cut,
        used=used,
        blade=setting.blade,
        force_gf=setting.force_gf,
        passes=setting.passes,
        speed_mm_s=setting.speed_mm_s,
        mat=setting.mat,
        exposure_mm=setting.exposure_mm,
        least_um=setting.band.least_um,
        target_um=setting.band.target_um,
        most_um=setting.band.most_um,
        reached_um=setting.reached_um,
        depth_per_pass_um=[depth_um(setting.force_gf, n, stock, setting.blade) for n in range(1, setting.passes + 1)],
        machine_min_gf=force.min,
        machine_max_gf=force.max,
        clean_from_gf=needed(setting.band.least_um),
        clean_to_gf=needed(setting.band.most_um),
        why=list(setting.why),
    )
