"""The garments of a run, one by one with their numbers: size by size, or name by name; and what is cut for which."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from zinnet.plan.cut_parts import CutPart
from zinnet.plan.fitted import FittedDesign
from zinnet.plan.model import Facts
from zinnet.plan.named import NamedGarment
from zinnet.plan.presses import GarmentPress, press_garments, pressing_of

type Pressed = Sequence[tuple[str, GarmentPress]]
"""How garments are pressed, each with what it is called."""


@dataclass(frozen=True, eq=False)
class RunRow:
    """Some garments of a run that are all alike: what each is called, of which size, whose words, and how many."""

    name: str
    size: int
    copies: int
    named: NamedGarment | None
    compositions: tuple[FittedDesign, ...]
    designs: tuple[FittedDesign, ...]
    same: frozenset[int]
    """Which of the size's own compositions are on it, by their place there."""

    @property
    def has_film(self) -> bool:
        """Whether anything is pressed on it: what gets nothing has no number in the run."""
        return any(row.film is not None for composed in self.compositions for row in composed.layers)


def run_rows(facts: Facts) -> tuple[RunRow, ...]:
    """Return the garments of a run in their order: size by size, or name by name.

    What is the same on each garment is on one with words, too; garments of a size that nobody has come last.
    """
    if not facts.named:
        return tuple(
            RunRow(
                one.blank.name, number, one.copies, None, one.compositions, one.designs, frozenset(range(len(one.same)))
            )
            for number, one in enumerate(facts.garments)
        )
    found = [_of_name(facts, one) for one in facts.named]
    for number, size in enumerate(facts.garments):
        left = size.copies - sum(one.names.count for one in facts.named if one.garment == number)
        if left > 0 and size.same:
            plain = tuple(design for design in size.designs if design.words is None)
            same = frozenset(range(len(size.same)))
            found.append(RunRow(size.blank.name, number, left, None, size.same, plain, same))
    return tuple(found)


def _of_name(facts: Facts, one: NamedGarment) -> RunRow:
    size = facts.garments[one.garment]
    plain = [design for design in size.designs if design.words is None]
    same = frozenset(range(len(size.same))) - one.taken
    return RunRow(
        f"{one.number}: {one.words or 'no words'}, {size.blank.name}",
        one.garment,
        one.names.count,
        one,
        (*(size.same[number] for number in sorted(same)), *one.compositions),
        tuple(sorted([*plain, *one.designs], key=lambda design: design.index)),
        same,
    )


def by_size(presses: Sequence[GarmentPress]) -> Pressed:
    """Return how the sizes of a job are pressed, each called as its blank."""
    return tuple((press.garment.blank.name, press) for press in presses)


def run_presses(facts: Facts) -> Pressed:
    """Return how each garment of a run is pressed: size by size, or name by name, each with its own words."""
    if not facts.named:
        return by_size(facts.presses)
    pressing = pressing_of(facts.job, facts.workshop)
    found = []
    for row in run_rows(facts):
        size = facts.garments[row.size]
        own = replace(size, copies=row.copies, designs=row.designs, compositions=row.compositions)
        (press,) = press_garments(pressing, (own,))
        found.append((row.name, press))
    return tuple(found)


@dataclass(frozen=True)
class Owner:
    """The garment that a piece is cut for: its number in the run, and what it is called."""

    number: int
    name: str


def owners_of(facts: Facts) -> dict[tuple[str, int], Owner]:
    """Return for which garment each copy of each part is cut, by its name and the copy's number from 1.

    Copies beyond those that garments need are spare, and are not in it.
    """
    garments: list[tuple[Owner, RunRow]] = []
    for row in (one for one in run_rows(facts) if one.has_film):
        for copy in range(1, row.copies + 1):
            name = f"{row.name} {copy}" if row.copies > 1 else row.name
            garments.append((Owner(len(garments) + 1, name), row))
    found: dict[tuple[str, int], Owner] = {}
    for nest in facts.nests:
        for part in nest.parts:
            mine = [owner for owner, row in garments if _is_for(part, row)]
            for number, owner in enumerate(mine):
                for place in range(len(part.places)):
                    found[part.name, number * len(part.places) + place + 1] = owner
    return found


def _is_for(part: CutPart, row: RunRow) -> bool:
    if part.row is not None:
        return row.named is not None and row.named.row == part.row
    return row.size == part.garment and part.composition in row.same
