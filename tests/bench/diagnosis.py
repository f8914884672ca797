"""How well causes are told: cases drawn from the network itself, worked through check by check."""

import sys
from collections import Counter
from dataclasses import replace
from functools import partial

import numpy as np

from tests.bench.table import Row
from vamper.core.ledger.diagnosis import (
    CAUSES,
    CHECKS,
    FACTS,
    SLIP,
    SYMPTOMS,
    USUAL,
    Cause,
    Check,
    Seen,
    diagnose,
    priors,
    yes_chances,
)
from vamper.core.ledger.facts import facts_of
from vamper.core.ledger.miss_kind import EVEN, Floats, kind_of_misses
from vamper.core.twin.simulate import SPOILINGS, SimulationResult, Spoiling
from vamper.core.values.twin import FaultKey, TwinSpec
from vamper.demo.season import picture_of, planned
from vamper.services.twin.dry_runs import dry_run

CASES, MOST_CHECKS, SURE = 1000, 3, 0.8


def drawn(rng: np.random.Generator, cause: Cause) -> Seen:
    """What a maker would see and know of a cause at work."""
    symptoms: tuple[str, ...] = ()
    while not symptoms:
        symptoms = tuple(code for code in SYMPTOMS if rng.random() < cause.seen.get(code, (SLIP, ""))[0])
    facts = tuple(code for code in FACTS if rng.random() < cause.facts.get(code, (USUAL[code], ""))[0])
    return Seen(symptoms, facts)


def fixed_checklist(symptoms: tuple[str, ...]) -> list[Check]:
    """The checks of every cause that shows one of these symptoms, the commonest cause first: what one does by hand."""
    causes = sorted((one for one in CAUSES if set(one.seen) & set(symptoms)), key=lambda one: -one.prior)
    return [CHECKS[key] for key in dict.fromkeys(one.check for one in causes)]


def diagnosis(cases: int = CASES) -> list[Row]:
    rng = np.random.default_rng(7)
    common = priors({})[: len(CAUSES)]
    common /= common.sum()
    first = three = at_once = steps = by_hand = 0
    minutes = hand_minutes = 0.0
    for place in rng.choice(len(CAUSES), cases, p=common).tolist():
        cause, answers = CAUSES[place], {}
        seen = drawn(rng, cause)
        truth = {key: bool(rng.random() < yes_chances(key)[place]) for key in CHECKS}
        found = diagnose(seen)
        at_once += found.suspects[0].cause is cause
        while found.suspects[0].chance < SURE and len(answers) < MOST_CHECKS and found.next_check is not None:
            key = found.next_check.key
            answers[key] = truth[key]
            minutes += CHECKS[key].minutes
            steps += 1
            found = diagnose(Seen(seen.symptoms, seen.facts, answers))
        first += found.suspects[0].cause is cause
        three += any(one.cause is cause for one in found.suspects[:3])
        for check in fixed_checklist(seen.symptoms):
            by_hand += 1
            hand_minutes += check.minutes
            if truth[check.key]:
                break
    return [
        Row(f"right cause first at once, of {cases} cases", f"{at_once / cases:.1%}", "–"),
        Row(f"right cause first after {MOST_CHECKS} checks at most", f"{first / cases:.1%}", "≥ 70 %"),
        Row("right cause among three", f"{three / cases:.1%}", "≥ 92 %"),
        Row("checks on average", f"{steps / cases:.2f}", "≤ 3"),
        Row("checks beside a fixed checklist", f"{steps / by_hand:.2f}", "< 1"),
        Row("minutes beside a fixed checklist", f"{minutes / hand_minutes:.2f}", "< 1"),
    ]


