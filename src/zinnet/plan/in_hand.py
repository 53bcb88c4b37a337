"""The piece in hand at the bench: where it lies, what lies there already, and the four lengths that put it there."""

import math
from collections.abc import Iterator
from dataclasses import dataclass

from zinnet.base.units import Unit
from zinnet.geometry.region import Region, union
from zinnet.placement.lay_lengths import Laying, LayLength, laying_of
from zinnet.placement.place import Placement
from zinnet.plan.fitted import FittedDesign
from zinnet.plan.press_cards import Card, Hand, hands_at
from zinnet.plan.presses import GarmentPress, piece_key
from zinnet.pressing.pieces import PanelWork, PressPiece

ON_LINE_MM = 0.5
"""So near to the centre line its middle lies on it."""
STRAIGHT_DEG = 0.05


@dataclass(frozen=True, eq=False)
class InHand:
    """A piece that is laid: at one of its places, on one panel, by its lengths.

    ``under`` are the pieces that lie there already, in the order of laying, with where they lie.
    """

    piece: PressPiece
    place: int
    region: Region
    work: PanelWork
    placement: Placement
    turn_deg: float
    under: tuple[tuple[PressPiece, Region], ...]
    laying: Laying

    @property
    def by_edge(self) -> bool:
        """Whether heights are measured from the panel's upper edge: no ruler finds the middle of a thing."""
        return self.placement.place.anchor == "middle"

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

    def _nearest(self, length: LayLength) -> str:
        from shapely import Point

        end = Point(length.end)
        return min(self.under, key=lambda one: one[1].boundary.distance(end))[0].name

    def rows(self, unit: Unit) -> tuple[tuple[str, str, str], ...]:
        """Return the lengths as rows: a letter, the length, and from where to where."""
        return tuple(
            (letter, length.shown(unit), f"from its {length.point} {self.goal(length)}")
            for letter, length in zip("ABCD", self.laying.lengths, strict=True)
        )

    @property
    def name(self) -> str:
        """What the piece is called, with its place where there are several."""
        several = len(self.piece.each) > 1
        return f"{self.piece.name}, {self.place + 1} of {len(self.piece.each)}" if several else self.piece.name

    @property
    def way(self) -> str:
        """Return how to find the place besides the ruler."""
        turned = abs(self.turn_deg) > STRAIGHT_DEG
        angle = f"Turned {abs(self.turn_deg):.1f}° {'clockwise' if self.turn_deg > 0 else 'counterclockwise'}. "
        lead = angle if turned else "Straight. "
        if self.is_centred and not turned:
            return f"{lead}Its middle lies on the centre line: fold it there and match the crease."
        return f"{lead}Its middle is not on the centre line: chalk a tick where A and B end, and lay it to them."


def in_hand(card: Card, unit: Unit = "mm") -> InHand | None:
    """Return the piece that a card lays, with its lengths; None where it lays none."""
    if card.hand is None:
        return None
    lay = next(k for k in reversed(card.indices) if card.press.steps[k].kind == "lay")
    return hand_at(card.press, lay, card.hand, unit)


def hands_of(press: GarmentPress, unit: Unit = "mm") -> Iterator[tuple[int, InHand]]:
    """Yield every piece of a garment in the order of laying, with the step that lays it."""
    for lay, step in enumerate(press.steps):
        if step.kind == "lay":
            for hand in hands_at(press, lay):
                yield lay, hand_at(press, lay, hand, unit)


def hand_at(press: GarmentPress, lay: int, hand: Hand, unit: Unit = "mm") -> InHand:
    """Return a piece that a step of a garment lays, with its lengths."""
    work = next(work for work in press.works if any(piece.key == hand.piece for piece in work.pieces))
    piece = work.piece(hand.piece)
    design = next(one for one in press.garment.compositions if _makes(one, hand.piece))
    assert design.placement is not None
    placement = design.placement
    under = tuple(_before(press, lay, hand, work))
    region = piece.each[hand.place]
    matrix = placement.matrices[hand.place]
    laying = laying_of(
        region,
        work.panel,
        None if placement.place.anchor == "middle" else placement.reference,
        union(lying for _, lying in under) if under else None,
        low=placement.place.anchor == "bottom",
        unit=unit,
    )
    turned = math.degrees(math.atan2(matrix[1, 0], matrix[0, 0]))
    return InHand(piece, hand.place, region, work, placement, turned, under, laying)


def _makes(design: FittedDesign, key: str) -> bool:
    return design.stack is not None and any(piece_key(design, row) == key for row in design.stack.in_press_order)


def _before(press: GarmentPress, lay: int, hand: Hand, work: PanelWork) -> list[tuple[PressPiece, Region]]:
    """Return what lies on the panel when a piece is laid: all that was laid before it, and in the same step."""
    found: list[tuple[PressPiece, Region]] = []
    for step in press.steps[: lay + 1]:
        if step.kind not in ("lay", "fix") or step.panel != work.panel.id:
            continue
        for key in step.pieces:
            piece = work.piece(key)
            for place, region in enumerate(piece.each):
                if step is press.steps[lay] and Hand(key, place) == hand:
                    return found
                found.append((piece, region))
    return found
