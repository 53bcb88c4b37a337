"""What the user decides about pressing: the school, the recipes, covers, and who and what works at it."""

from typing import Literal

from pydantic import Field

from zinnet.base.frozen import Frozen
from zinnet.base.units import Degrees
from zinnet.pressing.recipes import Recipe

PressSchool = Literal["tack", "full"]
Cover = Literal["carriers", "parchment", "sheet", "none"]
Method = Literal["hinge", "wet"]


class FilmPress(Frozen):
    """The user's own word on how a film of this job is pressed: one of the known recipes, or another one."""

    film: str
    school: str | None = None
    own: Recipe | None = None


class PressSpec(Frozen):
    """How the job is pressed.

    ``school`` tacks each layer and presses once at the end, or presses every layer fully. ``cover`` is what lies over
    bare film. ``together`` presses films that lie apart in one press: None where that is safe, in the fewest
    presses, True wherever their heats meet, False never. ``trim_mm`` is how far from the film carriers are trimmed.
    ``method`` is how adhesive film is laid.
    ``pressed_at`` is when the last garment was done.
    """

    school: PressSchool = "tack"
    cover: Cover = "carriers"
    together: bool | None = None
    method: Method = "hinge"
    trim_mm: float | None = Field(default=None, ge=0.5, le=50)
    films: tuple[FilmPress, ...] = Field(default=(), max_length=500)
    degrees: Degrees | None = None
    presses: int = Field(default=1, ge=1, le=20)
    people: int = Field(default=1, ge=1, le=20)
    cooling: int = Field(default=4, ge=1, le=50)
    cold_plate: bool = False
    pressed_at: str | None = Field(default=None, max_length=40)

    def film(self, film_id: str) -> FilmPress | None:
        """Return the user's own word on a film."""
        return next((one for one in self.films if one.film == film_id), None)
