"""A picture traced into artwork: flat colours from the bottom up, with curved outlines."""

from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from zinnet.artwork.model import Artwork, Paint, Remark, Shape
from zinnet.artwork.tracing.palette import Colours, cluster, own_colours, to_hex, to_oklab
from zinnet.artwork.tracing.picture import Picture, read_picture
from zinnet.errors import ArtworkError
from zinnet.geometry.curves import Subpath
from zinnet.geometry.transform import scale
from zinnet.model import Frozen

MOST_CELLS = 1_600_000
MOST_FINENESS = 3
EDGE_SHARE = 0.5
"""The picture's edge must be this much of one colour for that colour to count as background by itself."""
UNDERLAP = 2.0
"""How far, in pixels, a colour reaches under those above it, so that no gap opens between them."""
SEEN = 128


class TraceSpec(Frozen):
    """How a picture is traced. Lengths are in pixels of the picture, tolerances in hundredths of Oklab."""

    colours: int | None = Field(default=None, ge=1, le=16)
    drop_background: bool = True
    background: str | None = Field(default=None, pattern="^#[0-9a-f]{6}$")
    tolerance: float = Field(default=8.0, ge=0.5, le=60)
    inside_too: bool = False
    smoothing: float = Field(default=0.5, ge=0.1, le=4)
    speck_px: float = Field(default=12.0, ge=0, le=100_000)
    width_mm: float | None = Field(default=None, gt=0, le=10_000)


class Sorted(NamedTuple):
    """A picture's cells by colour: ``labels`` (h, w) index ``colours``, -1 where nothing is."""

    labels: NDArray[np.intp]
    colours: tuple[str, ...]
    fineness: int


def trace_picture(data: bytes, spec: TraceSpec, name: str = "The picture") -> Artwork:
    """Return the artwork of a picture, in its pixels, one shape per colour from the bottom up.

    Raises :class:`ArtworkError` where the picture can't be read or nothing is left of it.
    """
    return _traced(data, spec.model_copy(update={"width_mm": None}), spec.width_mm, name)


@lru_cache(maxsize=16)
def _traced(data: bytes, spec: TraceSpec, width_mm: float | None, name: str) -> Artwork:
    picture = read_picture(data, name)
    wide, high = picture.file_size
    shapes = _shapes(data, spec, name)
    if not shapes:
        raise ArtworkError(f"Nothing is left of {name}: all of it counts as background. Lower the tolerance.")
    mm_per_unit = None if width_mm is None else width_mm / wide
    remark = Remark("mended", f"traced from a picture in {len(shapes)} colour{'s' if len(shapes) > 1 else ''}")
    return Artwork(shapes, (0.0, 0.0, wide, high), mm_per_unit, (remark,))


@lru_cache(maxsize=16)
def sorted_cells(data: bytes, spec: TraceSpec, name: str) -> Sorted:
    """Return a picture's cells sorted by colour, soft edges and specks settled."""
    from zinnet.artwork.tracing import labels as cells

    picture = read_picture(data, name)
    fine, fineness = _finer(picture)
    lab, seen = to_oklab(fine[..., :3]), fine[..., 3] >= SEEN
    small, small_seen = to_oklab(picture.rgba[..., :3]), picture.rgba[..., 3] >= SEEN
    ground = _ground(small, small_seen, spec)
    wanted = small_seen
    if ground is not None:
        near = np.linalg.norm(small - ground, axis=2) < spec.tolerance / 100
        wanted = small_seen & ~cells.background(near | ~small_seen, everywhere=spec.inside_too)
    palette = own_colours(small, wanted) if spec.colours is None else cluster(small, wanted, spec.colours)
    if len(palette) == 0:
        raise ArtworkError(f"Nothing is left of {name}: all of it counts as background. Lower the tolerance.")
    distances = np.stack([((lab - colour) ** 2).sum(axis=2) for colour in palette])
    found = distances.argmin(axis=0)
    empty = ~seen
    if ground is not None:
        away = ((lab - ground) ** 2).sum(axis=2)
        near = (away <= distances.min(axis=0) + 1e-12) | (away < (spec.tolerance / 100) ** 2)
        empty = cells.background(near | empty, everywhere=spec.inside_too) | empty
    found[empty] = cells.NOTHING
    found = cells.without_edge_lines(found, fineness)
    found = cells.without_specks(found, round(spec.speck_px * fineness**2))
    return Sorted(found, tuple(to_hex(colour) for colour in palette), fineness)


def _finer(picture: Picture) -> tuple[NDArray[np.uint8], int]:
    """Return the pixels cut into cells, so that outlines follow soft edges finer than a pixel."""
    from PIL import Image

    height, width = picture.rgba.shape[:2]
    fineness = max(1, min(MOST_FINENESS, int((MOST_CELLS / (width * height)) ** 0.5)))
    image = Image.fromarray(picture.rgba).convert("RGBa")
    fine = image.resize((width * fineness, height * fineness), Image.Resampling.BICUBIC).convert("RGBA")
    return np.asarray(fine), fineness


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
    from zinnet.artwork.tracing.labels import grown

    labels, colours, fineness = sorted_cells(data, spec, name)
    picture = read_picture(data, name)
    to_pixels = scale(picture.shrunk)
    areas = np.bincount(labels[labels >= 0].ravel(), minlength=len(colours))
    order = [k for k in np.argsort(-areas, kind="stable") if areas[k]]
    found = []
    for place, label in enumerate(order):
        above = np.isin(labels, order[place + 1 :])
        mask = labels == label
        mask |= above & grown(mask, round(UNDERLAP * fineness))
        mask = _holes_filled(mask, above)
        subpaths = _outlines(mask, fineness, spec.smoothing)
        if subpaths:
            found.append(Shape(f"colour-{place + 1}", subpaths, to_pixels, Paint(colours[label]), "evenodd", None))
    return tuple(found)


def _holes_filled(mask: NDArray[np.bool_], above: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return the mask with every hole filled that lies wholly under colours above."""
    from scipy import ndimage

    parts, count = ndimage.label(~mask)
    covered = np.ones(count + 1, dtype=bool)
    covered[np.unique(parts[~above])] = False
    edge = np.concatenate([parts[0], parts[-1], parts[:, 0], parts[:, -1]])
    covered[np.unique(edge)] = False
    covered[0] = False
    return np.asarray(mask | covered[parts])


def _outlines(mask: NDArray[np.bool_], fineness: int, smoothing: float) -> tuple[Subpath, ...]:
    """Return the fitted outlines of a mask in pixels."""
    import contourpy
    from scipy import ndimage

    from zinnet.artwork.tracing.curve_fit import fit_closed

    room = 2 * fineness + 2
    soft = ndimage.gaussian_filter(np.pad(mask, room).astype(np.float32), max(0.6, smoothing) * fineness)
    lines = contourpy.contour_generator(z=soft).lines(0.5)
    found = []
    for line in lines:
        ring = (np.asarray(line) - room + 0.5) / fineness
        if len(ring) >= 8 and (ring[0] == ring[-1]).all():
            found.append(fit_closed(ring, 0.25 + 0.3 * smoothing))
    return tuple(found)


def picture_palette(data: bytes, spec: TraceSpec, name: str = "The picture") -> tuple[str, ...]:
    """Return the colours that a picture is sorted into, in the order in which they were found."""
    return sorted_cells(data, spec, name).colours
