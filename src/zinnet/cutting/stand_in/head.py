"""The stand-in's head: it takes as long as a real one for each stretch, and leaves strokes where its knife is down."""

import math
from collections import deque
from collections.abc import Sequence
from dataclasses import dataclass, field

from zinnet.cutting.tolerances import motion

Point = tuple[float, float]


@dataclass
class Stroke:
    """What one lowering of the knife cut, as points in mm, with the force and the speed it was cut with."""

    force_g: float
    speed_mm_s: float
    points: list[Point] = field(default_factory=list)


@dataclass
class _Stretch:
    begin: Point
    end: Point
    seconds: float
    done_s: float = 0.0


@dataclass
class Head:
    """Where the head is, whether its knife is down, and what it still has to go through. Positions in mm, y up."""

    at: Point = (0.0, 0.0)
    down: bool = False
    force_g: float = 90.0
    speed_mm_s: float = 200.0
    strokes: list[Stroke] = field(default_factory=list)
    seconds: float = 0.0
    cut_mm: float = 0.0
    _stretches: deque[_Stretch] = field(default_factory=deque)

    @property
    def is_moving(self) -> bool:
        """Whether there is anything left to go through."""
        return bool(self._stretches)

    def lift(self) -> None:
        """Lift the knife."""
        if self.down:
            self._wait(motion().lift_s)
        self.down = False

    def lower(self) -> None:
        """Lower the knife: a new stroke begins here."""
        if not self.down:
            self._wait(motion().lift_s)
            self.strokes.append(Stroke(self.force_g, self.speed_mm_s, [self.at]))
        self.down = True

    def go(self, points: Sequence[Point]) -> None:
        """Go through points: at full speed where the way is smooth, from stop to stop at corners."""
        begin = self.at if not self._stretches else self._stretches[-1].end
        runs: list[list[tuple[Point, Point]]] = []
        before: tuple[Point, Point] | None = None
        for end in points:
            if end == begin:
                continue
            step = (begin, end)
            if before is None or not self.down or _turn_deg(before, step) >= motion().corner_deg:
                runs.append([])
            runs[-1].append(step)
            before, begin = step, end
        for run in runs:
            length = sum(math.dist(*step) for step in run)
            seconds = _seconds(length, self.speed_mm_s if self.down else motion().travel_mm_s)
            for step in run:
                self._stretches.append(_Stretch(*step, seconds * math.dist(*step) / length))

    def _wait(self, seconds: float) -> None:
        self._stretches.append(_Stretch(self.at, self.at, seconds))

    def advance(self, seconds: float) -> float:
        """Go on for so long; return what of the time is left when there is nothing more to go through."""
        while self._stretches:
            now = self._stretches[0]
            step = min(seconds, now.seconds - now.done_s)
            now.done_s += step
            seconds -= step
            self.seconds += step
            share = 1.0 if now.done_s >= now.seconds else now.done_s / now.seconds
            to = now.end if share == 1.0 else _between(now.begin, now.end, share)
            self._move(to, ends=share == 1.0)
            if share < 1.0:
                return 0.0
            self._stretches.popleft()
        return seconds

    def _move(self, to: Point, *, ends: bool) -> None:
        if self.down and self.strokes and to != self.at:
            self.cut_mm += math.dist(self.at, to)
            points = self.strokes[-1].points
            if len(points) > 1 and self._on_stretch:
                points[-1] = to
            else:
                points.append(to)
        self._on_stretch = not ends and to != self.at
        self.at = to

    _on_stretch: bool = False

    def halt(self) -> None:
        """Stop where it is, with the knife lifted."""
        self._stretches.clear()
        self.down = False
        self._on_stretch = False


def _seconds(length: float, speed: float) -> float:
    """Return how long a run from stop to stop takes, by uniform acceleration."""
    accel = motion().accel_mm_s2
    if length >= speed**2 / accel:
        return length / speed + speed / accel
    return 2 * math.sqrt(length / accel)


def _turn_deg(before: tuple[Point, Point], after: tuple[Point, Point]) -> float:
    (a, b), (c, d) = before, after
    turn = math.atan2(d[1] - c[1], d[0] - c[0]) - math.atan2(b[1] - a[1], b[0] - a[0])
    return math.degrees(abs((turn + math.pi) % (2 * math.pi) - math.pi))


def _between(begin: Point, end: Point, share: float) -> Point:
    return begin[0] + (end[0] - begin[0]) * share, begin[1] + (end[1] - begin[1]) * share
