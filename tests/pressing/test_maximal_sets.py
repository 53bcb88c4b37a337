"""Of the places of the platen only those are looked at that cover what no other one covers as well."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra import numpy as arrays

from zinnet.pressing.maximal_sets import maximal_sets

SETS = arrays.arrays(bool, st.tuples(st.integers(1, 25), st.integers(1, 12)))


@given(SETS)
def test_none_that_stays_is_held_by_another_and_all_that_go_are(sets):
    rows = sets[sets.any(axis=1)]
    rows = rows[np.argsort(-rows.sum(axis=1), kind="stable")]
    kept = maximal_sets(rows)
    for row in range(len(rows)):
        holders = [other for other in kept if other != row and not (rows[row] & ~rows[other]).any()]
        assert (row in kept) == (not [other for other in holders if other < row])
