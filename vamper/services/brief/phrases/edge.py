"""The edge that all designs have, or the range of borders."""

from dataclasses import replace

from vamper.core.edge.kind import kind_of
from vamper.core.effective_job import initial_edge
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.lengths import mm, span_mm
from vamper.services.brief.phrase import BriefFacts, PhraseKind


def say(told: BriefFacts) -> tuple[str, str]:
    edges = {replace(item.edge, keep_holes=()) for item in told.document.items}
    if len(edges) > 1:
        return ", each with ", _several(edges)
    return ", each with ", _one(edges.pop() if edges else initial_edge(told.job.stock))


def _several(edges: set[EdgeSpec]) -> str:
    distances = sorted({max(0.0, edge.reach_mm) for edge in edges})
    if len(distances) == 1:
        return f"{mm(distances[0])} borders of {len(edges)} kinds"
    return f"borders of {span_mm(distances[0], distances[-1])}"


def _one(edge: EdgeSpec) -> str:
    kind = kind_of(edge)
    if not kind.has_border:
        return "no border, cut on its outline" if edge.reach_mm == 0 else f"no border, cut {mm(-edge.reach_mm)} inside"
    colours = [ring.colour for ring in edge.stack]
    colour = "plain" if colours == [None] else "coloured" if len(colours) == 1 else f"{len(colours)}-ring"
    if edge.reach_mm == 0:
        return f"no border, cut on its {'outline' if kind.follows else kind.phrase}"
    return f"a {mm(edge.reach_mm)} {colour} {kind.phrase}"


KIND = PhraseKind("edge", 4, say)
