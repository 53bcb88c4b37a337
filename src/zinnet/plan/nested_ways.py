"""What is nested of films that are cut apart in a way, and what the ways really take: each is nested for a while."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from zinnet.machines.cutters import Mat
from zinnet.nesting.model import FilmWay, NestSpec
from zinnet.nesting.running import NestRun
from zinnet.plan.cut_parts import CutRequest, cut_requests
from zinnet.plan.film_edges import Edges, edges_of
from zinnet.plan.fitted import Apart
from zinnet.plan.ledger import taken_by
from zinnet.plan.model import Facts
from zinnet.plan.nests import FilmNest, film_nests
from zinnet.plan.parted import FilmWays, Way, film_ways, layers_apart, lettered_designs, rates_of
from zinnet.workshop.stock import StockItem


@dataclass(frozen=True)
class Cut:
    """What is cut of a job, and from what; not yet, into which pieces."""

    requests: tuple[CutRequest, ...]
    lettered: tuple[bool, ...]
    joined: bool
    mat: Mat
    stock: tuple[StockItem, ...]
    edges: Edges

    def apart(self, ways: Sequence[FilmWays], spec: NestSpec) -> Apart:
        """Return into which pieces the layers are cut where each film is parted so."""
        return layers_apart(self.requests, ways, spec, self.lettered)

    def nests(self, ways: Sequence[FilmWays], spec: NestSpec) -> tuple[FilmNest, ...]:
        """Return what is nested of every film where each is parted so."""
        return film_nests(self.requests, self.apart(ways, spec), spec, self.joined, self.mat, self.stock, self.edges)


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
    requests = cut_requests(facts.garments, facts.named, job.layers.marks, spec.cut_already)
    lettered = lettered_designs(job)
    ways = film_ways(requests, spec, mat, rates_of(job, workshop), lettered)
    cut = Cut(requests, lettered, job.layers.join_outlines, mat, facts.shelf, edges_of(job, workshop))
    return next((nest for nest in cut.nests(ways, spec) if nest.film.id == film), None)
