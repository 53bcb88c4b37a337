"""How many equal rectangles a rectangle holds, in either direction and mixed, at once and without an engine."""

from functools import cache

from zinnet.base.errors import NestError
from zinnet.base.frozen import Frozen

MOST_EDGES = 11
"""Up to so many places for a cut along each side the mixed patterns are tried; beyond, the plain rows answer."""
CLOSE = 1e-6


class Counts(Frozen):
    """How many rectangles fit with the long side along the film, with the short side along it, and mixed."""

    long_along: int
    short_along: int
    mixed: int

    @property
    def best(self) -> int:
        """The most of the three."""
        return max(self.long_along, self.short_along, self.mixed)


def how_many_rectangles(
    size: tuple[float, float], film: tuple[float, float], gap_mm: float = 0.0, *, may_turn: bool = True
) -> Counts:
    """Return how many rectangles of a size (mm) lie on film of a width and a length (mm).

    Without ``may_turn`` the first of ``size`` goes across the film, and the other answers are 0. Mixed patterns are
    those of five blocks around one another (after Morabito and Morales 1998; from memory), each block again so.

    Parameters
    ----------
    size : (width, height), mm
        One rectangle.
    film : (width, length), mm
        What they lie on.
    gap_mm : float, mm
        Between them; none at the film's edges.
    may_turn : bool
        Whether a quarter turn is allowed.

    Returns
    -------
    Counts
        The long side along the film, the short one along it, and mixed.

    Raises
    ------
    NestError
        A length is 0 or less, or the gap is negative.
    """
    if min(*size, *film) <= 0 or gap_mm < 0:
        raise NestError("Rectangles and film have lengths above zero; type others.")
    width, length = film[0] + gap_mm, film[1] + gap_mm
    across, along = size[0] + gap_mm, size[1] + gap_mm
    if not may_turn:
        rows = _times(width, across) * _times(length, along)
        return Counts(
            long_along=rows if size[1] >= size[0] else 0, short_along=0 if size[1] >= size[0] else rows, mixed=0
        )
    short, long = min(across, along), max(across, along)
    return Counts(
        long_along=_times(width, short) * _times(length, long),
        short_along=_times(width, long) * _times(length, short),
        mixed=_mixed(width, length, short, long),
    )


def _times(room: float, step: float) -> int:
    return int(room / step + CLOSE)


def _edges(room: float, short: float, long: float) -> tuple[float, ...]:
    """Return the sums of the two sides that lie within the room: where a cut can be of use."""
    sums = {
        round(a * short + b * long, 6)
        for a in range(_times(room, short) + 1)
        for b in range(_times(room - a * short, long) + 1)
    }
    return tuple(sorted(one for one in sums if one <= room + CLOSE))


def _mixed(width: float, length: float, short: float, long: float) -> int:
    """Return the most that patterns of nested blocks hold, or 0 where there are too many to try."""
    if any(
        _times(room, short) >= MOST_EDGES or len(_edges(room, short, long)) > MOST_EDGES for room in (width, length)
    ):
        return 0

    def useful(room: float) -> float:
        """Return the longest sum of sides within the room: what is beyond it holds nothing more."""
        return _edges(room, short, long)[-1] if room > CLOSE else 0.0

    @cache
    def most(wide: float, tall: float) -> int:
        least, longest = min(wide, tall), max(wide, tall)
        if least < short - CLOSE or longest < long - CLOSE:
            return 0
        best = max(
            _times(wide, short) * _times(tall, long),
            _times(wide, long) * _times(tall, short),
        )
        bound = int(wide * tall / (short * long) + CLOSE)
        xs = [x for x in _edges(wide, short, long) if x < wide - CLOSE]
        ys = [y for y in _edges(tall, short, long) if y < tall - CLOSE]
        for i, x1 in enumerate(xs):
            for x2 in xs[i:]:
                for j, y1 in enumerate(ys):
                    for y2 in ys[j:]:
                        if best >= bound:
                            return best
                        if (x1, x2) != (0, 0) or (y1, y2) != (0, 0):
                            best = max(best, five(wide, tall, x1, x2, y1, y2))
        return best

    def five(wide: float, tall: float, x1: float, x2: float, y1: float, y2: float) -> int:
        """Return what five blocks around one another hold; some of them may be empty."""
        blocks = (
            (x1, tall - y1),
            (wide - x1, tall - y2),
            (x2 - x1, y2 - y1),
            (x2, y1),
            (wide - x2, y2),
        )
        whole = (wide, tall)
        if any(round(a, 6) == round(whole[0], 6) and round(b, 6) == round(whole[1], 6) for a, b in blocks):
            return 0
        return sum(most(round(useful(a), 6), round(useful(b), 6)) for a, b in blocks if min(a, b) > CLOSE)

    return most(round(useful(width), 6), round(useful(length), 6))
