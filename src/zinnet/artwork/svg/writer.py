"""Artwork written as SVG with its curves, in the box that it shows."""

from collections.abc import Iterator

import numpy as np

from zinnet.artwork.model import Artwork, Shape
from zinnet.geometry.curves import Points, Subpath

MM_PER_PX = 25.4 / 96
STRAIGHT = 1e-6
HEAD = '<svg xmlns="http://www.w3.org/2000/svg" width="{width:.4f}mm" height="{height:.4f}mm" viewBox="{box}">\n'


def artwork_svg(artwork: Artwork) -> str:
    """Return artwork that has a visible box as SVG: one path per filled shape; without a size, 96 units are an inch."""
    assert artwork.view is not None
    left, top, right, bottom = artwork.view
    per_unit = artwork.mm_per_unit or MM_PER_PX
    box = " ".join(_number(value) for value in (left, top, right - left, bottom - top))
    lines = [HEAD.format(width=(right - left) * per_unit, height=(bottom - top) * per_unit, box=box)]
    for shape in artwork.shapes:
        if shape.fill is not None:
            rule = ' fill-rule="evenodd"' if shape.fill_rule == "evenodd" else ""
            lines.append(f'<path id="{shape.name}" fill="{shape.fill.colour}"{rule} d="{_data(shape)}"/>\n')
    return "".join([*lines, "</svg>\n"])


def _data(shape: Shape) -> str:
    return " ".join(" ".join(_commands(subpath.moved(shape.matrix))) for subpath in shape.subpaths)


def _commands(subpath: Subpath) -> Iterator[str]:
    cubics = subpath.cubics
    yield f"M{_point(cubics[0, 0])}"
    for index, cubic in enumerate(cubics):
        if not _is_straight(cubic):
            yield f"C{_point(cubic[1])} {_point(cubic[2])} {_point(cubic[3])}"
        elif not (subpath.closed and index == len(cubics) - 1):
            yield f"L{_point(cubic[3])}"
    if subpath.closed:
        yield "Z"


def _is_straight(cubic: Points) -> bool:
    thirds = (2 * cubic[0] + cubic[3]) / 3, (cubic[0] + 2 * cubic[3]) / 3
    off = max(np.abs(cubic[1] - thirds[0]).max(), np.abs(cubic[2] - thirds[1]).max())
    return bool(off <= STRAIGHT * (1 + np.abs(cubic).max()))


def _point(point: Points) -> str:
    return f"{_number(point[0])} {_number(point[1])}"


def _number(value: float) -> str:
    return f"{value:.3f}".rstrip("0").rstrip(".") or "0"
