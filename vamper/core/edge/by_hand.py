"""Edges for scissors: no bend tighter than a hand can go round."""

from dataclasses import replace

from vamper.core.values.cutter import HAND_RADIUS_MM
from vamper.core.values.edge import EdgeSpec


def for_hand(spec: EdgeSpec) -> EdgeSpec:
    """The same edge with corners and notches rounded to what scissors can follow, if it has a border."""
    if not spec.has_border:
        return spec
    return replace(
        spec,
        fillet_mm=max(spec.fillet_mm, HAND_RADIUS_MM),
        corner_mm=max(spec.corner_mm, HAND_RADIUS_MM),
        smooth_mm=max(spec.smooth_mm, HAND_RADIUS_MM),
    )
