"""Where a platen can go without pressing what it must not."""

import numpy as np
import shapely

from zinnet.blanks.model import KeepOut, Panel
from zinnet.geometry.region import as_region, union, without
from zinnet.machines.platens import Platen

Box = tuple[float, float, float, float]


def platen_spot(one: Platen, art: Box, panel: Panel) -> tuple[float, float] | None:
    """Return the middle of a platen that covers the artwork's box and meets no zip, button, cord, fur or plastic.

    What is only raised, like a pocket, is filled up with a pad. None where there is no such spot; the spot nearest
    to the artwork's middle where there are several. Artwork larger than the platen has none either.

    Parameters
    ----------
    one : Platen, mm
        Its width and height.
    art : (left, top, right, bottom), mm
        The artwork's box on the panel.
    panel : Panel, mm
        With its keep-outs.

    Returns
    -------
    (x, y), mm, or None
        The middle of the platen.
    """
    left, top, right, bottom = art
    slack_x, slack_y = one.width_mm - (right - left), one.height_mm - (bottom - top)
    if slack_x < 0 or slack_y < 0:
        return None
    x, y = (left + right) / 2, (top + bottom) / 2
    spots = shapely.box(x - slack_x / 2, y - slack_y / 2, x + slack_x / 2, y + slack_y / 2)
    hard = [keep_out for keep_out in panel.keep_outs if not is_padded(keep_out)]
    free = spots
    if hard:
        free = without(as_region(spots), union(_reach(keep_out, one) for keep_out in hard))
    if free.is_empty:
        return None
    nearest = shapely.shortest_line(free, shapely.Point(x, y)).coords[0]
    return float(nearest[0]), float(nearest[1])


def is_padded(keep_out: KeepOut) -> bool:
    """Tell whether a platen may go over it with a pad behind: it is only raised cloth."""
    return keep_out.raised or keep_out.kind == "thick seam"


def _reach(keep_out: KeepOut, one: Platen) -> shapely.Geometry:
    """Return the middles at which the platen would meet the keep-out: its hull, grown by half the platen."""
    corners = shapely.get_coordinates(shapely.convex_hull(keep_out.region))
    half = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * (one.width_mm / 2, one.height_mm / 2)
    grown = (corners[:, None, :] + half[None, :, :]).reshape(-1, 2)
    return shapely.buffer(shapely.convex_hull(shapely.MultiPoint(grown)), -1e-6)