# What a maker sees where a simulated device spoils a piece; faults of the print look as the printer makes them.
_LOOKS = {
    Spoiling.MARKS_NOT_READ: "marks-not-found",
    Spoiling.PRINT_MISSING: "print-missing",
    Spoiling.PRINT_SCALE: "print-scaled",
    Spoiling.TORN: "corners-torn",
    Spoiling.LIFTED: "pieces-lifted",
    Spoiling.NOT_THROUGH: "not-through",
    Spoiling.BACKING_CUT: "backing-cut",
    Spoiling.SLIPPED: "cut-off-later",
    Spoiling.BITTEN: "cut-off-even",
    Spoiling.BARE_RIM: "white-rim",
}
_PRINT_LOOKS = {
    FaultKey.LINES: "print-lines",
    FaultKey.WRONG_SIDE: "ink-smears",
    FaultKey.ROLLER_CREASE: "sheet-creased",
}
# The causes that a fault stands for.
_CAUSES: dict[FaultKey, set[str]] = {
    FaultKey.LOST_PICTURE: {"art-lost", "margin-cuts"},
    FaultKey.WRONG_SIDE: {"wrong-side"},
    FaultKey.LINES: {"nozzles-clogged"},
    FaultKey.PAGE_SIZE_RESET: {"page-size-reset", "fit-to-page"},
    FaultKey.STRETCHED_PRINT: {"fit-to-page", "printer-off-scale"},
    FaultKey.LOW_BLACK: {"pale-marks"},
    FaultKey.BRIGHT_LIGHT: {"room-light", "gloss-blinds"},
    FaultKey.COVERED_MARK: {"marks-covered", "mark-lost"},
    FaultKey.NOT_CALIBRATED: {"never-calibrated"},
    FaultKey.BLADE_OFFSET: {"new-holder-offset", "never-calibrated"},
    FaultKey.SLIPPING_STOCK: {"stock-slips"},
    FaultKey.CABLE_BEHIND: {"cable-behind", "feed-creeps"},
    FaultKey.TIRED_MAT: {"mat-lost-tack"},
    FaultKey.LINT: {"lint-under"},
    FaultKey.DULL_BLADE: {"blunt-blade"},
    FaultKey.TUFT: {"tuft-on-tip"},
    FaultKey.HARDER_STOCK: {"too-little-force"},
    FaultKey.SOFTER_STOCK: {"too-much-force"},
    FaultKey.UNLOADED_BETWEEN: {"unloaded-between"},
    FaultKey.ROLLER_CREASE: {"roller-creases"},
}
_FAULT_RUNS = 30
# Spoilt pieces beyond those of a run without a fault; fewer are nobody's case.
_OF_ITS_OWN = 0.03


def from_faults() -> list[Row]:
    """Each fault switched on alone: what came of it is told as a maker sees it, and checks are answered truly."""
    plan, arts, designer = planned("satin-vinyl")
    first = three = cases = 0
    unseen, missed = [], []
    usual = _spoilt_share(dry_run(plan, partial(picture_of, designer, arts), _FAULT_RUNS, 3).sheets[0])
    places = np.array([edge.centroid.coords[0] for edge in plan.sheets[0].edges])
    for fault, causes in _CAUSES.items():
        spoilt = replace(plan, job=replace(plan.job, twin=TwinSpec(faults=(fault,))))
        made = dry_run(spoilt, partial(picture_of, designer, arts), _FAULT_RUNS, 3).sheets[0]
        seen = _seen_of(fault, made, places)
        if not seen or _spoilt_share(made) < usual + _OF_ITS_OWN:
            unseen.append(fault.value)
            continue
        answers: dict[str, bool] = {}
        found = diagnose(Seen(seen, facts_of(spoilt)))
        while found.suspects[0].chance < SURE and len(answers) < MOST_CHECKS and found.next_check is not None:
            key = found.next_check.key
            answers[key] = any(one.check == key for one in CAUSES if one.key in causes)
            found = diagnose(Seen(seen, facts_of(spoilt), answers))
        cases += 1
        hit = found.suspects[0].cause.key in causes
        first += hit
        three += any(one.cause.key in causes for one in found.suspects[:3])
        if not hit:
            missed.append(fault.value)
    return [
        Row(f"right cause first, {cases} faults of the twin", f"{first / cases:.0%}", "≥ 70 %"),
        Row("right cause among three", f"{three / cases:.0%}", "≥ 92 %"),
        Row("not first", ", ".join(missed) or "none", ""),
        Row("spoils nothing on this sheet", ", ".join(unseen) or "none", ""),
    ]


def _spoilt_share(made: SimulationResult) -> float:
    return float((made.spoiled > 0).mean())


def _seen_of(fault: FaultKey, made: SimulationResult, places: Floats) -> tuple[str, ...]:
    """The two things that are seen most of all runs; what kind of miss it is, by the misses of all of them."""
    if not made.read.any():
        return ("marks-not-found",)
    counts = Counter(int(one) for one in made.spoiled[made.spoiled > 0])
    named = [SPOILINGS[one - 1] for one, _ in counts.most_common(2)]
    codes = [_PRINT_LOOKS.get(fault, "print-lines") if one is Spoiling.PRINT_FAULT else _LOOKS[one] for one in named]
    if EVEN in codes:
        kind = kind_of_misses(places, made.miss_mm.mean(axis=0))
        codes = [kind if one == EVEN else one for one in codes]
    whole = made.spoiled.size
    places = counts and counts.most_common(1)[0][1] < whole * 0.8
    return tuple("not-through-places" if places and code == "not-through" else code for code in codes)


if __name__ == "__main__":
    for row in [*diagnosis(), *from_faults()]:
        sys.stdout.write(f"{row}\n")
