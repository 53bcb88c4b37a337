"""Edits of nesting, and of the job as a whole."""

from typing import Any

from zinnet.base.frozen import with_fields
from zinnet.job.asked import in_step
from zinnet.job.edits.edit import Edit, refuse_wordless
from zinnet.job.model import CutRecord, Job, Miscut, Override
from zinnet.nesting.model import FilmWay
from zinnet.workshop.stock import StockItem


def set_nesting(name: str, **fields: Any) -> Edit:
    """Change how pieces are nested."""
    return Edit(name, lambda job: with_fields(job, nesting=with_fields(job.nesting, **fields)))


def choose_way(film: str, share: float | None) -> Edit:
    """Part the layers of a film at gaps of a share of the artwork's size; None cuts them whole."""

    def change(job: Job) -> Job:
        others = tuple(one for one in job.nesting.ways if one.film != film)
        ways = (*others, FilmWay(film=film, share=share))
        return with_fields(job, nesting=with_fields(job.nesting, cut_apart="proposed", ways=ways))

    return Edit("cut apart", change, f"cut apart {film}")


def propose_ways() -> Edit:
    """Part the layers of every film as Zinnet proposes it."""
    return set_nesting("cut apart as proposed", cut_apart="proposed", ways=())


def set_copies(copies: int) -> Edit:
    """Set how many garments the job is for."""
    return Edit("number of garments", lambda job: in_step(with_fields(job, copies=copies)), "copies")


def record_cut(number: int, items: tuple[StockItem, ...]) -> Edit:
    """Write down that the job was cut from this film, as it was before the cut."""
    return Edit("cut from the shelf", lambda job: with_fields(job, cut=CutRecord(number=number, items=items)))


def take_back_cut() -> Edit:
    """Write down that the cut was undone."""
    return Edit("undo the cut", lambda job: with_fields(job, cut=None))


def record_miscut(film: str, taken_mm2: float) -> Edit:
    """Write down that film went for a piece which was cut again."""

    def change(job: Job) -> Job:
        return with_fields(job, miscuts=(*job.miscuts, Miscut(film=film, taken_mm2=taken_mm2)))

    return Edit("cut a piece again", change)


def set_unit(unit: str) -> Edit:
    """Show lengths in another unit."""
    return Edit("unit", lambda job: with_fields(job, unit=unit))


def set_title(title: str) -> Edit:
    """Give the job a name."""
    return Edit("name of the job", lambda job: with_fields(job, title=title))


def pass_finding(finding: str, reason: str, subject: str | None = None) -> Edit:
    """Pass a finding with a reason: about one subject, or whatever it is about."""

    def change(job: Job) -> Job:
        refuse_wordless(reason)
        others = tuple(one for one in job.overrides if (one.finding, one.subject) != (finding, subject))
        return with_fields(job, overrides=(*others, Override(finding=finding, reason=reason, subject=subject)))

    return Edit("pass a finding", change)


def take_back_pass(finding: str, subject: str | None = None) -> Edit:
    """Take back that a finding was passed."""

    def change(job: Job) -> Job:
        return with_fields(job, overrides=tuple(one for one in job.overrides if not one.passes(finding, subject)))

    return Edit("take back a pass", change)
