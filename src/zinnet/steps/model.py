"""The steps as values. Lengths are in mm of the finished design; points are in shares of its width before the step."""

from typing import Annotated, Literal

from pydantic import Field

from zinnet.base.frozen import Frozen
from zinnet.geometry.thickness import Corners

Colour = Annotated[str, Field(pattern="^#[0-9a-f]{6}$")]
Share = Annotated[float, Field(ge=-20, le=20)]
Length = Annotated[float, Field(gt=0, le=500)]
MOST_POINTS = 20_000
Edge = Literal["left", "centre", "right", "top", "middle", "bottom"]


class Which(Frozen):
    """What a step acts on: the parts under some points, else all of some colours, else everything."""

    points: tuple[tuple[Share, Share], ...] = Field(default=(), max_length=MOST_POINTS)
    colours: tuple[Colour, ...] = Field(default=(), max_length=50)


ALL = Which()


class Join(Frozen):
    """Parts of one colour that touch or overlap become one outline."""

    kind: Literal["join"] = "join"
    which: Which = ALL


class CutAway(Frozen):
    """Where ``by`` lies, ``which`` is cut away; ``by`` itself may go too."""

    kind: Literal["cut-away"] = "cut-away"
    which: Which = ALL
    by: Which
    gap_mm: float = Field(default=0.0, ge=0, le=100)
    keep: bool = True


class Intersect(Frozen):
    """Of ``which`` there stays what lies where ``by`` lies."""

    kind: Literal["intersect"] = "intersect"
    which: Which = ALL
    by: Which


class Exclude(Frozen):
    """Where an even number of the parts lie on one another, nothing stays."""

    kind: Literal["exclude"] = "exclude"
    which: Which = ALL


class Outline(Frozen):
    """Outlines round everything chosen, one for each colour, each ``width_mm`` wider than the one inside it.

    A width below zero lies inside. ``fill`` closes the counters under an outline.
    """

    kind: Literal["outline"] = "outline"
    which: Which = ALL
    width_mm: float = Field(default=3.0, ge=-100, le=100)
    colours: tuple[Colour, ...] = Field(default=("#23304a",), min_length=1, max_length=6)
    corners: Corners = "round"
    fill: bool = False


class Thicken(Frozen):
    """Strokes thinner than ``least_mm`` are made so wide."""

    kind: Literal["thicken"] = "thicken"
    which: Which = ALL
    least_mm: Length = 1.0


class Thin(Frozen):
    """``by_mm`` is taken off all edges, but no stroke is made narrower than ``least_mm``."""

    kind: Literal["thin"] = "thin"
    which: Which = ALL
    by_mm: Length = 0.5
    least_mm: Length = 1.0


class CloseGaps(Frozen):
    """Gaps and counters narrower than ``gap_mm`` are filled."""

    kind: Literal["close-gaps"] = "close-gaps"
    which: Which = ALL
    gap_mm: Length = 0.8


class WidenGaps(Frozen):
    """Gaps within a colour narrower than ``gap_mm`` are made so wide."""

    kind: Literal["widen-gaps"] = "widen-gaps"
    which: Which = ALL
    gap_mm: Length = 0.8


class Smooth(Frozen):
    """Bumps, nicks and corners sharper than ``radius_mm`` are rounded."""

    kind: Literal["smooth"] = "smooth"
    which: Which = ALL
    radius_mm: Length = 0.5


class Simplify(Frozen):
    """Outlines keep no more points than they need to stay within ``tolerance_mm``; shared borders stay shared."""

    kind: Literal["simplify"] = "simplify"
    tolerance_mm: Length = 0.1


class RemoveSpecks(Frozen):
    """Parts and counters smaller than ``least_mm2`` go; or those shorter than their own length, where one is given."""

    kind: Literal["remove-specks"] = "remove-specks"
    which: Which = ALL
    least_mm2: float = Field(default=4.0, gt=0, le=10_000)
    part_mm: Length | None = None
    counter_mm: Length | None = None


class Enlarge(Frozen):
    """Chosen parts whose longer side is shorter than ``least_mm`` are made so long, each about its own middle."""

    kind: Literal["enlarge"] = "enlarge"
    which: Which = ALL
    least_mm: Length = 2.0


