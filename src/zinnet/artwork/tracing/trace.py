"""A picture traced into artwork: flat colours from the bottom up, with curved outlines."""

from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from zinnet.artwork.model import Artwork, Paint, Remark, Shape
from zinnet.artwork.tracing.palette import Colours, cluster, own_colours, to_hex, to_oklab
from zinnet.artwork.tracing.picture import SEEN, read_picture
from zinnet.base.errors import ArtworkError
from zinnet.base.frozen import Frozen
from zinnet.base.stages import stage
from zinnet.geometry.curves import Subpath
from zinnet.geometry.transform import scale

EDGE_SHARE = 0.5
"""The picture's edge must be this much of one colour for that colour to count as background by itself."""
UNDERLAP = 4
"""How far, in pixels, a colour reaches under those above it, so that no gap opens between them."""
SOLID = 250
ROUGH = 1.5
ROOM = 4
LEAST_TOLERANCE, TOLERANCE_SHARE = 0.15, 0.3
"""How near a fitted curve stays: so much, and this much more for each pixel of smoothing."""


class TraceSpec(Frozen):
    """How a picture is traced. Lengths are in pixels of the picture, tolerances in hundredths of Oklab.

    ``taken`` says whether it is: a picture stays whole where the blank is printed, unless the user says otherwise.
    """

    taken: Literal["as the blank asks", "whole", "traced"] = "as the blank asks"
    colours: int | None = Field(default=None, ge=1, le=16)
    drop_background: bool = True
    background: str | None = Field(default=None, pattern="^#[0-9a-f]{6}$")
    tolerance: float = Field(default=4.0, ge=0.5, le=60)
    inside_too: bool = True
    smoothing: float = Field(default=0.5, ge=0.1, le=4)
    speck_px: float = Field(default=12.0, ge=0, le=100_000)
    life_width_mm: float | None = Field(default=None, gt=0, le=10_000)


class Sorted(NamedTuple):
    """A picture's pixels by colour: ``labels`` (h, w) index ``colours``, -1 where nothing is.

    ``doubtful`` pixels are blends along an edge; ``ground`` is the background's sRGB, None where there is none.
    """

    labels: NDArray[np.intp]
    doubtful: NDArray[np.bool_]
    colours: tuple[str, ...]
    ground: NDArray[np.float32] | None


def trace_picture(data: bytes, spec: TraceSpec, name: str = "The picture") -> Artwork:
    """Return the artwork of a picture, in its pixels, one shape per colour from the bottom up.

    Raises :class:`ArtworkError` where the picture can't be read or nothing is left of it.
    """
    return _traced(data, spec.model_copy(update={"life_width_mm": None}), spec.life_width_mm, name)


@stage(most=16)
def _traced(data: bytes, spec: TraceSpec, width_mm: float | None, name: str) -> Artwork:
    picture = read_picture(data, name)
    wide, high = picture.file_size
    shapes = _shapes(data, spec, name)
    if not shapes:
        raise ArtworkError(f"Nothing is left of {name}: all of it counts as background. Lower the tolerance.")
    mm_per_unit = None if width_mm is None else width_mm / wide
    remark = Remark("mended", f"traced from a picture in {len(shapes)} colour{'s' if len(shapes) > 1 else ''}")
    return Artwork(shapes, (0.0, 0.0, wide, high), mm_per_unit, (remark,))


@stage(most=16)
def sorted_pixels(data: bytes, spec: TraceSpec, name: str) -> Sorted:
    """Return a picture's pixels sorted by colour, soft edges and specks settled."""
    from zinnet.artwork.tracing import labels as pixels

    rgba = read_picture(data, name).rgba
    lab, seen = to_oklab(rgba[..., :3]), rgba[..., 3] >= SEEN
    ground = _ground(lab, seen, spec)
    empty = ~seen
    if ground is not None:
        near = np.linalg.norm(lab - ground, axis=2) < spec.tolerance / 100
        empty = pixels.background(near | empty, everywhere=spec.inside_too) | empty
    palette = own_colours(lab, ~empty) if spec.colours is None else cluster(lab, ~empty, spec.colours)
    if len(palette) == 0:
        raise ArtworkError(f"Nothing is left of {name}: all of it counts as background. Lower the tolerance.")
    colours = tuple(to_hex(colour) for colour in palette)
    rgb = rgba[..., :3].astype(np.float32)
    distances = np.stack([_apart(rgb, colour) for colour in colours])
    found = distances.argmin(axis=0)
    off = distances.min(axis=0)
    if ground is not None:
        away = _apart(rgb, to_hex(ground))
        empty |= pixels.background((away <= off) | empty, everywhere=spec.inside_too)
        off = np.minimum(off, away)
    found[empty] = pixels.NOTHING
    doubtful = pixels.blended(rgb, np.sqrt(off)) | (seen & (rgba[..., 3] < SOLID))
    found = pixels.settled(found, doubtful & ~empty)
    found = pixels.without_specks(found, spec.speck_px)
    return Sorted(found, doubtful, colours, None if ground is None else _rgb(to_hex(ground)))


