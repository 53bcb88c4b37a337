"""What light a mask lets through, and pictures embedded in a file."""

import base64
import binascii
from dataclasses import replace
from urllib.parse import unquote_to_bytes
from xml.etree.ElementTree import Element

from zinnet.artwork.model import Artwork, Paint, Shape

HREFS = ("href", "{http://www.w3.org/1999/xlink}href")


def on_black(artwork: Artwork, *, alpha: bool) -> Artwork:
    """Return what a mask paints, each shape over a black one like it, so that what is see-through is darker.

    By ``alpha``, every colour counts as white (CSS Masking 1, 'mask-type').
    """
    found: list[Shape] = []
    for shape in artwork.shapes:
        found.append(_painted(shape, "#000000"))
        found.append(_painted(shape, "#ffffff" if alpha else None, keep_opacity=True))
    return replace(artwork, shapes=tuple(found))


def _painted(shape: Shape, colour: str | None, *, keep_opacity: bool = False) -> Shape:
    def other(paint: Paint) -> Paint:
        return Paint(colour or paint.colour, paint.opacity if keep_opacity else 1.0)

    stroke = shape.stroke
    return replace(
        shape,
        fill=None if shape.fill is None else other(shape.fill),
        stroke=None if stroke is None else replace(stroke, paint=other(stroke.paint)),
    )


def light_of(colour: str) -> float:
    """Return the luminance that a mask takes from a colour ``#rrggbb``, 0 to 1 (CSS Masking 1, 7.1)."""
    red, green, blue = (int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5))
    return 0.2125 * red + 0.7154 * green + 0.0721 * blue


def embedded_picture(element: Element) -> bytes:
    """Return the bytes of a picture that is embedded as a ``data:`` address; none where it lies elsewhere."""
    text = next((element.attrib[name] for name in HREFS if name in element.attrib), "").strip()
    head, comma, body = text.partition(",")
    if not head.startswith("data:image/") or not comma:
        return b""
    try:
        return base64.b64decode(body) if head.endswith(";base64") else unquote_to_bytes(body)
    except (binascii.Error, ValueError):
        return b""