class Bridge(Frozen):
    """Each chosen part is joined to the nearest other part of its colour by a bridge ``width_mm`` wide."""

    kind: Literal["bridge"] = "bridge"
    which: Which
    width_mm: Length = 1.5


class FillCounters(Frozen):
    """Counters are filled: all, or those up to ``most_mm2``."""

    kind: Literal["fill-counters"] = "fill-counters"
    which: Which = ALL
    most_mm2: float | None = Field(default=None, gt=0, le=1e6)


class Drop(Frozen):
    """What is chosen goes."""

    kind: Literal["drop"] = "drop"
    which: Which


class Keep(Frozen):
    """Only what is chosen stays."""

    kind: Literal["keep"] = "keep"
    which: Which


class Move(Frozen):
    """What is chosen is moved."""

    kind: Literal["move"] = "move"
    which: Which = ALL
    right_mm: float = Field(default=0.0, ge=-5000, le=5000)
    down_mm: float = Field(default=0.0, ge=-5000, le=5000)


class Duplicate(Frozen):
    """``copies`` more of what is chosen, each moved on from the one before."""

    kind: Literal["duplicate"] = "duplicate"
    which: Which = ALL
    copies: int = Field(default=1, ge=1, le=200)
    right_mm: float = Field(default=20.0, ge=-5000, le=5000)
    down_mm: float = Field(default=0.0, ge=-5000, le=5000)


class Turn(Frozen):
    """What is chosen is turned about its own middle, clockwise."""

    kind: Literal["turn"] = "turn"
    which: Which = ALL
    angle_deg: float = Field(default=90.0, ge=-360, le=360)


class Flip(Frozen):
    """What is chosen is flipped about its own middle, left to right or top to bottom."""

    kind: Literal["flip"] = "flip"
    which: Which = ALL
    upright: bool = False


class Align(Frozen):
    """The chosen parts are brought to one edge or middle of all artwork, or of one another."""

    kind: Literal["align"] = "align"
    which: Which = ALL
    edge: Edge = "centre"
    to_artwork: bool = False


class Distribute(Frozen):
    """The chosen parts get equal gaps between them; the outermost stay."""

    kind: Literal["distribute"] = "distribute"
    which: Which = ALL
    down: bool = False


class Recolour(Frozen):
    """What is chosen gets another colour."""

    kind: Literal["recolour"] = "recolour"
    which: Which = ALL
    colour: Colour


class ReduceColours(Frozen):
    """Like colours become one until there are ``count``: the nearest pair first, the larger area's colour stays."""

    kind: Literal["reduce-colours"] = "reduce-colours"
    count: int = Field(default=3, ge=1, le=30)


class KeepTogether(Frozen):
    """The chosen parts of a film are one piece on the mat, or each one its own."""

    kind: Literal["keep-together"] = "keep-together"
    which: Which
    apart: bool = False


Step = Annotated[
    Join
    | CutAway
    | Intersect
    | Exclude
    | Outline
    | Thicken
    | Thin
    | CloseGaps
    | WidenGaps
    | Smooth
    | Simplify
    | RemoveSpecks
    | Enlarge
    | Bridge
    | FillCounters
    | Drop
    | Keep
    | Move
    | Duplicate
    | Turn
    | Flip
    | Align
    | Distribute
    | Recolour
    | ReduceColours
    | KeepTogether,
    Field(discriminator="kind"),
]

NAMES = {
    "join": "join outlines",
    "cut-away": "cut away",
    "intersect": "keep where both lie",
    "exclude": "cut out where parts cross",
    "outline": "outline",
    "thicken": "thicken strokes",
    "thin": "thin strokes",
    "close-gaps": "close gaps",
    "widen-gaps": "widen gaps",
    "smooth": "smooth",
    "simplify": "simplify",
    "remove-specks": "remove specks",
    "enlarge": "enlarge small parts",
    "bridge": "join with a bridge",
    "fill-counters": "fill counters",
    "drop": "delete parts",
    "keep": "keep only these",
    "move": "move",
    "duplicate": "duplicate",
    "turn": "turn",
    "flip": "flip",
    "align": "align",
    "distribute": "distribute",
    "recolour": "recolour",
    "reduce-colours": "reduce colours",
    "keep-together": "keep together",
}


def step_name(step: Step) -> str:
    """Return what a step is called."""
    if isinstance(step, KeepTogether) and step.apart:
        return "set apart"
    return NAMES[step.kind]
