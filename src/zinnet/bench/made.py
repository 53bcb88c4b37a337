"""What a plan made, for the log; and a new job from an old one."""

from typing import Any

from zinnet.blanks.catalogue import blank_kind
from zinnet.job.file import unpacked_job
from zinnet.job.model import Job
from zinnet.nesting.model import Layout
from zinnet.plan.ledger import film_ledger
from zinnet.plan.model import Facts
from zinnet.pressing.schedule.tasks import tasks_of
from zinnet.workshop.made import Made, MadeFilm


def made_of(facts: Facts, **said: Any) -> Made:
    """Return the entry of a plan that was carried out; ``said`` is what only its maker knows, such as the verdict."""
    settings = {
        piece.film.id: piece.setting
        for press in facts.presses
        for work in press.works
        for piece in work.pieces
        if piece.setting is not None
    }
    films = []
    for use in film_ledger(facts).films:
        setting = settings.get(use.film)
        films.append(
            MadeFilm(
                film=use.film,
                used_mm2=max(0.0, use.used_up_mm2),
                waste_mm2=use.lost_mm2,
                school=setting.recipe.school if setting is not None else "",
                heat_c=setting.heat_c if setting is not None else None,
                seconds=setting.full_s if setting is not None else None,
            )
        )
    pressed = sum(
        press.garment.copies * sum(task.load("person") for task in tasks_of(press.steps)) for press in facts.presses
    )
    return Made(
        title=facts.job.title[:200],
        blank=blank_said(facts),
        garments=sum(garment.copies for garment in facts.garments),
        films=tuple(films),
        planned_s=pressed + sum(load.duration().seconds for load in facts.loads),
        **said,
    )


def blank_said(facts: Facts) -> str:
    """Return what a job was made on: its blank, or its kind where there are several sizes."""
    count = len(facts.garments)
    return facts.blank.name if count == 1 else f"{blank_kind(facts.job.blank.kind).name}, {count} sizes"


def again(data: bytes) -> tuple[Job, dict[str, Layout]]:
    """Return a new job from one that the log kept: as it was, but not cut, laid, weeded or pressed yet."""
    job, layouts = unpacked_job(data, "the job of the log")
    fresh = {"cut": None, "miscuts": (), "laid": (), "weeded": (), "title": f"{job.title}, again"[:200]}
    return job.model_copy(update=fresh), layouts
