"""Work is not lost without a word: at files that others change, at leaving, after crashes, at journals of others."""

import os

import platformdirs
import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog, QMessageBox, QPushButton

from tests.helpers import LANTERN, RED_AND_BLUE, crashed, run_command, svg
from zinnet.base.errors import ZinnetError
from zinnet.base.files import read_file
from zinnet.bench.automatic_copy import AutomaticCopy
from zinnet.bench.cut_journal import Broken, journal_of, keep_journal, mark_of
from zinnet.bench.document import Document
from zinnet.bench.timers import Timers
from zinnet.demo import demo_document
from zinnet.job.edits import open_artwork, set_copies, set_measure, set_placement, set_title
from zinnet.job.file import load_job
from zinnet.ui import job_files
from zinnet.ui.beginnings import make_card
from zinnet.ui.session import Session
from zinnet.workshop.backup import back_up
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.stock import Stock, StockItem

NO = QMessageBox.StandardButton.Cancel


@pytest.fixture
def shared(window, qtbot, tmp_path):
    """Open a job, which another program then writes; return its path."""
    path = tmp_path / "walk.zinnet"
    document = Document(standard_workshop())
    document.apply(open_artwork("lantern.svg", svg(LANTERN)))
    document.save(path)
    window.files.opener.open_job(path)
    qtbot.waitUntil(lambda: window.session.document.path == path)
    window.session.apply(set_title("mine"))
    document.apply(set_title("theirs"))
    document.save(path)
    return path


def answer(monkeypatch, choice):
    asked = []
    monkeypatch.setattr(job_files, "ask_theirs_or_mine", lambda window, path: asked.append(path) or choice)
    return asked


def test_a_job_that_was_changed_elsewhere_is_said_and_not_written_over_unasked(window, shared, monkeypatch):
    said, asked = [], answer(monkeypatch, None)
    window.session.said.connect(said.append)
    window.session._look_at_file()
    window.session._look_at_file()
    assert said == ["walk.zinnet was changed by another program; saving will ask what to do."]
    assert not window.files.save()
    assert asked == [shared]
    assert load_job(shared)[0].title == "theirs"
    assert window.session.job.title == "mine"


def test_mine_is_written_over_theirs_where_that_is_said(window, shared, monkeypatch):
    answer(monkeypatch, "mine")
    assert window.files.save()
    assert load_job(shared)[0].title == "mine"


def test_theirs_is_opened_where_that_is_said(window, shared, monkeypatch, qtbot):
    answer(monkeypatch, "theirs")
    window.files.save()
    qtbot.waitUntil(lambda: window.session.job.title == "theirs")


def test_both_are_kept_where_mine_becomes_a_copy(window, shared, monkeypatch, tmp_path):
    answer(monkeypatch, "copy")
    proposed = []
    copy = tmp_path / "walk (mine).zinnet"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: proposed.append(a[2]) or (str(copy), ""))
    assert window.files.save()
    assert proposed[0].endswith("walk (mine).zinnet")
    assert (load_job(shared)[0].title, load_job(copy)[0].title) == ("theirs", "mine")


def test_a_job_that_is_open_in_another_window_is_said(window, shared, tmp_path, qtbot):
    other, said = Session(tmp_path / "other copies"), []
    other.said.connect(said.append)
    try:
        other.show_document(Document.open(shared, standard_workshop()))
        assert said == [
            "walk.zinnet is open in another window too; whoever saves second is asked what to do.",
        ]
    finally:
        other.close()
    again = Session(tmp_path / "more copies")
    window.session.close()
    again.said.connect(said.append)
    again.show_document(Document.open(shared, standard_workshop()))
    again.close()
    assert len(said) == 1, "a window that is closed holds nothing open"


@pytest.mark.parametrize("leave", ["new", "close"])
def test_names_and_orders_without_artwork_are_not_thrown_away_unasked(window, monkeypatch, leave):
    asked = []
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: asked.append(a[2]) or NO)
    window.session.apply(set_copies(24))
    job = window.session.job
    assert "not saved" in window.windowTitle()
    if leave == "new":
        window.begin_job()
    else:
        assert not window.close()
    assert len(asked) == 1
    assert window.session.job is job


