"""From a plan's settings, beliefs and paths to what goes over the wire."""

import math
from dataclasses import replace

import shapely

from vamper.api.cut.schemas import (
    BandOut,
    BladeOut,
    ChoiceOut,
    CutPart,
    CutRecordOut,
    CutRunOut,
    ForceOut,
    LadderPlaceOut,
    MatOut,
    NamedSettingOut,
    PassesOut,
    PlacedOut,
    ReplayOut,
    SettingOut,
    SettingsOut,
    SettingToldOut,
    WorkshopCareOut,
)
from vamper.api.was_set import proposed_out
from vamper.core.bench_card import used_settings
from vamper.core.cutting.belief import HardnessBelief, prior
from vamper.core.cutting.care import blade_advice, held_of, loads_left, mat_advice, metres_left
from vamper.core.cutting.depth import depth_um
from vamper.core.cutting.drops import Drop
from vamper.core.cutting.ladder import COMFORTABLE_SHARE, ladder_advice
from vamper.core.cutting.outlook import SURE_AT, Floats
from vamper.core.cutting.setting import CutSetting, spoken_setting
from vamper.core.cutting.window import window_of
from vamper.core.plan import Plan, cut_of, metres_of, timed_runs, timing_of
from vamper.core.tell_tale import tell_tale_of
from vamper.core.values.chances import in_100, in_100_short
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Feed
from vamper.core.values.geometry import Points
from vamper.core.values.named_settings import NamedSetting, SettingChoice, SettingSeen
from vamper.core.values.tried import MOST_PASSES, Outcome, Pressure
from vamper.formats.svg_path import DECIMALS, closed_path, open_path
from vamper.services.brief.words import OUTCOME_WORDS
from vamper.services.handoff.trial_cuts import LadderPlace
from vamper.services.shop.care import Care
from vamper.services.shop.tried import KeptCutRecord, RecordKind, TriedOn

_DIGITS = 4
# More passes than these are offered only where the machine needs them.
_SHOWN_PASSES = 3
_MORE_OFTEN_THAN_NOT = 0.5


def cut_part(plan: Plan, revision: str) -> CutPart:
    used = {item.spec.cut for item in plan.items}
    settings = [_setting(plan, setting, setting.cut in used) for setting in plan.settings.values()]
    return CutPart(revision=revision, settings=settings)


def _setting(plan: Plan, setting: CutSetting, used: bool) -> SettingOut:
    stock = plan.job.stock
    hardest = stock.hardness_gf_per_um / float(setting.belief.quantile(0.5))
    sharp = setting.belief.sharpness
    return SettingOut(
        cut=setting.cut,
        used=used,
        blade=setting.blade,
        force_gf=setting.force_gf,
        passes=setting.passes,
        speed_mm_s=setting.speed_mm_s,
        mat=setting.mat if plan.job.cutter.feed is Feed.MAT else None,
        exposure_mm=setting.exposure_mm,
        least_um=setting.bands.least_um,
        target_um=setting.bands.target_um,
        most_um=setting.bands.most_um,
        reached_um=setting.reached_um,
        depth_per_pass_um=[
            depth_um(setting.force_gf, n, stock, setting.blade, sharp) * hardest for n in range(1, setting.passes + 1)
        ],
        usable=round(setting.usable, _DIGITS),
        usable_words=in_100(setting.usable),
        at_first_words=in_100(setting.at_first),
        sure=setting.usable >= SURE_AT,
        seen=setting.seen,
        outcomes=_outcomes(setting),
        by_name=plan.job.cutter.has_own_program,
        spoken="" if setting.spoken.choice is None else setting.spoken.choice.words,
        look_for=setting.spoken.look_for,
        why=list(setting.why),
        instead=setting.instead,
        to_set=proposed_out(plan, setting.cut),
    )


def _outcomes(setting: CutSetting) -> list[Outcome]:
    return [*(outcome for outcome, _, _ in setting.bands.outcomes), Outcome.TORN]


