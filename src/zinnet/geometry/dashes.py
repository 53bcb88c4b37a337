"""Dashed strokes: cutting outlines into the dashes of a pattern."""

from collections.abc import Iterator, Sequence

import numpy as np

from zinnet.geometry.curves import Points, Subpath, flatten, lines_as_cubics

MOST_DASHES = 5_000


def dash(
    subpaths: Sequence[Subpath], *, pattern: Sequence[float], offset: float, tolerance: float
) -> tuple[Subpath, ...] | None:
    """Return the dashes of outlines as open subpaths (SVG 2, 13.5.6), or None where there would be far too many.

    ``pattern`` holds dash and gap lengths in turn, an odd number of them counts twice; ``offset`` is how far into
    the pattern each outline begins. All lengths are in the outlines' own unit.

    Parameters
    ----------
    subpaths : subpaths
        Any unit.
    pattern : lengths, the same unit
        A dash, a gap, a dash ...; none is negative.
    offset : float, the same unit
        How far into the pattern each outline begins.
    tolerance : float, the same unit
        How far curves may be off.

    Returns
    -------
    open subpaths, or None
        None where there would be far too many.
    """
    lengths = np.array([*pattern, *pattern] if len(pattern) % 2 else list(pattern), dtype=np.float64)
    period = float(lengths.sum())
    if period <= 0:
        return tuple(subpaths)
    lines = [flatten(subpath, tolerance) for subpath in subpaths if len(subpath.cubics)]
    whole = sum(float(np.hypot(*np.diff(line, axis=0).T).sum()) for line in lines)
    if whole / period * len(lengths) > MOST_DASHES:
        return None
    edges = np.concatenate([[0.0], np.cumsum(lengths)])
    return tuple(part for line in lines for part in _dashes(line, edges, offset % period))


def _dashes(line: Points, edges: Points, begun: float) -> Iterator[Subpath]:
    """Yield the dashes of one polyline (n, 2); ``edges`` are where dashes and gaps of a period begin and end."""
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(line, axis=0).T))])
    period, end = float(edges[-1]), float(along[-1])
    for number in range(int((end + begun) / period) + 1):
        for first, last in zip(edges[:-1:2], edges[1::2], strict=True):
            start = max(number * period + float(first) - begun, 0.0)
            stop = min(number * period + float(last) - begun, end)
            if stop > start or (stop == start and first == last and 0 < start < end):
                yield Subpath(lines_as_cubics(_between(line, along, start, stop)), closed=False)


def _between(line: Points, along: Points, start: float, stop: float) -> Points:
    """Return the part of a polyline from one distance along it to another."""
    inside = line[(along > start) & (along < stop)]
    ends = np.stack([np.interp([start, stop], along, line[:, axis]) for axis in (0, 1)], axis=1)
    return np.concatenate([ends[:1], inside, ends[1:]])
