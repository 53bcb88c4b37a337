"""A run at the bench of the press as the log keeps it: a line for each garment, plan and truth beside one another."""

from pydantic import Field

from zinnet.base.frozen import Frozen
from zinnet.pressing.hand_time import HandTime

MOST_SAID = 200


class PressMade(Frozen):
    """One press of one garment: how long it was meant to be shut, and how long it was, in s."""

    title: str
    planned_s: float
    real_s: float


class Recut(Frozen):
    """Film that has to be cut again for a garment: of which film, for what, and how large the piece is, in mm."""

    film: str
    piece: str
    width_mm: float
    height_mm: float


class GarmentMade(Frozen):
    """One garment of a run: what was pressed, and how long hands and press were at it, in s.

    ``spoiled`` says what happened to one that was lost, and ``recut`` which film is cut again for it. ``again`` is the
    number of the garment that it is made for once more. ``skipped`` are the steps that were passed over.
    """

    number: int
    name: str
    colour: str = ""
    presses: tuple[PressMade, ...] = ()
    planned_s: float = 0.0
    real_s: float = 0.0
    lifted: int = 0
    skipped: tuple[str, ...] = ()
    spoiled: str = Field(default="", max_length=MOST_SAID)
    recut: tuple[Recut, ...] = ()
    again: int | None = None


class RunMade(Frozen):
    """A run: when it began and ended, who was at it, how long it took and paused, in s, and each garment of it.

    ``planned_s`` and ``real_s`` are those of the work, hands and press together; ``elapsed_s`` is by the clock from
    beginning to end, without pauses. ``hands`` teach the estimates of the next job.
    """

    began: str
    ended: str
    who: str = Field(default="", max_length=MOST_SAID)
    planned_s: float
    real_s: float
    elapsed_s: float
    paused_s: float
    garments: tuple[GarmentMade, ...]
    hands: tuple[HandTime, ...] = ()
