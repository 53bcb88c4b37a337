"""Findings of the layers and their films."""

from collections.abc import Iterator

from zinnet.checks.model import Finding, found
from zinnet.checks.where import layer_rows
from zinnet.data import read_toml
from zinnet.edits import choose_film, derive_side
from zinnet.facts import Facts
from zinnet.layers.films import colour_difference, kind_of, nearest_film


def no_film(facts: Facts) -> Iterator[Finding]:
    """A colour has no film."""
    for name, _, film_layer in layer_rows(facts):
        if film_layer.film is not None:
            continue
        colour = film_layer.layer.colour
        nearest = nearest_film(colour, facts.workshop.films)
        if nearest is None:
            yield found("no-film", f"{name}, {colour}", "there is no film in stock")
            continue
        mend = choose_film(colour, nearest[0].id)
        yield found(
            "no-film",
            f"{name}, {colour}; the nearest is {nearest[0].name}, {nearest[1]:.0f} away",
            f"proposed up to {read_toml('limits')['colour']['far_delta_e']:g} by CIEDE2000; farther is yours to choose",
            mend=type(mend)(f"use {nearest[0].name}", mend.change),
        )


def wrong_cut_side(facts: Facts) -> Iterator[Finding]:
    """The side that is cut does not suit the film and its use."""
    said = set()
    for _, _, film_layer in layer_rows(facts):
        film, side, derived = film_layer.film, film_layer.side, film_layer.derived_side
        if film is None or side is None or derived is None or side.mirrored == derived.mirrored or film.id in said:
            continue
        said.add(film.id)
        yield found(
            "wrong-cut-side",
            f"{film.name} is cut {'mirrored' if side.mirrored else 'not mirrored'}",
            f"{kind_of(film).name}: {derived.reason}",
            mend=derive_side(film.id),
        )


def invisible_on_blank(facts: Facts) -> Iterator[Finding]:
    """A layer next to the blank has the blank's own colour."""
    least = read_toml("limits")["colour"]["same_as_blank_delta_e"]
    for name, _, film_layer in layer_rows(facts):
        if film_layer.film is None:
            continue
        difference = colour_difference(film_layer.film.colour, facts.blank.colour)
        if difference < least:
            yield found(
                "invisible-on-blank",
                f"{name}, {film_layer.film.name}: {difference:.1f} from the blank's colour",
                f"less than {least:g} by CIEDE2000 is hardly seen",
            )


CHECKS = (
    no_film,
    wrong_cut_side,
    invisible_on_blank,
)
