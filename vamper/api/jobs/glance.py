"""A job at a glance, for the list of jobs: its fullest sheet, drawn with few points."""

import shapely

from vamper.api.art.views import picture_address
from vamper.api.jobs.schemas import GlanceOut, GlanceShape
from vamper.core.sheet.layout import Layout
from vamper.core.values.findings import Place
from vamper.formats.svg_path import shape_path
from vamper.services.design.job_design import Design

# A sheet is shown about as wide as a thumb; finer than this nobody sees.
_FINE_MM = 0.4


def glance_out(design: Design, layout: Layout) -> GlanceOut:
    """The fullest sheet of a layout, without what is on no sheet."""
    job = design.job
    sheet = max(layout.sheets, key=len, default=())
    shown = {placement.item for placement in sheet}
    return GlanceOut(
        width_mm=job.paper.width_mm,
        height_mm=job.paper.height_mm,
        colour=job.stock.colour,
        sheets=len(layout.sheets),
        copies=job.copies,
        shapes=[
            GlanceShape(
                number=item.number,
                path=shape_path(shapely.simplify(item.edge.shape, _FINE_MM), 1),
                picture=picture_address(item.spec.art, item.spec.prepare),
                picture_box=Place(*item.outline.picture_box_mm),
            )
            for item in design.items
            if item.number in shown
        ],
        pieces=[value for p in sheet for value in (p.item, round(p.x_mm, 1), round(p.y_mm, 1), p.turn_deg)],
    )
