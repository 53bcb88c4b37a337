"""The session over time: whose books are in use, edits that take long, and errors that nobody expected."""

import gc
import logging
import subprocess
import sys
import threading
import weakref
from dataclasses import replace

import pytest
from PySide6.QtCore import QObject
from PySide6.QtWidgets import QMessageBox

from tests.helpers import LANTERN, document_of, nested, svg
from zinnet.base import log, workers
from zinnet.bench.document import Document
from zinnet.demo import demo_document
from zinnet.job.edits import Edit, set_copies, set_title
from zinnet.ui.background import Background
from zinnet.ui.collecting import Collecting
from zinnet.ui.nester import Nester
from zinnet.workshop.model import standard_workshop


def settled(window, qtbot):
    qtbot.waitUntil(lambda: not window.session.background.is_busy, timeout=20_000)


@pytest.mark.usefixtures("narrow_nests")
@pytest.mark.parametrize("way", ["new", "open", "save"])
def test_after_a_demo_a_job_of_ones_own_has_ones_own_books(window, qtbot, tmp_path, monkeypatch, way):
    session, own = window.session, window.session.books.store
    document_of(LANTERN).save(tmp_path / "walk.zinnet")
    window.files.open_demo()
    qtbot.waitUntil(lambda: window.session.has_artwork)
    settled(window, qtbot)
    assert session.books.store is not own
    assert session.workshop.made
    session.document.saved = session.job
    if way == "new":
        window.begin_job()
    elif way == "open":
        window.files.opener.open_job(tmp_path / "walk.zinnet")
    else:
        assert window.files.opener.save(tmp_path / "mine.zinnet")
    settled(window, qtbot)
    assert session.books.store is own
    qtbot.waitUntil(lambda: not session.workshop.made, timeout=10_000)


def test_an_edit_worked_out_for_a_job_does_not_land_on_the_next_one(window, qtbot):
    session, go_on, said = window.session, threading.Event(), []
    session.said.connect(said.append)
    session.show_document(document_of(LANTERN))

    def slow(job):
        go_on.wait(20)
        return job.model_copy(update={"title": "slow"})

    followed = []
    session.apply_later(Edit("slow title", slow), lambda: followed.append(True))
    other = Document(standard_workshop())
    session.show_document(other)
    go_on.set()
    qtbot.waitUntil(lambda: not session.is_working, timeout=20_000)
    assert session.job.title == "Untitled"
    assert other.undo_name is None
    assert not followed
    assert any("slow title" in text and "no longer open" in text for text in said)


def test_artwork_read_for_a_job_does_not_land_on_the_next_one(window, qtbot, tmp_path):
    (tmp_path / "moth.svg").write_bytes(svg(LANTERN))
    window.files.opener.open_artwork(tmp_path / "moth.svg")
    window.session.show_document(Document(standard_workshop()))
    settled(window, qtbot)
    assert not window.session.has_artwork


def test_an_unexpected_error_of_an_edit_leaves_later_edits_free_and_is_written_down(window, qtbot):
    session, said = window.session, []
    session.said.connect(said.append)
    session.show_document(document_of(LANTERN))

    def breaks(job):
        raise KeyError("nobody expected this")

    session.apply_later(Edit("breaks", breaks))
    session.apply_later(set_title("after it"))
    qtbot.waitUntil(lambda: session.job.title == "after it", timeout=20_000)
    assert not session.is_working
    assert any("did not expect (KeyError)" in text and str(log.log_file()) in text for text in said)
    assert "nobody expected this" in log.log_file().read_text()


@pytest.mark.parametrize("error", [KeyError("x"), RecursionError("deep"), MemoryError(), SystemExit(3)])
def test_background_work_answers_whatever_it_raises(qtbot, error):
    background, answers = Background(), []

    def work():
        raise error

    background.run(work, answers.append, answers.append)
    qtbot.waitUntil(lambda: len(answers) == 1, timeout=10_000)
    assert type(error).__name__ in answers[0]
    assert not background.is_busy


