"""Which films go down in one press: all that safely may, in the fewest presses."""

from collections.abc import Iterator, Sequence
from itertools import combinations

import shapely

from zinnet.base.stages import stage
from zinnet.geometry.region import common
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.pieces import TOUCH_MM2, PressPiece, carriers

MOST_EXACT = 14
"""So many pieces are grouped by looking at every choice; more by taking what goes along, one after the other."""
LIES_ON = "one lies on the other"
ROUND_MM = 0.005
"""What a length may lack by rounding."""
Groups = tuple[tuple[PressPiece, ...], ...]


@stage(most=64)
def groups_of(pieces: tuple[PressPiece, ...], *, together: bool | None) -> Groups:
    """Return what is pressed at once, in the order of pressing.

    Parameters
    ----------
    pieces
        In the order in which they would be pressed one by one.
    together : bool or None
        None presses at once all that safely may, in the fewest presses; True joins pieces that follow one another
        wherever their heats meet, carriers that cross or not; False presses each by itself.

    Returns
    -------
    groups
        Every piece in one of them, what lies below in an earlier one.
    """
    if together is False:
        return tuple((piece,) for piece in pieces)
    if together:
        return _in_a_row(pieces)
    below = [sum(1 << k for k, other in enumerate(pieces) if other.key in piece.on) for piece in pieces]
    beside = [0] * len(pieces)
    for one, other in combinations(range(len(pieces)), 2):
        if may_join(pieces[one], pieces[other]):
            beside[one] |= 1 << other
            beside[other] |= 1 << one
    found = fewest(below, beside) if len(pieces) <= MOST_EXACT else _greedy(below, beside)
    return tuple(tuple(pieces[index] for index in group) for group in found)


def _in_a_row(pieces: Sequence[PressPiece]) -> Groups:
    groups: list[list[PressPiece]] = []
    for piece in pieces:
        last = groups[-1] if groups else None
        if last is not None and all(_heats_meet(piece, other) for other in last):
            last.append(piece)
        else:
            groups.append([piece])
    return tuple(tuple(group) for group in groups)


def _heats_meet(piece: PressPiece, other: PressPiece) -> bool:
    """Tell whether two films that lie beside each other are pressed at one heat."""
    return _why_not_beside(piece, other) is None


def _why_not_beside(piece: PressPiece, other: PressPiece) -> str | None:
    """Return why two films are not pressed at one heat; None where they are."""
    if other.key in piece.on or piece.key in other.on:
        return LIES_ON
    if piece.kind.bond != other.kind.bond:
        return "one is pressed, the other stuck on"
    one, two = piece.setting, other.setting
    if one is None or two is None or one.heat_c is None or two.heat_c is None:
        return "only the sheet in the roll knows its heat"
    if abs(one.heat_c - two.heat_c) > press_numbers().together.heats_apart_c:
        return "their heats lie too far apart"
    if common(piece.region, other.region).area > TOUCH_MM2:
        return LIES_ON
    return None


def may_join(piece: PressPiece, other: PressPiece) -> bool:
    """Tell whether two pieces safely go down in one press."""
    return why_apart(piece, other) is None


@stage(most=1024)
def why_apart(piece: PressPiece, other: PressPiece) -> str | None:
    """Return why two pieces can't safely go down in one press; None where they can.

    Their heats meet, their times and peels are alike, and their carriers can be trimmed so that they lie on no other.
    """
    one, two = piece.setting, other.setting
    if one is not None and two is not None and not {piece.key, other.key} & (piece.on | other.on):
        if one.peel != two.peel:
            return f"one is peeled {one.peel}, the other {two.peel}"
        for first, second in ((one.tack_s, two.tack_s), (one.full_s, two.full_s)):
            low, high = sorted((first or 0.0, second or 0.0))
            if high > press_numbers().together.times_apart * low:
                return f"one takes {low:.0f} s, the other {high:.0f} s"
    reason = _why_not_beside(piece, other)
    if reason is not None:
        return reason
    trim = trim_mm((piece, other))
    if trim < press_numbers().trim.least_mm - ROUND_MM:
        return f"carriers can't be trimmed between them, they lie {2 * trim:.1f} mm apart"
    one_by_one, others = (carriers(region, trim) for region in (piece.region, other.region))
    if common(one_by_one, others).area > TOUCH_MM2:
        return "the carrier of one would lie on the other"
    return None


