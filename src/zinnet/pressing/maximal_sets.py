"""Sets that no other set of a family holds whole."""

import numpy as np
from numpy.typing import NDArray


def maximal_sets(sets: NDArray[np.bool_]) -> list[int]:
    """Return the rows, largest first, that no earlier row holds whole.

    What holds a set has the rarest of its columns as well, so only rows with that one are looked at.
    """
    packed, often = np.packbits(sets, axis=1), sets.sum(axis=0)
    holding: dict[int, list[int]] = {}
    found: list[int] = []
    for row in range(len(sets)):
        columns = np.flatnonzero(sets[row])
        others = holding.get(int(columns[often[columns].argmin()]), [])
        if others and not (packed[row] & ~packed[others]).any(axis=1).all():
            continue
        found.append(row)
        for column in columns.tolist():
            holding.setdefault(column, []).append(row)
    return found
