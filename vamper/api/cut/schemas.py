"""Settings of the cutter on the wire: the window of force, ladders, the path, blades and mats, the bench card."""

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from vamper.api.was_set import ProposedOut, WasSetIn
from vamper.core.cutting.care import WearAdvice
from vamper.core.values.blade import Blade, BladeIn
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import ForceRange
from vamper.core.values.limits import ONE_LINE, Length
from vamper.core.values.mat import MatIn
from vamper.core.values.named_settings import MOST_SETTINGS, NamedSetting, SettingName
from vamper.core.values.run_seen import MarksSeen
from vamper.core.values.stock import StockKey
from vamper.core.values.tried import Gf, Outcome, Passes, Pressure
from vamper.services.jobs.document import RowId
from vamper.services.shop.tried import JudgedDrop, RecordKind

Name = Annotated[str, Field(min_length=1, max_length=80), ONE_LINE]


class SettingOut(BaseModel):
    cut: Cut
    used: bool
    blade: Blade
    force_gf: float
    passes: int
    speed_mm_s: float
    mat: str | None
    """The tack that suits the stock, where it lies on a mat."""
    exposure_mm: float
    least_um: float
    target_um: float
    most_um: float
    reached_um: float
    depth_per_pass_um: list[float]
    usable: float
    """The chance of a usable sheet with a look before it is unloaded; `at_first` without a second go."""
    usable_words: str
    at_first_words: str
    sure: bool
    """Whether the sheet can be risked without a test cut."""
    instead: str
    """What would be proposed, where it is set as in a run that is made again."""
    seen: bool
    """Whether anything was tried on this stock yet; else it is a starter."""
    outcomes: list[Outcome]
    """What can be told apart on this stock, and torn."""
    by_name: bool
    """Whether the machine is set by the names of its own list alone, and never by a force."""
    spoken: str
    """What to set in the machine's own words; empty where it takes a force, or nothing is chosen yet."""
    look_for: str
    """What to look for in the machine's list where nothing is chosen yet."""
    why: list[str]
    to_set: ProposedOut


class CutPart(BaseModel):
    """The settings of the cutter for every cut that the stock allows."""

    revision: str
    settings: list[SettingOut]


class BandOut(BaseModel):
    """How likely one outcome is along the scale of force."""

    outcome: Outcome
    chances: list[float]


class CutRecordOut(BaseModel):
    """A ladder, a reading or a run: the drops that were tried together."""

    id: int
    kind: RecordKind
    made_at: datetime
    cut: Cut
    blade: Blade
    drops: list[JudgedDrop]
    open: bool
    before: int
    """How many ladders were made before it: they have other places on a sheet."""


class PassesOut(BaseModel):
    """The best force in so many passes, and the chance of a usable sheet."""

    passes: int
    force_gf: float
    usable: float
    usable_words: str
    comfortable: bool
    """Within 90 % of the machine's force."""
    proposed: bool


class PlacedOut(BaseModel):
    """A setting at one of its pressures: where it is believed to press, as shares of the machine's span (in ln), and
    the chance of a usable sheet with it.
    """

    pressure: Pressure | None
    low: float
    middle: float
    high: float
    usable: float
    usable_words: str


class NamedSettingOut(BaseModel):
    """One of the machine's named settings, and what was told of it, the newest last."""

    name: str
    pressures: list[Pressure]
    gentler_than: list[str]
    passes: int
    blade: Blade | None
    placed: list[PlacedOut]
    seen: list[str]


class ChoiceOut(BaseModel):
    """A setting to choose with its pressure and passes, and the same in words."""

    setting: str
    pressure: Pressure | None
    passes: int
    words: str


class SettingToldOut(BaseModel):
    """Something that a setting was told to have done."""

    id: int
    made_at: datetime
    words: str
    outcome: Outcome
    from_run: bool


class SettingsOut(BaseModel):
    """The settings of a machine's own list for one cut of a job: what is proposed, what to try on an offcut."""

    cut: Cut
    settings: list[NamedSettingOut]
    proposal: ChoiceOut | None
    usable: float
    usable_words: str
    at_first_words: str
    worked: bool
    next_try: ChoiceOut | None
    done: bool
    look_for: str
    outcomes: list[Outcome]
    most_passes: int
    told: list[SettingToldOut]
    """What was told of this stock, the newest first; each can be taken back."""


class TypedIn(BaseModel):
    """Several settings typed at once, a line each; `pressures` are the steps that each of them can be pressed with."""

    model_config = ConfigDict(extra="forbid")

    lines: Annotated[str, Field(max_length=8000)]
    pressures: list[Pressure] = []


class SettingChangeIn(BaseModel):
    """The new fields of the setting `name`; `changed` None takes the setting off the list."""

    model_config = ConfigDict(extra="forbid")

    name: SettingName
    changed: NamedSetting | None


