"""Recipes: how a film is pressed on a fabric with a source of heat: by habit, its maker's sheet, the user's own."""

from collections.abc import Collection, Mapping, Sequence
from functools import cache
from typing import Any, Literal

from pydantic import Field, ValidationError, model_validator

from zinnet.data import read_toml
from zinnet.errors import SettingsError
from zinnet.layers.films import Film, kind_of
from zinnet.model import Frozen
from zinnet.pressing.fabrics import Fabric, fabrics
from zinnet.pressing.numbers import Range
from zinnet.units import Degrees, read_temperature, write_temperature

Peel = Literal["hot", "warm", "cool", "cold"]
Pressure = Literal["light", "medium", "firm"]
HeatSource = Literal["press", "hand", "cap", "iron", "round"]
Origin = Literal["typical", "maker", "mine"]
PEELS: tuple[Peel, ...] = ("hot", "warm", "cool", "cold")
PRESSURES: tuple[Pressure, ...] = ("light", "medium", "firm")
SOURCES_SAID: dict[HeatSource, str] = {
    "press": "clamshell or swing press",
    "hand": "small hand press",
    "cap": "cap press",
    "iron": "household iron",
    "round": "round press",
}
ORIGINS_SAID: dict[Origin, str] = {"typical": "typical", "maker": "maker's sheet", "mine": "mine"}
MOST_S = 600.0
HABIT = "common practice, no source"


class Recipe(Frozen):
    """How a film is pressed. Heat in degC, times in s, each as a range.

    ``seconds`` is the full, last press; ``lower_s`` a full press under further layers; ``tack_s`` where layers are
    tacked; ``covered_s`` once more under a cover; ``back_s`` from the back. ``setting`` stands for heat where the
    source has only settings. By the sheet: only the sheet in the film's roll knows heat and time.
    """

    school: str = Field(min_length=1, max_length=80)
    heat_c: Range | None = None
    most_c: float | None = Field(default=None, ge=0, le=400)
    setting: Literal["middle"] | None = None
    seconds: Range | None = None
    seconds_said: str | None = None
    lower_s: Range | None = None
    tack_s: Range | None = None
    back_s: Range | None = None
    covered_s: Range | None = None
    wait_s: Range | None = None
    pressure: tuple[Pressure, ...] = ()
    pressure_said: str | None = None
    peel: tuple[Peel, ...] = ()
    moving: bool = False
    by_sheet: bool = False
    in_parts: bool = False
    last: bool = False
    origin: Origin = "typical"
    source: str = HABIT

    @model_validator(mode="after")
    def _sound(self) -> "Recipe":
        """Refuse ranges that run backwards or are no times or heats of a press."""
        if self.heat_c is not None and not 40 <= self.heat_c[0] <= self.heat_c[1] <= 300:
            raise ValueError("the heat lies between 40 and 300 degC, the lower one first")
        for name in ("seconds", "lower_s", "tack_s", "back_s", "covered_s", "wait_s"):
            span = getattr(self, name)
            if span is not None and not 0 < span[0] <= span[1] <= MOST_S:
                raise ValueError(f"{name.removesuffix('_s')} lies between 1 and {MOST_S:.0f} s, the lower one first")
        return self

    def said(self, degrees: Degrees = "C") -> str:
        """What it says, in one line."""
        parts = []
        if self.by_sheet:
            parts.append("heat and time by the sheet in the roll")
        if self.setting is not None:
            parts.append("middle setting")
        if self.heat_c is not None:
            low, high = (write_temperature(one, degrees=degrees) for one in self.heat_c)
            parts.append(low if low == high else f"{low} to {high}")
        for span, what in (
            (self.tack_s, "tack "),
            (self.seconds, ""),
            (self.covered_s, "then covered "),
            (self.back_s, "back "),
        ):
            if span is not None:
                parts.append(f"{what}{_span_said(span)}")
        parts += [f"{self.pressure_said or ' to '.join(_ends(self.pressure))} pressure"] if self.pressure else []
        parts += [f"after {_span_said(self.wait_s)}"] if self.wait_s is not None else []
        parts += [f"peel {' or '.join(self.peel)}"] if self.peel else []
        return ", ".join(parts)


def _ends(words: Sequence[str]) -> Sequence[str]:
    return words if len(words) == 1 else (words[0], words[-1])


def _span_said(span: Range) -> str:
    low, high = span
    return f"{low:g} s" if low == high else f"{low:g}-{high:g} s"


