"""What may have gone wrong, and all codes of it, as JSON."""

from typing import Any

from vamper.core.ledger.diagnosis import CHECKS, FACTS, HYPOTHESES, SYMPTOMS, Check, Diagnosis


def diagnosis_document(found: Diagnosis) -> dict[str, Any]:
    """All causes, the likeliest first, and the next check."""
    return {
        "causes": [
            {
                "cause": one.cause.text,
                "code": one.cause.key,
                "chance": one.chance,
                "why": list(one.why),
                "next_check": _check(one.next_check),
                "remedy": one.cause.remedy,
                "keep": one.cause.keep,
            }
            for one in found.suspects
        ],
        "next_check": _check(found.next_check),
    }


def _check(check: Check | None) -> dict[str, str] | None:
    return None if check is None else {"code": check.key, "text": check.ask}


def codes_document() -> dict[str, Any]:
    """Every code with its sentence."""
    return {
        "seen": SYMPTOMS,
        "facts": FACTS,
        "checks": {key: check.ask for key, check in CHECKS.items()},
        "causes": {cause.key: cause.text for cause in HYPOTHESES},
    }