def force_out(plan: Plan, cut: Cut, asked_passes: int | None, tried: TriedOn) -> ForceOut:
    """The window of force of one cut; for other passes than are set, as it would be with these."""
    setting, force = plan.settings[cut], plan.job.cutter.force_gf
    belief, passes = setting.belief, asked_passes or setting.passes
    before = replace(prior(belief.stock, belief.cut, belief.blade), sharpness=belief.sharpness)
    window = window_of(belief, before, force, passes)
    advice = ladder_advice(belief, force, [*tried.tries, *tried.runs], passes, exact=True)
    as_set = passes == setting.passes
    other = setting.proposed_in(passes)
    proposal = setting.force_gf if as_set else other.force_gf
    outlook = setting.outlook if as_set else other
    records = _records_out(tried)
    ladders = [one for one in records if one.kind == "ladder" and one.cut is cut]
    most = min(MOST_PASSES, max(_SHOWN_PASSES, setting.passes))
    each = [setting.proposed_in(count) for count in range(1, most + 1)]
    return ForceOut(
        cut=cut,
        passes=passes,
        force=force,
        axis_gf=[round(value, 2) for value in window.force_gf.tolist()],
        bands=[
            BandOut(outcome=outcome, chances=[round(value, _DIGITS) for value in chances.tolist()])
            for outcome, chances in window.chances
        ],
        usable_gf=_usable_gf(belief, window.force_gf, passes),
        hill_gf=[round(value, 2) for value in window.hill_gf.tolist()],
        hill=[round(value, _DIGITS) for value in window.hill.tolist()],
        prior=[round(value, _DIGITS) for value in window.prior.tolist()],
        proposal_gf=proposal,
        usable=round(outlook.usable, _DIGITS),
        usable_words=in_100(outlook.usable),
        at_first_words=in_100(outlook.at_first),
        chance_if_known=round(advice.chance_if_known, _DIGITS),
        known_words=in_100(advice.chance_if_known),
        gain_points=round(advice.gain_of_another * 100, 1),
        done=advice.done,
        next_gf=list(advice.next_gf),
        advice=list(advice.advice),
        each_passes=[
            PassesOut(
                passes=one.passes,
                force_gf=one.force_gf,
                usable=round(one.usable, _DIGITS),
                usable_words=in_100_short(one.usable),
                comfortable=one.force_gf <= COMFORTABLE_SHARE * force.max,
                proposed=one.passes == setting.least_passes,
            )
            for one in each
        ],
        outcomes=_outcomes(setting),
        records=records,
        ladder=ladders[-1] if ladders else None,
        blade=setting.blade,
        sharpness=round(belief.sharpness, _DIGITS),
        like=plan.job.stock.like,
    )


def _usable_gf(belief: HardnessBelief, scale_gf: Floats, passes: int) -> list[float]:
    """The ends of the forces that are good more often than not, with a look before the sheet is unloaded."""
    good = scale_gf[belief.outlook(scale_gf, passes).usable > _MORE_OFTEN_THAN_NOT]
    return [round(float(good[0]), 2), round(float(good[-1]), 2)] if len(good) else []


