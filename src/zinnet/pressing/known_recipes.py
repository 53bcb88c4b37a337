"""Which recipes are known for a film on a fabric with a source of heat: mine, its maker's, habits, or the nearest."""

from collections.abc import Collection, Sequence

from zinnet.base.frozen import Frozen
from zinnet.blanks.fabrics import Fabric, fabrics
from zinnet.data import read_toml
from zinnet.films.catalogue import Film, film_kinds, kind_of
from zinnet.machines.platens import HeatSource
from zinnet.pressing.heat_values import Range
from zinnet.pressing.hem_test import HemTest, recipe_of, tested
from zinnet.pressing.learned import learned
from zinnet.pressing.recipes import (
    ORIGINS_SAID,
    Habit,
    KeptRecipe,
    Pressed,
    Recipe,
    habits,
    source_said,
)


class Offer(Frozen):
    """A recipe that may do: ``nearest`` says in what it is not the very one; how often it worked, of how often."""

    recipe: Recipe
    nearest: str | None = None
    worked: int = 0
    pressed: int = 0

    @property
    def in_words(self) -> str:
        """Where it comes from, in words."""
        tried = f", worked {self.worked} of {self.pressed} times" if self.pressed else ""
        return f"{ORIGINS_SAID[self.recipe.origin]}{tried}"


def offers(
    film: Film,
    fabric: Fabric | None,
    heat_source: HeatSource,
    *,
    beside: Collection[str] = (),
    is_last: bool = True,
    kept: Sequence[KeptRecipe] = (),
    log: Sequence[Pressed] = (),
    tests: Sequence[HemTest] = (),
    school: str | None = None,
) -> tuple[Offer, ...]:
    """Return the recipes for a film, the one to propose first.

    Mine, a hem test's, what the log teaches, its maker's, then by habit.

    ``beside`` holds the kinds of film in the same job. Where no habit is about just this, the nearest are returned,
    each with why. Empty for film that is not pressed, and where no recipe is near enough to be tried.

    Parameters
    ----------
    film : Film
        What is pressed.
    fabric : Fabric or None
        On what.
    heat_source : HeatSource
        By what it is pressed.
    beside : film kinds
        Of the same job.
    is_last : bool
        Whether nothing is pressed after it.
    kept : recipes
        The user's own.
    log : presses
        What held and what did not.
    tests : hem tests
        What of a kind of film held on a cloth.
    school : str or None
        A habit that the user chose: it is among them, whatever it is about.

    Returns
    -------
    offers
        The first is proposed; empty where none is near enough.
    """
    if kind_of(film).bond == "glue":
        return ()
    own = [
        one
        for one in kept
        if one.film in (film.id, film.kind)
        and (one.fabric is None or (fabric is not None and one.fabric == fabric.name))
        and one.heat_source in (None, heat_source)
    ]
    own.sort(
        key=lambda one: (one.recipe.origin != "mine", one.film != film.id, one.fabric is None, one.heat_source is None)
    )
    found = [Offer(recipe=one.recipe) for one in own]
    test = tested(tests, fabric, film.kind, heat_source)
    known = recipe_of(test) if test is not None else None
    if known is not None:
        found.insert(sum(one.recipe.origin == "mine" for one in own), Offer(recipe=known))
    found += _by_habit(film, fabric, heat_source, beside, is_last)
    taught = learned(log, film, fabric, heat_source, [one.recipe for one in found])
    if taught is not None:
        found.insert(sum(one.recipe.origin == "mine" for one in found), Offer(recipe=taught))
    if school is not None and all(one.recipe.school != school for one in found):
        chosen = [one for one in habits() if one.recipe.school == school and film.kind in one.films]
        found += [
            Offer(recipe=one.recipe, nearest=_why(one, film, fabric, heat_source, beside, is_last)) for one in chosen
        ]
    return tuple(_tried(offer, film, fabric, heat_source, log) for offer in found)


def _tried(offer: Offer, film: Film, fabric: Fabric | None, heat_source: HeatSource, log: Sequence[Pressed]) -> Offer:
    about = (film.id, fabric.name if fabric is not None else "", heat_source, offer.recipe.school)
    mine = [one.worked for one in log if (one.film, one.fabric, one.heat_source, one.school) == about]
    return offer.model_copy(update={"worked": sum(mine), "pressed": len(mine)}) if mine else offer


def _by_habit(
    film: Film, fabric: Fabric | None, heat_source: HeatSource, beside: Collection[str], is_last: bool
) -> list[Offer]:
    """Return the habits that are least far from what is wanted: one about just this job first, then the usual one."""
    if fabric is not None and fabric.most_c is None:
        return []
    ranked = []
    for place, habit in enumerate(habits()):
        far = _far(habit, film, fabric, heat_source)
        if far is not None:
            known_with = bool(habit.beside) and not set(habit.beside) <= set(beside)
            misses = known_with or (habit.recipe.last and not is_last)
            ranked.append((far, misses, not habit.beside, not habit.usual, place, habit))
    if not ranked:
        return []
    nearest = min(row[0] for row in ranked)
    return [
        Offer(recipe=habit.recipe, nearest=_why(habit, film, fabric, heat_source, beside, is_last))
        for far, *_, habit in sorted(ranked, key=lambda row: row[:5])
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
    if kind is None or cloth is None or not set(habit.with_) & set(sources):
        return None
    return kind, min(sources.index(one) for one in habit.with_ if one in sources), cloth


def _like_own(film: Film) -> list[str]:
    """Return the kinds of the catalogue that an own kind is pressed like: of its bond, with heats that meet."""
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
    if heat_source not in habit.with_:
        said.append(f"with a {source_said(habit.with_[0])}")
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