def test_every_copy_that_crashes_left_behind_is_offered(window, qtbot, tmp_path):
    titles = [f"evening {k}" for k in range(7)]
    for title in titles:
        document = Document(standard_workshop())
        document.apply(open_artwork("moth.svg", svg(RED_AND_BLUE)))
        document.apply(set_title(title))
        copy = AutomaticCopy(tmp_path / "copies")
        copy.keep(document.job)
        crashed(copy)
    welcome = make_card(window)
    button = next(b for b in welcome.findChildren(QPushButton) if "Bring back" in b.text())
    offered = button.menu().actions()
    assert sorted(action.text().partition(",")[0] for action in offered) == titles
    chosen = next(action for action in offered if action.text().startswith("evening 3,"))
    chosen.trigger()
    qtbot.waitUntil(lambda: window.session.job.title == "evening 3")
    left = window.session.automatic_copy
    # A copy that is being brought back is held, and offered no more before it goes: what counts are the files.
    qtbot.waitUntil(lambda: len(set(left.folder.glob("*.zinnet")) - {left.path}) == 6)
    assert left.path.exists(), "what was brought back has a copy again before the old one goes"


def test_a_copy_that_is_dropped_while_it_is_written_does_not_come_back(tmp_path):
    copy = AutomaticCopy(tmp_path)
    write = copy.due(Document(standard_workshop()).job)
    copy.drop()
    write()
    assert list(tmp_path.iterdir()) == []


@pytest.mark.long
def test_undo_goes_back_two_thousand_steps():
    document = Document(standard_workshop())
    for number in range(2000):
        document.apply(set_title(f"evening {number}"))
    for _ in range(2000):
        document.undo()
    assert document.job.title == "Untitled"


# the cutter's journal


@pytest.fixture
def cutter(window, qtbot):
    """Return the cutter with a mat whose lines were all cut for another job."""
    window.session.show_document(demo_document())
    window.go_to("cut")
    control = window.cutter
    control.times = 400.0
    qtbot.waitUntil(lambda: control.load is not None and control.sheet_of(control.load) is not None)
    load = control.load
    other = mark_of(control.session.job.model_copy(update={"title": "The first customer's"}))
    keep_journal(load, other, Broken(tuple(block.path.name for block in load.program().blocks), ()))
    control.say_loaded()
    return control


@pytest.mark.long
def test_lines_of_another_customers_mat_are_asked_about_at_the_page(cutter, window, qtbot):
    window.stations["cut"].show_page("cutter")
    page, said = window.stations["cut"].pages["cutter"], []
    cutter.session.said.connect(said.append)
    assert "were begun before, for “The first customer's”" in page.said.text()
    assert not page.send.isVisibleTo(page)
    assert not cutter.send()
    assert "whether that film is still on the mat, or other film" in said[-1]
    qtbot.mouseClick(page.forget, Qt.MouseButton.LeftButton)
    assert page.send.isVisibleTo(page)
    assert cutter.send()
    qtbot.waitUntil(lambda: not cutter.is_running)
    assert len(cutter.run.report.done) == len(cutter.run.load.program().blocks), "no line is left out"


@pytest.mark.long
def test_of_a_damaged_journal_only_other_film_helps(cutter, window, qtbot):
    journal_of(cutter.load).write_text("{broken")
    window.stations["cut"].show_page("cutter")
    page, bench, said = window.stations["cut"].pages["cutter"], window.benches["cut"], []
    cutter.session.said.connect(said.append)
    cutter.changed.emit()
    assert "nobody knows which of its lines are cut" in page.said.text()
    assert not page.same.isVisibleTo(page)
    assert not page.send.isVisibleTo(page)
    window.enter_bench()
    for key in (Qt.Key.Key_Space, Qt.Key.Key_F):
        qtbot.keyClick(bench, key)
        assert not cutter.is_running
        assert "other film on" in said[-1]
    qtbot.keyClick(bench, Qt.Key.Key_O)
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: not cutter.is_running)
    assert len(cutter.run.report.done) == len(cutter.run.load.program().blocks)


@pytest.mark.parametrize("key", [Qt.Key.Key_F, Qt.Key.Key_O])
def test_and_at_the_bench_by_a_key(cutter, window, qtbot, key):
    window.enter_bench()
    bench = window.benches["cut"]
    load = cutter.load
    assert bench._said(load)[0] == "Begun before?"
    bench.go_on()
    assert not cutter.is_running
    qtbot.keyClick(bench, key)
    assert (cutter.broken(load), load.key in cutter.finished) == (None, key == Qt.Key.Key_F)


@pytest.mark.parametrize("all_the_same", [True, False])
def test_a_journal_that_can_not_be_kept_is_asked_about_before_anything_is_sent(cutter, qtbot, all_the_same):
    asked, load = [], cutter.load
    journal_of(load).unlink()
    journal_of(load).parent.rmdir()
    journal_of(load).parent.write_text("no folder")
    cutter.ask = lambda question: asked.append(question) or all_the_same
    assert cutter.send() is all_the_same
    assert len(asked) == 1
    assert "can't be kept" in asked[0]
    qtbot.waitUntil(lambda: not cutter.is_running)
    assert (cutter.run is not None) is all_the_same


