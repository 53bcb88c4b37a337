"""Cutting in the real window: loading, the cutter at work, test cuts, the bench, and the files."""

import pytest
from PySide6.QtCore import Qt

from zinnet.demo import demo_document
from zinnet.job.edits import override_side, pass_finding
from zinnet.ui.stations.cut import CutStation
from zinnet.workshop.cutbook import CutBook


@pytest.fixture
def cut(window, qtbot):
    window.session.show_document(demo_document())
    window.go_to("cut")
    station = window.stations["cut"]
    assert isinstance(station, CutStation)
    control = station.control
    control.times = 400.0
    qtbot.waitUntil(lambda: control.load is not None and control.sheet_of(control.load) is not None, timeout=20_000)
    return station


def click(qtbot, button):
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)


def send_all(qtbot, control):
    control.say_loaded()
    assert control.send()
    qtbot.waitUntil(lambda: not control.is_running, timeout=30_000)


def test_every_mat_has_a_card_that_says_what_goes_where(cut, qtbot):
    page = cut.pages["loading"]
    assert len(page.buttons) == len(cut.control.loads) == len(cut.session.plan.loads) > 1
    assert page.side.text() == "Carrier down, film up"
    for word in ("12 x 12 in mat", "force 90 g", "typical, unsourced", "corner", "About"):
        assert word.lower() in page.lines.text().lower()
    click(qtbot, page.buttons[4])
    assert cut.control.load is cut.control.loads[4]
    assert "Amber" in page.lines.text()


def test_yes_on_the_card_of_a_mat_is_kept_goes_on_to_the_next_and_never_turns_into_no(cut, qtbot):
    page, session = cut.pages["loading"], cut.session
    for number in range(3):
        click(qtbot, page.yes)
        assert [load.is_loaded for load in cut.control.loads].count(True) == number + 1
        assert cut.control.load is cut.control.loads[number + 1]
    assert any("mat 4" in finding.measured for finding in session.plan.findings if finding.id == "loading-side")
    cut.control.choose(cut.control.loads[0])
    assert page.yes.text() == "Loaded; go on"
    click(qtbot, page.yes)
    assert cut.control.loads[0].is_loaded
    assert cut.control.load is cut.control.loads[3]
    session.undo()
    assert not cut.control.loads[2].is_loaded


def test_a_mat_that_is_not_loaded_after_all_is_said_so(cut, qtbot):
    page = cut.pages["loading"]
    assert page.no.isHidden()
    click(qtbot, page.yes)
    cut.control.choose(cut.control.loads[0])
    click(qtbot, page.no)
    assert not cut.control.loads[0].is_loaded


def test_the_settings_of_a_mat_are_confirmed_with_its_loading(cut, qtbot):
    page, session = cut.pages["loading"], cut.session
    changed = [load for load in cut.control.loads if load.settings_subject is not None]
    for _ in cut.control.loads:
        click(qtbot, page.yes)
    assert all(load.is_loaded for load in cut.control.loads)
    assert {load.settings_subject for load in changed} <= set(session.job.cutting.confirmed)
    assert not {"loading-side", "settings-changed"} & {finding.id for finding in session.plan.findings}


def test_nothing_is_sent_before_yes_and_then_all_of_it_and_the_books_follow(cut, qtbot):
    control, said = cut.control, []
    cut.session.said.connect(said.append)
    cut.show_page("cutter")
    page = cut.pages["cutter"]
    click(qtbot, page.send)
    assert "Confirm first how mat" in said[-1]
    assert not control.is_running
    first = control.load
    send_all(qtbot, control)
    assert first.key in control.finished
    assert control.load.key == first.key
    assert "Bend the mat" in page.said.text()
    assert not page.send.isVisible()
    assert not control.send()
    assert "cut already" in said[-1]
    click(qtbot, page.next)
    assert control.load.key != first.key
    qtbot.waitUntil(lambda: bool(cut.session.workshop.blades), timeout=10_000)
    assert cut.session.workshop.blades[0].metres > 1
    (entry,) = CutBook(cut.session.books.store).entries()
    assert entry.what == "cut"


