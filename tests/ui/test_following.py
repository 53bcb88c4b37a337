"""The plan follows the job beside the window: the picture first, a newer edit in place of older work."""

import threading

import pytest
from PySide6.QtCore import QPoint, Qt

from tests.helpers import RED_AND_BLUE, document_of
from tests.ui.conftest import move_mouse
from zinnet.base.errors import ZinnetError
from zinnet.job.edits import Edit, choose_film, set_copies, set_placement, set_title
from zinnet.plan import derive as pipeline

pytestmark = pytest.mark.beside


class Gate:
    """Holds the end of every derivation beside the window until it is opened, and counts them."""

    def __init__(self, monkeypatch):
        self.open = threading.Event()
        self.begun = self.ended = 0
        usual = pipeline.find

        def find(plan):
            self.begun += 1
            assert self.open.wait(60)
            found = usual(plan)
            self.ended += 1
            return found

        monkeypatch.setattr(pipeline, "find", find)


@pytest.fixture
def fit(window):
    window.session.show_document(document_of(RED_AND_BLUE))
    window.session.nester.stop()
    window.session.nester.hold(True)  # a nest that is found would be another plan
    window.go_to("fit")
    return window


@pytest.fixture
def gate(fit, monkeypatch):
    found = Gate(monkeypatch)
    yield found
    found.open.set()


def followed(qtbot, window):
    session = window.session
    qtbot.waitUntil(lambda: not (session.is_working or session.background.turns.is_waiting))


def test_the_picture_moves_at_once_and_the_plan_comes_after(fit, gate, qtbot):
    session, before = fit.session, fit.session.plan
    there = fit.view.placement.from_centre_mm
    qtbot.keyClick(fit.view, Qt.Key.Key_Right)
    assert fit.view.placement.from_centre_mm == pytest.approx(there + 1)
    assert session.plan is before
    assert session.is_working
    assert fit.findings.counts.text() == "checking ..."
    qtbot.waitUntil(lambda: fit.dimmed.is_dim)
    qtbot.waitUntil(lambda: session.selection.ahead is not None)
    assert fit.view.placement.from_centre_mm == pytest.approx(there + 1)
    assert session.plan is before
    gate.open.set()
    followed(qtbot, fit)
    assert session.plan.job == session.job
    assert fit.view.placement.from_centre_mm == pytest.approx(there + 1)
    assert fit.findings.counts.text() != "checking ..."
    assert not fit.dimmed.is_dim


def test_steps_of_the_keyboard_add_up_however_fast_they_come(fit, qtbot):
    there, wide = fit.view.placement.from_centre_mm, 123.0
    fit.view.held.set_width(wide)
    for _ in range(7):
        qtbot.keyClick(fit.view, Qt.Key.Key_Left)
    followed(qtbot, fit)
    placement = fit.session.plan.garments[0].designs[0].placement
    assert placement.from_centre_mm == pytest.approx(there - 7)
    assert placement.width_mm == pytest.approx(wide)


def test_a_width_is_drawn_before_it_is_worked_out(fit, gate):
    old = fit.session.selection.design.word_width_mm
    fit.view.held.set_width(old / 2)
    drawn = fit.view.placement.corners
    assert fit.view.held.width_mm == pytest.approx(old / 2)
    assert drawn[1][0] - drawn[0][0] == pytest.approx(old / 2)
    gate.open.set()


def test_the_sheet_says_what_the_picture_shows(fit, gate, qtbot):
    fit.view.held.set_width(90.0)
    qtbot.waitUntil(lambda: fit.session.selection.ahead is not None)
    assert fit.properties.sheets["fit"].width_field.text() == "90 mm"
    gate.open.set()


def test_what_is_taken_hold_of_in_haste_keeps_its_new_width(fit, gate, qtbot):
    wide = fit.session.selection.design.word_width_mm * 0.8
    fit.view.held.set_width(wide)
    at = fit.view.to_pixels(*fit.view.placement.centre).toPoint()
    qtbot.mousePress(fit.view, Qt.MouseButton.LeftButton, pos=at)
    for step in range(1, 4):
        move_mouse(fit.view, at + QPoint(10 * step, 0), Qt.MouseButton.LeftButton)
    qtbot.mouseRelease(fit.view, Qt.MouseButton.LeftButton, pos=at + QPoint(30, 0))
    gate.open.set()
    followed(qtbot, fit)
    assert fit.session.plan.garments[0].designs[0].placement.width_mm == pytest.approx(wide)