def test_the_measures_of_a_blank_alone_are_work_too(window, monkeypatch):
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: NO)
    window.session.apply(set_measure("chest", 540.0))
    assert not window.files.may_leave()


# settings and books


@pytest.mark.parametrize("name", ["films.toml", "machines.toml", "blanks.toml", "settings.toml"])
@pytest.mark.parametrize("text", ["[[[[", "x = 5", "films = 5", "[films.x]\nname = []", "\x00", "finger_mm = []"])
def test_whatever_a_settings_file_holds_the_rest_is_taken_and_the_window_goes_on(window, tmp_path, name, text):
    folder = platformdirs.user_config_path("zinnet")
    folder.mkdir(parents=True)
    (folder / name).write_text(text)
    good = "settings.toml" if name == "films.toml" else "films.toml"
    (folder / good).write_text(GOOD[good])
    said = []
    window.session.said.connect(said.append)
    window.session.read_settings()
    if good == "films.toml":
        assert window.session.workshop.film("my-own") is not None
    else:
        assert window.session.workshop.habits.finger_mm == 21
    assert all(name in sentence for sentence in said), "what was left out is said"
    window.session.apply(set_copies(3))
    assert window.session.job.copies == 3


GOOD = {
    "films.toml": "[films.my-own]\nname = 'My own'\nkind = 'smooth'\ncolour = '#ffffff'\n",
    "settings.toml": "finger_mm = 21\n",
}


@pytest.mark.parametrize("wanted", [True, False])
def test_the_copy_of_a_damaged_workshop_is_offered_and_nothing_is_deleted(window, qtbot, monkeypatch, wanted):
    store = window.session.books.store
    (roll,) = Stock(store).add([StockItem(film="white", kind="roll", width_mm=305, length_mm=5000)])
    back_up(store.path)
    for one in store.path.parent.glob("workshop.sqlite-*"):
        one.unlink()
    damaged = b"\x00" * 3000
    store.path.write_bytes(damaged)
    asked, buttons = [], QMessageBox.StandardButton
    answer = buttons.Yes if wanted else buttons.No
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: asked.append(a[2]) or answer)
    window.session.read_settings()
    qtbot.waitUntil(lambda: bool(asked))
    assert "moved aside, not deleted" in asked[0]
    if wanted:
        qtbot.waitUntil(lambda: window.session.workshop.stock == (roll,))
        aside = [one.read_bytes() for one in store.path.parent.glob("workshop.sqlite.aside-*")]
        assert aside == [damaged]
    window.session.read_settings()
    qtbot.waitUntil(lambda: not window.session.background.is_busy)
    assert len(asked) == 1, "it is asked once"


def test_timers_of_two_windows_live_beside_each_other(tmp_path):
    one, other = (Timers(tmp_path / "timers.json") for _ in range(2))
    one.start("a/1", "tee", 15)
    other.start("b/1", "cap", 20)
    one.start("a/2", "tee", 30)
    other.stop("b/1")
    one.pause("a/1")
    assert {timer.id for timer in Timers(tmp_path / "timers.json").all} == {"a/1", "a/2"}
    assert other.get("a/2") is not None


@pytest.mark.parametrize("kind", ["pipe", "folder", "device", "nothing"])
def test_only_files_are_read(tmp_path, kind):
    path = tmp_path / "lantern.svg"
    match kind:
        case "pipe":
            os.mkfifo(path)
        case "folder":
            path.mkdir()
        case "device":
            path.symlink_to("/dev/zero")
    with pytest.raises(ZinnetError, match=r"no file|Choose|There is no file"):
        read_file(path, 1000)
    done = run_command("inspect", path)
    assert done.returncode == 2
    assert len(done.stderr.strip().splitlines()) == 1


def test_a_job_that_nobody_named_is_called_as_its_file(window, qtbot, tmp_path, monkeypatch):
    window.files.opener.open_data("moth.svg", svg(RED_AND_BLUE))
    qtbot.waitUntil(lambda: window.session.job.title == "moth")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "Reed band.zinnet"), ""))
    assert window.files.save()
    assert window.session.job.title == "Reed band"
    assert not window.session.document.is_changed
    window.session.apply(set_title("Reeds"))
    assert window.files.save_as()
    assert window.session.job.title == "Reeds"


def test_no_folder_is_asked_for_while_a_stop_is_open(demo, monkeypatch):
    demo.session.apply(set_placement("x", from_centre_mm=180.0))
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *a, **k: pytest.fail("a folder was asked for"))
    demo.choose_export()
    assert "Nothing is cut while a stop is open" in demo.message.text()
