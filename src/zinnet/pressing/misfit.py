"""How far film that shrank in earlier presses is off from the next layer, against the lap that hides it."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from zinnet.base.stages import stage
from zinnet.layers.split import ColourLayer
from zinnet.pressing.pieces import PanelWork, PressPiece
from zinnet.pressing.steps import PressStep

NEAR_MM = 0.5
"""An outline of the upper film so near to the lower one runs along it or over it."""


@dataclass(frozen=True)
class Meeting:
    """Two pieces that meet, the one that is pressed first first. ``lap_mm`` is how far it goes on under the other.

    ``drawn`` are the two as they are drawn: how far they meet does not depend on where they are laid.
    """

    under: str
    over: str
    lap_mm: float
    drawn: tuple[ColourLayer, ColourLayer]


@dataclass(frozen=True)
class Misfit:
    """By how much an edge is off, in mm: where the lower film shrank before the upper one was laid."""

    meeting: Meeting
    shrink_share: float
    reach_mm: float
    limit_mm: float

    @property
    def mm(self) -> float:
        """By how much the edge that is farthest from the middle is off."""
        return self.shrink_share * self.reach_mm

    @property
    def is_seen(self) -> bool:
        """Whether neither lap nor eye overlooks it."""
        return self.mm > self.limit_mm


def shrink_before(piece: PressPiece, steps: Sequence[PressStep], other: str) -> float:
    """Return by what share a piece has shrunk when another one is laid: a full press's share, less for shorter ones."""
    total = 0.0
    lies = False
    full = piece.setting.full_s if piece.setting is not None else None
    for step in steps:
        if step.kind == "lay":
            if other in step.pieces:
                return total
            lies = lies or piece.key in step.pieces
        heat = step.heat
        if lies and heat is not None and heat.seconds and piece.key in (*step.carried, *step.bare):
            total += piece.kind.shrink_share * (min(1.0, heat.seconds / full) if full else 1.0)
    return total


def misfits_of(
    work: PanelWork, steps: Sequence[PressStep], meetings: Sequence[Meeting], seen_mm: float
) -> tuple[Misfit, ...]:
    """Return how far the edges of pieces that meet are off, the farthest first.

    Parameters
    ----------
    work : PanelWork, mm
        The pieces and how they shrink.
    steps : press steps
        In their order.
    meetings : Meetings, mm
        Which edges meet, and how far out.
    seen_mm : float, mm
        The misfit that is seen where the lap is smaller.

    Returns
    -------
    misfits, mm
        The largest first.
    """
    found = []
    for meeting in meetings:
        if not {meeting.under, meeting.over} <= {piece.key for piece in work.pieces}:
            continue
        under, over = work.piece(meeting.under), work.piece(meeting.over)
        share = shrink_before(under, steps, over.key)
        if share > 0:
            limit = max(meeting.lap_mm, seen_mm)
            found.append(Misfit(meeting, share, meeting_reach_mm(*meeting.drawn), limit))
    return tuple(sorted(found, key=lambda one: -one.mm))


@stage(most=256)
def meeting_reach_mm(under: ColourLayer, over: ColourLayer) -> float:
    """Return how far from the middle of the lower film the two still meet, in mm; parts by themselves shrink alone."""
    outline = shapely.get_coordinates(over.region)
    farthest = 0.0
    for part in under.region.geoms:
        left, top, right, bottom = part.bounds
        low, high = np.array([left, top]) - NEAR_MM, np.array([right, bottom]) + NEAR_MM
        near = outline[((outline >= low) & (outline <= high)).all(axis=1)]
        if len(near):
            shapely.prepare(part)
            near = near[shapely.dwithin(shapely.points(near), part, NEAR_MM)]
        if len(near):
            middle = np.array([(left + right) / 2, (top + bottom) / 2])
            farthest = max(farthest, float(np.hypot(*(near - middle).T).max()))
    return farthest
