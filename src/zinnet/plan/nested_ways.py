"""What the ways to cut a film apart really take: each is nested for a while."""

from dataclasses import replace

from zinnet.nesting.model import FilmWay
from zinnet.nesting.running import NestRun
from zinnet.plan.cut_parts import cut_requests
from zinnet.plan.film_edges import edges_of
from zinnet.plan.ledger import taken_by
from zinnet.plan.model import Facts
from zinnet.plan.nests import FilmNest, film_nests
from zinnet.plan.parted import Way, layers_apart, lettered_designs, rates_of


def nested_way_mm2(facts: Facts, film: str, way: Way, seconds: float) -> float | None:
    """Return how much film a way takes when it is nested for so long; None where not every piece finds room.

    Raises
    ------
    NestError
        Where it can't be nested at all.
    """
    nest = nest_of_way(facts, film, way)
    if nest is None or not nest.task.sheets:
        return None
    layout = NestRun(replace(nest.task, seconds=seconds, steps=None)).wait()
    return None if layout.unplaced else taken_by(nest.task, layout)


def nest_of_way(facts: Facts, film: str, way: Way) -> FilmNest | None:
    """Return what is nested of a film where its layers are cut apart in a way; None where nothing is cut of it."""
    job, workshop = facts.job, facts.workshop
    others = tuple(one for one in job.nesting.ways if one.film != film)
    spec = job.nesting.model_copy(
        update={"cut_apart": "proposed", "ways": (*others, FilmWay(film=film, share=way.share)), "pins": ()}
    )
    mat = workshop.machines.mat(spec.mat)
    requests = cut_requests(facts.garments, facts.named, job.layers.marks)
    apart = layers_apart(requests, spec, mat, rates_of(job, workshop), lettered_designs(job))
    nests = film_nests(requests, apart, spec, job.layers.join_outlines, mat, facts.shelf, edges_of(job, workshop))
    return next((nest for nest in nests if nest.film.id == film), None)
