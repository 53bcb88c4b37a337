"""Garments of the list of names: for each row its words, fitted to their field, with their layers and their place."""

import os
import threading
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from itertools import count
from typing import NamedTuple

from zinnet.artwork.source import Source
from zinnet.base.keys import Key
from zinnet.base.stages import cache_in_use, carried, stage
from zinnet.blanks.model import Blank
from zinnet.job.model import Design
from zinnet.job.names.model import NameList, NameRow
from zinnet.job.names.words import all_filled
from zinnet.placement.place import PlacementSpec
from zinnet.plan.fitted import FittedDesign, Garment, at_width, fit_at
from zinnet.plan.fitting import Fitting

WITHIN_MM = 0.02
MOST_TRIES = 4
MOST_KEPT = 4
NAMED = f"{__name__}.name_garments"


@dataclass(frozen=True, eq=False)
class NamedGarment:
    """One row of the list: the size that it is for, and its designs with words of their own.

    ``row`` counts the rows of the list from 0, ``garment`` the sizes of the job. ``compositions`` are its words as they
    are cut, with what lies in one place with them; ``taken`` are those of the size that are cut with them.
    """

    row: int
    names: NameRow
    garment: int
    designs: tuple[FittedDesign, ...]
    compositions: tuple[FittedDesign, ...] = ()
    taken: frozenset[int] = frozenset()

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

    def composed_of(self, index: int) -> FittedDesign | None:
        """Return what one of its designs is cut in; None where the row has no words for it."""
        return next((composed for composed in self.compositions if index in composed.indices), None)


def name_garments(
    fitting: Fitting, garments: Sequence[Garment], each: Callable[[int, int], bool] = lambda done, of: True
) -> tuple[NamedGarment, ...]:
    """Return the garment of every row; none where there is no list.

    ``each`` is told how many of how many are done, and says whether to go on; what is made until then is kept.
    """
    if not fitting.names.rows:
        return ()
    sizes = tuple(
        _Size(garment.size, garment.blank, tuple(_field(design) for design in garment.designs if design.words))
        for garment in garments
    )
    key = Key((replace(fitting, copies=1, family=(), platen=None), sizes))
    cache = cache_in_use()
    known, found = cache.find(NAMED, key) if cache is not None else (False, ())
    if not known:
        found = _named(fitting, sizes, each)
        if cache is not None and len(found) == len(fitting.names.rows):
            cache.keep(NAMED, key, found, MOST_KEPT)
    return found


class _Field(NamedTuple):
    """A design's field on a size: where it is, and how wide the words of each row (row, mm) are and may be high."""

    design: int
    spec: PlacementSpec
    height_mm: float
    widths: tuple[tuple[int, float], ...]


class _Size(NamedTuple):
    size: str | None
    blank: Blank
    fields: tuple[_Field, ...]


def _field(design: FittedDesign) -> _Field:
    assert design.words is not None
    return _Field(design.index, design.spec, design.words.height_mm, tuple(design.words.widths.items()))


def _named(fitting: Fitting, sizes: tuple[_Size, ...], each: Callable[[int, int], bool]) -> tuple[NamedGarment, ...]:
    """Return the garment of every row, on all cores; as many as there are until ``each`` says to stop."""
    where = {one.size: number for number, one in enumerate(sizes)}
    fields = [[(field, dict(field.widths)) for field in one.fields] for one in sizes]
    names, designs = fitting.names, fitting.designs
    stopped, done = threading.Event(), count(1)

    def made(row: int) -> NamedGarment | None:
        if stopped.is_set():
            return None
        number = where.get(names.rows[row].size or sizes[0].size, 0)
        own = [
            _in_field(fitting, field, designs[field.design], source, widths[row], sizes[number].blank)
            for field, widths in fields[number]
            if row in widths and (source := all_filled(designs[field.design].source, names)[row]) is not None
        ]
        if not each(next(done), len(names.rows)):
            stopped.set()
        return NamedGarment(row, names.rows[row], number, tuple(own))

    with ThreadPoolExecutor(os.cpu_count() or 1, thread_name_prefix="names") as pool:
        return tuple(one for one in pool.map(carried(made), range(len(names.rows))) if one is not None)


def _in_field(
    fitting: Fitting, field: _Field, design: Design, source: Source, width_mm: float, blank: Blank
) -> FittedDesign:
    """Return the words of a row in their field: what steps add to them may ask for a smaller size than the letters."""
    own = design.model_copy(update={"source": source})
    alone = replace(fitting, designs=(), family=(), names=NameList(), copies=1, platen=None)
    for _ in range(MOST_TRIES):
        found = _at(alone, field.design, own, at_width(field.spec, width_mm), blank)
        high = found.split.height_mm if found.split is not None else 0.0
        if high <= field.height_mm + WITHIN_MM:
            break
        width_mm *= field.height_mm / high
    return found


@stage(most=4096)
def _at(fitting: Fitting, index: int, design: Design, spec: PlacementSpec, blank: Blank) -> FittedDesign:
    """Return a row's words at their width; ``fitting`` holds nothing of the list that they stand in."""
    return fit_at(fitting, index, design, spec, blank)
