"""A small sample of the damaged files of ``python -m benchmarks hostile``: each is read or refused with a sentence."""

import pytest

from tests.helpers import cases
from tests.hostile.readers import KINDS, fare

HOPELESS = ("photos", "jobs", "workshops", "databases", "settings")
"""Kinds of which next to none is read once anything in it is damaged."""
FILES = {name: cases(max(6, kind.share), 20 * kind.share) for name, kind in KINDS.items()}
FILES |= {"artwork by bytes": cases(60, 600), "tables": cases(80, 400), "settings": cases(40, 400)}


@pytest.mark.parametrize("kind", KINDS)
def test_damaged_files_are_read_or_refused_with_a_sentence(kind, tmp_path):
    fared = [(seed, fare(kind, 70_000 + seed, tmp_path)[0]) for seed in range(FILES[kind])]
    assert [one for one in fared if one[1] not in ("read", "refused")] == []
    assert kind in HOPELESS or sum(said == "read" for _, said in fared) > FILES[kind] / 8


BROKE = (
    ("jobs", 20000987),
    ("jobs", 20003481),
    ("jobs", 20004711),
    ("workshops", 20000002),
    ("databases", 20000612),
    ("svg by grammar", 20001179),
)
"""Cases that no reader had a sentence for once, or that were drawn for very long."""


@pytest.mark.parametrize(("kind", "seed"), BROKE)
def test_what_broke_once_is_refused_with_a_sentence(kind, seed, tmp_path):
    assert fare(kind, seed, tmp_path)[0] == "refused"


def test_areas_that_no_overlay_took_once_are_read(tmp_path):
    assert fare("svg by grammar", 7003787, tmp_path)[0] == "read"
