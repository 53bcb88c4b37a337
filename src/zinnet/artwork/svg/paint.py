"""SVG paint: plain colours, and the one colour that stands for a gradient until it is flattened."""

import re
from collections.abc import Mapping
from xml.etree.ElementTree import Element

import numpy as np

from zinnet.artwork.model import Paint
from zinnet.artwork.style import Style, StyleSheets, colour, fraction, inherit
from zinnet.artwork.xml_guard import local_name, reference

URL = re.compile(r"""\s*url\(\s*['"]?#([^'")]+)['"]?\s*\)\s*(.*)""", re.S)
GRADIENTS = {"linearGradient", "radialGradient"}


def reference_in(text: str | None) -> str:
    """Return the id in ``url(#id)``, else an empty string."""
    match = URL.match(text or "")
    return match[1].strip() if match else ""


def read_paint(
    text: str, style: Style, opacity: float, ids: Mapping[str, Element], sheets: StyleSheets
) -> tuple[Paint | None, bool]:
    """Return the paint that a ``fill`` or ``stroke`` names, and whether a blend was made plain for it."""
    match = URL.match(text)
    if match is None:
        return _plain(text, style, opacity), False
    server = ids.get(match[1].strip())
    if server is not None and local_name(server) in GRADIENTS:
        mean = _mean_of_stops(server, style, ids, sheets)
        if mean is not None:
            return Paint(mean.colour, mean.opacity * opacity), True
    fallback = match[2].strip()
    return (_plain(fallback, style, opacity) if fallback else None), server is not None


def _plain(text: str, style: Style, opacity: float) -> Paint | None:
    if text in ("none", "transparent", ""):
        return None
    if text in ("context-fill", "context-stroke"):
        text = "black"
    found = colour(text, style.get("color", "black"))
    if found is None:
        return None
    return Paint(found[0], found[1] * opacity) if found[1] * opacity > 0 else None


def _mean_of_stops(server: Element, style: Style, ids: Mapping[str, Element], sheets: StyleSheets) -> Paint | None:
    """Return the plain mean of a gradient's stops, following ``href`` at most ten steps."""
    for _ in range(10):
        stops = [child for child in server if local_name(child) == "stop"]
        if stops:
            break
        following = ids.get(reference(server))
        if following is None:
            return None
        server = following
    else:
        return None
    colours, opacities = [], []
    for stop in stops:
        own = inherit(style, sheets.declared(stop))
        found = colour(own.get("stop-color", "black"), own["color"]) or ("#000000", 1.0)
        colours.append([int(found[0][k : k + 2], 16) for k in (1, 3, 5)])
        opacities.append(found[1] * fraction(own.get("stop-opacity"), 1.0))
    mean = [round(value) for value in np.mean(colours, axis=0)]
    return Paint("#{:02x}{:02x}{:02x}".format(*mean), float(np.mean(opacities)))
