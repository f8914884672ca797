"""What went wrong: the network is whole, its figures are those of Bayes, and checks tell what they should."""

from itertools import product

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.tried import tried
from vamper.core.ledger.diagnosis import (
    CAUSE_BY_KEY,
    CAUSES,
    CHECKS,
    FACTS,
    FALSE_YES,
    HYPOTHESES,
    OTHER,
    SLIP,
    SYMPTOMS,
    USUAL,
    YES,
    Cause,
    Seen,
    diagnose,
    priors,
    yes_chances,
)
from vamper.core.values.findings import BadInput

CODES = st.lists(st.sampled_from(sorted(SYMPTOMS)), min_size=1, max_size=4, unique=True)
KNOWN = st.lists(st.sampled_from(sorted(FACTS)), max_size=5, unique=True)
ANSWERS = st.dictionaries(st.sampled_from(sorted(CHECKS)), st.booleans(), max_size=4)


def test_the_network_is_whole() -> None:
    assert len(CAUSES) >= 35
    assert set(SYMPTOMS) == {code for cause in CAUSES for code in cause.seen}
    assert set(FACTS) == {code for cause in CAUSES for code in cause.facts} == set(USUAL)
    assert set(CHECKS) == {cause.check for cause in CAUSES}
    for cause in CAUSES:
        assert set(cause.also) <= CAUSE_BY_KEY.keys()
        for share, why in (*cause.seen.values(), *cause.facts.values()):
            assert 0 < share < 1
            assert why
        assert cause.text.endswith(".")
        assert cause.remedy
        assert cause.keep
    assert all(check.minutes > 0 and check.ask.endswith("?") for check in CHECKS.values())


@given(CODES, KNOWN, ANSWERS)
@tried(60)
def test_chances_are_those_of_bayes_and_add_up(seen: list[str], facts: list[str], checked: dict[str, bool]) -> None:
    found = diagnose(Seen(tuple(seen), tuple(facts), checked))
    total = sum(cause.prior for cause in CAUSES)
    weights, said = {}, {code: yes_chances(code) for code in checked}
    for place, cause in enumerate(HYPOTHESES):
        if cause is not OTHER and not set(seen) & cause.seen.keys():
            continue
        weight = 0.05 if cause is OTHER else 0.95 * cause.prior / total
        for code in seen:
            slip = 0.08 if cause is OTHER else SLIP
            weight *= cause.seen[code][0] if code in cause.seen else slip
        for code in facts:
            weight *= cause.facts[code][0] if code in cause.facts else USUAL[code]
        for code, answer in checked.items():
            yes = said[code][place]
            weight *= yes if answer else 1 - yes
        weights[cause.key] = weight
    whole = sum(weights.values())
    assert {one.cause.key for one in found.suspects} == weights.keys()
    for one in found.suspects:
        assert one.chance == pytest.approx(weights[one.cause.key] / whole, abs=1e-4)
    assert sum(one.chance for one in found.suspects) == pytest.approx(1, abs=1e-9)
    assert [one.chance for one in found.suspects] == sorted((one.chance for one in found.suspects), reverse=True)
    assert found.next_check is None or found.next_check.key not in checked


@given(CODES, KNOWN)
@tried(40)
def test_yes_speaks_for_its_cause_and_no_against_it(seen: list[str], facts: list[str]) -> None:
    before = {one.cause.key: one for one in diagnose(Seen(tuple(seen), tuple(facts))).suspects}
    cause = next(one.cause for one in before.values() if one.cause is not OTHER)
    answers = {
        answer: next(
            one.chance
            for one in diagnose(Seen(tuple(seen), tuple(facts), {cause.check: answer})).suspects
            if one.cause is cause
        )
        for answer in (True, False)
    }
    assert answers[True] >= before[cause.key].chance >= answers[False]


def test_the_next_check_takes_away_most_doubt_for_its_minutes() -> None:
    seen = Seen(("not-through",), ("new-material",))
    there = {one.cause.key: one.chance for one in diagnose(seen).suspects}
    chances = np.array([there.get(cause.key, 0.0) for cause in HYPOTHESES])

    def doubt(weights: np.ndarray) -> float:
        shares = weights[weights > 0] / weights.sum()
        return float(-(shares * np.log2(shares)).sum())

    def worth(key: str) -> float:
        left = sum(
            float((chances * yes).sum()) * doubt(chances * yes) for yes in (yes_chances(key), 1 - yes_chances(key))
        )
        return (doubt(chances) - left) / CHECKS[key].minutes

    best = diagnose(seen).next_check
    assert best is not None
    assert worth(best.key) == pytest.approx(max(worth(key) for key in CHECKS), rel=1e-3)


