"""The piece in hand at the bench: where it lies, what lies there already, and the four lengths that put it there."""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType

import shapely

from zinnet.base.units import Unit, write_length
from zinnet.data.limits import limits
from zinnet.geometry.region import Region, union
from zinnet.geometry.transform import moved
from zinnet.placement.lay_lengths import Laying, LayLength, laying_of
from zinnet.placement.place import ON_LINE_MM, Placement
from zinnet.placement.slips import Followed, Met, Slip, followed
from zinnet.plan.fitted import FittedDesign
from zinnet.plan.press_cards import Card, Hand, hands_at
from zinnet.plan.presses import GarmentPress, piece_key
from zinnet.pressing.pieces import PanelWork, PressPiece

NONE: Mapping[Hand, Slip] = MappingProxyType({})
STAYS = Followed(Slip(), 0.0)
STRAIGHT_DEG = 0.05
READ_MM, READ_DEG = 0.3, 0.1
"""Less than this no ruler tells."""


@dataclass(frozen=True, eq=False)
class InHand:
    """A piece that is laid: at one of its places, on one panel, by its lengths.

    ``under`` are the pieces that lie there already, in the order of laying, with where they lie. Where some of these
    slipped, ``follows`` is how far it is laid beside its planned place.
    """

    piece: PressPiece
    place: int
    region: Region
    work: PanelWork
    placement: Placement
    turn_deg: float
    under: tuple[tuple[PressPiece, Region], ...]
    laying: Laying
    follows: Followed = STAYS

    @property
    def by_edge(self) -> bool:
        """Whether heights are measured from the panel's upper edge."""
        return _by_edge(self.placement)

    @property
    def is_centred(self) -> bool:
        """Whether its middle lies on the centre line, so that the crease can be matched."""
        return abs(self.laying.centred_mm - self.placement.reference[0]) <= ON_LINE_MM

    def goal(self, length: LayLength) -> str:
        """Return in words to what a length goes."""
        name = self.placement.place.reference_name
        if length.kind in ("reference", "second") and self.by_edge:
            return f"below the upper edge of the {self.work.procedure.noun}, straight down"
        if length.kind in ("reference", "second"):
            return f"{'below' if length.mm >= 0 else 'above'} the {name}, straight down"
        if length.kind == "beside":
            return f"to the edge of {self._nearest(length)}"
        return f"to the {length.kind} edge of the {self.work.procedure.noun}"

    def near(self, length: LayLength) -> str:
        """Return in the fewest words to what a length goes, for whoever stands two metres away."""
        if length.kind in ("reference", "second"):
            name = "the upper edge" if self.by_edge else f"the {self.placement.place.reference_name}"
            return f"{'below' if length.mm >= 0 or self.by_edge else 'above'} {name}"
        if length.kind == "beside":
            return f"to {self._nearest(length)}"
        return f"to the {length.kind} edge"

    def _nearest(self, length: LayLength) -> str:
        end = shapely.Point(length.end)
        return min(self.under, key=lambda one: one[1].boundary.distance(end))[0].name

    def rows(self, unit: Unit) -> tuple[tuple[str, str, str], ...]:
        """Return the lengths as rows: a letter, the length, and from where to where."""
        return tuple(
            (letter, length.shown(unit), f"from its film's {length.point} {self.goal(length)}")
            for letter, length in zip("ABCD", self.laying.lengths, strict=True)
        )

    @property
    def name(self) -> str:
        """What the piece is called, with its place where there are several."""
        several = len(self.piece.each) > 1
        return f"{self.piece.name}, {self.place + 1} of {len(self.piece.each)}" if several else self.piece.name

    def _followed_said(self, unit: Unit) -> str:
        said = f"It follows what slipped: {_off(self.follows.slip, unit)}."
        if self.follows.holds:
            return said
        return f"{said} It can't meet all of it: an edge will show. Lift what lies wrong, if it can still be lifted."

    def way(self, unit: Unit = "mm") -> str:
        """Return how to find the place besides the ruler."""
        if _off(self.follows.slip, unit):
            return self._followed_said(unit)
        turned = abs(self.turn_deg) > STRAIGHT_DEG
        angle = f"Turned {abs(self.turn_deg):.1f}° {'clockwise' if self.turn_deg > 0 else 'counterclockwise'}. "
        lead = angle if turned else "Straight. "
        if self.is_centred and not turned:
            return f"{lead}Its middle lies on the centre line: fold it there and match the crease."
        return f"{lead}Off the centre line: chalk ticks where A and B end, lay it to them.{self._spacer_said(unit)}"

    def _spacer_said(self, unit: Unit) -> str:
        """Return how wide a strip of paper just fits beside what lies there; empty where none would be of use."""
        gaps = [(float(shapely.distance(self.region, lying)), piece) for piece, lying in self.under]
        gap, piece = min(gaps, key=lambda one: one[0], default=(0.0, None))
        numbers = limits()["as_laid"]
        if piece is None or not numbers["spacer_least_mm"] <= gap <= numbers["spacer_most_mm"]:
            return ""
        return f" A strip of paper {write_length(gap, unit=unit)} wide just fits between it and {piece.name}."


