"""How well causes are told: cases drawn from the network itself, worked through check by check."""

import sys

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
    Seen,
    diagnose,
    fixed_checklist,
    priors,
    yes_chances,
)

CASES, MOST_CHECKS, SURE = 1000, 3, 0.8


def drawn(rng: np.random.Generator, cause: Cause) -> Seen:
    """What a maker would see and know of a cause at work."""
    symptoms: tuple[str, ...] = ()
    while not symptoms:
        symptoms = tuple(code for code in SYMPTOMS if rng.random() < cause.seen.get(code, (SLIP, ""))[0])
    facts = tuple(code for code in FACTS if rng.random() < cause.facts.get(code, (USUAL[code], ""))[0])
    return Seen(symptoms, facts)


def diagnosis(cases: int = CASES) -> list[Row]:
    rng = np.random.default_rng(7)
    common = priors({})
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


if __name__ == "__main__":
    for row in diagnosis():
        sys.stdout.write(f"{row}\n")
