"""How fine the pictures inside a drawing are: a drawing is sharp at any size, what was pasted into it is not.

Told as the width in pixels that the whole drawing has at the resolution of its coarsest picture. Transforms, nested
view boxes and how a picture fills its box are followed; a drawing inside the drawing counts as drawn.
"""

import re
from xml.etree.ElementTree import Element

import numpy as np
import numpy.typing as npt

from vamper.formats.art_in.svg_check import HREFS, NUMBER, embedded_data, kind_of, length_px, size_claimed

_TRANSFORM = re.compile(r"(matrix|scale|rotate|skewX|skewY)\s*\(([^)]*)\)")
Linear = npt.NDArray[np.float64]


def embedded_px(root: Element, width: float, height: float) -> float | None:
    """The drawing's width at the resolution of its coarsest picture, px; None where it holds none.

    Parameters
    ----------
    root : Element
        A drawing that `check_svg` let pass.
    width, height : float
        Its own size, px.
    """
    # Pixels of the picture to one px of the drawing.
    densities = []
    work: list[tuple[Element, Linear]] = [(root, _boxed(root, width, height))]
    while work:
        element, above = work.pop()
        here = above @ _linear(element.get("transform") or "")
        kind = kind_of(element)
        if kind == "svg" and element is not root:
            size = length_px(element.get("width")), length_px(element.get("height"))
            here = here @ _boxed(element, *size) if size[0] and size[1] else here
        if kind == "image" and (density := _density(element, here)):
            densities.append(density)
        work += [(child, here) for child in element]
    return min(densities) * width if densities else None


def _boxed(element: Element, width: float | None, height: float | None) -> Linear:
    """The map (2 × 2) that a view box makes of lengths."""
    box = [float(figure) for figure in NUMBER.findall(element.get("viewBox") or "")]
    if len(box) != 4 or box[2] <= 0 or box[3] <= 0 or not width or not height:
        return np.eye(2)
    across, down = width / box[2], height / box[3]
    fill = element.get("preserveAspectRatio") or ""
    if fill.startswith("none"):
        return np.diag([across, down])
    return np.eye(2) * (max(across, down) if "slice" in fill else min(across, down))


def _linear(transform: str) -> Linear:
    """A transform without its shifts."""
    found = np.eye(2)
    for name, text in _TRANSFORM.findall(transform):
        figures = [float(figure) for figure in NUMBER.findall(text)]
        if not figures or (name == "matrix" and len(figures) < 4):
            continue
        if name == "matrix":
            step = np.array([[figures[0], figures[2]], [figures[1], figures[3]]])
        elif name == "scale":
            step = np.diag([figures[0], figures[-1] if len(figures) > 1 else figures[0]])
        else:
            angle = np.radians(figures[0])
            turned = [[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]]
            skewed = {"skewX": [[1.0, np.tan(angle)], [0.0, 1.0]], "skewY": [[1.0, 0.0], [np.tan(angle), 1.0]]}
            step = np.array(skewed.get(name, turned))
        found = found @ step
    return found


def _density(image: Element, above: Linear) -> float | None:
    """Pixels of a picture to one px of the drawing, where it is coarsest; None for what is not made of pixels."""
    target = next((target for name in HREFS if (target := image.get(name))), "")
    pixels = size_claimed(embedded_data(target))
    if not all(pixels):
        return None
    width = length_px(image.get("width")) or float(pixels[0])
    height = length_px(image.get("height")) or float(pixels[1])
    across, down = width / pixels[0], height / pixels[1]
    fill = image.get("preserveAspectRatio") or ""
    if not fill.startswith("none"):
        across = down = max(across, down) if "slice" in fill else min(across, down)
    largest = float(np.linalg.svd(above @ np.diag([across, down]), compute_uv=False)[0])
    return 1 / largest if largest > 0 else None
