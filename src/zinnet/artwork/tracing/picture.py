"""Reading pictures from strangers: PNG, JPEG and WebP, within limits, as bytes of colour and coverage."""

import io
import struct
import warnings
import zlib
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from zinnet.base.errors import ArtworkError
from zinnet.base.stages import stage

MOST_PIXELS = 60_000_000
SEEN = 128
"""From this coverage on, of 255, a pixel is seen."""
LARGEST_SIDE = 1100
"""Larger pictures are traced at this size: finer detail could not be weeded."""
MAGIC = {b"\x89PNG": "PNG", b"\xff\xd8\xff": "JPEG", b"RIFF": "WebP"}
OTHER_PICTURES = {b"GIF8": "GIF", b"BM": "BMP", b"II*\x00": "TIFF", b"MM\x00*": "TIFF"}


class Picture(NamedTuple):
    """Pixels as sRGB bytes (h, w, 4), coverage last, and how many pixels of the file each of them spans."""

    rgba: NDArray[np.uint8]
    shrunk: float

    @property
    def file_size(self) -> tuple[float, float]:
        """Width and height in pixels of the file."""
        height, width = self.rgba.shape[:2]
        return width * self.shrunk, height * self.shrunk


def picture_kind(data: bytes) -> str | None:
    """Return PNG, JPEG or WebP where the bytes are such a picture."""
    return next((kind for magic, kind in MAGIC.items() if data.startswith(magic)), None)


@stage(most=8)
def read_picture(data: bytes, name: str = "The picture") -> Picture:
    """Return a picture upright, its larger side at most 1100 pixels.

    Raises :class:`ArtworkError` where it is broken, huge or of another kind.
    """
    from PIL.Image import DecompressionBombError

    kind = picture_kind(data)
    if kind is None:
        raise ArtworkError(f"{name} is not a PNG, JPEG or WebP; save it as one of these and open that.")
    try:
        pixels, larger = _decoded(data, kind, name)
    except (OSError, ValueError, SyntaxError, struct.error, zlib.error, EOFError, LookupError) as error:
        raise ArtworkError(f"{name} can't be read as {kind}: {error}. Save the picture again.") from None
    except (TypeError, ArithmeticError, MemoryError, AttributeError, Warning, DecompressionBombError):
        raise ArtworkError(f"{name} is damaged or far too large to be read. Save the picture again.") from None
    if pixels.shape[0] < 4 or pixels.shape[1] < 4:
        raise ArtworkError(f"{name} is less than 4 pixels wide or tall; that is too small to trace.")
    return Picture(pixels, larger / max(pixels.shape[:2]))


def _decoded(data: bytes, kind: str, name: str) -> tuple[NDArray[np.uint8], int]:
    """Return the pixels upright and not too many, and the larger side of the picture as it is in the file."""
    from PIL import Image, ImageOps

    with warnings.catch_warnings():
        warnings.simplefilter("error", Image.DecompressionBombWarning)
        file = Image.open(io.BytesIO(data), formats=[kind.upper()])
        width, height = file.size
        if width * height > MOST_PIXELS:
            raise ArtworkError(f"{name} is {width} by {height} pixels; make it smaller, 1100 wide is plenty.")
        file.draft("RGB", (LARGEST_SIDE, LARGEST_SIDE))
        image: Image.Image = ImageOps.exif_transpose(file).convert("RGBA").convert("RGBa")
        if max(image.size) > LARGEST_SIDE:
            image.thumbnail((LARGEST_SIDE, LARGEST_SIDE), Image.Resampling.LANCZOS)
        return np.asarray(image.convert("RGBA")), max(width, height)