@pytest.mark.long
def test_a_jam_is_said_with_what_is_in_doubt_and_the_rest_is_sent_after_a_look(cut, qtbot):
    control = cut.control
    cut.show_page("cutter")
    page = cut.pages["cutter"]
    load = control.load
    control.choose(load)
    control.failure = "jam"
    send_all(qtbot, control)
    assert control.run.report.state == "failed"
    broken = control.broken(load)
    assert broken.doubtful
    assert page.again.isVisible()
    assert not page.send.isVisible()
    assert all(name in page.said.text() for name in broken.doubtful)
    click(qtbot, page.leave)
    qtbot.waitUntil(lambda: not control.is_running, timeout=30_000)
    assert load.key in control.finished


def test_stop_ends_it_and_another_film_begins_anew(cut, qtbot):
    control = cut.control
    control.times = 1.0
    cut.show_page("cutter")
    page, load = cut.pages["cutter"], control.load
    control.choose(load)
    control.say_loaded()
    control.send()
    qtbot.waitUntil(lambda: control.run.sending.current is not None, timeout=10_000)
    qtbot.wait(200)
    click(qtbot, page.stop)
    qtbot.waitUntil(lambda: not control.is_running, timeout=3000)
    assert control.run.report.state == "stopped"
    click(qtbot, page.forget)
    assert control.broken(load) is None
    assert page.send.isVisible()


@pytest.mark.long
def test_pause_and_go_on(cut, qtbot):
    control = cut.control
    control.times = 20.0
    control.say_loaded()
    control.send()
    control.pause()
    qtbot.waitUntil(lambda: control.run.sending.state == "paused", timeout=10_000)
    control.pause()
    qtbot.waitUntil(lambda: not control.is_running, timeout=30_000)
    assert control.run.report.is_whole


def test_a_test_cut_is_tried_said_and_the_next_is_proposed(cut, qtbot):
    cut.show_page("trial")
    page = cut.pages["trial"]
    assert page.values["force"].text() == "90 g"
    assert "typical" in page.reason.text().lower()
    for tries in range(1, 9):
        page.try_it()
        seen = next(outcome for outcome in page.results if f": {outcome}." in page.seen.text())
        click(qtbot, page.results[seen])
        qtbot.waitUntil(lambda tries=tries: len(cut.session.workshop.tests) == tries, timeout=10_000)
        if seen == "clean":
            break
    assert cut.session.workshop.tests[-1].outcome == "clean"
    assert page.table.rowCount() == tries
    qtbot.waitUntil(lambda: "clean 1 of 1" in page.source.text().lower(), timeout=3000)
    warned = [finding for finding in cut.session.plan.findings if finding.id == "no-test-cut"]
    assert "Cream" not in warned[0].measured
    click(qtbot, page.undo)
    qtbot.waitUntil(lambda: len(cut.session.workshop.tests) == tries - 1, timeout=10_000)


def test_the_test_cut_is_sent_to_the_cutter_that_is_chosen(cut, window, qtbot):
    said = []
    cut.session.said.connect(said.append)
    cut.show_page("trial")
    page = cut.pages["trial"]
    cut.control.say_loaded()
    click(qtbot, page.cut)
    assert "no spot is kept" in said[-1]
    session = window.session
    session.document.saved = session.job
    window.files.open_demo("shelf")
    qtbot.waitUntil(lambda: window.session.has_artwork)
    qtbot.waitUntil(lambda: bool(session.workshop.stock) and session.plan.is_nested, timeout=20_000)
    click(qtbot, page.cut)
    assert "Confirm first how mat" in said[-1]
    cut.control.say_loaded()
    click(qtbot, page.cut)
    assert cut.control.run.is_test
    qtbot.waitUntil(lambda: not cut.control.is_running, timeout=20_000)
    assert "weed it" in said[-1]
    assert len(cut.control.stand_in.head.strokes) == 2
    assert not cut.control.finished


