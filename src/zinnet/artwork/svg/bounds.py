"""Which numbers of a file are worked with: beyond these nothing is drawn, and arithmetic loses its way."""

import numpy as np
from numpy.typing import ArrayLike

LARGEST = 1e9
SMALLEST = 1e-9
"""A length below this is none; a page may not be enlarged or made smaller by more than one through this."""


def is_bounded(numbers: ArrayLike) -> bool:
    """Tell whether all numbers are finite and none is larger than can be worked with.

    Examples
    --------
    >>> is_bounded([3.0, -5e8]), is_bounded([3.0, 1e300]), is_bounded([float("nan")])
    (True, False, False)
    """
    found = np.asarray(numbers, dtype=np.float64)
    return bool((np.abs(found) <= LARGEST).all())
