"""Settings of the cutter on the wire."""

from pydantic import BaseModel

from vamper.core.values.item import Cut


class SettingOut(BaseModel):
    cut: Cut
    used: bool
    blade: str
    force_gf: float
    passes: int
    speed_mm_s: float
    mat: str
    exposure_mm: float
    least_um: float
    target_um: float
    most_um: float
    reached_um: float
    depth_per_pass_um: list[float]
    machine_min_gf: float
    machine_max_gf: float
    clean_from_gf: float
    clean_to_gf: float
    why: list[str]


class CutPart(BaseModel):
    """What the cutter is set to, for every cut that the stock allows."""

    revision: str
    settings: list[SettingOut]
