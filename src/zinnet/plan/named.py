"""Garments of the list of names: for each row its words, fitted to their field, with their layers and their place."""

import os
import threading
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import lru_cache
from itertools import count
from typing import Any, NamedTuple

from zinnet.artwork.source import Source
from zinnet.job.model import Design, Job
from zinnet.job.names.model import NameList, NameRow
from zinnet.job.names.words import all_filled
from zinnet.layers.spec import LayersSpec
from zinnet.placement.place import Habits, PlacementSpec
from zinnet.plan.fitted import (
    FittedDesign,
    Garment,
    at_width,
    fit_at,
)
from zinnet.workshop.model import Workshop

WITHIN_MM = 0.02
MOST_TRIES = 4
MOST_KEPT = 4


@dataclass(frozen=True, eq=False)
class NamedGarment:
    """One row of the list: the size that it is for, and its designs with words of their own.

    ``row`` counts the rows of the list from 0, ``garment`` the sizes of the job.
    """

    row: int
    names: NameRow
    garment: int
    designs: tuple[FittedDesign, ...]

    @property
    def number(self) -> int:
        """Its number on the check list."""
        return self.row + 1

    @property
    def words(self) -> str:
        """What its words are, in one line."""
        return ", ".join(value for value in self.names.values if value)

    @property
    def key(self) -> str:
        """How its pieces are called."""
        return f"name-{self.number}-"

    def design(self, index: int) -> FittedDesign | None:
        """Return one of its designs by the index in the job; None where the row has no words for it."""
        return next((design for design in self.designs if design.index == index), None)


def named_garments(
    job: Job, workshop: Workshop, garments: Sequence[Garment], each: Callable[[int, int], bool] = lambda done, of: True
) -> tuple[NamedGarment, ...]:
    """Return the garment of every row; none where there is no list.

    ``each`` is told how many of how many are done, and says whether to go on: what is made is kept, so that the same
    list is quick the next time.
    """
    if not job.names.rows:
        return ()
    sizes = tuple(
        _Size(garment.size, _Same(garment.blank), tuple(_field(design) for design in garment.designs if design.words))
        for garment in garments
    )
    key = (job.designs, job.layers, job.names, sizes, _Same(workshop.films), workshop.habits)
    if key not in _made:
        found = _named(*key, each)
        if len(found) < len(job.names.rows):
            return found
        _made[key] = found
        while len(_made) > MOST_KEPT:
            _made.pop(next(iter(_made)))
    return _made[key]


_made: dict[object, tuple[NamedGarment, ...]] = {}


class _Field(NamedTuple):
    """A design's field on a size: where it is, and how wide the words of each row (row, mm) are and may be high."""

    design: int
    spec: PlacementSpec
    height_mm: float
    widths: tuple[tuple[int, float], ...]


class _Size(NamedTuple):
    size: str | None
    blank: "_Same"
    fields: tuple[_Field, ...]


def _field(design: FittedDesign) -> _Field:
    assert design.words is not None
    return _Field(design.index, design.spec, design.words.height_mm, tuple(design.words.widths.items()))


def _named(
    designs: tuple[Design, ...],
    layers: LayersSpec,
    names: NameList,
    sizes: tuple[_Size, ...],
    films: "_Same",
    habits: Habits,
    each: Callable[[int, int], bool],
) -> tuple[NamedGarment, ...]:
    """Return the garment of every row, on all cores; as many as there are until ``each`` says to stop."""
    where = {one.size: number for number, one in enumerate(sizes)}
    fields = [[(field, dict(field.widths)) for field in one.fields] for one in sizes]
    stopped, done = threading.Event(), count(1)

    def made(row: int) -> NamedGarment | None:
        if stopped.is_set():
            return None
        number = where.get(names.rows[row].size or sizes[0].size, 0)
        own = [
            _in_field(field, designs[field.design], source, widths[row], sizes[number].blank, layers, films, habits)
            for field, widths in fields[number]
            if row in widths and (source := all_filled(designs[field.design].source, names)[row]) is not None
        ]
        if not each(next(done), len(names.rows)):
            stopped.set()
        return NamedGarment(row, names.rows[row], number, tuple(own))

    with ThreadPoolExecutor(os.cpu_count() or 1, thread_name_prefix="names") as pool:
        return tuple(one for one in pool.map(made, range(len(names.rows))) if one is not None)


class _Same:
    """A key that stands for one very object, so that it need not be looked into."""

    def __init__(self, value: Any) -> None:
        self.value = value

    def __hash__(self) -> int:
        return id(self.value)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Same) and self.value is other.value


def _in_field(
    field: _Field,
    design: Design,
    source: Source,
    width_mm: float,
    blank: _Same,
    layers: LayersSpec,
    films: _Same,
    habits: Habits,
) -> FittedDesign:
    """Return the words of a row in their field: what steps add to them may ask for a smaller size than the letters."""
    own = design.model_copy(update={"source": source})
    for _ in range(MOST_TRIES):
        found = _at(field.design, own, at_width(field.spec, width_mm), blank, layers, films, habits)
        high = found.split.height_mm if found.split is not None else 0.0
        if high <= field.height_mm + WITHIN_MM:
            break
        width_mm *= field.height_mm / high
    return found


@lru_cache(maxsize=4096)
def _at(
    index: int, design: Design, spec: PlacementSpec, blank: _Same, layers: LayersSpec, films: _Same, habits: Habits
) -> FittedDesign:
    return fit_at(index, design, spec, blank.value, layers, films.value, habits)
