"""Ladders and runs as JSON, and what they come to."""

from dataclasses import dataclass
from typing import Annotated, Any, ClassVar

from annotated_types import Len
from pydantic import TypeAdapter

from vamper.core.cutting.belief import HardnessBelief, posterior, prior
from vamper.core.cutting.ladder import LadderAdvice, ladder_advice
from vamper.core.effective_job import effective_cut
from vamper.core.values.blade import Blade, WornMetres
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import ForceRange
from vamper.core.values.findings import BadInput
from vamper.core.values.limits import STRICT
from vamper.core.values.stock import STOCK_BY_KEY, Stock
from vamper.core.values.tried import MOST_PASSES, Gf, Outcome, Passes, Try
from vamper.formats.json_object import object_in
from vamper.formats.sentences import read_as
from vamper.formats.stock_name import stock_in

_FORCE = ForceRange()


@dataclass(frozen=True, slots=True, kw_only=True)
class TryEntry:
    """One drop of a ladder, or one run."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    force_gf: Gf
    passes: Passes = 1
    outcome: Outcome


@dataclass(frozen=True, slots=True, kw_only=True)
class LadderFile:
    """The ladders tried on a stock.

    Parameters
    ----------
    stock : Stock
        A starter's key in the file, or a stock of one's own with all its fields.
    cut : Cut
        How deep the cut is to go.
    force_gf : ForceRange
        What the cutter spans, gf.
    blade, metres : Blade, float
        The blade, and how worn it is, metres times abrasion.
    tries, runs : tuple of TryEntry
        Drops of ladders, and cuts of whole sheets.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    stock: Stock
    cut: Cut = Cut.KISS
    force_gf: ForceRange = _FORCE
    blade: Blade = Blade.GENERAL
    metres: WornMetres = 0.0
    tries: Annotated[tuple[TryEntry, ...], Len(0, 1000)] = ()
    runs: Annotated[tuple[TryEntry, ...], Len(0, 1000)] = ()


_LADDER = TypeAdapter(LadderFile)


def read_ladder(text: str | bytes) -> LadderFile:
    """Ladders from the text of a file.

    Raises
    ------
    BadInput
        Names the field that cannot be used, and what it should be.
    """
    raw = object_in(text, "the tries file")
    raw = raw | ({"stock": stock_in(raw["stock"])} if "stock" in raw else {})
    ladder = read_as(_LADDER, raw)
    _check(ladder)
    return ladder


def _check(ladder: LadderFile) -> None:
    first = _first(ladder)
    known = {outcome for outcome, _, _ in first.bands.outcomes} | {Outcome.TORN}
    for name, entries in (("tries", ladder.tries), ("runs", ladder.runs)):
        for place, one in enumerate(entries):
            if not ladder.force_gf.min <= one.force_gf <= ladder.force_gf.max:
                raise BadInput(
                    f"{one.force_gf:g} gf is outside this machine's range, {ladder.force_gf.min:g} to "
                    f"{ladder.force_gf.max:g} gf",
                    f"{name}.{place}.force_gf",
                )
            if one.outcome not in known:
                raise BadInput(
                    "there is no backing to mark in this cut: a drop is not-through, clean or torn",
                    f"{name}.{place}.outcome",
                )


def _first(ladder: LadderFile) -> HardnessBelief:
    return prior(ladder.stock, effective_cut(ladder.stock, ladder.cut), ladder.blade, ladder.metres)


def ladder_result(ladder: LadderFile) -> tuple[HardnessBelief, LadderAdvice]:
    """The belief after everything that was tried, and what it comes to."""
    tries = [Try(one.force_gf, one.passes, one.outcome) for one in ladder.tries]
    runs = [Try(one.force_gf, one.passes, one.outcome) for one in ladder.runs]
    belief = posterior(_first(ladder), tries, runs)
    return belief, ladder_advice(belief, ladder.force_gf, [*tries, *runs])


def ladder_document(belief: HardnessBelief, advice: LadderAdvice) -> dict[str, Any]:
    """The advice after a ladder, as data."""
    low, middle, high = (round(float(belief.quantile(share)), 4) for share in (0.05, 0.5, 0.95))
    return {
        "hardness_gf_per_um": {"p5": low, "median": middle, "p95": high},
        "force_gf": advice.proposal.force_gf,
        "passes": advice.proposal.passes,
        "chance": round(advice.proposal.chance, 4),
        "usable": round(advice.proposal.usable, 4),
        "at_first": round(advice.proposal.at_first, 4),
        "chance_if_known": round(advice.chance_if_known, 4),
        "gain_of_another": round(advice.gain_of_another, 4),
        "done": advice.done,
        "next_gf": list(advice.next_gf),
        "advice": list(advice.advice),
    }


def ladder_schema() -> dict[str, Any]:
    schema = _LADDER.json_schema()
    schema["properties"]["stock"] = {"anyOf": [{"enum": list(STOCK_BY_KEY)}, schema["properties"]["stock"]]}
    return schema


def ladder_result_schema() -> dict[str, Any]:
    """The JSON Schema of what a ladder comes to."""
    number = {"type": "number"}
    share = {"type": "number", "minimum": 0, "maximum": 1}
    names = ("p5", "median", "p95")
    properties = {
        "hardness_gf_per_um": {"type": "object", "properties": dict.fromkeys(names, number), "required": list(names)},
        "force_gf": number,
        "passes": {"type": "integer", "minimum": 1, "maximum": MOST_PASSES},
        "chance": share,
        "usable": share,
        "at_first": share,
        "chance_if_known": share,
        "gain_of_another": share,
        "done": {"type": "boolean"},
        "next_gf": {"type": "array", "items": number},
        "advice": {"type": "array", "items": {"type": "string"}},
    }
    return {"title": "LadderResult", "type": "object", "properties": properties, "required": list(properties)}
