"""The cut plan as DXF in millimetres: closed polylines on layers KISS, THROUGH and MARKS, y up from the bottom left."""

import io
from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING

from vamper.core.cutting.plan import CutPlan
from vamper.core.marks.mark import Mark
from vamper.core.values.cut import Cut
from vamper.core.values.geometry import Points
from vamper.core.values.paper import Paper

if TYPE_CHECKING:
    from ezdxf.document import Drawing

LAYERS = {Cut.KISS: "KISS", Cut.THROUGH: "THROUGH"}
MARKS_LAYER = "MARKS"
# Index colours of the format: cyan, red, and black or white after the ground.
_COLOURS = {"KISS": 4, "THROUGH": 1, MARKS_LAYER: 7}


def write_dxf(plan: CutPlan, marks: Sequence[Mark]) -> bytes:
    """One sheet's loops in cutting order, and its marks for reference."""
    document = new_document(_COLOURS)
    space = document.modelspace()

    def add(points: Points, layer: str, close: bool = True) -> None:
        flipped = [(round(float(x), 5), round(plan.paper.height_mm - float(y), 5)) for x, y in points]
        space.add_lwpolyline(flipped, close=close, dxfattribs={"layer": layer})

    for stroke in plan.strokes:
        add(stroke, LAYERS[plan.strokes_cut], close=False)
    for loop in plan.loops:
        if loop.tabs is None:
            add(loop.points, LAYERS[loop.cut])
        else:
            for run in loop.runs(0.0):
                add(run, LAYERS[loop.cut], close=False)
    for mark in marks:
        for ring in mark.rings:
            add(ring, MARKS_LAYER)
    return dxf_bytes(document, plan.paper)


def new_document(layers: Mapping[str, int]) -> "Drawing":
    """An empty drawing in millimetres with layers of some index colours."""
    # With the first file that is written, not with every start: it takes half a second to load.
    import ezdxf
    from ezdxf import options, units

    # Time stamps and random ids would make the same plan a different file each time.
    options.write_fixed_meta_data_for_testing = True
    document = ezdxf.new("R2010", units=units.MM)
    for name, colour in layers.items():
        document.layers.add(name, color=colour)
    return document


def dxf_bytes(document: "Drawing", paper: Paper) -> bytes:
    """A drawing of a sheet as a file."""
    document.header["$EXTMIN"] = (0, 0, 0)
    document.header["$EXTMAX"] = (paper.width_mm, paper.height_mm, 0)
    # The library lists the kinds of things in use in the order of a set, which differs from run to run.
    for kind in sorted(document.entitydb.dxf_types_in_use()):
        document.classes.add_class(kind)
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode("utf-8")
