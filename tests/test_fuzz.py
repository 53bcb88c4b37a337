"""A small sample of the damaged files of the fuzz benchmark: artwork or a sentence, never a traceback."""

from benchmarks.fuzz import attempt, inputs
from tests.helpers import cases

FILES = cases(60, 600)


def test_damaged_files_are_read_or_refused_with_a_sentence():
    fared = [attempt(name, data) for name, data in inputs(FILES, seed=90_001)]
    assert {said for said in fared if said not in ("artwork", "refused")} == set()
    assert fared.count("artwork") > FILES / 8
