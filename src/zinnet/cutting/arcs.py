"""Runs of short chords as arcs, for the formats that have them."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zinnet.cutting.tolerances import lines

Points = NDArray[np.float64]
Spots = NDArray[np.complex128]
"""Points as numbers x + iy."""
LEAST_CHORDS, SHORT = 3, 12
"""An arc takes so many chords at least; up to so many, all counts are tried."""
MOST_SWEEP = math.radians(170)
MOST_RADIUS_MM = 1000.0


@dataclass(frozen=True)
class Span:
    """One straight line or arc to ``end``; ``bulge`` is the tangent of a quarter of the arc's sweep, 0 for a line.

    A positive bulge turns from the x axis towards the y axis.
    """

    end: tuple[float, float]
    bulge: float = 0.0

    def radius(self, begin: tuple[float, float]) -> float:
        """Return the radius of the arc from a point to its end."""
        chord = math.dist(begin, self.end)
        return chord * (1 + self.bulge**2) / (4 * abs(self.bulge))


def spans_of(points: Points) -> list[Span]:
    """Return a polyline (n, 2) as lines and arcs: an arc stands for three or more chords that stay within tolerance.

    The tolerance holds at the chords' ends and in their middles, so that the arc is as near as the chords are.

    Parameters
    ----------
    points : array (n, 2), mm
        A polyline.

    Returns
    -------
    list of Span, mm
        End to end, from the first point to the last.
    """
    found: list[Span] = []
    spots = np.asarray(points[:, 0] + 1j * points[:, 1])
    chords, bulges = _short_arcs(spots)
    at, last = 0, len(points) - 1
    while at < last:
        count, bulge = int(chords[at]), float(bulges[at])
        if count == SHORT:
            count, bulge = _longest_arc(spots[at:], bulge)
        at += max(count, 1)
        found.append(Span((float(points[at][0]), float(points[at][1])), bulge))
    return found


def _short_arcs(spots: Spots) -> tuple[NDArray[np.int64], NDArray[np.float64]]:
    """Return how many chords the longest short arc from each spot takes, 0 for none, and its bulge."""
    chords, bulges = np.zeros(len(spots), dtype=np.int64), np.zeros(len(spots))
    for count in range(LEAST_CHORDS, min(SHORT, len(spots) - 1) + 1):
        tried = _bulges(np.lib.stride_tricks.sliding_window_view(spots, count + 1))
        fits = np.flatnonzero(~np.isnan(tried))
        if not len(fits):
            break
        chords[fits], bulges[fits] = count, tried[fits]
    return chords, bulges


def _longest_arc(spots: Spots, bulge: float) -> tuple[int, float]:
    """Return how many chords the longest arc from the first spot takes, and its bulge, from that of a short arc on.

    The reach is doubled as long as that is an arc, then the rest is halved.
    """
    good, step = SHORT, SHORT
    last = len(spots) - 1
    while step and good < last:
        end = min(good + step, last)
        tried = float(_bulges(spots[: end + 1]))
        if not math.isnan(tried):
            good, bulge = end, tried
            step *= 2
        else:
            step = (end - good) // 2
    return good, bulge


def _bulges(runs: Spots) -> NDArray[np.float64]:
    """Return for runs of spots (..., k) the bulges (...) of arcs through both ends and the middle; nan for no arc."""
    first, last = runs[..., 0], runs[..., -1]
    to_middle, to_last = runs[..., runs.shape[-1] // 2] - first, last - first
    double = 2 * (to_middle.real * to_last.imag - to_middle.imag * to_last.real)
    with np.errstate(invalid="ignore", divide="ignore"):
        to_centre = 1j * (to_middle * np.abs(to_last) ** 2 - to_last * np.abs(to_middle) ** 2) / double
        from_centre = runs - (first + to_centre)[..., None]
        radius = np.abs(to_centre)
        off = np.abs(np.abs(from_centre) - radius[..., None])
        sagitta = np.abs(np.abs(from_centre[..., :-1] + from_centre[..., 1:]) / 2 - radius[..., None])
        steps = np.angle(from_centre[..., 1:] / from_centre[..., :-1])
        sweep = steps.sum(axis=-1)
        limits = lines()
        is_arc = (
            (np.abs(double) >= 1e-9)
            & (radius <= MOST_RADIUS_MM)
            & (off.max(axis=-1) <= limits.arc_tolerance_mm)
            & (sagitta.max(axis=-1) <= 2 * limits.simplify_mm)
            & (np.abs(sweep) <= MOST_SWEEP)
            & ((steps.min(axis=-1) > 0) | (steps.max(axis=-1) < 0))
        )
        return np.where(is_arc, np.tan(sweep / 4), np.nan)
