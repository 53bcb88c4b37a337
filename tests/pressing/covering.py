"""An independent way to cover cells of a grid: every place at whole numbers is tried, by plain search."""

import random
from dataclasses import dataclass

import shapely

from zinnet.geometry.region import EMPTY, Region, union

Cell = tuple[int, int]


@dataclass(frozen=True)
class GridCase:
    """Cells of film and cells to keep off, and the size of the platen, all in whole units."""

    film: frozenset[Cell]
    hard: frozenset[Cell]
    width: int
    height: int
    side: int


def random_case(seed: int) -> GridCase | None:
    """Return a random case of up to 8 x 8 cells, or None where no film came out of it."""
    luck = random.Random(seed)
    side, width, height = luck.randint(3, 8), luck.randint(1, 4), luck.randint(1, 4)
    film = {(i, j) for i in range(side) for j in range(side) if luck.random() < luck.choice([0.2, 0.5, 0.8])}
    hard: set[Cell] = set()
    if luck.random() < 0.5:
        hard = {(luck.randrange(-1, side + 1), luck.randrange(-1, side + 1)) for _ in range(luck.randint(1, 2))}
    film -= hard
    return GridCase(frozenset(film), frozenset(hard), width, height, side) if film else None


def fewest_by_search(case: GridCase) -> int | None:
    """Return how many platens are needed, by trying all; None where some film can't be covered."""
    places = set()
    for x in range(-case.width, case.side + 1):
        for y in range(-case.height, case.side + 1):
            box = {(i, j) for i in range(x, x + case.width) for j in range(y, y + case.height)}
            if not box & case.hard and box & case.film:
                places.add(frozenset(box & case.film))
    largest = [one for one in places if not any(one < other for other in places)]
    if frozenset().union(*largest) != case.film:
        return None

    def can(left: frozenset[Cell], count: int) -> bool:
        if not left:
            return True
        if not count:
            return False
        rarest = min(left, key=lambda cell: sum(cell in one for one in largest))
        return any(can(left - one, count - 1) for one in largest if rarest in one)

    count = 1
    while not can(case.film, count):
        count += 1
    return count


def region(cells: frozenset[Cell]) -> Region:
    """Return cells as a region."""
    return union(shapely.box(i, j, i + 1, j + 1) for i, j in cells) if cells else EMPTY