SLOT = """
from PySide6.QtCore import QTimer
from zinnet.base import workers
from zinnet.base.log import log_uncaught
from zinnet.ui.application import make_application

app = make_application()
log_uncaught(lambda sentence: print(sentence, flush=True))

def slot():
    raise ZeroDivisionError("in a slot")

QTimer.singleShot(0, slot)
QTimer.singleShot(50, lambda: (print("it goes on"), app.quit()))
app.exec()
"""


def test_an_error_in_a_slot_is_said_and_written_down_and_the_program_goes_on():
    done = subprocess.run([sys.executable, "-c", SLOT], capture_output=True, text=True, check=True)
    said, after = done.stdout.splitlines()
    assert "did not expect (ZeroDivisionError)" in said
    assert after == "it goes on"
    assert "in a slot" in log.log_file().read_text()


def test_an_error_in_a_thread_is_written_down(monkeypatch):
    said = []
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    monkeypatch.setattr(threading, "excepthook", threading.excepthook)
    log.log_uncaught(said.append)
    thread = threading.Thread(target=lambda: 1 / 0, name="breaks")
    thread.start()
    thread.join()
    assert "ZeroDivisionError" in said[0]
    assert "in the thread breaks" in log.log_file().read_text()


def test_the_log_is_silent_where_its_folder_can_not_be_written(own_folders, monkeypatch):
    (own_folders / "no-folder").write_text("a file")
    monkeypatch.setenv("XDG_STATE_HOME", str(own_folders / "no-folder"))
    log.log_error("nowhere to write", ValueError("x"))
    assert isinstance(log.logger(), logging.Logger)


def test_a_disk_that_is_full_is_said_and_nothing_is_lost(demo, qtbot, tmp_path, monkeypatch):
    session, said = demo.session, []
    session.said.connect(said.append)
    path = tmp_path / "walk.zinnet"
    assert demo.files.opener.save(path)
    before = path.read_bytes()

    def full(descriptor):
        raise OSError(28, "No space left on device")

    session.apply(set_copies(9))
    with monkeypatch.context() as disk:
        disk.setattr("os.fsync", full)
        assert not demo.files.opener.save(path)
    assert "No space left" in said[-1]
    assert path.read_bytes() == before
    assert sorted(one.name for one in tmp_path.glob("*walk*")) == ["walk.zinnet"]
    assert session.document.is_changed
    assert demo.files.opener.save(path)


@pytest.mark.parametrize("answer", [QMessageBox.StandardButton.No, QMessageBox.StandardButton.Yes])
def test_closing_asks_before_a_mat_that_is_being_cut_is_broken_off(demo, qtbot, monkeypatch, answer):
    control, asked = demo.cutter, []
    demo.session.document.saved = demo.session.job
    qtbot.waitUntil(lambda: control.load is not None and control.sheet_of(control.load) is not None, timeout=20_000)
    control.times = 1.0
    control.say_loaded()
    assert control.send()
    demo.session.document.saved = demo.session.job

    def question(parent, title, text, *buttons):
        asked.append(text)
        return answer

    monkeypatch.setattr(QMessageBox, "question", question)
    closed = demo.close()
    assert "is being cut" in asked[0]
    assert closed == (answer == QMessageBox.StandardButton.Yes)
    assert control.is_running or closed
    control.close()


@pytest.mark.long
def test_the_end_of_one_search_leaves_the_films_that_wait_their_turn(window, qtbot):
    window.session.show_document(demo_document())
    session = window.session
    session.nester.stop()
    nests = session.plan.nests
    assert len(nests) >= 2
    session.apply(set_copies(3))
    qtbot.waitUntil(lambda: session.nester.is_running, timeout=10_000)
    first = session.plan.nests[0]
    session.nester.settle(first.key)
    qtbot.waitUntil(lambda: session.plan.is_nested, timeout=60_000)


