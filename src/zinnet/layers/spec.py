"""What the user decides about layers: films, methods, laps, order, and what is cut beside the artwork."""

from typing import Literal

from pydantic import Field

from zinnet.base.frozen import Frozen
from zinnet.films.support import Method, PairMethod

Spread = Literal["none", "under", "outline"]
MOST_FILMS = 9


class FilmChoice(Frozen):
    """The user's film for a colour; an id that is not in stock leaves the colour without film."""

    colour: str
    film: str


class SideOverride(Frozen):
    """The user's own word on which side of a film is cut, with the reason."""

    film: str
    mirrored: bool
    reason: str


class PairChoice(Frozen):
    """The user's own word on how two layers lie to each other; each is told by a colour of it."""

    lower: str
    upper: str
    method: PairMethod


class LayersSpec(Frozen):
    """How the artwork is split and what it is cut from.

    ``order`` names layers, by a colour of each, in the order in which the user presses them. ``spread`` lets the lowest
    film go on under all others, or reach ``outline_mm`` beyond them as well. ``marks`` adds a weed frame with marks.
    """

    method: Method = "auto"
    join_outlines: bool = True
    films: tuple[FilmChoice, ...] = ()
    sides: tuple[SideOverride, ...] = ()
    pairs: tuple[PairChoice, ...] = Field(default=(), max_length=500)
    order: tuple[str, ...] = Field(default=(), max_length=200)
    lap_mm: float | None = Field(default=None, ge=0.05, le=5)
    most_films: int | None = Field(default=None, ge=1, le=MOST_FILMS)
    merge_delta_e: float | None = Field(default=None, ge=0, le=50)
    stack_glitter: bool = False
    spread: Spread = "none"
    outline_mm: float = Field(default=3.0, gt=0, le=50)
    drop_slivers: bool = False
    marks: bool = False
