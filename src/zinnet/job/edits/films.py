"""Edits of films, sides, and of how colours are split."""

from collections.abc import Sequence
from typing import Any

from zinnet.base.frozen import with_fields
from zinnet.job.edits.edit import Edit, refuse_wordless
from zinnet.job.model import Job
from zinnet.layers.spec import FilmChoice, PairChoice, SideOverride


def choose_film(colour: str, film: str, *more: str) -> Edit:
    """Cut a colour from another film, and ``more`` colours with it."""

    def change(job: Job) -> Job:
        colours = (colour, *more)
        others = tuple(choice for choice in job.layers.films if choice.colour not in colours)
        chosen = tuple(FilmChoice(colour=one, film=film) for one in colours)
        return with_fields(job, layers=with_fields(job.layers, films=(*others, *chosen)))

    return Edit("choose film", change)


def set_layers(name: str, *, merge: str = "", **fields: Any) -> Edit:
    """Change how the artwork is split: method, lap, most films, spread and the like."""
    return Edit(name, lambda job: with_fields(job, layers=with_fields(job.layers, **fields)), merge)


def choose_pairs(name: str, choices: Sequence[PairChoice]) -> Edit:
    """Let pairs of layers lie as the user wants it, whatever the films' rules say."""

    def change(job: Job) -> Job:
        new = {(choice.lower, choice.upper) for choice in choices}
        others = tuple(choice for choice in job.layers.pairs if (choice.lower, choice.upper) not in new)
        return with_fields(job, layers=with_fields(job.layers, pairs=(*others, *choices)))

    return Edit(name, change)


def derive_pair(lower: str, upper: str) -> Edit:
    """Let a pair of layers lie as it follows from the films' rules."""

    def change(job: Job) -> Job:
        others = tuple(choice for choice in job.layers.pairs if (choice.lower, choice.upper) != (lower, upper))
        return with_fields(job, layers=with_fields(job.layers, pairs=others))

    return Edit("lay the pair by the films' rules", change)


def press_in_order(order: tuple[str, ...]) -> Edit:
    """Press the layers in an order of one's own; none: the derived one."""
    return set_layers("press in this order" if order else "press in the derived order", order=order)


def join_outlines(join: bool) -> Edit:
    """Join crossing outlines of one colour, or keep every line."""
    return Edit("join outlines", lambda job: with_fields(job, layers=with_fields(job.layers, join_outlines=join)))


def override_side(film: str, mirrored: bool, reason: str) -> Edit:
    """Cut a film from the other side than the one that was derived."""

    def change(job: Job) -> Job:
        refuse_wordless(reason)
        others = tuple(side for side in job.layers.sides if side.film != film)
        side = SideOverride(film=film, mirrored=mirrored, reason=reason)
        return with_fields(job, layers=with_fields(job.layers, sides=(*others, side)))

    return Edit("cut from the other side", change)


def derive_side(film: str) -> Edit:
    """Go back to the side that follows from the film."""

    def change(job: Job) -> Job:
        others = tuple(side for side in job.layers.sides if side.film != film)
        return with_fields(job, layers=with_fields(job.layers, sides=others))

    return Edit("derive the cut side", change)
