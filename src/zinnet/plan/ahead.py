"""A look ahead at a job that changes under the hand: what is cut where, and what lies on one another, no more."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from zinnet.films.catalogue import Film
from zinnet.job.model import Job
from zinnet.layers.stack import FilmLayer, Pair
from zinnet.plan.composed import compose_garments
from zinnet.plan.findings.model import Finding
from zinnet.plan.findings.run import find_together
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.fitting import fitting_of
from zinnet.plan.sizes import fit_garments
from zinnet.workshop.model import Workshop


@dataclass(frozen=True, eq=False)
class Ahead:
    """What is known of a job before its plan is: every size with its compositions, and how designs lie together."""

    job: Job
    garments: tuple[Garment, ...]
    findings: tuple[Finding, ...]


def look_ahead(job: Job, workshop: Workshop) -> Ahead:
    """Return what comes first of a job's plan; the plan makes none of it anew.

    Parameters
    ----------
    job, workshop
        What the user decided, and what there is to work with. Of a list of names only the widest words are looked at.

    Raises
    ------
    ZinnetError
        Where the job can't be made sense of.
    """
    with workshop.blanks.in_use():
        garments = compose_garments(job.layers, workshop.films, fit_garments(fitting_of(job, workshop)))
        return Ahead(job, garments, find_together(job, workshop, garments))


def films_ahead(garments: tuple[Garment, ...], before: Job, job: Job, films: Sequence[Film]) -> Ahead | None:
    """Return garments with the films that were chosen last, how layers lie as it was; that is known at once.

    Parameters
    ----------
    garments : sizes
        As they are known, of the job ``before`` or an earlier one.
    before, job : Job
        The job before the choice, and after it.
    films : films
        All that there are.

    Returns
    -------
    Ahead or None
        None where anything else changed too, or nothing did.
    """
    chosen = {one.colour: one.film for one in job.layers.films if one not in before.layers.films}
    kept = {one.colour: one.film for one in before.layers.films}
    also = before.model_copy(update={"layers": before.layers.model_copy(update={"films": job.layers.films})})
    if not chosen or also != job or not kept.keys() <= {one.colour for one in job.layers.films}:
        return None
    known = {film.id: film for film in films}
    shown = _Shown({colour: known[film] for colour, film in chosen.items() if film in known})
    return Ahead(job, tuple(map(shown.garment, garments)), ())


class _Shown:
    """Garments with other films for some colours; what is the same object stays one."""

    def __init__(self, films: Mapping[str, Film]) -> None:
        self._films = films
        self._designs: dict[int, FittedDesign] = {}

    def garment(self, garment: Garment) -> Garment:
        """Return a garment with the films."""
        parts = (garment.designs, garment.compositions, garment.same)
        designs, compositions, same = (tuple(map(self._design, part)) for part in parts)
        return replace(garment, designs=designs, compositions=compositions, same=same)

    def _design(self, design: FittedDesign) -> FittedDesign:
        stack = design.stack
        if id(design) not in self._designs and stack is not None:
            rows = {id(row): self._row(row) for row in stack.layers}
            pairs = tuple(
                Pair(rows[id(one.lower)], rows[id(one.upper)], rows[id(one.under)], rows[id(one.over)], one.rule)
                for one in stack.pairs
            )
            piles = tuple(tuple(rows[id(row)] for row in pile) for pile in stack.piles)
            layers = tuple(rows.values())
            self._designs[id(design)] = replace(design, stack=replace(stack, layers=layers, pairs=pairs, piles=piles))
        return self._designs.get(id(design), design)

    def _row(self, row: FilmLayer) -> FilmLayer:
        films = [self._films.get(colour) for colour in row.colours]
        return row if films[0] is None or len(set(map(id, films))) > 1 else replace(row, film=films[0])
