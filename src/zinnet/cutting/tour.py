"""A short way through lines of which some must come before others: 2-opt, Or-opt, and small upsets.

A stretch of the way that is turned round is gone through backwards, and each of its lines is too.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zinnet.base.stages import take_turn

LONGEST_SEGMENT = 3
UPSETS_EACH, MOST_UPSETS, UPSETS_OF = 12, 110, 10_000
"""How many upsets for each point, at most, and times the number of points: an upset of many points takes longer."""
UPSET_SPAN = 30
GAIN = 1e-9
Order = NDArray[np.int64]
Points = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Tour:
    """Where lines begin and end (n, 2), where the way comes from and ends, pairs (m, 2) of which one comes first."""

    begins: Points
    ends: Points
    first: Points
    last: Points
    before: NDArray[np.int64]


def improved(tour: Tour, order: Order, *, seed: int = 0, share: float = 1.0) -> Order:
    """Return a shorter order than the one given, which keeps the pairs. The same seed gives the same order.

    ``share`` is how much of the usual work is done.
    """
    if len(order) < 3:
        return order
    way = _Way(tour, order.copy())
    way.settle(range(len(order)))
    random = np.random.default_rng(seed)
    best, best_length = (way.order, way.turned), way.length()
    upsets = min(UPSETS_EACH * len(order), MOST_UPSETS, UPSETS_OF // len(order))
    for _ in range(int(share * upsets)):
        take_turn()
        dirty = way.upset(random)
        if dirty is None:
            continue
        way.settle(dirty)
        length = way.length()
        if length < best_length - GAIN:
            best, best_length = (way.order, way.turned), length
        else:
            way.take(*best)
    return best[0]


class _Way:
    """An order over time, with what the moves look at kept beside it."""

    def __init__(self, tour: Tour, order: Order) -> None:
        self._tour = tour
        self._begins, self._ends = _as_complex(tour.begins), _as_complex(tour.ends)
        self._first, self._last = _as_complex(tour.first[None]), _as_complex(tour.last[None])
        self._earlier: list[list[int]] = [[] for _ in order]
        self._later: list[list[int]] = [[] for _ in order]
        for first, second in tour.before.tolist():
            self._earlier[second].append(first)
            self._later[first].append(second)
        self.take(order, np.zeros(len(order), dtype=bool))

    def take(self, order: Order, turned: NDArray[np.bool_]) -> None:
        """Take another order; ``turned`` says of each line whether it is gone through backwards."""
        tour, count = self._tour, len(order)
        self.order, self.turned = order, turned
        back, begins, ends = turned[order], self._begins[order], self._ends[order]
        self._in = np.concatenate([self._first, np.where(back, ends, begins), self._last])
        self._out = np.concatenate([self._first, np.where(back, begins, ends), self._last])
        place = np.empty(count, dtype=np.int64)
        place[order] = np.arange(count)
        self._place = place
        self._low = np.full(count, -1)
        self._high = np.full(count, count)
        if len(tour.before):
            first, second = place[tour.before[:, 0]], place[tour.before[:, 1]]
            np.maximum.at(self._low, second, first)
            np.minimum.at(self._high, first, second)
        self._steps = np.abs(self._in[1:] - self._out[:-1])

    def length(self) -> float:
        """Return how long the way is."""
        return float(self._steps.sum())

    def settle(self, dirty: "range | list[int]") -> None:
        """Make moves until none shortens the way, beginning at these places."""
        waiting = [int(self.order[k]) for k in dirty]
        queued = set(waiting)
        while waiting:
            node = waiting.pop()
            queued.discard(node)
            touched = self._turn_round(int(self._place[node])) or self._carry(int(self._place[node]))
            for place in touched or ():
                if 0 <= place < len(self.order):
                    other = int(self.order[place])
                    if other not in queued:
                        queued.add(other)
                        waiting.append(other)

    def _turn_round(self, i: int) -> tuple[int, ...] | None:
        """Turn a stretch round that begins or ends at a place; return the places whose neighbours changed."""
        start, end, steps = self._in, self._out, self._steps
        limit = self._first_conflict(i)
        if limit - i >= 2:
            before, here = end[i], start[i + 1]
            last, after = end[i + 2 : limit + 1], start[i + 3 : limit + 2]
            gain = steps[i] + steps[i + 2 : limit + 1] - np.abs(last - before) - np.abs(after - here)
            k = int(np.argmax(gain))
            if gain[k] > GAIN:
                return self._reverse(i, i + 1 + k)
        limit = self._last_conflict(i)
        if i - limit >= 2:
            here, after = end[i + 1], start[i + 2]
            first, before = start[limit + 2 : i + 1], end[limit + 1 : i]
            gain = steps[i + 1] + steps[limit + 1 : i] - np.abs(first - after) - np.abs(before - here)
            k = int(np.argmax(gain))
            if gain[k] > GAIN:
                return self._reverse(limit + 1 + k, i)
        return None

    def _first_conflict(self, i: int) -> int:
        """Return the first place that may not be turned round together with place ``i``, or the count."""
        if not len(self._tour.before):
            return len(self.order)
        reach = np.minimum.accumulate(self._high[i:])
        here = np.flatnonzero(reach <= np.arange(i, len(self.order)))
        return len(self.order) if not len(here) else i + int(here[0])

    def _last_conflict(self, i: int) -> int:
        """Return the last place before ``i`` that may not be turned round together with it, or -1."""
        if not len(self._tour.before):
            return -1
        reach = np.maximum.accumulate(self._low[i::-1])
        here = np.flatnonzero(reach >= np.arange(i, -1, -1))
        return -1 if not len(here) else i - int(here[0])

    def _reverse(self, i: int, j: int) -> tuple[int, ...]:
        order = self.order.copy()
        order[i : j + 1] = order[i : j + 1][::-1]
        self.take(order, self._turn(self.order[i : j + 1]))
        return (i - 1, i, j, j + 1)

    def _turn(self, stretch: Order) -> NDArray[np.bool_]:
        turned = self.turned.copy()
        turned[stretch] ^= True
        return turned

    def _carry(self, i: int) -> tuple[int, ...] | None:
        """Carry a few points from a place to where they cost less; return the places whose neighbours changed."""
        start, end, steps, count = self._in, self._out, self._steps, len(self.order)
        into_head, from_head = np.abs(end[:-1] - start[i + 1]), np.abs(start[1:] - start[i + 1])
        for size in range(1, min(LONGEST_SEGMENT, count - i) + 1):
            j = i + size - 1
            saved = steps[i] + steps[j + 1] - abs(end[i] - start[j + 2])
            if saved <= GAIN:
                continue
            low, high, inner = self._bounds(i, j)
            straight = into_head + np.abs(start[1:] - end[j + 1]) - steps
            turned = np.abs(end[:-1] - end[j + 1]) + from_head - steps
            if inner:
                turned[:] = np.inf
            cost = np.minimum(straight, turned)
            cost[i : j + 2] = np.inf
            cost[: low + 1] = np.inf
            cost[high + 1 :] = np.inf
            k = int(np.argmin(cost))
            if saved - cost[k] > GAIN:
                segment, backwards = self.order[i : j + 1], self.turned
                if turned[k] < straight[k]:
                    segment, backwards = segment[::-1], self._turn(segment)
                rest = np.delete(self.order, np.arange(i, j + 1))
                put = k if k <= i else k - size
                self.take(np.concatenate([rest[:put], segment, rest[put:]]), backwards)
                return (put - 1, put, put + size - 1, put + size, i - 1, i, j, j + 1)
        return None

    def _bounds(self, i: int, j: int) -> tuple[int, int, bool]:
        """Return the places between which a stretch has to stay, and whether it holds a pair itself."""
        if not len(self._tour.before):
            return -1, len(self.order), False
        stretch, place = self.order[i : j + 1].tolist(), self._place
        earlier = [int(place[node]) for one in stretch for node in self._earlier[one]]
        later = [int(place[node]) for one in stretch for node in self._later[one]]
        low = max((at for at in earlier if at < i), default=-1)
        high = min((at for at in later if at > j), default=len(self.order))
        return low, high, any(i <= at <= j for at in later)

    def upset(self, random: np.random.Generator) -> list[int] | None:
        """Swap two neighbouring stretches at random, where the pairs allow it; return the places that changed."""
        count = len(self.order)
        span = min(UPSET_SPAN, count)
        a = int(random.integers(0, count - 1))
        lengths = random.integers(1, max(2, span // 2), size=2)
        b, c = a + int(lengths[0]), a + int(lengths[0] + lengths[1])
        if c > count:
            return None
        if bool((self._high[a:b] < c).any()):
            return None
        order = np.concatenate([self.order[:a], self.order[b:c], self.order[a:b], self.order[c:]])
        self.take(order, self.turned)
        middle = a + c - b
        return [k for k in (a - 1, a, middle - 1, middle, c - 1, c) if 0 <= k < count]


def _as_complex(points: Points) -> NDArray[np.complex128]:
    """Return points (n, 2) as numbers x + iy, so that a distance is one operation."""
    return np.asarray(points[..., 0] + 1j * points[..., 1])
