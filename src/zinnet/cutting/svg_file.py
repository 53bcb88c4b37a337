"""Cut files as SVG in true mm: one group per piece, one path per outline, in cut order."""

from collections.abc import Iterable
from html import escape

import numpy as np
from numpy.typing import NDArray

from zinnet.cutting.paths import CutSheet
from zinnet.geometry.region import Region, hull_box, rings_of

HEAD = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="{width:.4f}mm" height="{height:.4f}mm" '
    'viewBox="0 0 {width:.4f} {height:.4f}">\n'
)


def number(value: float) -> str:
    """Return a coordinate with at most four decimals, 0.1 micrometre."""
    return f"{value:.4f}".rstrip("0").rstrip(".") or "0"


def path_data(rings: Iterable[NDArray[np.float64]]) -> str:
    """Return SVG path data for closed rings (n, 2)."""
    return " ".join("M" + " L".join(f"{number(x)} {number(y)}" for x, y in ring[:-1].tolist()) + " Z" for ring in rings)


def cut_svg(sheet: CutSheet) -> str:
    """Return the cut file of a mat: outlines without fill, a tenth of a mm thin."""
    lines = [HEAD.format(width=sheet.width_mm, height=sheet.height_mm)]
    lines.append(f'<g id="{escape(sheet.film)}" fill="none" stroke="#000000" stroke-width="0.1">\n')
    for piece in sheet.pieces:
        lines.append(f'<g id="{escape(piece.name)}">\n')
        lines += [f'<path d="{path_data([path.points])}"/>\n' for path in piece.paths]
        lines.append("</g>\n")
    lines.append("</g>\n</svg>\n")
    return "".join(lines)


def shapes_svg(regions: Iterable[Region], colour: str) -> str:
    """Return regions as filled shapes in mm, one path each, in the box around them all."""
    found = [region for region in regions if not region.is_empty]
    left, top, right, bottom = hull_box(found)
    lines = [HEAD.format(width=right - left, height=bottom - top)]
    for region in found:
        rings = [ring - np.array([left, top]) for ring in rings_of(region)]
        lines.append(f'<path fill="{colour}" fill-rule="evenodd" d="{path_data(rings)}"/>\n')
    return "".join([*lines, "</svg>\n"])


def layers_svg(layers: Iterable[tuple[str, Region]], width_mm: float, height_mm: float) -> str:
    """Return layers (colour, region) as worn, from the bottom up: one filled path each, in mm."""
    paths = "".join(
        f'<path fill="{colour}" fill-rule="evenodd" d="{path_data(rings_of(region))}"/>\n' for colour, region in layers
    )
    return f"{HEAD.format(width=width_mm, height=height_mm)}{paths}</svg>\n"


def layer_svg(region: Region, colour: str, width_mm: float, height_mm: float) -> str:
    """Return one layer as worn: a filled shape in mm in the box of the whole artwork."""
    return layers_svg([(colour, region)], width_mm, height_mm)
