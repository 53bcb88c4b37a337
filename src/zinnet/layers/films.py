"""Films: their kinds, the nearest one to a colour, and the side that is cut."""

from functools import cache
from typing import Literal

from zinnet.data import read_toml
from zinnet.errors import ZinnetError
from zinnet.model import Frozen

FarWord = Literal["same", "near", "visible", "far"]


class FilmKind(Frozen):
    """How a kind of film behaves."""

    name: str
    cut_from_back: bool
    direction: bool
    not_for_baby: bool = False
    least_stroke_mm: float
    least_gap_mm: float
    pattern_stroke_mm: float | None = None
    grows: bool = False
    source: str


class Film(Frozen):
    """One film in stock."""

    id: str
    name: str
    kind: str
    colour: str


class CutSide(Frozen):
    """Which side of the film the blade comes from, and why."""

    mirrored: bool
    reason: str


@cache
def film_kinds() -> dict[str, FilmKind]:
    """Return the catalogue of film kinds."""
    return {name: FilmKind.model_validate(row) for name, row in read_toml("films")["kinds"].items()}


@cache
def catalogue_films() -> tuple[Film, ...]:
    """Return the films that a new workshop begins with."""
    return tuple(Film(id=name, **row) for name, row in read_toml("films")["films"].items())


def kind_of(film: Film) -> FilmKind:
    """Return the kind of a film."""
    kinds = film_kinds()
    if film.kind not in kinds:
        raise ZinnetError(f"Film “{film.name}” is of the unknown kind “{film.kind}”; known are: {', '.join(kinds)}.")
    return kinds[film.kind]


def cut_side(film: Film, *, seen: str) -> CutSide:
    """Return the side of ``film`` that is cut when it is seen from the front or through glass."""
    kind = kind_of(film)
    through_glass = seen == "through-glass"
    if kind.cut_from_back and through_glass:
        return CutSide(mirrored=False, reason=f"not mirrored: {kind.name} film seen through glass turns round twice")
    if kind.cut_from_back:
        return CutSide(
            mirrored=True,
            reason="cut from the back, mirrored: the film lies carrier down, the blade meets its back",
        )
    if through_glass:
        return CutSide(mirrored=True, reason=f"mirrored: {kind.name} film is seen through the glass, from its glue")
    return CutSide(mirrored=False, reason=f"cut from the front, not mirrored: {kind.name} film lies face up")


@cache
def colour_difference(one: str, other: str) -> float:
    """Return the difference of two colours by CIEDE2000 (Sharma, Wu, Dalal 2005)."""
    from coloraide import Color

    return float(Color(one).delta_e(Color(other), method="2000"))


@cache
def contrast(one: str, other: str) -> float:
    """Return the contrast of two colours, 1 to 21, by WCAG 2's relative luminance."""
    from coloraide import Color

    return float(Color(one).contrast(Color(other), method="wcag21"))


def nearest_film(colour: str, films: tuple[Film, ...]) -> tuple[Film, float] | None:
    """Return the film nearest to a colour and how far it is (CIEDE2000), or None without any film.

    Of films equally near, the plainer kind is taken: the one that comes first in the stock.
    """
    if not films:
        return None
    far = [(colour_difference(colour, film.colour), index) for index, film in enumerate(films)]
    least, index = min(far)
    return films[index], least


def in_words(delta_e: float) -> FarWord:
    """Return what a colour difference means to the eye."""
    limits = read_toml("limits")["colour"]
    if delta_e < 1:
        return "same"
    if delta_e < limits["near_delta_e"]:
        return "near"
    return "visible" if delta_e < limits["far_delta_e"] else "far"
