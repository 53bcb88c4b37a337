"""The examples in docstrings are run as they stand."""

import doctest
import importlib
from pathlib import Path

import pytest

SOURCE = Path(__file__).resolve().parent.parent / "src"
SHOWN = [path for path in sorted((SOURCE / "zinnet").rglob("*.py")) if ">>>" in path.read_text(encoding="utf-8")]


@pytest.mark.parametrize("path", SHOWN, ids=lambda path: path.stem)
def test_the_examples_of_a_module_hold(path):
    module = importlib.import_module(".".join(path.relative_to(SOURCE).with_suffix("").parts))
    result = doctest.testmod(module)
    assert result.attempted > 0
    assert result.failed == 0