def why_later(group: Sequence[PressPiece], before: Sequence[PressPiece]) -> tuple[PressPiece, str] | None:
    """Return what a group is not pressed with and why; None where that is plain: it lies on what is pressed before."""
    if any(piece.on & {other.key for other in before} for piece in group):
        return None
    reasons = ((other, why_apart(other, piece)) for other in before for piece in group)
    return next(((other, why) for other, why in reasons if why is not None and why != LIES_ON), None)


def trim_mm(group: Sequence[PressPiece], usual_mm: float | None = None) -> float:
    """Return how close the carriers of a group are trimmed to the film, in mm: to half the gap where that is less."""
    gaps = [float(shapely.distance(one.region, other.region)) for one, other in combinations(group, 2)]
    gaps += [gap for piece in group if piece.parts > 1 for gap in _within(piece)]
    return min([usual_mm or press_numbers().trim.carrier_mm, *(gap / 2 for gap in gaps)])


def _within(piece: PressPiece) -> Iterator[float]:
    """Yield the gaps between the pieces that a layer is cut into, in mm."""
    return (float(shapely.distance(one, other)) for one, other in combinations(piece.each, 2))


def fewest(below: Sequence[int], beside: Sequence[int]) -> list[tuple[int, ...]]:
    """Return the fewest groups, as numbers of pieces; of equal choices the one that keeps their order.

    Pressing more at once never hurts what follows, so only groups are tried to which nothing can be added.

    Parameters
    ----------
    below : bit masks
        For each piece what must be pressed before it.
    beside : bit masks
        For each piece what may be pressed with it.

    Returns
    -------
    groups of numbers
        In the order of pressing.
    """
    whole = (1 << len(below)) - 1
    reached: dict[int, list[tuple[int, ...]]] = {0: []}
    while whole not in reached:
        following: dict[int, list[tuple[int, ...]]] = {}
        for done, groups in reached.items():
            free = sum(1 << k for k, need in enumerate(below) if not done >> k & 1 and need & ~done == 0)
            for group in _largest(free, beside):
                following.setdefault(done | group, [*groups, _numbers(group)])
        reached = following
    return reached[whole]


def _largest(free: int, beside: Sequence[int]) -> Iterator[int]:
    """Yield the groups within ``free`` of pieces that go together to which none can be added.

    These are the maximal cliques; the search is that of Bron and Kerbosch (1973).
    """

    def grow(group: int, may: int, seen: int) -> Iterator[int]:
        if not may and not seen:
            yield group
        for k in _numbers(may):
            yield from grow(group | 1 << k, may & beside[k], seen & beside[k])
            may &= ~(1 << k)
            seen |= 1 << k

    yield from grow(0, free, 0)


def _numbers(mask: int) -> tuple[int, ...]:
    return tuple(k for k in range(mask.bit_length()) if mask >> k & 1)


def _greedy(below: Sequence[int], beside: Sequence[int]) -> list[tuple[int, ...]]:
    """Return groups: each takes the first piece that may come next, and all that goes along with it."""
    found: list[tuple[int, ...]] = []
    done, whole = 0, (1 << len(below)) - 1
    while done != whole:
        group = 0
        for k, need in enumerate(below):
            if not done >> k & 1 and need & ~done == 0 and group & ~beside[k] == 0:
                group |= 1 << k
        found.append(_numbers(group))
        done |= group
    return found