def _by_edge(placement: Placement) -> bool:
    """Tell whether heights are measured from the upper edge: no ruler finds the middle of a thing."""
    return placement.place.anchor == "middle"


def slip_said(slip: Slip, unit: Unit = "mm") -> str:
    """Return in a sentence where a piece lies by what was read."""
    off = _off(slip, unit)
    return f"It lies {off} of its place; what is laid after it follows." if off else "It lies in its place."


def _off(slip: Slip, unit: Unit) -> str:
    """Return how far a piece is off in words; empty where that is less than a ruler reads."""
    parts = []
    if abs(slip.right_mm) >= READ_MM:
        way = "right" if slip.right_mm > 0 else "left"
        parts.append(f"{write_length(abs(slip.right_mm), unit=unit)} to the {way}")
    if abs(slip.down_mm) >= READ_MM:
        parts.append(f"{write_length(abs(slip.down_mm), unit=unit)} {'down' if slip.down_mm > 0 else 'up'}")
    if abs(slip.turn_deg) >= READ_DEG:
        parts.append(f"{abs(slip.turn_deg):.1f}° {'clockwise' if slip.turn_deg > 0 else 'counterclockwise'}")
    return ", ".join(parts)


def in_hand(card: Card, unit: Unit = "mm", slips: Mapping[Hand, Slip] = NONE) -> InHand | None:
    """Return the piece that a card lays, with its lengths; None where it lays none.

    ``slips`` are those of the garment's pieces that were measured where they lie.
    """
    if card.hand is None:
        return None
    lay = next(k for k in reversed(card.indices) if card.press.steps[k].kind == "lay")
    return hand_at(card.press, lay, card.hand, unit, slips)


def hands_of(press: GarmentPress, unit: Unit = "mm") -> Iterator[tuple[int, InHand]]:
    """Yield every piece of a garment in the order of laying, with the step that lays it."""
    for lay, step in enumerate(press.steps):
        if step.kind == "lay":
            for hand in hands_at(press, lay):
                yield lay, hand_at(press, lay, hand, unit)


