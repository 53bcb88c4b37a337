"""Gradients flattened: a linear or radial gradient as bands of plain colour, each with the area in which it holds."""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from itertools import pairwise
from xml.etree.ElementTree import Element

import numpy as np
import shapely

from zinnet.artwork.model import Paint
from zinnet.artwork.svg.style import Style, StyleSheets, colour, fraction, inherit
from zinnet.artwork.svg.transform_list import read_transform
from zinnet.artwork.svg.xml_guard import local_name, reference
from zinnet.geometry.region import Region, as_region
from zinnet.geometry.transform import Matrix, affine, moved, shift

GRADIENTS = {"linearGradient", "radialGradient"}
FAR = 1e4
"""How many times its own length a linear gradient's last bands reach."""
MOST_LINKS = 10
STEPS = 64


@dataclass(frozen=True)
class Stop:
    """A stop: where it is (0 to 1), its colour as sRGB (0 to 255), and how much it covers."""

    at: float
    rgb: tuple[float, float, float]
    opacity: float


@dataclass(frozen=True, eq=False)
class Band:
    """One plain colour of a flattened gradient, and the area where it is painted, in the shape's own units."""

    paint: Paint
    area: Region


def stops_of(server: Element, style: Style, ids: Mapping[str, Element], sheets: StyleSheets) -> list[Stop]:
    """Return a gradient's stops in order, its own or those that it refers to."""
    found = next(iter(_chain(server, ids, lambda one: [c for c in one if local_name(c) == "stop"])), [])
    stops, last = [], 0.0
    for stop in found:
        own = inherit(style, sheets.declared(stop))
        plain = colour(own.get("stop-color", "black"), own["color"]) or ("#000000", 1.0)
        last = max(last, fraction(stop.get("offset"), 0.0))
        r, g, b = (float(int(plain[0][k : k + 2], 16)) for k in (1, 3, 5))
        stops.append(Stop(last, (r, g, b), plain[1] * fraction(own.get("stop-opacity"))))
    return stops


def mean_paint(stops: list[Stop], start: float = 0.0, end: float = 1.0) -> Paint:
    """Return the mean colour of a gradient between two of its places, each colour by how far it reaches."""
    at = np.linspace(start, end, STEPS + 1)
    places = [stop.at for stop in stops]
    channels = [np.interp(at, places, [stop.rgb[k] for stop in stops]).mean() for k in range(3)]
    opacity = float(np.interp(at, places, [stop.opacity for stop in stops]).mean())
    return Paint("#{:02x}{:02x}{:02x}".format(*(round(channel) for channel in channels)), opacity)


def bands(
    server: Element,
    stops: list[Stop],
    ids: Mapping[str, Element],
    box: tuple[float, float, float, float],
    count: int,
) -> list[Band]:
    """Return ``count`` bands of a gradient over a shape with this box (left, top, right, bottom), in its own units.

    The gradient is taken to pad beyond its ends (SVG 2, 14.2).
    """

    def given(name: str, default: str) -> str:
        return next(iter(_chain(server, ids, lambda one: one.get(name))), None) or default

    def number(name: str, default: str) -> float:
        text = given(name, default).strip()
        try:
            value = float(text[:-1]) / 100 if text.endswith("%") else float(text)
        except ValueError:
            value = float(default)
        return value if math.isfinite(value) else float(default)

    left, top, right, bottom = box
    matrix: Matrix = read_transform(given("gradientTransform", ""))
    if given("gradientUnits", "objectBoundingBox") == "objectBoundingBox":
        matrix = affine(right - left, 0, 0, bottom - top, left, top) @ matrix
    if abs(np.linalg.det(matrix)) < 1e-12:
        return []
    if local_name(server) == "linearGradient":
        ends = [number(name, default) for name, default in (("x1", "0"), ("y1", "0"), ("x2", "1"), ("y2", "0"))]
        areas = _strips(ends, count)
    else:
        areas = _rings(number("cx", "0.5"), number("cy", "0.5"), number("r", "0.5"), count)
    return [
        Band(mean_paint(stops, k / count, (k + 1) / count), as_region(moved(area, matrix)))
        for k, area in enumerate(areas)
    ]


def _strips(ends: list[float], count: int) -> list[Region]:
    x1, y1, x2, y2 = ends
    length = math.hypot(x2 - x1, y2 - y1)
    if length == 0:
        return []
    along = affine(x2 - x1, y2 - y1, y1 - y2, x2 - x1, x1, y1)
    edges = [-FAR, *(k / count for k in range(1, count)), FAR]
    return [as_region(moved(shapely.box(low, -FAR, high, FAR), along)) for low, high in pairwise(edges)]


def _rings(x: float, y: float, radius: float, count: int) -> list[Region]:
    if radius <= 0:
        return []
    discs = [shapely.Point(0, 0).buffer(radius * k / count, quad_segs=STEPS) for k in range(1, count)]
    outer = shapely.box(-FAR * radius, -FAR * radius, FAR * radius, FAR * radius)
    found, inside = [], shapely.Polygon()
    for disc in [*discs, outer]:
        found.append(as_region(moved(shapely.difference(disc, inside), shift(x, y))))
        inside = disc
    return found


def _chain[T](server: Element, ids: Mapping[str, Element], read: Callable[[Element], T]) -> list[T]:
    """Return what a gradient and those that it refers to say, the nearest first, where they say anything."""
    found, here = [], server
    for _ in range(MOST_LINKS):
        said = read(here)
        if said:
            found.append(said)
        following = ids.get(reference(here))
        if following is None or local_name(following) not in GRADIENTS:
            break
        here = following
    return found
