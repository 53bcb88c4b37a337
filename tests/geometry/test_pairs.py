"""Pairs that meet, and what hangs together by them."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

from zinnet.geometry.pairs import clusters


@given(st.integers(1, 40), st.data())
def test_clusters_are_those_of_a_reference_library(count, data):
    """scipy.sparse.csgraph is the reference."""
    ends = st.lists(st.tuples(st.integers(0, count - 1), st.integers(0, count - 1)), max_size=60)
    pairs = np.array(data.draw(ends), dtype=np.intp).reshape(-1, 2)
    label = clusters(count, (pairs[:, 0], pairs[:, 1]))
    graph = coo_array((np.ones(len(pairs)), (pairs[:, 0], pairs[:, 1])), shape=(count, count))
    _, known = connected_components(graph, directed=False)
    assert ((label[:, None] == label[None]) == (known[:, None] == known[None])).all()
    assert all(label[one] == one <= k for k, one in enumerate(label))