def typed_recipe(typed: Mapping[str, str | None], *, origin: Origin, degrees: Degrees = "C") -> Recipe:
    """Return a recipe from typed texts: heat, time, tack, back, wait (a number or a range), pressure and peel.

    Raises :class:`SettingsError` where one of them can't be read.
    """
    said: dict[str, Any] = {
        "school": "the film's sheet" if origin == "maker" else "my own",
        "origin": origin,
        "source": "the film maker's sheet" if origin == "maker" else "measured and logged here",
    }
    heat = (typed.get("heat") or "").strip()
    if heat:
        low, _, high = heat.partition("-")
        unit = degrees if not heat.lower().rstrip().endswith(("c", "f")) else heat.rstrip()[-1].upper()
        found = [read_temperature(one, degrees="F" if unit == "F" else "C") for one in (low, high or low)]
        said["heat_c"] = tuple(found)
    for name, key in (("time", "seconds"), ("tack", "tack_s"), ("back", "back_s"), ("wait", "wait_s")):
        text = (typed.get(name) or "").replace("s", "").strip()
        if text:
            said[key] = _typed_span(text, name)
    for name, known in (("pressure", PRESSURES), ("peel", PEELS)):
        words = tuple(word.strip() for word in (typed.get(name) or "").lower().split(",") if word.strip())
        for word in words:
            if word not in known:
                raise SettingsError(f"“{word}” is no {name}; write {', '.join(known)}.")
        said[name] = words
    if "heat_c" not in said or "seconds" not in said:
        raise SettingsError("A recipe needs a heat and a time at least; type them like 320 F and 10-15.")
    try:
        return Recipe.model_validate(said)
    except ValidationError as error:
        message = str(error.errors()[0]["msg"]).removeprefix("Value error, ")
        raise SettingsError(f"That is no recipe: {message}; type it again.") from None


def _typed_span(text: str, name: str) -> Range:
    low, _, high = text.partition("-")
    try:
        return float(low.replace(",", ".")), float((high or low).replace(",", "."))
    except ValueError:
        raise SettingsError(f"“{text}” is no time for the {name}; write seconds, such as 15 or 10-15.") from None


class Habit(Frozen):
    """A row of the catalogue: which films, fabrics and source of heat it is about, and the recipe."""

    films: tuple[str, ...]
    fabrics: tuple[str, ...]
    with_: HeatSource
    beside: tuple[str, ...] = ()
    usual: bool = False
    recipe: Recipe


class KeptRecipe(Frozen):
    """A recipe that was typed from a maker's sheet or found by the user; fabric and source None: for all of them."""

    film: str
    fabric: str | None = None
    heat_source: HeatSource | None = None
    recipe: Recipe


class Pressed(Frozen):
    """What became of a film that was pressed: a line of the log of pressing."""

    film: str
    fabric: str
    heat_source: HeatSource
    school: str
    heat_c: float | None = None
    seconds: float | None = None
    worked: bool
    at: str = ""


class Offer(Frozen):
    """A recipe that may do: ``nearest`` says in what it is not the very one; how often it worked, of how often."""

    recipe: Recipe
    nearest: str | None = None
    worked: int = 0
    pressed: int = 0

    @property
    def said(self) -> str:
        """Where it comes from, in words."""
        tried = f", worked {self.worked} of {self.pressed} times" if self.pressed else ""
        return f"{ORIGINS_SAID[self.recipe.origin]}{tried}"


@cache
def habits() -> tuple[Habit, ...]:
    """Return the catalogue of habits."""
    return tuple(_habit(row) for row in read_toml("recipes")["recipe"])


def _habit(row: dict[str, Any]) -> Habit:
    about = {"films", "fabrics", "with", "beside", "usual", "heat", "most_heat"}
    said = {key: value for key, value in row.items() if key not in about}
    if "heat" in row:
        said["heat_c"] = (read_temperature(row["heat"]),) * 2
    if "most_heat" in row:
        said["most_c"] = read_temperature(row["most_heat"])
    return Habit(
        films=row["films"],
        fabrics=row["fabrics"],
        with_=row["with"],
        beside=row.get("beside", ()),
        usual=row.get("usual", False),
        recipe=Recipe.model_validate(said),
    )


def offers(
    film: Film,
    fabric: Fabric | None,
    heat_source: HeatSource,
    *,
    beside: Collection[str] = (),
    is_last: bool = True,
    kept: Sequence[KeptRecipe] = (),
    log: Sequence[Pressed] = (),
) -> tuple[Offer, ...]:
    """Return the recipes for a film, the one to propose first: mine, its maker's, then by habit.

    ``beside`` holds the kinds of film in the same job. Where no habit is about just this, the nearest are returned,
    each with why. Empty for film that is not pressed, and where no recipe is near enough to be tried.
    """
    if kind_of(film).bond == "glue":
        return ()
    own = [
        one
        for one in kept
        if one.film == film.id
        and (one.fabric is None or (fabric is not None and one.fabric == fabric.name))
        and one.heat_source in (None, heat_source)
    ]
    own.sort(key=lambda one: (one.recipe.origin != "mine", one.fabric is None, one.heat_source is None))
    found = [Offer(recipe=one.recipe) for one in own]
    found += _by_habit(film, fabric, heat_source, beside, is_last)
    return tuple(_tried(offer, film, fabric, heat_source, log) for offer in found)


