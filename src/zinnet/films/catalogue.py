"""Films: their kinds, the nearest one to a colour, and the side that is cut."""

from collections.abc import Mapping
from functools import cache
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, field_validator

from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import Frozen
from zinnet.data import read_toml
from zinnet.data.limits import limits
from zinnet.films.colours import colour_difference

FarWord = Literal["same", "near", "visible", "far"]
Bond = Literal["heat", "glue", "print"]
Millimetres = Annotated[float, Field(gt=0, le=100)]
MOST_FILMS = 5000


class FilmKind(Frozen):
    """How a kind of film behaves. Lengths in mm, thickness in micrometres, shrink as a share per full press.

    ``most_heat_s`` is for how many seconds at heat, over all presses, it stays sound.
    """

    name: str
    finish: str
    bond: Bond
    thickness_um: float = Field(ge=0, le=5000)
    carries: bool
    carried: bool
    carries_itself_by_school: bool = False
    cut_from_back: bool
    direction: bool
    not_for_baby: bool = False
    least_stroke_mm: Millimetres
    least_gap_mm: Millimetres
    least_part_mm: Millimetres
    least_counter_mm: Millimetres
    pattern_stroke_mm: Millimetres | None = None
    growth_mm: float = Field(default=0.0, ge=0, le=20)
    shrink_share: float = Field(default=0.0, ge=0, le=0.1)
    heat_c: tuple[float, float] | None = None
    most_heat_s: float | None = Field(default=None, gt=0, le=3600)
    source: str

    @field_validator("heat_c", mode="before")
    @classmethod
    def _none_is_empty(cls, value: Any) -> Any:
        """Take an empty list of a file for no heat: the kind is not pressed, or only its own sheet knows."""
        return None if value == [] else value

    @property
    def open_gap_mm(self) -> float:
        """The narrowest gap that stays open and can be weeded: growth closes it from both sides."""
        return max(self.least_gap_mm, 2 * self.growth_mm)

    @property
    def open_counter_mm(self) -> float:
        """The smallest counter that stays open and can be weeded."""
        return max(self.least_counter_mm, 2 * self.growth_mm)


class Film(Frozen):
    """One film in stock. ``own`` is its kind where it is one of the user's.

    ``pattern`` names a picture of it that ships with Zinnet; ``picture`` is one of the user's own, as base64 of a JPEG,
    ``picture_mm`` wide on the film. ``roll_mm`` is how wide it is sold, ``price_m2`` what a square metre costs.
    """

    id: str
    name: str
    kind: str
    colour: str = Field(pattern="^#[0-9a-f]{6}$")
    pattern: str | None = None
    picture: str | None = Field(default=None, max_length=200_000)
    picture_mm: float = Field(default=100.0, ge=1.0, le=3000.0)
    roll_mm: float | None = Field(default=None, ge=10.0, le=3000.0)
    price_m2: float | None = Field(default=None, ge=0.0, le=100_000.0)
    own: FilmKind | None = None


class CutSide(Frozen):
    """Which side of the film the blade comes from, and why."""

    mirrored: bool
    reason: str


@cache
def film_kinds() -> dict[str, FilmKind]:
    """Return the catalogue of film kinds."""
    return kinds_of(read_toml("films")["kinds"], {})


def kinds_of(rows: Mapping[str, Mapping[str, Any]], known: Mapping[str, FilmKind]) -> dict[str, FilmKind]:
    """Return kinds from rows of a file; one that is ``like`` another says only what differs.

    Raises :class:`ZinnetError` where it is like one that comes neither before it nor in ``known``.
    """
    found: dict[str, FilmKind] = {}
    for name, row in rows.items():
        like = row.get("like")
        if like is not None and like not in {**known, **found}:
            raise ZinnetError(f"The kind of film “{name}” is like “{like}”, which is not known; put that one first.")
        base = {} if like is None else {**known, **found}[like].model_dump(exclude={"source"})
        try:
            found[name] = FilmKind.model_validate({**base, **{key: row[key] for key in row if key != "like"}})
        except ValidationError as error:
            raise ZinnetError(f"The kind of film “{name}” can't be read: {_first(error)}.") from None
    return found


def films_of(data: Mapping[str, Any]) -> tuple[Film, ...]:
    """Return the films of a file's tables ``kinds`` and ``films``.

    Raises :class:`ZinnetError` where they can't be made sense of.
    """
    tables = {name: data.get(name, {}) for name in ("kinds", "films")}
    for name, table in tables.items():
        if not isinstance(table, dict) or not all(isinstance(row, dict) for row in table.values()):
            raise ZinnetError(f"“{name}” is not a table of tables, such as [{name}.my-own].")
    if len(tables["films"]) > MOST_FILMS:
        raise ZinnetError(f"There are more than {MOST_FILMS} films in it.")
    kinds = kinds_of(tables["kinds"], film_kinds())
    found = []
    for name, row in tables["films"].items():
        try:
            film = Film.model_validate({"id": name, **row, "own": kinds.get(row.get("kind", ""))})
        except ValidationError as error:
            raise ZinnetError(f"The film “{name}” can't be read: {_first(error)}.") from None
        kind_of(film)
        found.append(film)
    return tuple(found)


def _first(error: ValidationError) -> str:
    first = error.errors()[0]
    return f"{' '.join(map(str, first['loc']))}: {first['msg'][0].lower()}{first['msg'][1:]}"


@cache
def catalogue_films() -> tuple[Film, ...]:
    """Return the films that a new workshop begins with."""
    return tuple(Film(id=name, **row) for name, row in read_toml("films")["films"].items())


def kind_of(film: Film) -> FilmKind:
    """Return the kind of a film."""
    if film.own is not None:
        return film.own
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


def by_nearness(colour: str, films: tuple[Film, ...]) -> list[tuple[Film, float]]:
    """Return the films with their difference from a colour (CIEDE2000), the nearest first.

    Of films equally near, the plainer kind comes first: the one that comes first in the stock.
    """
    return sorted(((film, colour_difference(colour, film.colour)) for film in films), key=lambda row: row[1])


def nearest_film(colour: str, films: tuple[Film, ...]) -> tuple[Film, float] | None:
    """Return the film nearest to a colour and how far it is, or None without any film."""
    return next(iter(by_nearness(colour, films)), None)


def in_words(delta_e: float) -> FarWord:
    """Return what a colour difference means to the eye."""
    numbers = limits()["colour"]
    if delta_e < 1:
        return "same"
    if delta_e < numbers["near_delta_e"]:
        return "near"
    return "visible" if delta_e < numbers["far_delta_e"] else "far"