def test_a_nest_whose_worker_dies_keeps_plain_rows_says_so_and_is_written_down(window, qtbot, monkeypatch):
    from zinnet.nesting import running

    window.session.show_document(nested(document_of(LANTERN)))
    running._spares.dismiss()
    script = (
        "import sys; from zinnet.nesting import worker; "
        "worker.engine_nest = lambda *a: (_ for _ in ()).throw(RuntimeError('the engine broke')); worker.main()"
    )
    monkeypatch.setattr(workers, "child_command", lambda module: [sys.executable, "-c", script])
    window.session.apply(set_copies(4))
    qtbot.waitUntil(lambda: window.session.plan.is_nested, timeout=30_000)
    qtbot.waitUntil(lambda: not window.session.nester.is_running, timeout=30_000)
    assert "plain-nest" in [one.id for one in window.session.plan.findings]
    qtbot.waitUntil(lambda: "the engine broke" in log.log_file().read_text(), timeout=10_000)


def test_a_film_that_waits_for_its_other_side_is_not_nested_before_it(window, qtbot):
    nester, nests = window.session.nester, document_of(LANTERN).plan.nests
    first, second = nests[0], replace(nests[1], waits=True)
    nester.follow((first, second))
    qtbot.waitUntil(lambda: bool(nester._runs))
    assert set(nester._runs) == {first.key}
    assert not nester._waiting
    nester.follow((first, replace(second, waits=False)))
    qtbot.waitUntil(lambda: second.key in {*nester._runs, *nester._shown})
    nester.stop()
    assert not nester.is_running


def test_the_search_stands_back_for_what_is_seen_before_it_but_not_for_ever(window, qtbot):
    nester, nests = Nester(window), document_of(LANTERN).plan.nests
    nester._settle.setInterval(0)
    nester.stand_back(True)
    nester.follow(nests)
    qtbot.wait(50)
    assert nester.is_running
    assert not nester._runs
    nester.stand_back(False)
    qtbot.waitUntil(lambda: bool(nester._runs))
    nester.stop()
    nester._patience.setInterval(20)
    nester.stand_back(True)
    nester.follow(nests)
    qtbot.waitUntil(lambda: bool(nester._runs))
    nester.stop()


def test_the_end_of_one_search_keeps_its_best_and_no_other_ends(window, qtbot):
    nester, better = window.session.nester, {}
    first, second = document_of(LANTERN, set_copies(4)).plan.nests[:2]
    nester.better.connect(better.__setitem__)
    nester.follow((first, second))
    qtbot.waitUntil(lambda: {first.key, second.key} <= better.keys())
    nester.settle(first.key)
    assert first.key not in nester._runs
    assert better[first.key].unplaced == ()
    nester.settle("no such nest")
    nester.stop()


@pytest.mark.parametrize("words", ["the moon", "", "9 m"])
def test_a_finger_that_can_not_be_is_refused_and_the_habits_stay(window, words):
    said, before = [], window.session.workshop.habits
    window.session.said.connect(said.append)
    window.preferences.take_finger(words)
    assert said
    assert window.session.workshop.habits == before


def test_garbage_is_collected_in_the_windows_thread_and_in_no_other(qtbot):
    class Ring:
        pass

    where, owner = [], QObject()
    gc.enable()
    collecting = Collecting(owner)
    assert not gc.isenabled()

    def make_garbage():
        for _ in range(2 * gc.get_threshold()[0]):
            ring = Ring()
            ring.ring = ring
            weakref.finalize(ring, lambda: where.append(threading.get_ident()))

    worker = threading.Thread(target=make_garbage)
    worker.start()
    worker.join()
    assert where == []
    qtbot.waitUntil(lambda: bool(where))
    assert set(where) == {threading.get_ident()}
    assert collecting.parent() is owner
