"""A picture that stays one: what of it is seen as one shape, in its own pixels, for a print."""

import numpy as np

from zinnet.artwork.model import Artwork, Paint, Shape
from zinnet.artwork.tracing.palette import to_hex, to_oklab
from zinnet.artwork.tracing.picture import SEEN, read_picture
from zinnet.artwork.tracing.trace import outlines
from zinnet.base.errors import ArtworkError
from zinnet.base.stages import stage
from zinnet.geometry.curves import Subpath, lines_as_cubics
from zinnet.geometry.transform import scale

SMOOTHING = 0.5


@stage(most=16)
def whole_picture(data: bytes, width_mm: float | None = None, name: str = "The picture") -> Artwork:
    """Return the artwork of a picture that is printed as it is: one shape, in the picture's mean colour.

    Parameters
    ----------
    data : bytes
        A PNG, JPEG or WebP file.
    width_mm : float, mm
        How wide it is in life, where that is known.
    name : str
        What to call it in errors.

    Raises
    ------
    ArtworkError
        It can't be read, or nothing of it is seen.
    """
    picture = read_picture(data, name)
    wide, high = picture.file_size
    seen = picture.rgba[..., 3] >= SEEN
    if not seen.any():
        raise ArtworkError(f"{name} is see-through all over; there is nothing to print.")
    mean = to_hex(to_oklab(picture.rgba[..., :3])[seen].mean(axis=0))
    if seen.all():
        subpaths, matrix = _rectangle(wide, high), scale(1.0)
    else:
        cover = (picture.rgba[..., 3] / 255).astype(np.float32)
        subpaths, matrix = outlines(cover, np.zeros_like(seen), SMOOTHING), scale(picture.shrunk)
    shape = Shape("picture", subpaths, matrix, Paint(mean), "evenodd", None)
    mm_per_unit = None if width_mm is None else width_mm / wide
    return Artwork((shape,), (0.0, 0.0, wide, high), mm_per_unit, (), whole_picture=data)


def _rectangle(width: float, height: float) -> tuple[Subpath, ...]:
    corners = np.array([(0, 0), (width, 0), (width, height), (0, height), (0, 0)], dtype=np.float64)
    return (Subpath(lines_as_cubics(corners), closed=True),)
