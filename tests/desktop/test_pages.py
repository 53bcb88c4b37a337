"""The pages of the documentation that follow from the models say what the models say."""

import runpy
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
SCRIPT = runpy.run_path(str(ROOT / "scripts" / "pages.py"))
PAGES = SCRIPT["pages"]()


@pytest.mark.parametrize("name", PAGES)
def test_a_page_is_as_the_models_are(name):
    assert (ROOT / "docs" / name).read_text(encoding="utf-8") == PAGES[name], "write it anew: python scripts/pages.py"


def test_the_tee_of_the_welcome_is_the_one_that_is_measured():
    assert SCRIPT["TEE"].read_text(encoding="utf-8") == SCRIPT["chalk_tee"]()
