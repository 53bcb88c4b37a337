"""Close calls: a film of which whole layers might reach into one another is nested both ways, and the cheaper holds.

A nest often lets whole layers reach into one another farther than is reckoned (:mod:`zinnet.nesting.rough`).
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from zinnet.data.limits import limits
from zinnet.nesting.model import Layout, NestSpec
from zinnet.plan.ledger import taken_by
from zinnet.plan.nests import FilmNest, lay_out
from zinnet.plan.parted import HOUR_S, MM2_OF_M2, FilmWays, PartingRates

type NestsOf = Callable[[tuple[FilmWays, ...], NestSpec], Sequence[FilmNest]]


@dataclass(frozen=True)
class Settled:
    """The ways in use once the close calls are known; ``trials`` are the nests that are made to know them."""

    ways: tuple[FilmWays, ...]
    trials: tuple[FilmNest, ...] = ()


def settled(
    ways: tuple[FilmWays, ...], spec: NestSpec, rates: PartingRates, layouts: Mapping[str, Layout], nests_of: NestsOf
) -> Settled:
    """Return the ways with those films whole again whose nest is cheaper so.

    Parameters
    ----------
    ways
        The ways to part each film, as they are proposed and chosen.
    spec
        How the user wants the pieces nested.
    rates
        What film and hands cost.
    layouts
        The nests made so far, by the key of their task.
    nests_of
        Returns what is nested of all films where they are parted so.
    """
    close = {one.film.id for one in ways if _is_close(one, spec)}
    if not close:
        return Settled(ways)
    plain = spec.model_copy(update={"pins": (), "moved": (), "seed": 0})
    whole = tuple(replace(one, proposed=0, chosen=0) if one.film.id in close else one for one in ways)

    def laid_out(rows: tuple[FilmWays, ...]) -> list[FilmNest]:
        return [one for one in lay_out(nests_of(rows, plain), layouts, plain) if one.film.id in close]

    apart_nests, whole_nests = laid_out(ways), laid_out(whole)
    most = 1 - float(limits()["cut_apart"]["saved_share"])
    found = []
    for one, other in zip(ways, whole, strict=True):
        apart_cost = _cost(one, apart_nests, rates)
        whole_cost = _cost(other, whole_nests, rates)
        dearer = apart_cost is not None and whole_cost is not None and apart_cost > most * whole_cost
        found.append(other if one.film.id in close and dearer else one)
    return Settled(tuple(found), (*apart_nests, *whole_nests))


def _is_close(ways: FilmWays, spec: NestSpec) -> bool:
    """Tell whether a film is cut apart by a proposal on which a nest has the last word: whole layers may interlock."""
    if not ways.chosen or ways.chosen != ways.proposed or any(one.film == ways.film.id for one in spec.ways):
        return False
    return ways.ways[0].pieces > 1


def _cost(ways: FilmWays, nests: Sequence[FilmNest], rates: PartingRates) -> float | None:
    """Return what film and laying cost of a way as it is nested; None where that is not known, or not all has room."""
    area = 0.0
    for nest in nests:
        if nest.film == ways.film:
            if nest.layout is None or nest.layout.unplaced:
                return None
            area += taken_by(nest.task, nest.layout)
    return area / MM2_OF_M2 * rates.film(ways.film.id) + ways.way.seconds / HOUR_S * rates.hour
