"""Ink on paper: a colour fills its region, a picture that stays one is drawn in it at its own place."""

import io
from collections.abc import Callable, Iterator
from functools import lru_cache
from typing import TYPE_CHECKING, Any

import numpy as np

from zinnet.geometry.transform import apply, scale, shift
from zinnet.layers.inks import Ink
from zinnet.output.papers.paper import region_path

if TYPE_CHECKING:
    from reportlab.pdfgen.canvas import Canvas

At = Callable[[float, float], tuple[float, float]]
AS_IT_IS = 1
"""The orientation of a picture in a file whose pixels stand upright (Exif 2.3, tag 274)."""


def print_ink(canvas: "Canvas", ink: Ink, at: At) -> None:
    """Draw an ink on a canvas; ``at`` says where a point in mm lies, in points, y up."""
    if ink.region.is_empty:
        return
    path = region_path(canvas, ink.region, at)
    if not ink.picture:
        canvas.setFillColor(ink.colour)
        canvas.drawPath(path, stroke=0, fill=1, fillMode=0)
        return
    picture, wide, high = _picture(ink.picture)
    corners = np.array([(0.0, high), (wide, high), (0.0, 0.0)])
    (x, y), right, up = (at(*point) for point in apply(ink.matrix, corners).tolist())
    canvas.saveState()
    canvas.clipPath(path, stroke=0, fill=0, fillMode=0)
    canvas.transform(right[0] - x, right[1] - y, up[0] - x, up[1] - y, x, y)
    canvas.drawImage(picture, 0, 0, 1, 1, mask="auto")
    canvas.restoreState()


def reflections(ink: Ink) -> Iterator[Ink]:
    """Yield a picture reflected at its sides and corners, for the bleed beyond them; none of a plain colour."""
    if not ink.picture:
        return
    _, wide, high = _picture(ink.picture)
    for across in (-1, 0, 1):
        for down in (-1, 0, 1):
            if across or down:
                x, y = _beside(across, wide), _beside(down, high)
                flip = shift(x[0], y[0]) @ scale(x[1], y[1])
                yield Ink.of_picture(ink.colour, ink.region, ink.picture, ink.matrix @ flip)


def _beside(way: int, length: float) -> tuple[float, float]:
    """Return the shift and the factor that reflect a length to one side of itself, or leave it as it is."""
    return {-1: (0.0, -1.0), 0: (0.0, 1.0), 1: (2 * length, -1.0)}[way]


@lru_cache(maxsize=2)
def _picture(data: bytes) -> tuple[Any, float, float]:
    """Return a picture for a canvas, upright, with all its pixels, and its width and height in pixels.

    One that stands upright in its file goes to the paper as the bytes that it is.
    """
    from PIL import Image, ImageOps
    from reportlab.lib.utils import ImageReader

    file = Image.open(io.BytesIO(data))
    if file.format == "JPEG" and file.mode in ("RGB", "L") and file.getexif().get(274, AS_IT_IS) == AS_IT_IS:
        return ImageReader(io.BytesIO(data)), float(file.width), float(file.height)
    upright = ImageOps.exif_transpose(file).convert("RGBA")
    solid = upright.getchannel("A").getextrema() == (255, 255)
    return ImageReader(upright.convert("RGB") if solid else upright), float(upright.width), float(upright.height)