def settings_out(plan: Plan, cut: Cut, tried: TriedOn) -> SettingsOut:
    """The settings of a machine's list for one cut; `tried` is what was told of the job's stock on it."""
    setting, job = plan.settings[cut], plan.job
    only_these = job.passes is not None
    found = spoken_setting(job.cutter, setting.belief, job.passes or setting.least_passes, only_these, with_next=True)
    span = job.cutter.force_gf

    def share(force_gf: float) -> float:
        return round(math.log(force_gf / span.min) / math.log(span.max / span.min), _DIGITS)

    def middle(one: NamedSetting) -> float:
        placed = [place for place in found.placed if place.name == one.name]
        return placed[len(placed) // 2].median_gf if placed else span.max

    told = [
        SettingToldOut(
            id=kept.id,
            made_at=kept.made_at,
            words=SettingChoice(drop.setting, drop.pressure, drop.passes).words,
            outcome=drop.outcome,
            from_run=kept.record.kind is RecordKind.RUN,
        )
        for kept in reversed(tried.records)
        if kept.record.cut is cut
        for drop in kept.record.drops
        if drop.setting and drop.outcome is not None
    ]
    return SettingsOut(
        cut=cut,
        settings=[
            NamedSettingOut(
                name=one.name,
                pressures=list(one.pressures),
                gentler_than=list(one.gentler_than),
                passes=one.passes,
                blade=one.blade,
                placed=[
                    PlacedOut(
                        pressure=place.pressure,
                        low=share(place.p5_gf),
                        middle=share(place.median_gf),
                        high=share(place.p95_gf),
                        usable=round(place.usable, _DIGITS),
                        usable_words=in_100_short(place.usable),
                    )
                    for place in found.placed
                    if place.name == one.name
                ],
                seen=[_seen_words(seen) for seen in one.seen],
            )
            for one in sorted(job.cutter.settings, key=middle)
        ],
        proposal=_choice_out(found.choice),
        usable=round(found.usable, _DIGITS),
        usable_words=in_100(found.usable),
        at_first_words=in_100(found.at_first),
        worked=found.worked,
        next_try=_choice_out(found.next_try),
        done=found.done,
        look_for=found.look_for,
        outcomes=_outcomes(setting),
        most_passes=MOST_PASSES,
        told=told,
    )


def _choice_out(choice: SettingChoice | None) -> ChoiceOut | None:
    if choice is None:
        return None
    return ChoiceOut(setting=choice.name, pressure=choice.pressure, passes=choice.passes, words=choice.words)


def _seen_words(seen: SettingSeen) -> str:
    """The outcome of a setting, as a maker would say it: "clean on satin vinyl"."""
    name, _ = OUTCOME_WORDS[seen.outcome]
    cut = "" if seen.cut is Cut.KISS or not seen.stock.has_backing else ", cut through"
    pressed = "" if seen.pressure in (None, Pressure.USUAL) else f", {seen.pressure} pressure"
    times = f", {seen.passes} passes" if seen.passes > 1 else ""
    return f"{name} on {seen.stock.name}{cut}{pressed}{times}"


def _records_out(tried: TriedOn) -> list[CutRecordOut]:
    found, ladders = [], 0
    for kept in tried.records:
        found.append(_record_out(kept, ladders))
        ladders += kept.record.kind == "ladder"
    return found


def _record_out(kept: KeptCutRecord, before: int) -> CutRecordOut:
    record = kept.record
    return CutRecordOut(
        id=kept.id,
        kind=record.kind,
        made_at=kept.made_at,
        cut=record.cut,
        blade=record.blade,
        drops=list(record.drops),
        open=record.is_open,
        before=before,
    )


def drops_out(places: list[tuple[float, float]]) -> LadderPlaceOut:
    """Drops at places, to draw."""
    drops = [Drop(x, y, 1.0, 1) for x, y in places]
    return LadderPlaceOut(
        paths=[closed_path(drop.loop, DECIMALS) for drop in drops],
        slits=[open_path(drop.slit, DECIMALS) for drop in drops],
        at=[list(place) for place in places],
        problem=None,
    )


def ladder_place_out(place: LadderPlace) -> LadderPlaceOut:
    return drops_out(list(place.places))


def no_place(sentence: str) -> LadderPlaceOut:
    return LadderPlaceOut(paths=[], slits=[], at=[], problem=sentence)


def replay_out(plan: Plan, sheet: int) -> ReplayOut:
    """One sheet (from 0) as it is cut, as the finished sheet reads."""
    cut, width = cut_of(plan, sheet), plan.job.paper.width_mm

    def seen(points: Points) -> Points:
        return points if not plan.mirror else abs(points * (-1, 1) + (width, 0))

    def at(point: tuple[float, float]) -> list[float]:
        x, y = point
        return [round(width - x if plan.mirror else x, 2), round(y, 2)]

    timing = timing_of(plan, cut)
    timed = list(timed_runs(plan, cut))
    speeds = [one.speed_mm_s for one in timed]
    place = tell_tale_of(plan, sheet)
    return ReplayOut(
        runs=[
            CutRunOut(
                item=one.run.loop.item,
                cut=one.run.loop.cut,
                hole=one.run.loop.is_hole,
                number=one.run.number,
                path=open_path(seen(shapely.get_coordinates(shapely.LineString(one.run.points).simplify(0.01))), 2),
                from_mm=at(one.from_mm),
                to_mm=at((float(one.run.points[0][0]), float(one.run.points[0][1]))),
                speed_mm_s=one.speed_mm_s,
                begins=round(one.begins, 3),
                ends=round(one.ends, 3),
            )
            for one in timed
        ],
        seconds=round(timing.seconds, 2),
        parts={name: round(value, 2) for name, value in timing.parts.items()},
        length_mm=round(timing.length_mm, 1),
        travel_mm=round(timing.travel_mm, 1),
        lifts=timing.lifts,
        slowest_mm_s=min(speeds, default=0.0),
        slow_loops=len({id(one.run.loop) for one in timed if one.speed_mm_s < max(speeds)}),
        tell_tale=no_place("no waste is left for a tell-tale") if place is None else drops_out([place]),
    )


def care_out(plan: Plan, cutter_id: int, care: Care) -> WorkshopCareOut:
    """The blades and mats of a workshop, as a job would use them."""
    stock = plan.job.stock
    metres = sum(metres_of(plan, sheet) for sheet in range(len(plan.sheets))) * plan.job.copies
    used = used_settings(plan) or list(plan.settings.values())
    return WorkshopCareOut(
        wanted_blade=used[0].blade,
        wanted_tack=stock.tack,
        metres=round(metres, 2),
        has_mat=plan.job.cutter.feed is Feed.MAT,
        blades=[
            BladeOut(
                id=one.id,
                name=one.name,
                in_machine=one.cutter_id == cutter_id,
                elsewhere=one.cutter_id not in (None, cutter_id),
                confirmed_at=one.confirmed_at,
                blade=one.value,
                sharpness=round(one.value.sharpness, _DIGITS),
                metres_left=round(metres_left(one.value), 1),
                advice=blade_advice(one.value, stock, metres),
            )
            for one in care.blades.all()
        ],
        mats=[
            MatOut(
                id=one.id,
                name=one.name,
                in_machine=one.cutter_id == cutter_id,
                elsewhere=one.cutter_id not in (None, cutter_id),
                mat=one.value,
                held=round(held_of(one.value), _DIGITS),
                loads_left=loads_left(one.value),
                advice=mat_advice(one.value, stock),
            )
            for one in care.mats.all()
        ],
    )
