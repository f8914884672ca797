"""A closed program's side of the twin: the force behind each named setting, and what it makes of the picture it gets.

Its forces are hidden: on the practice bench they are drawn once from its seed, round what the names speak of and in the
order that was told; elsewhere a setting presses as it is believed to. It finds outlines in the picture's own pixels,
prints the picture with marks of its own, and cuts what it found.
"""

import math
import zlib

import cv2
import numpy as np
from scipy import ndimage

from vamper.core.art.picture import Picture, Pixels
from vamper.core.cutting.setting import CutSetting
from vamper.core.cutting.setting_names import NAME_SIGMA, named_force_gf
from vamper.core.marks.program_marks import marks_or_usual
from vamper.core.plan import Plan
from vamper.core.program.choices import Switch, program_choices
from vamper.core.program.outlines import outlines_in
from vamper.core.program.picture import PictureFrame
from vamper.core.twin.strokes import CutStroke
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter
from vamper.core.values.geometry import parts, ring_points
from vamper.core.values.named_settings import SettingChoice, harder_settings, place_of
from vamper.core.values.program import PICTURE_PPI
from vamper.core.values.tried import Pressure
from vamper.core.values.units import MM_PER_INCH

_PRESSED = {None: 1.0, Pressure.LESS: 0.87, Pressure.USUAL: 1.0, Pressure.MORE: 1.15}
_SPAN_MIDDLE = 0.5
_OPAQUE = 255
_CLOSED_FROM = 128


def hidden_force_gf(cutter: Cutter, choice: SettingChoice) -> float:
    """The force (gf) that a setting of the practice machine really presses with."""
    place = place_of(choice.name, cutter.settings)
    if place is None:
        return cutter.force_gf.settle(_drawn(cutter, choice.name))
    forces = [_drawn(cutter, one.name) for one in cutter.settings]
    # An order that was told is so: nothing presses less than what is gentler.
    gentler = [one for one, above in enumerate(harder_settings(cutter.settings)) if place in above]
    force = max([forces[place], *(forces[one] for one in gentler)]) * _PRESSED[choice.pressure]
    return min(max(force, cutter.force_gf.min), cutter.force_gf.max)


def _drawn(cutter: Cutter, name: str) -> float:
    seed = (cutter.practice or 1, zlib.crc32(name.casefold().encode()))
    random = np.random.default_rng(seed)
    span = cutter.force_gf
    named = named_force_gf(name)
    if named is None:
        return float(math.exp(random.uniform(math.log(span.min), math.log(span.max))))
    return float(np.clip(named * math.exp(random.normal(0, NAME_SIGMA)), span.min, span.max))


def force_of(plan: Plan, setting: CutSetting) -> float:
    """The force (gf) that a cut of a plan is made with: hidden on the practice bench, else as it is believed."""
    choice, cutter = setting.spoken.choice, plan.job.cutter
    if choice is None:
        return setting.force_gf
    if cutter.practice is not None:
        return hidden_force_gf(cutter, choice)
    placed = setting.spoken.placed
    return next(
        (one.median_gf for one in placed if one.name == choice.name and one.pressure in (choice.pressure, None)),
        setting.force_gf,
    )


def passes_of(setting: CutSetting) -> int:
    return setting.passes if setting.spoken.choice is None else setting.spoken.choice.passes


def strokes_found(plan: Plan, picture: Picture, frame: PictureFrame) -> tuple[CutStroke, ...]:
    """The strokes that the program cuts: the outlines that it finds in the picture, holes first where it finds them,
    each as often as it is told to.
    """
    cuts = {item.spec.cut for item in plan.items}
    setting = next(plan.settings[cut] for cut in Cut if cut in cuts)
    holes = plan.job.cutter.program_facts.finds_holes is not False
    strokes = list[CutStroke]()
    for shape in outlines_in(picture):
        for part in parts(shape):
            rings = [*(part.interiors if holes else ()), part.exterior]
            for ring in rings:
                points = ring_points(ring) + np.array([frame.left_mm, frame.top_mm])
                closed = np.vstack([points, points[:1]])
                for _ in range(passes_of(setting)):
                    strokes.append(CutStroke(setting.cut, setting.speed_mm_s, force_of(plan, setting), closed))
    return tuple(strokes)


def printed_by_program(plan: Plan, picture: Picture, frame: PictureFrame, ppi: float) -> Pixels:
    """The page that the program prints: the picture at its place, its colour carried past the cut where its bleed is
    on, and marks of its own; rows, columns, RGBA at `ppi`.
    """
    paper = plan.job.paper
    height, width = (round(side * ppi / MM_PER_INCH) for side in (paper.height_mm, paper.width_mm))
    known = plan.job.cutter.program_facts.bleed
    rgba = picture.rgba
    if known is not None and program_choices(plan).bleed is Switch.ON:
        rgba, frame = _bled(rgba, frame, known.width_mm)
    scale = ppi / PICTURE_PPI
    # A pixel's middle is half a pixel from its corner, in both.
    left, top = frame.left_mm * ppi / MM_PER_INCH, frame.top_mm * ppi / MM_PER_INCH
    move = np.array([[scale, 0, left + scale / 2 - 0.5], [0, scale, top + scale / 2 - 0.5]])
    soft = rgba.astype(np.float32)
    soft[..., :3] *= soft[..., 3:] / _OPAQUE
    if scale < 1:
        soft = np.asarray(cv2.GaussianBlur(soft, (0, 0), 0.4 / scale), np.float32)
    page = np.asarray(cv2.warpAffine(soft, move, (width, height), flags=cv2.INTER_LINEAR), np.float64)
    page[..., :3] *= _OPAQUE / np.maximum(page[..., 3:], 1e-3)
    for mark in marks_or_usual(plan.job):
        ink = np.zeros((height, width), np.uint8)
        shift = 4
        rings = [np.round((ring * ppi / MM_PER_INCH - 0.5) * 2**shift).astype(np.int32) for ring in mark.rings]
        cv2.fillPoly(ink, rings, _OPAQUE, lineType=cv2.LINE_AA, shift=shift)
        cover = (ink / _OPAQUE)[..., None]
        page[..., :3] *= 1 - cover
        page[..., 3:] = np.maximum(page[..., 3:], ink[..., None])
    return np.clip(np.round(page), 0, _OPAQUE).astype(np.uint8)


def _bled(rgba: Pixels, frame: PictureFrame, width_mm: float) -> tuple[Pixels, PictureFrame]:
    """A picture with its colours carried past its outline."""
    rim = math.ceil(width_mm * PICTURE_PPI / MM_PER_INCH)
    wide = np.pad(rgba, ((rim, rim), (rim, rim), (0, 0)))
    closed = wide[..., 3] >= _CLOSED_FROM
    away, (rows, columns) = ndimage.distance_transform_edt(~closed, return_indices=True)
    carried = wide[rows, columns]
    carried[away > rim] = 0
    mm = rim * MM_PER_INCH / PICTURE_PPI
    height, width = wide.shape[:2]
    return carried, PictureFrame(frame.left_mm - mm, frame.top_mm - mm, width, height)
