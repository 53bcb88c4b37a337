"""The language file: English is complete, and another language is taken where it is there."""

import os
import runpy
from pathlib import Path

import platformdirs
import polib
import pytest

from zinnet.data import path_of
from zinnet.ui import language
from zinnet.ui.plain import Label

ROOT = Path(__file__).parents[2]
OTHER = """
msgid ""
msgstr "Content-Type: text/plain; charset=utf-8\\n"

msgid "&Job"
msgstr "&Auftrag"

msgid "Measure"
msgstr "Messen"

msgid "Thinner than the film holds"
msgstr "Dünner, als die Folie hält"

msgid "Shelf"
msgstr ""
"""


@pytest.fixture
def other():
    """Put a catalogue of the user's own into the configuration folder."""
    path = platformdirs.user_config_path("zinnet") / language.OWN
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text(OTHER, encoding="utf-8")
    language.catalogue.cache_clear()
    yield path
    path.unlink()
    language.catalogue.cache_clear()


def test_the_english_file_has_every_text_of_the_interface():
    written = polib.pofile(str(path_of("language", "en.po")), encoding="utf-8")
    texts = runpy.run_path(str(ROOT / "scripts" / "language.py"))["texts"]()
    assert [one.msgid for one in written] == texts, "write it anew: python scripts/language.py"
    assert all(one.msgid == one.msgstr for one in written)
    assert len(texts) > 350


def test_a_text_is_said_in_the_users_language_and_else_in_english(other):
    assert language.tr("&Job") == "&Auftrag"
    assert language.tr("Shelf") == "Shelf"
    assert language.tr("something else") == "something else"


@pytest.mark.parametrize("data", [b"", b"\xff\xfe\x00", b"msgid no quotes", b'msgid "a"\nmsgstr "b'])
def test_a_damaged_file_leaves_english(other, data):
    other.write_bytes(data)
    language.catalogue.cache_clear()
    assert language.tr("&Job") == "&Job"


def test_the_window_speaks_it(other, qtbot, tmp_path):
    from PySide6.QtCore import QSettings

    from zinnet.demo import demo_document
    from zinnet.ui.session import Session
    from zinnet.ui.window import MainWindow

    session = Session(tmp_path / "copies")
    window = MainWindow(session, QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat))
    qtbot.addWidget(window)
    session.show_document(demo_document())
    assert [action.text() for action in window.menuBar().actions()][:2] == ["&Auftrag", "&Edit"]
    assert "Messen" in [tag.name for tag in window.tags.tags.values()]
    qtbot.waitUntil(lambda: bool(window.findings.cards))
    titles = " ".join(label.text() for card in window.findings.cards for label in card.findChildren(Label))
    assert "Dünner, als die Folie hält" in titles
    session.document.saved = session.job
    session.close()


def test_what_could_be_markup_is_left_out_and_nothing_but_a_file_is_read(other, tmp_path):
    head = OTHER.replace("Messen", "<img src='/dev/zero'>")
    other.write_text(head, encoding="utf-8")
    assert language.read_catalogue(other) == {
        "&Job": "&Auftrag",
        "Thinner than the film holds": "Dünner, als die Folie hält",
    }
    kept = tmp_path / "kept.po"
    kept.write_text(OTHER, encoding="utf-8")
    other.write_text(str(kept))
    assert language.read_catalogue(other) == {}, "a text of one line names no other file"
    os.mkfifo(tmp_path / "pipe.po")
    assert language.read_catalogue(tmp_path / "pipe.po") == {}
