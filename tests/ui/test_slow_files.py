"""Files that take long, in the real window with the real process that reads them."""

from functools import partial

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton

from tests.helpers import LANTERN, svg
from zinnet.base import workers
from zinnet.bench import bounded, from_strangers
from zinnet.bench.bounded import Bounded
from zinnet.bench.document import Document
from zinnet.job.edits import open_artwork
from zinnet.workshop.model import standard_workshop

pytestmark = pytest.mark.apart


@pytest.fixture
def artwork(tmp_path):
    path = tmp_path / "lantern.svg"
    path.write_bytes(svg(LANTERN))
    return path


@pytest.fixture
def slow(monkeypatch):
    """Let every file take longer than it may."""
    monkeypatch.setattr(from_strangers, "Bounded", partial(Bounded, most_s=0.0))


@pytest.fixture
def asked(window, artwork, slow, qtbot):
    """Open artwork that takes long; return the question that is asked."""
    window.files.opener.open_artwork(artwork)
    qtbot.waitUntil(lambda: window.files.slow_file.box is not None)
    return window.files.slow_file.box


def button(box, text):
    return next(one for one in box.findChildren(QPushButton) if one.text() == text)


def test_a_file_is_read_in_a_process_of_its_own_and_put_on_the_table(window, artwork, qtbot):
    bounded.prepare_reader()
    window.files.opener.open_artwork(artwork)
    qtbot.waitUntil(lambda: window.session.has_artwork)
    assert window.files.slow_file.box is None
    assert window.files.opener.task is None


def test_a_slow_file_is_asked_about_and_waited_for(window, asked, qtbot):
    assert "“lantern.svg” has kept the processor busy" in asked.text()
    assert not asked.isModal(), "the window goes on meanwhile"
    qtbot.mouseClick(button(asked, "Keep reading"), Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: window.session.has_artwork)
    assert window.files.slow_file.box is None


def test_the_question_goes_by_itself_when_the_file_is_there(window, asked, qtbot):
    qtbot.waitUntil(lambda: window.session.has_artwork)
    assert window.files.slow_file.box is None


def test_a_slow_file_is_left_and_all_is_as_it_was(window, asked, qtbot):
    said, job = [], window.session.job
    window.session.said.connect(said.append)
    qtbot.mouseClick(button(asked, "Leave it"), Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: bool(said))
    assert said == ["lantern.svg was left: it took too long."]
    assert window.session.job is job
    assert window.files.slow_file.box is None


@pytest.mark.usefixtures("asked")
def test_closing_ends_the_reader(window):
    reading = workers.living_workers()
    assert reading
    assert window.session.close(), "all of it has ended"
    assert not {*reading} & {*workers.living_workers()} - {*bounded._spares._waiting}


def test_a_job_is_opened_and_a_broken_one_leaves_all_as_it_was(window, tmp_path, qtbot):
    document = Document(standard_workshop())
    document.apply(open_artwork("lantern.svg", svg(LANTERN)))
    document.save(tmp_path / "walk.zinnet")
    window.files.opener.open_job(tmp_path / "walk.zinnet")
    qtbot.waitUntil(lambda: window.session.document.path == tmp_path / "walk.zinnet")
    assert window.session.job == document.job
    said = []
    window.session.said.connect(said.append)
    (tmp_path / "broken.zinnet").write_bytes(b"PK nothing")
    window.files.opener.open_job(tmp_path / "broken.zinnet")
    qtbot.waitUntil(lambda: bool(said))
    assert "is not a whole job file" in said[0]
    assert window.session.job == document.job
