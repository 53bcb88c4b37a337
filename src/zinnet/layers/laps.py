"""Laps that leave nothing which their film can't hold: where one would, it goes on below the one that lies on it."""

from shapely.geometry import Polygon

from zinnet.films.catalogue import FilmKind
from zinnet.geometry.gaps import necks
from zinnet.geometry.region import Region, common, seamless, without
from zinnet.geometry.thickness import narrow_gaps, offset, small, thin_parts
from zinnet.layers.detail import gap_run_mm
from zinnet.layers.slivers import plain

ROUNDS = 6
MORE = 1.05
"""Limits are met by so much more, so that a simplified outline still meets them."""
WIDER = 1.25
"""Gaps are filled up to so many times their limit, so that what is left beside a filled one is no gap again."""
FINER = (1.0, 0.92), (1.0, 0.8)
"""Thin strokes, and gaps, are looked for at a finer share as well: a tip is a small thing at a large measure."""
OVER_MM = 0.05
"""What is filled is filled to a little beyond its edge, so that no seam stays."""
LEAST_MM2 = 1e-3


def held_below(lapped: Region, below: Region, kind: FilmKind) -> Region:
    """Return a layer with laps, grown below others where it was too thin, or had gaps or counters too small, to hold.

    Parameters
    ----------
    lapped : Region, mm
        What is seen of a layer, with its laps.
    below : Region, mm
        What lies on it: there it may go on and nobody sees it.
    kind : FilmKind
        What its film holds.

    Returns
    -------
    Region, mm
        It covers ``lapped``, and reaches nowhere else but below others. What is seen stays as thin as it is drawn.
    """
    stroke, gap = kind.least_stroke_mm * MORE, kind.open_gap_mm * MORE
    reach = 2 * max(stroke, gap * WIDER, gap_run_mm(kind))
    region, changed = lapped, None
    for _ in range(ROUNDS):
        flat = plain(region, min(stroke, gap))
        parts = list(flat.geoms)
        counters = [Polygon(hole) for part in parts for hole in part.interiors]
        wanted = [
            _too_fine(flat, changed, kind, reach),
            offset(Region(small(parts, kind.least_part_mm * MORE)), kind.least_part_mm),
            offset(Region(small(counters, kind.open_counter_mm * MORE)), OVER_MM),
        ]
        more = without(common(seamless(wanted), below), region)
        if more.area < LEAST_MM2:
            break
        region, changed = seamless([region, more]), more
    return region


def _too_fine(region: Region, changed: Region | None, kind: FilmKind, reach: float) -> Region:
    """Return what makes thin strokes thick enough and fills gaps; only near what was changed, where that is known."""
    if changed is not None:
        near = offset(changed, reach)
        return common(_too_fine(common(region, offset(near, reach)), None, kind, reach), near)
    stroke, gap = kind.least_stroke_mm * MORE, kind.open_gap_mm * MORE
    return seamless(
        [
            *(offset(thin_parts(region, share * stroke), stroke) for share in FINER[0]),
            *(offset(narrow_gaps(region, share * gap * WIDER), OVER_MM) for share in FINER[1]),
            *(neck for neck, _ in necks(region, gap, gap_run_mm(kind))),
        ]
    )
