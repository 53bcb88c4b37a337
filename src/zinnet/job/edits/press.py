"""Edits of pressing: the school, covers, recipes, and who and what works at it."""

from typing import Any

from zinnet.base.frozen import with_fields
from zinnet.job.edits.edit import Edit
from zinnet.job.model import Job
from zinnet.pressing.recipes import Recipe
from zinnet.pressing.spec import FilmPress, PressSpec


def set_pressing(name: str, *, merge: str = "", **fields: Any) -> Edit:
    """Change how the job is pressed."""
    return Edit(name, lambda job: _with(job, **fields), merge)


def choose_recipe(film: str, *, school: str | None = None, own: Recipe | None = None) -> Edit:
    """Press a film by one of the known recipes, or by another one; neither goes back to the proposal."""

    def change(job: Job) -> Job:
        others = tuple(one for one in job.pressing.films if one.film != film)
        word = () if school is None and own is None else (FilmPress(film=film, school=school, own=own),)
        return _with(job, films=(*others, *word))

    return Edit("how a film is pressed", change)


def _with(job: Job, **fields: Any) -> Job:
    spec: PressSpec = with_fields(job.pressing, **fields)
    return with_fields(job, pressing=spec)