def test_a_newer_edit_ends_older_work(fit, gate, qtbot):
    session = fit.session
    for number in range(1, 6):
        session.apply(set_placement("x", merge="x", from_centre_mm=float(number)))
    gate.open.set()
    followed(qtbot, fit)
    assert session.plan.garments[0].designs[0].placement.from_centre_mm == pytest.approx(5.0)
    assert gate.begun <= 2, "the first and the last, nothing between"


def test_what_the_plan_refuses_is_taken_back_and_said(fit, gate, qtbot, monkeypatch):
    session, before, said = fit.session, fit.session.job, []
    session.said.connect(said.append)
    monkeypatch.setattr(pipeline, "find", lambda plan: (_ for _ in ()).throw(ZinnetError("That can't be cut.")))
    session.apply(set_copies(9))
    session.apply(set_title("nine of them"))
    followed(qtbot, fit)
    qtbot.waitUntil(lambda: said[-1:] == ["That can't be cut."])
    assert session.job == session.plan.job == before
    assert session.document.undo_name == "open test.svg"


def test_what_is_refused_is_drawn_where_it_was(fit):
    before = fit.view.placement.corners
    assert not fit.session.set_fit("x", width_mm=-4.0)
    assert fit.view.placement.corners == before


def test_another_job_that_is_opened_meanwhile_is_shown_as_it_is(fit, gate, qtbot, monkeypatch, tmp_path):
    session, written = fit.session, []
    session.apply(set_copies(5))
    session.following.when_followed(lambda: written.append(session.job.copies))
    qtbot.waitUntil(lambda: fit.dimmed.is_dim)
    gate.open.set()
    session.show_document(document_of(RED_AND_BLUE))
    qtbot.waitUntil(lambda: not session.background.is_busy)
    assert session.job.copies == session.plan.job.copies == 1
    assert not fit.dimmed.is_dim
    assert fit.findings.counts.text() != "checking ..."
    assert written == [], "what was meant for the other job is not done with this one"


def test_what_the_edit_refuses_changes_nothing(fit, qtbot):
    session, before, said = fit.session, fit.session.job, []
    session.said.connect(said.append)

    def refuse(job):
        raise ZinnetError("No.")

    assert not session.apply(Edit("refused", refuse))
    assert said == ["No."]
    assert session.job is before


def test_undo_goes_back_over_what_was_done_in_haste(fit, gate, qtbot):
    session, before = fit.session, fit.session.job
    session.apply(set_copies(2))
    session.apply(set_title("two of them"))
    session.apply(set_placement("x", from_centre_mm=4.0))
    session.undo()
    session.undo()
    assert (session.job.copies, session.job.title) == (2, before.title)
    session.redo()
    assert session.job.title == "two of them"
    gate.open.set()
    followed(qtbot, fit)
    assert session.plan.job.title == "two of them"
    session.undo()
    session.undo()
    followed(qtbot, fit)
    assert session.plan.job == before


def test_undo_of_a_design_is_worked_out_beside_too(fit, gate, qtbot):
    session = fit.session
    session.undo()
    assert len(session.job.designs) == 1
    gate.open.set()
    followed(qtbot, fit)
    assert session.job.designs == ()
    session.redo()
    followed(qtbot, fit)
    assert len(session.plan.garments[0].designs) == 1


def test_files_are_written_of_the_job_as_it_is(fit, gate, qtbot, monkeypatch, tmp_path):
    session, written = fit.session, []
    monkeypatch.setattr(session.exporter, "export", lambda plan, *rest: written.append(plan.job.copies))
    monkeypatch.setattr("zinnet.ui.job_files.QFileDialog.getExistingDirectory", lambda *a: str(tmp_path))
    session.apply(set_copies(5))
    fit.files.choose_export(("svg",))
    assert written == []
    gate.open.set()
    followed(qtbot, fit)
    assert written == [5]


def test_another_film_is_seen_before_its_findings(fit, gate, qtbot):
    session, before = fit.session, fit.session.plan
    colour = session.selection.stack.in_press_order[0].layer.colour
    session.apply(choose_film(colour, "moss-flock"))
    qtbot.waitUntil(lambda: "moss-flock" in [row.film.id for row in session.selection.stack.in_press_order])
    assert session.plan is before
    gate.open.set()
    followed(qtbot, fit)
    assert session.plan is not before


def test_a_design_that_goes_waits_for_its_plan(fit, gate, qtbot):
    from zinnet.job.edits import remove_design

    session = fit.session
    session.apply(remove_design(0))
    assert len(session.job.designs) == 1, "what shows designs by their number never sees one that is not there"
    gate.open.set()
    followed(qtbot, fit)
    assert session.job.designs == ()
