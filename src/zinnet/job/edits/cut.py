"""Edits of cutting: the machine and its knife, settings for a film, and what was looked at."""

from typing import Any

from zinnet.base.frozen import with_fields
from zinnet.cutting.settings import CutSettings
from zinnet.cutting.spec import CutSpec, FilmSettings
from zinnet.job.edits.edit import Edit
from zinnet.job.model import Job


def set_cutting(name: str, **fields: Any) -> Edit:
    """Change how the job is cut."""
    return Edit(name, lambda job: _with(job, **fields))


def set_film_settings(film: str, settings: CutSettings | None) -> Edit:
    """Cut a film with other settings; None goes back to the best known ones."""

    def change(job: Job) -> Job:
        others = tuple(one for one in job.cutting.settings if one.film != film)
        own = () if settings is None else (FilmSettings(film=film, settings=settings),)
        return _with(job, settings=(*others, *own))

    return Edit("settings of the cut", change)


def say_loaded(key: str, loaded: bool = True) -> Edit:
    """Say that a mat is loaded as its card says, or take it back."""

    def change(job: Job) -> Job:
        others = tuple(one for one in job.cutting.loaded if one != key)
        return _with(job, loaded=(*others, key) if loaded else others)

    return Edit("the mat is loaded" if loaded else "the mat is not loaded", change)


def confirm(key: str, confirmed: bool = True) -> Edit:
    """Say that what a finding asks to look at was looked at, or take it back."""

    def change(job: Job) -> Job:
        others = tuple(one for one in job.cutting.confirmed if one != key)
        return _with(job, confirmed=(*others, key) if confirmed else others)

    return Edit("looked at" if confirmed else "not looked at", change)


def _with(job: Job, **fields: Any) -> Job:
    spec: CutSpec = with_fields(job.cutting, **fields)
    return with_fields(job, cutting=spec)
