"""The picture of a pattern: shrunk, and written as text, so that a film carries it in its own row of a TOML file."""

import base64
import io
from dataclasses import dataclass

from zinnet.camera.measure import MOST_BYTES, read_picture

__all__ = ["MOST_BYTES", "PatternPicture", "pattern_picture"]

LONGEST_PX = 240
QUALITY = 85


@dataclass(frozen=True)
class PatternPicture:
    """A pattern: its picture as base64 of a JPEG, and its mean colour."""

    picture: str
    colour: str


def pattern_picture(data: bytes, name: str) -> PatternPicture:
    """Return the picture of a pattern from a file's bytes. Raises :class:`PhotoError` for what is no picture."""
    from PIL import Image

    pixels = read_picture(data, name)
    red, green, blue = (round(float(mean)) for mean in pixels.mean(axis=(0, 1)))
    picture = Image.fromarray(pixels)
    picture.thumbnail((LONGEST_PX, LONGEST_PX))
    buffer = io.BytesIO()
    picture.save(buffer, "JPEG", quality=QUALITY)
    said = base64.b64encode(buffer.getvalue()).decode("ascii")
    return PatternPicture(said, f"#{red:02x}{green:02x}{blue:02x}")