def hand_at(press: GarmentPress, lay: int, hand: Hand, unit: Unit = "mm", slips: Mapping[Hand, Slip] = NONE) -> InHand:
    """Return a piece that a step of a garment lays, with its lengths; it follows what slipped of those before it."""
    work = next(work for work in press.works if any(piece.key == hand.piece for piece in work.pieces))
    piece = work.piece(hand.piece)
    design = next(one for one in press.garment.compositions if _makes(one, hand.piece))
    assert design.placement is not None
    placement = design.placement
    before = _before(press, lay, hand, work)
    real: dict[Hand, Slip] = {}
    for number, one in enumerate(before if slips else ()):
        real[one] = slips.get(one) or _follow(press, work, one, before[:number], real).slip
    follows = _follow(press, work, hand, before, real) if slips else STAYS
    under = tuple((work.piece(one.piece), _lying(work, one, real)) for one in before)
    region = moved(piece.each[hand.place], follows.slip.matrix(piece.each[hand.place]))
    matrix = placement.matrices[piece.place_of(hand.place)]
    laying = laying_of(
        region,
        work.panel,
        None if _by_edge(placement) else placement.reference,
        union(lying for _, lying in under) if under else None,
        low=placement.place.anchor == "bottom",
        unit=unit,
    )
    turned = math.degrees(math.atan2(matrix[1, 0], matrix[0, 0]))
    return InHand(piece, hand.place, region, work, placement, turned, under, laying, follows)


def _makes(design: FittedDesign, key: str) -> bool:
    return design.stack is not None and any(piece_key(design, row) == key for row in design.stack.in_press_order)


def _lying(work: PanelWork, hand: Hand, real: Mapping[Hand, Slip]) -> Region:
    """Return where a piece lies, by how it slipped."""
    planned = work.piece(hand.piece).each[hand.place]
    slip = real.get(hand, Slip())
    return planned if slip.is_none else moved(planned, slip.matrix(planned))


def _follow(
    press: GarmentPress, work: PanelWork, hand: Hand, before: Sequence[Hand], real: Mapping[Hand, Slip]
) -> Followed:
    """Return where a piece is laid by how those slipped that it meets, or that it lies on."""
    piece = work.piece(hand.piece)
    laps = dict.fromkeys(piece.on, float(limits()["as_laid"]["on_top_mm"]))
    for one in press.meetings.get(work.panel.id, ()):
        if hand.piece in (one.under, one.over):
            laps[one.over if hand.piece == one.under else one.under] = one.lap_mm
    met = [
        Met(work.piece(one.piece).each[one.place], real.get(one, Slip()), laps[one.piece])
        for one in before
        if one.piece in laps and work.piece(one.piece).place_of(one.place) == piece.place_of(hand.place)
    ]
    return followed(piece.each[hand.place], met)


def _before(press: GarmentPress, lay: int, hand: Hand, work: PanelWork) -> list[Hand]:
    """Return what lies on the panel when a piece is laid: all that was laid before it, and in the same step."""
    found: list[Hand] = []
    for step in press.steps[: lay + 1]:
        if step.kind not in ("lay", "fix") or step.panel != work.panel.id:
            continue
        for key in step.pieces:
            piece = work.piece(key)
            for place in range(len(piece.each)):
                if step is press.steps[lay] and Hand(key, place) == hand:
                    return found
                found.append(Hand(key, place))
    return found


def looks_like_another(card: Card, cards: Sequence[Card]) -> bool:
    """Tell whether the piece in hand is easily taken for one of another garment: of its film, about as large."""
    if card.hand is None:
        return False
    mine = _piece_of(card.press, card.hand)
    others = {id(one.press): one.press for one in cards if one.press is not card.press}
    return any(_is_alike(mine, piece) for press in others.values() for work in press.works for piece in work.pieces)


def _piece_of(press: GarmentPress, hand: Hand) -> PressPiece:
    return next(piece for work in press.works for piece in work.pieces if piece.key == hand.piece)


def _is_alike(one: PressPiece, other: PressPiece) -> bool:
    if one.film.id != other.film.id:
        return False
    (left, top, right, bottom), (x, y, x2, y2) = one.each[0].bounds, other.each[0].bounds
    sides = ((right - left, x2 - x), (bottom - top, y2 - y))
    share = float(limits()["as_laid"]["alike_share"])
    return all(min(pair) >= share * max(pair) for pair in sides) and not one.each[0].equals(other.each[0])