@given(CODES, KNOWN, ANSWERS)
@tried(60)
def test_no_answer_is_without_a_reason(seen: list[str], facts: list[str], checked: dict[str, bool]) -> None:
    """Iron marks are not told as a sensor that was blinded: what explains nothing that was seen is no answer."""
    found = diagnose(Seen(tuple(seen), tuple(facts), checked))
    for one in found.suspects:
        assert one.cause is OTHER or set(one.cause.seen) & set(seen)
        assert one.cause is OTHER or one.why
    if found.next_check is not None:
        # Only what asks for a cause that may still be: of a fault of the print nobody is asked how long it soaked.
        asks = {one.cause.check for one in found.suspects if one.chance >= 0.01}
        assert found.next_check.key in asks


@pytest.mark.parametrize("symptom", sorted(SYMPTOMS))
def test_when_all_checks_say_no_the_questions_end_with_something_else(symptom: str) -> None:
    answers = dict[str, bool]()
    found = diagnose(Seen((symptom,)))
    explain = {one.cause.check for one in found.suspects} - {""}
    while found.next_check is not None:
        answers[found.next_check.key] = False
        found = diagnose(Seen((symptom,), (), answers))
    assert set(answers) <= explain
    assert found.suspects[0].cause is OTHER
    assert found.suspects[0].chance > 0.15


@pytest.mark.parametrize("cause", CAUSES, ids=lambda cause: cause.key)
def test_a_cause_whose_own_check_says_no_is_the_answer_no_more(cause: Cause) -> None:
    for symptom in cause.seen:
        found = diagnose(Seen((symptom,), (), {cause.check: False}))
        chance = next(one.chance for one in found.suspects if one.cause is cause)
        assert chance < 0.25, symptom


def test_what_it_turned_out_to_be_shifts_the_priors() -> None:
    plain, shifted = priors({}), priors({"tuft-on-tip": 30})
    place = HYPOTHESES.index(CAUSE_BY_KEY["tuft-on-tip"])
    assert shifted[place] == pytest.approx((plain[place] + 1) / 2)
    assert shifted.sum() == pytest.approx(1)
    seen = ("corners-torn",)
    first = [diagnose(Seen(seen, found=found)).suspects[0].cause.key for found in ({}, {"too-fast": 40})]
    assert first == ["blunt-blade", "too-fast"]


@pytest.mark.parametrize(
    ("seen", "facts", "cause"),
    [
        (("marks-not-found",), ("metallic", "gloss"), "gloss-blinds"),
        (("marks-not-found",), ("dark-stock",), "dark-stock-marks"),
        (("cut-off-even",), ("not-calibrated",), "never-calibrated"),
        (("print-scaled", "cut-off-growing"), ("fit-to-page",), "fit-to-page"),
        (("backing-cut",), ("steep-blade",), "steep-on-soft"),
        (("ink-runs-wet",), ("few-coats",), "too-few-coats"),
        (("film-curled",), ("cold-water",), "water-not-warm"),
        (("pieces-lifted",), ("old-mat",), "mat-lost-tack"),
    ],
)
def test_plain_cases_are_told(seen: tuple[str, ...], facts: tuple[str, ...], cause: str) -> None:
    assert diagnose(Seen(seen, facts)).suspects[0].cause.key == cause
    assert diagnose(Seen(seen, facts)).suspects[0].why


def test_bad_codes_are_named() -> None:
    for wrong in (Seen(()), Seen(("nonsense",)), Seen(("not-through",), ("nonsense",))):
        with pytest.raises(BadInput):
            diagnose(wrong)
    with pytest.raises(BadInput, match="--codes"):
        diagnose(Seen(("not-through",), (), {"nonsense": True}))
    assert all(yes_chances(key).min() >= FALSE_YES for key in CHECKS)
    assert all(yes_chances(key).max() == YES for key, _ in product(CHECKS, [0]))
