"""Edges for scissors: no bend tighter than a hand can go round."""

from dataclasses import replace

from vamper.core.devices import HAND_RADIUS_MM
from vamper.core.findings import Finding, Severity
from vamper.core.job import EdgeKind, EdgeSpec

# Scissors go round a bend a little tighter than asked for; below this nobody follows the line.
_TOLERATED = 0.75


def for_hand(spec: EdgeSpec) -> EdgeSpec:
    """The same edge with corners and notches rounded to what scissors can follow; `bare` stays on its outline."""
    if spec.kind is EdgeKind.BARE:
        return spec
    return replace(
        spec,
        blunt_mm=max(spec.blunt_mm, HAND_RADIUS_MM),
        corner_mm=max(spec.corner_mm, HAND_RADIUS_MM),
        smooth_mm=max(spec.smooth_mm, HAND_RADIUS_MM),
    )


def hand_findings(smallest_radius_mm: float, index: int) -> list[Finding]:
    """A bend that scissors cannot follow."""
    if smallest_radius_mm >= HAND_RADIUS_MM * _TOLERATED:
        return []
    return [
        Finding(
            "edge.scissors",
            Severity.LOOK,
            "Too tight for scissors",
            f"Its tightest bend has a radius of {smallest_radius_mm:.1f} mm; by hand {HAND_RADIUS_MM:g} mm and more "
            "can be followed.",
            {"radius_mm": round(smallest_radius_mm, 2), "needed_mm": HAND_RADIUS_MM},
            item=index,
        )
    ]
