"""Edits of films, sides, and of how colours are split."""

from zinnet.edits.edit import Edit, with_fields
from zinnet.job import Job
from zinnet.layers.assign import FilmChoice, SideOverride
from zinnet.layers.split import Method


def choose_film(colour: str, film: str) -> Edit:
    """Cut a colour from another film."""

    def change(job: Job) -> Job:
        others = tuple(choice for choice in job.layers.films if choice.colour != colour)
        return with_fields(job, layers=with_fields(job.layers, films=(*others, FilmChoice(colour=colour, film=film))))

    return Edit("choose film", change)


def set_method(method: Method) -> Edit:
    """Split the colours side by side or stacked."""
    return Edit("cut away or stack", lambda job: with_fields(job, layers=with_fields(job.layers, method=method)))


def join_outlines(join: bool) -> Edit:
    """Join crossing outlines of one colour, or keep every line."""
    return Edit("join outlines", lambda job: with_fields(job, layers=with_fields(job.layers, join_outlines=join)))


def override_side(film: str, mirrored: bool, reason: str) -> Edit:
    """Cut a film from the other side than the one that was derived."""

    def change(job: Job) -> Job:
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
