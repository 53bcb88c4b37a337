"""Cut files as SVG in true mm: a group for the mat, in it one for each film, in it the lines in order of cutting."""

from collections.abc import Iterable, Iterator
from html import escape

import numpy as np
from numpy.typing import NDArray

from zinnet.base.stages import stage
from zinnet.cutting.paths import CutPath, CutSheet
from zinnet.geometry.region import Region, hull_box, rings_of

HEAD = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="{width:.4f}mm" height="{height:.4f}mm" '
    'viewBox="0 0 {width:.4f} {height:.4f}">\n'
)


def number(value: float) -> str:
    """Return a coordinate with at most four decimals, 0.1 micrometre."""
    text = f"{value:.4f}".rstrip("0").rstrip(".")
    return "0" if text in ("", "-0") else text


def path_data(rings: Iterable[NDArray[np.float64]]) -> str:
    """Return SVG path data for closed rings (n, 2)."""
    return " ".join("M" + " L".join(f"{number(x)} {number(y)}" for x, y in ring[:-1].tolist()) + " Z" for ring in rings)


def cut_svg(sheet: CutSheet, *, arcs: bool = True) -> str:
    """Return the cut file of a mat: outlines without fill, a tenth of a mm thin; ``arcs`` where they save points.

    Parameters
    ----------
    sheet : CutSheet, mm
        Lines as they are cut.
    arcs : bool
        Whether arcs may stand for chords.

    Returns
    -------
    str
        An SVG in mm, y down.
    """
    lines = [HEAD.format(width=sheet.width_mm, height=sheet.height_mm)]
    lines.append(f'<g id="{escape(sheet.name)}" fill="none" stroke="#000000" stroke-width="0.1">\n')
    for film in sheet.films:
        lines.append(f'<g id="{escape(sheet.name)}-{escape(film)}">\n')
        lines += [
            f'<path id="{escape(path.name)}" class="{path.kind}" d="{_data(path, arcs)}"/>\n'
            for path in sheet.paths
            if path.film == film
        ]
        lines.append("</g>\n")
    lines.append("</g>\n</svg>\n")
    return "".join(lines)


def _data(path: CutPath, arcs: bool) -> str:
    return _data_of(path.points.tobytes(), path.closed, arcs)


@stage(most=4096)
def _data_of(points: bytes, closed: bool, arcs: bool) -> str:
    """Return the path data of a line, by its points: copies that lie alike on several mats are written once."""
    path = CutPath("", "", "", "outline", np.frombuffer(points).reshape(-1, 2), closed)
    if arcs:
        return " ".join(_with_arcs(path))
    if path.closed:
        return path_data([path.points])
    return "M" + " L".join(f"{number(x)} {number(y)}" for x, y in path.points.tolist())


def _with_arcs(path: CutPath) -> Iterator[str]:
    """Yield the commands of a line; SVG's y runs down, so an arc whose bulge is positive turns clockwise on screen."""
    begin: tuple[float, float] = tuple(path.points[0].tolist())
    yield f"M{number(begin[0])} {number(begin[1])}"
    spans = path.spans
    if path.closed and not spans[-1].bulge:
        spans = spans[:-1]
    for span in spans:
        end = f"{number(span.end[0])} {number(span.end[1])}"
        if span.bulge:
            radius = number(span.radius(begin))
            yield f"A{radius} {radius} 0 0 {1 if span.bulge > 0 else 0} {end}"
        else:
            yield f"L{end}"
        begin = span.end
    if path.closed:
        yield "Z"


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
