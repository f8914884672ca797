"""What `vamper check` says of one art at one size, as JSON: its findings, its edge, and the shapes it could have."""

from typing import Any

from vamper.core.design import DesignedItem
from vamper.core.edge.handling import advise, candidates, drawn_small, handling_of
from vamper.core.inspect import item_findings
from vamper.core.values.art import Purpose
from vamper.core.values.findings import most_serious_first
from vamper.core.values.stock import Stock
from vamper.formats.plan_writing import finding_entry


def check_document(item: DesignedItem, purpose: Purpose, stock: Stock) -> dict[str, Any]:
    """Everything that can be said about one art at one size."""
    advice, handling = advise(stock, purpose), handling_of(item.edge.shape)
    findings = most_serious_first(item_findings(item, purpose, stock))
    return {
        "format": "vamper-check",
        "version": 1,
        "art": item.spec.art,
        "size_mm": [round(side, 3) for side in item.outline.size_mm],
        "ppi": round(item.outline.ppi, 1),
        "edge_mm": [round(side, 3) for side in item.edge.size_mm],
        "least_border_mm": round(item.edge.least_border_mm, 3),
        "area_mm2": round(item.edge.shape.area, 1),
        "edge_length_mm": round(item.edge.length_mm, 1),
        "roughness": round(handling.roughness, 3),
        "fingers_mm": [round(length, 1) for length in handling.fingers_mm],
        "bleed_mm": round(item.bleed.width_mm, 3),
        "advice": {"manner": advice.manner.value, "why": advice.why},
        "shapes": [
            {
                "name": one.name,
                "area_mm2": round(one.edge.shape.area, 1),
                "roughness": round(one.handling.roughness, 3),
                "fingers": len(one.handling.fingers_mm),
            }
            for one in candidates(drawn_small(item.outline), item.spec.edge, stock.least_neck_mm)
        ],
        "findings": [
            finding_entry(one, {item.number: 0}).model_dump(mode="json", exclude_unset=True) for one in findings
        ],
    }
