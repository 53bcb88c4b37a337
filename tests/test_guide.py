"""The guide: one text for the window and the documentation, with a chapter for everything on the table."""

import re
from pathlib import Path

import pytest

from zinnet.desktop.guide import (
    PICTURES,
    chapter,
    chapter_for,
    title_of,
    whole_guide,
)
from zinnet.ui.page_bar import FIT_PAGES
from zinnet.ui.tags import STATIONS

ROOT = Path(__file__).parents[1]


def test_the_page_of_the_documentation_is_the_guide_itself():
    written = (ROOT / "docs" / "user-guide.md").read_text(encoding="utf-8")
    assert written == whole_guide(), "write it anew: python -m zinnet.desktop.guide docs/user-guide.md"


@pytest.mark.parametrize("name", PICTURES)
def test_a_chapter_has_a_title_text_and_pictures_that_there_are(name):
    assert title_of(name)
    assert len(chapter(name)) > 200
    for picture in PICTURES[name]:
        assert (ROOT / "docs" / "screenshots" / f"{picture}.png").exists()


def test_every_station_and_page_has_its_chapter():
    for station, said in STATIONS:
        assert title_of(chapter_for(station)) == said
    for page, _, _ in FIT_PAGES:
        assert chapter_for("fit", page) in PICTURES
    assert chapter_for("fit", "order") == "order"
    assert chapter_for("nowhere") == "begin"


def test_every_shortcut_that_the_guide_names_is_one():
    from zinnet.data import path_of

    sources = " ".join(path.read_text(encoding="utf-8") for path in path_of("..", "ui").rglob("*.py"))
    named = set(re.findall(r"`(Ctrl\+(?:Shift\+)?[A-Z])`", whole_guide()))
    assert len(named) > 12
    assert [keys for keys in sorted(named) if keys not in sources] == []
