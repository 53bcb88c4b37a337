"""What a platen has to cover in one press: its positions are worked out only when somebody asks."""

from dataclasses import dataclass
from functools import cached_property

import shapely

from zinnet.blanks.model import KeepOut
from zinnet.geometry.region import EMPTY, Region, as_region, hull_box, union
from zinnet.machines.platens import Platen
from zinnet.pressing.platen_positions import (
    Coverage,
    Position,
    at_once,
    cover,
    slants,
)
from zinnet.pressing.platen_spot import is_padded


@dataclass(frozen=True, eq=False)
class Spread:
    """What a platen has to cover in one press, piece by piece, and what it must keep off; None: there is no platen.

    It keeps off what is ``soft``, such as collars, where it can. ``lying`` is other film that lies on the panel
    already: it is pressed again as little as can be. ``most`` says at how many positions the platen may lie on each of
    the films.
    """

    films: tuple[Region, ...]
    platen: Platen | None
    keep_outs: tuple[KeepOut, ...]
    overlap_mm: float
    lying: tuple[Region, ...]
    turns: bool
    soft: Region = EMPTY
    most: tuple[float, ...] = ()

    @cached_property
    def at_once(self) -> Position | None:
        """The one position that covers all, the platen straight or upright, where there is one: found soon."""
        if self.platen is None:
            return None
        hard = union([one.region for one in self.keep_outs if not is_padded(one)])
        found = at_once(hull_box(self.films), self.platen, hard, self.turns)
        return None if found is None else found.positions[0]

    @property
    def may_be_one(self) -> bool:
        """Whether one position covers all: straight, upright, or turned as the films' hull allows."""
        if self.at_once is not None or self.platen is None:
            return True
        hulls = shapely.geometrycollections([shapely.convex_hull(film) for film in self.films])
        hull = as_region(shapely.convex_hull(hulls))
        return self.turns and bool(slants(hull, *self.platen.inner))

    @cached_property
    def coverage(self) -> Coverage:
        """The fewest positions."""
        if self.platen is None:
            return Coverage((), 0)
        done = union(self.lying) if self.at_once is None and self.lying else EMPTY
        return cover(
            self.films,
            self.platen,
            self.keep_outs,
            overlap_mm=self.overlap_mm,
            done=done,
            soft=self.soft,
            turns=self.turns,
            most=self.most,
        )