def _tried(offer: Offer, film: Film, fabric: Fabric | None, heat_source: HeatSource, log: Sequence[Pressed]) -> Offer:
    about = (film.id, fabric.name if fabric is not None else "", heat_source, offer.recipe.school)
    mine = [one.worked for one in log if (one.film, one.fabric, one.heat_source, one.school) == about]
    return offer.model_copy(update={"worked": sum(mine), "pressed": len(mine)}) if mine else offer


def _by_habit(
    film: Film, fabric: Fabric | None, heat_source: HeatSource, beside: Collection[str], is_last: bool
) -> list[Offer]:
    """Return the habits that are least far from what is wanted, the usual one of them first."""
    if fabric is not None and fabric.most_c is None:
        return []
    ranked = []
    for place, habit in enumerate(habits()):
        far = _far(habit, film, fabric, heat_source)
        if far is not None:
            known_with = bool(habit.beside) and not set(habit.beside) <= set(beside)
            misses = known_with or (habit.recipe.last and not is_last)
            ranked.append((far, misses, not habit.usual, place, habit))
    if not ranked:
        return []
    nearest = min(row[0] for row in ranked)
    return [
        Offer(recipe=habit.recipe, nearest=_why(habit, film, fabric, heat_source, beside, is_last))
        for far, *_, habit in sorted(ranked, key=lambda row: row[:4])
        if far == nearest
    ]


def _far(habit: Habit, film: Film, fabric: Fabric | None, heat_source: HeatSource) -> tuple[int, int, int] | None:
    """Return how far a habit is from what is wanted: in its film, its source of heat, its fabric; None: too far."""
    like = read_toml("recipes")["like"]
    kinds = [film.kind, *like["films"].get(film.kind, [])] if film.own is None else [film.kind, *_like_own(film)]
    sources = [heat_source, *like["sources"][heat_source]]
    near = [fabric.name, *fabric.like] if fabric is not None else []
    any_cloth = [name for name, row in fabrics().items() if row.cloth and name not in near]
    cloths = near if fabric is not None and not fabric.cloth else [*near, *any_cloth]
    kind = next((kinds.index(one) for one in kinds if one in habit.films), None)
    cloth = min((cloths.index(one) for one in habit.fabrics if one in cloths), default=None)
    if kind is None or cloth is None or habit.with_ not in sources:
        return None
    return kind, sources.index(habit.with_), cloth


def _like_own(film: Film) -> list[str]:
    """Return the kinds of the catalogue that an own kind is pressed like: of its bond, with heats that meet."""
    from zinnet.layers.films import film_kinds

    own = kind_of(film)
    if own.heat_c is None:
        return []
    low, high = own.heat_c
    near = []
    for name, kind in film_kinds().items():
        if kind.bond == own.bond and kind.heat_c is not None:
            apart = abs(kind.heat_c[0] - low) + abs(kind.heat_c[1] - high)
            if max(low, kind.heat_c[0]) <= min(high, kind.heat_c[1]):
                near.append((apart, name))
    return [name for _, name in sorted(near)]


def _why(
    habit: Habit,
    film: Film,
    fabric: Fabric | None,
    heat_source: HeatSource,
    beside: Collection[str],
    is_last: bool,
) -> str | None:
    """Return in what a habit is not about just this, or None where it is."""
    said = []
    if film.kind not in habit.films:
        said.append(f"for {habit.films[0]} film")
    if fabric is None or fabric.name not in habit.fabrics:
        said.append(f"on {habit.fabrics[0]}")
    if heat_source != habit.with_:
        said.append(f"with a {SOURCES_SAID[habit.with_]}")
    if habit.beside and not set(habit.beside) <= set(beside):
        said.append(f"beside {habit.beside[0]} in the same job")
    if habit.recipe.last and not is_last:
        said.append("for the last layer")
    return ", ".join(said) or None


def heat_span(found: Sequence[Offer]) -> Range | None:
    """Return the lowest and the highest heat of several recipes, in degC: what habits disagree by."""
    heats = [offer.recipe.heat_c for offer in found if offer.recipe.heat_c is not None]
    return (min(low for low, _ in heats), max(high for _, high in heats)) if heats else None


def seconds_span(found: Sequence[Offer]) -> Range | None:
    """Return the shortest and the longest full press of several recipes, in s."""
    times = [offer.recipe.seconds for offer in found if offer.recipe.seconds is not None]
    return (min(low for low, _ in times), max(high for _, high in times)) if times else None