def _apart(pixels: NDArray[np.float32], colour: str) -> NDArray[np.float32]:
    """Return squared distances (h, w) in sRGB, in which edges are blended: half way is where half is covered."""
    return np.asarray(((pixels - _rgb(colour)) ** 2).sum(axis=2))


def _rgb(colour: str) -> NDArray[np.float32]:
    return np.array([int(colour[k : k + 2], 16) for k in (1, 3, 5)], dtype=np.float32)


def _ground(lab: Colours, seen: NDArray[np.bool_], spec: TraceSpec) -> Colours | None:
    """Return the background's colour: the one that is named, else what most of the edge has; None for none."""
    if not spec.drop_background:
        return None
    if spec.background is not None:
        named = np.array([[[int(spec.background[k : k + 2], 16) for k in (1, 3, 5)]]], dtype=np.uint8)
        return np.asarray(to_oklab(named)[0, 0])
    edge = np.concatenate([lab[0], lab[-1], lab[:, 0], lab[:, -1]])
    solid = np.concatenate([seen[0], seen[-1], seen[:, 0], seen[:, -1]])
    if solid.sum() < EDGE_SHARE * len(solid):
        return None
    edge = edge[solid]
    middle = np.median(edge, axis=0)
    near = np.linalg.norm(edge - middle, axis=1) < 0.06
    return np.asarray(edge[near].mean(axis=0)) if near.mean() >= EDGE_SHARE else None


def _shapes(data: bytes, spec: TraceSpec, name: str) -> tuple[Shape, ...]:
    from zinnet.artwork.tracing.labels import grown, holes_filled, hulls
    from zinnet.artwork.tracing.pixel_cover import coverage

    labels, doubtful, colours, ground = sorted_pixels(data, spec, name)
    picture = read_picture(data, name)
    pixels, palette = picture.rgba.astype(np.float32), np.stack([_rgb(colour) for colour in colours])
    areas = np.bincount(labels[labels >= 0].ravel(), minlength=len(colours))
    order = [k for k in np.argsort(-areas, kind="stable") if areas[k]]
    found = []
    for place, label in enumerate(order):
        above = np.isin(labels, order[place + 1 :])
        own = labels == label
        mask = holes_filled(own | (above & (grown(own, UNDERLAP) | hulls(own))), above)
        soft = coverage(mask, labels, doubtful, pixels, palette, ground)
        hidden = above & ~grown(own, 1)
        subpaths = outlines(soft, hidden, spec.smoothing)
        if subpaths:
            to_file = scale(picture.shrunk)
            found.append(Shape(f"colour-{place + 1}", subpaths, to_file, Paint(colours[label]), "evenodd", None))
    return tuple(found)


def outlines(soft: NDArray[np.float32], hidden: NDArray[np.bool_], smoothing: float) -> tuple[Subpath, ...]:
    """Return the fitted outlines, in pixels, of what covers half of each pixel or more; hidden ones are rough."""
    import contourpy
    from scipy import ndimage

    from zinnet.artwork.tracing.curve_fit import fit_closed

    padded = np.pad(soft, ROOM)
    smooth = ndimage.gaussian_filter(padded, smoothing)
    smooth = np.where(np.pad(hidden, ROOM), ndimage.gaussian_filter(padded, smoothing + ROUGH), smooth)
    lines = contourpy.contour_generator(z=smooth).lines(0.5)
    found = []
    for line in lines:
        ring = np.asarray(line, dtype=np.float64) - ROOM + 0.5
        if len(ring) >= 8 and (ring[0] == ring[-1]).all():
            found.append(fit_closed(ring, LEAST_TOLERANCE + TOLERANCE_SHARE * smoothing))
    return tuple(found)
