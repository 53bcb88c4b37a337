"""SVG paint: a plain colour, a gradient in as many colours as asked for, or the mean of a pattern."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from xml.etree.ElementTree import Element

from zinnet.artwork.model import Paint
from zinnet.artwork.svg.gradients import GRADIENTS, Stop, mean_paint, stops_of
from zinnet.artwork.svg.style import Style, StyleSheets, colour, inherit
from zinnet.artwork.svg.xml_guard import local_name

URL = re.compile(r"""\s*url\(\s*['"]?#([^'")]+)['"]?\s*\)\s*(.*)""", re.S)


@dataclass(frozen=True, eq=False)
class Painting:
    """What a ``fill`` or ``stroke`` paints: one colour, and where it stands for a gradient, that one and its stops."""

    paint: Paint | None
    blend: bool = False
    gradient: Element | None = None
    stops: tuple[Stop, ...] = ()


def reference_in(text: str | None) -> str:
    """Return the id in ``url(#id)``, else an empty string."""
    match = URL.match(text or "")
    return match[1].strip() if match else ""


def read_paint(text: str, style: Style, opacity: float, ids: Mapping[str, Element], sheets: StyleSheets) -> Painting:
    """Return what a ``fill`` or ``stroke`` paints."""
    match = URL.match(text)
    if match is None:
        return Painting(_plain(text, style, opacity))
    server = ids.get(match[1].strip())
    if server is not None and local_name(server) in GRADIENTS:
        stops = stops_of(server, style, ids, sheets)
        if stops:
            return Painting(faded(mean_paint(stops), opacity), len(stops) > 1, server, tuple(stops))
    if server is not None and local_name(server) == "pattern":
        key = (server, style["fill"], style["color"])
        if key not in sheets.means:
            sheets.means[key] = _mean_of_pattern(server, style, sheets)
        mean = sheets.means[key]
        if mean is not None:
            return Painting(faded(mean, opacity), blend=True)
    fallback = match[2].strip()
    return Painting(_plain(fallback, style, opacity) if fallback else None, server is not None)


def faded(paint: Paint, opacity: float) -> Paint:
    """Return the paint with less cover."""
    return Paint(paint.colour, paint.opacity * opacity)


def _plain(text: str, style: Style, opacity: float) -> Paint | None:
    if text in ("none", "transparent", ""):
        return None
    if text in ("context-fill", "context-stroke"):
        text = "black"
    found = colour(text, style.get("color", "black"))
    if found is None:
        return None
    return Paint(found[0], found[1] * opacity) if found[1] * opacity > 0 else None


def _mean_of_pattern(pattern: Element, style: Style, sheets: StyleSheets) -> Paint | None:
    """Return the plain mean of the colours that a pattern's shapes are filled with, which tells its tone."""
    colours = []
    for element in pattern.iter():
        own = inherit(style, sheets.declared(element))
        found = colour(own["fill"], own["color"]) if element is not pattern and own["fill"] != "none" else None
        if found is not None and found[1] > 0:
            colours.append([int(found[0][k : k + 2], 16) for k in (1, 3, 5)])
    if not colours:
        return None
    mean = (round(sum(channel) / len(colours)) for channel in zip(*colours, strict=True))
    return Paint("#{:02x}{:02x}{:02x}".format(*mean))
