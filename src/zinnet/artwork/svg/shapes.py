"""SVG's basic shapes and paths as cubic subpaths (SVG 2, chapters 9 and 10)."""

import re
from xml.etree.ElementTree import Element

import numpy as np

from zinnet.artwork.svg.bounds import LARGEST, is_bounded
from zinnet.artwork.svg.path_data import read_path
from zinnet.artwork.svg.style import length
from zinnet.artwork.svg.xml_guard import local_name
from zinnet.geometry.curves import Subpath, ellipse, lines_as_cubics, unit_arc

SHAPES = {"path", "rect", "circle", "ellipse", "line", "polyline", "polygon"}
POINT_LIST = re.compile(r"[\s,]*+([+-]?+(?:\d++\.?+\d*+|\.\d++)(?:[eE][+-]?+\d++)?+)")


def outline(element: Element, width: float, height: float) -> tuple[tuple[Subpath, ...], bool]:
    """Return a shape's subpaths and whether all of it was read; percentages are of ``width`` x ``height``."""
    diagonal = float(np.hypot(width, height) / np.sqrt(2))

    def number(name: str, of: float, default: float = 0.0) -> float:
        value = length(element.get(name), percent_of=of, default=default)
        return value if abs(value) <= LARGEST else default

    name = local_name(element)
    if name == "path":
        return read_path(element.get("d", ""))
    if name == "rect":
        return _rectangle(
            number("x", width),
            number("y", height),
            number("width", width),
            number("height", height),
            number("rx", width, -1),
            number("ry", height, -1),
        ), True
    if name == "circle":
        radius = number("r", diagonal)
        found = ellipse(number("cx", width), number("cy", height), radius, radius)
        return ((found,) if radius > 0 else ()), True
    if name == "ellipse":
        rx, ry = number("rx", width, -1), number("ry", height, -1)
        rx, ry = (ry if rx < 0 else rx), (rx if ry < 0 else ry)
        found = ellipse(number("cx", width), number("cy", height), rx, ry)
        return ((found,) if rx > 0 and ry > 0 else ()), True
    if name == "line":
        ends = [(number("x1", width), number("y1", height)), (number("x2", width), number("y2", height))]
        return (Subpath(lines_as_cubics(np.array(ends)), closed=False),), True
    return _points(element.get("points", ""), closed=name == "polygon")


def _points(text: str, *, closed: bool) -> tuple[tuple[Subpath, ...], bool]:
    numbers, at = [], 0
    while match := POINT_LIST.match(text, at):
        numbers.append(float(match[1]))
        at = match.end()
    whole = not text[at:].strip(" ,\t\r\n") and len(numbers) % 2 == 0
    points = np.array(numbers[: len(numbers) // 2 * 2], dtype=np.float64).reshape(-1, 2)
    if len(points) < 2 or not is_bounded(points):
        return (), whole and len(points) == 0
    if closed:
        points = np.concatenate([points, points[:1]])
    return (Subpath(lines_as_cubics(points), closed),), whole


def _rectangle(x: float, y: float, width: float, height: float, rx: float, ry: float) -> tuple[Subpath, ...]:
    if width <= 0 or height <= 0:
        return ()
    rx, ry = (ry if rx < 0 else rx), (rx if ry < 0 else ry)
    rx, ry = min(max(rx, 0.0), width / 2), min(max(ry, 0.0), height / 2)
    right, bottom = x + width, y + height
    if rx == 0 or ry == 0:
        box = np.array([(x, y), (right, y), (right, bottom), (x, bottom), (x, y)])
        return (Subpath(lines_as_cubics(box), closed=True),)
    centres = [(right - rx, y + ry), (right - rx, bottom - ry), (x + rx, bottom - ry), (x + rx, y + ry)]
    arcs = [unit_arc(np.pi / 2 * (k - 1), np.pi / 2) * (rx, ry) + centre for k, centre in enumerate(centres)]
    runs = []
    for k, arc in enumerate(arcs):
        following = arcs[(k + 1) % 4]
        runs += [arc, lines_as_cubics(np.stack([arc[-1, 3], following[0, 0]]))]
    return (Subpath(np.concatenate(runs), closed=True),)
