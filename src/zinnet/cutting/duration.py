"""How long a mat takes to cut, from the length of its lines, their corners and the lifts of the knife."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zinnet.cutting.order import HOME, ways_mm
from zinnet.cutting.paths import CutPath, turns_deg
from zinnet.cutting.settings import CutSettings
from zinnet.cutting.tolerances import motion


@dataclass(frozen=True)
class Duration:
    """The time of a mat and what it is made of: length cut (mm), travel (mm), corners, lifts."""

    seconds: float
    cut_mm: float
    travel_mm: float
    corners: int
    lifts: int

    def in_words(self) -> str:
        """Return it in words."""
        minutes, seconds = divmod(round(self.seconds), 60)
        time = f"{minutes} min {seconds:02} s" if minutes else f"{seconds} s"
        return f"about {time}: {self.cut_mm / 1000:.1f} m of line, {self.corners} corners, {self.lifts} lifts"


def duration_of(paths: Sequence[CutPath], settings: CutSettings, home: tuple[float, float] = HOME) -> Duration:
    """Return how long lines take: each run from corner to corner, the ways between lines and from and to
    ``home``, lifting and lowering.

    A run from stop to stop takes length / speed + speed / acceleration, or 2 sqrt(length / acceleration) where it is
    too short to come to speed (uniform acceleration).

    Parameters
    ----------
    paths : lines, mm
        In the order of cutting.
    settings : CutSettings, mm/s
        Speed, acceleration and passes.
    home : (x, y), mm
        Where the knife begins and ends.

    Returns
    -------
    Duration, s
        Cutting, ways and lifts by themselves.
    """
    how, passes = motion(), settings.passes
    runs = [runs_mm(path) for path in paths]
    ways = ways_mm(paths, home) if paths else np.zeros(0)
    seconds = passes * sum(float(_stop_to_stop(run, settings.speed_mm_s).sum()) for run in runs)
    seconds += float(_stop_to_stop(ways, how.travel_mm_s).sum()) + 2 * len(paths) * how.lift_s
    return Duration(
        seconds=seconds,
        cut_mm=passes * sum(path.length_mm for path in paths),
        travel_mm=float(ways.sum()),
        corners=passes * sum(len(run) - (not path.closed) for run, path in zip(runs, paths, strict=True)),
        lifts=len(paths),
    )


def runs_mm(path: CutPath) -> NDArray[np.float64]:
    """Return how long the runs between the stops of a line are: its ends, and where it turns sharply."""
    steps = np.hypot(*np.diff(path.points, axis=0).T)
    sharp = turns_deg(path.points, closed=path.closed)[: len(steps)] >= motion().corner_deg
    begins = np.flatnonzero(sharp[1:]) + 1
    return np.add.reduceat(steps, np.concatenate([[0], begins]))


def _stop_to_stop(lengths: NDArray[np.float64], speed: float) -> NDArray[np.float64]:
    accel = motion().accel_mm_s2
    return np.where(
        lengths >= speed**2 / accel, lengths / speed + speed / accel, 2 * np.sqrt(np.maximum(lengths, 0) / accel)
    )