class SettingPlaceIn(BaseModel):
    """Where a setting is put: harder than those `above` it, gentler than all others."""

    model_config = ConfigDict(extra="forbid")

    name: SettingName
    above: Annotated[list[SettingName], Field(max_length=MOST_SETTINGS)]


class SettingToldIn(BaseModel):
    """The outcome of a named setting, on the job's stock or another."""

    model_config = ConfigDict(extra="forbid")

    setting: SettingName
    pressure: Pressure | None = None
    passes: Passes = 1
    cut: Cut
    outcome: Outcome
    stock: StockKey | None = None


class ForceOut(BaseModel):
    """The window of force of one cut: what is believed, what is proposed, and what another ladder would be worth."""

    cut: Cut
    passes: int
    force: ForceRange
    axis_gf: list[float]
    bands: list[BandOut]
    usable_gf: list[float]
    """From where to where a look before unloading makes the sheet good more often than not; empty for nowhere."""
    hill_gf: list[float]
    hill: list[float]
    prior: list[float]
    """What was believed before anything was tried, on the same scale."""
    proposal_gf: float
    usable: float
    usable_words: str
    at_first_words: str
    chance_if_known: float
    known_words: str
    gain_points: float
    done: bool
    next_gf: list[float]
    advice: list[str]
    each_passes: list[PassesOut]
    outcomes: list[Outcome]
    """What can be told apart on this stock, and torn."""
    records: list[CutRecordOut]
    ladder: CutRecordOut | None
    """The newest one: open, or just judged."""
    blade: Blade
    sharpness: float
    like: str


class LadderIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    cut: Cut
    passes: Passes


class JudgedIn(BaseModel):
    """The outcome of a drop as its maker judges it; None takes an earlier outcome back."""

    model_config = ConfigDict(extra="forbid")

    outcome: Outcome | None


class CutReadingIn(BaseModel):
    """A reading without a ladder: what a setting did once."""

    model_config = ConfigDict(extra="forbid")

    cut: Cut
    force_gf: Gf
    passes: Passes = 1
    outcome: Outcome


class RunIn(BaseModel):
    """So many sheets were cut; `blade_id` is the blade that was confirmed to be in the machine, `was_set` what was set
    on it: nothing is learnt of force where that is not said.
    """

    model_config = ConfigDict(extra="forbid")

    sheets: Annotated[int, Field(ge=1, le=1000)] = 1
    outcomes: Annotated[dict[Cut, Outcome], Field(min_length=1)]
    blade_id: int | None = None
    was_set: WasSetIn = None
    read: MarksSeen | None = None


class OffcutIn(BaseModel):
    """A piece of the same stock that is left over."""

    width_mm: Length
    height_mm: Length


class LadderPlaceOut(BaseModel):
    """Where drops lie, in the frame of the screen's sheet; `problem` says why there is no room for them."""

    paths: list[str]
    slits: list[str]
    at: list[list[float]]
    problem: str | None


class CutRunOut(BaseModel):
    """One time that the blade goes down: `path` from where it sets down, travelled to from `from_mm`."""

    item: int
    cut: Cut
    hole: bool
    number: int
    path: str
    from_mm: list[float]
    to_mm: list[float]
    speed_mm_s: float
    begins: float
    ends: float


class ReplayOut(BaseModel):
    """A sheet as it is cut, run by run, as the screen shows it."""

    runs: list[CutRunOut]
    seconds: float
    parts: dict[str, float]
    length_mm: float
    travel_mm: float
    lifts: int
    slowest_mm_s: float
    slow_loops: int
    """Loops that are run slower than the fastest one, for their bends."""
    tell_tale: LadderPlaceOut


class BladeOut(BaseModel):
    id: int
    name: str
    in_machine: bool
    elsewhere: bool
    confirmed_at: datetime | None
    blade: BladeIn
    sharpness: float
    metres_left: float
    advice: list[WearAdvice]


class MatOut(BaseModel):
    id: int
    name: str
    in_machine: bool
    elsewhere: bool
    mat: MatIn
    held: float
    loads_left: int
    advice: list[WearAdvice]


class WorkshopCareOut(BaseModel):
    """The blades and mats of the workshop, as this job would use them."""

    wanted_blade: Blade
    wanted_tack: str
    metres: float
    """What the job takes of the blade, times abrasion."""
    has_mat: bool
    blades: list[BladeOut]
    mats: list[MatOut]


class BladeProfile(BaseModel):
    model_config = ConfigDict(extra="forbid")

    name: Name
    blade: BladeIn


class MatProfile(BaseModel):
    model_config = ConfigDict(extra="forbid")

    name: Name
    mat: MatIn


class ThingId(BaseModel):
    id: int


class CutterId(BaseModel):
    cutter_id: RowId