def test_settings_found_are_used_for_the_job_and_a_new_blade_is_counted(cut, qtbot):
    cut.show_page("trial")
    page = cut.pages["trial"]
    page.say("not through")
    qtbot.waitUntil(lambda: len(cut.session.workshop.tests) == 1, timeout=10_000)
    qtbot.waitUntil(lambda: page.values["force"].text() != "90 g", timeout=3000)
    click(qtbot, page.use)
    assert f"{cut.control.loads[0].settings.force_g:.0f} g" == page.values["force"].text()
    click(qtbot, page.new_blade)
    qtbot.waitUntil(lambda: "Blade 1" in page.blade.text(), timeout=10_000)


def test_the_bench_goes_from_yes_to_cut_to_the_next_mat_by_the_space_bar(cut, window, qtbot):
    control, bench = cut.control, window.benches["cut"]
    window.enter_bench()
    assert bench.isVisible()
    first = control.load
    control.choose(first)
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    assert control.load.is_loaded
    qtbot.waitUntil(lambda: control.sheet_of(control.load) is not None, timeout=10_000)
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    assert control.is_running
    qtbot.waitUntil(lambda: not control.is_running, timeout=30_000)
    assert first.key in control.finished
    bench.grab()
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    assert control.load.key != first.key
    qtbot.keyClick(bench, Qt.Key.Key_Backspace)
    assert control.load.key == first.key
    qtbot.keyClick(bench, Qt.Key.Key_F11)
    assert not bench.isVisible()
    assert window.station == "cut"


@pytest.mark.usefixtures("narrow_nests")
def test_no_way_of_the_window_sends_or_writes_a_wrong_side(cut, window, qtbot, tmp_path):
    session, said = cut.session, []
    session.said.connect(said.append)
    session.apply(override_side("cream", False, "I said so"))
    qtbot.waitUntil(lambda: session.plan.is_nested and not session.nester.is_running, timeout=60_000)
    control = cut.control
    load = next(load for load in control.loads if load.mats[0].nest.film.id == "cream")
    control.choose(load)
    qtbot.waitUntil(lambda: control.sheet_of(load) is not None, timeout=10_000)
    control.say_loaded()
    assert not control.send()
    assert "wrong-cut-side" in said[-1]
    window.enter_bench()
    qtbot.keyClick(window.benches["cut"], Qt.Key.Key_Space)
    assert not control.is_running
    window.leave_bench()
    session.exporter.export(session.plan, session.books.store, tmp_path / "out")
    qtbot.waitUntil(lambda: sum("wrong-cut-side" in text for text in said) >= 3, timeout=10_000)
    assert not (tmp_path / "out").exists()
    session.apply(pass_finding("wrong-cut-side", "the maker says so", "cream"))
    with qtbot.waitSignal(session.exporter.exported, timeout=60_000):
        session.exporter.export(session.plan, session.books.store, tmp_path / "out", ("svg",))
    assert list((tmp_path / "out").glob("*.svg"))


@pytest.mark.usefixtures("narrow_nests")
def test_the_sheet_sets_machine_knife_names_and_formats(cut, window, qtbot, tmp_path):
    sheet = window.properties.sheets["cut"]
    sheet.machine.setCurrentIndex(sheet.machine.findData("wide"))
    sheet.machine.activated.emit(sheet.machine.currentIndex())
    assert cut.session.plan.cutting.knife.offset_mm == 0.3
    assert sheet.offset.text() == "0.3 mm"
    assert "tip follows" in sheet.note.text()
    sheet.names.setText("{job}-{mat}")
    sheet.names.editingFinished.emit()
    assert cut.control.loads[0].stem == "Stewards-tees-Wrenfield-Lantern-Walk-01"
    for name, box in sheet.formats.items():
        box.setChecked(name == "dxf")
    with qtbot.waitSignal(cut.session.exporter.exported, timeout=60_000):
        cut.session.exporter.export(cut.session.plan, cut.session.books.store, tmp_path / "out", sheet.chosen_formats)
    assert len(list((tmp_path / "out").glob("*.dxf"))) == len(cut.session.plan.loads)


def test_without_artwork_the_pages_say_what_to_do(window, qtbot):
    window.go_to("cut")
    assert window.table.currentWidget() is window.empty
    assert "cutter" in window.empty.said.text()
    assert window.stations["cut"].control.load is None
    assert not window.stations["cut"].control.send()
