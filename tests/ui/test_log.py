"""The log in the real window: written down, judged, found, done again, and its numbers."""

import pytest
from PySide6.QtCore import Qt

from tests.helpers import RED_AND_BLUE, document_of, nested
from zinnet.demo import demo_document
from zinnet.pressing.hand_time import HandTime
from zinnet.ui.stations.log import LogStation
from zinnet.workshop.made import Made, MadeFilm
from zinnet.workshop.madebook import MadeBook
from zinnet.workshop.run_made import GarmentMade, PressMade, Recut, RunMade
from zinnet.workshop.store import WorkshopStore


@pytest.fixture
def log(window, qtbot, tmp_path):
    store = WorkshopStore(tmp_path / "workshop.sqlite")
    book = MadeBook(store)
    for month, title, film, verdict in ((4, "Caps", "cream", "good"), (5, "Bags", "amber", "spoiled")):
        films = (MadeFilm(film=film, used_mm2=50_000, waste_mm2=9_000 * month, school="s", heat_c=160, seconds=15),)
        at = f"2026-0{month}-10T18:00+00:00"
        book.record(
            Made(
                title=title, blank="Cap", garments=6, films=films, verdict=verdict, at=at, real_s=3600.0, note="parade"
            )
        )
    window.session.show_document(nested(document_of(RED_AND_BLUE)), store)
    settled(window, qtbot)
    window.go_to("log")
    station = window.stations["log"]
    assert isinstance(station, LogStation)
    return station


def settled(window, qtbot):
    qtbot.waitUntil(lambda: not window.session.background.is_busy, timeout=20_000)


def titles(station):
    table = station.entries.table
    return [table.item(row, 2).text() for row in range(table.rowCount())]


def test_entries_are_found_by_their_words(log, qtbot):
    assert titles(log) == ["Bags", "Caps"]
    qtbot.keyClicks(log.entries.search, "good parade")
    qtbot.waitUntil(lambda: titles(log) == ["Caps"], timeout=5_000)
    log.entries.search.clear()
    qtbot.waitUntil(lambda: len(titles(log)) == 2, timeout=5_000)


def test_a_job_is_written_down_judged_and_done_again(log, window, qtbot):
    page = log.entries
    qtbot.mouseClick(page.write, Qt.MouseButton.LeftButton)
    settled(window, qtbot)
    assert titles(log)[0] == window.session.job.title
    page.table.selectRow(0)
    page.verdict.setCurrentIndex(page.verdict.findData("usable"))
    page.verdict.activated.emit(page.verdict.currentIndex())
    settled(window, qtbot)
    page.table.selectRow(0)
    page.washes.setValue(4)
    settled(window, qtbot)
    entry = MadeBook(window.session.books.store).entries()[0]
    assert (entry.verdict, entry.washes) == ("usable", 4)
    page.table.selectRow(0)
    qtbot.mouseClick(page.again, Qt.MouseButton.LeftButton)
    settled(window, qtbot)
    assert window.session.job.title.endswith(", again")
    assert window.session.plan.is_nested
    assert window.station == "fit"
    window.session.document.saved = window.session.job


def test_an_entry_without_its_job_cannot_be_done_again(log):
    log.entries.table.selectRow(1)
    assert not log.entries.again.isEnabled()


def test_numbers_are_drawn_by_month_and_listed_by_film(log, qtbot):
    qtbot.keyClick(log, Qt.Key.Key_2)
    page = log.pages["numbers"]
    assert page.isVisible()
    assert [row[0] for row in page.waste.rows] == ["2026-04", "2026-05"]
    assert [row[1] for row in page.minutes.rows] == [10.0, 10.0]
    assert {page.table.item(row, 2).text() for row in range(page.table.rowCount())} == {"1 of 1", "0 of 1"}
    assert not page.waste.grab().isNull()


def test_an_empty_log_says_what_to_do(window):
    window.go_to("log")
    station = window.stations["log"]
    assert station.isVisible()
    assert "Nothing is written down yet" in station.entries.note.text()
    assert not station.entries.write.isEnabled()


def test_a_run_is_shown_garment_by_garment_and_teaches_the_pace(window, qtbot, tmp_path):
    press = PressMade(title="Press layer 1", planned_s=13, real_s=44)
    lost = GarmentMade(
        number=2,
        name="Tee 2",
        presses=(press,),
        spoiled="scorched",
        recut=(Recut(film="cream", piece="layer 1, Cream", width_mm=200, height_mm=90),),
    )
    run = RunMade(
        began="2026-11-30T10:00:00+00:00",
        ended="2026-11-30T11:00:00+00:00",
        who="Wren",
        planned_s=600,
        real_s=900,
        elapsed_s=1200,
        paused_s=300,
        garments=(GarmentMade(number=1, name="Tee 1", colour="spruce", presses=(press,), real_s=120), lost),
        hands=tuple(HandTime(usual_s=(("lay", 30.0),), real_s=42.0 + k) for k in range(6)),
    )
    store = WorkshopStore(tmp_path / "workshop.sqlite")
    MadeBook(store).record(Made(title="Stewards", blank="Tee", garments=2, run=run))
    window.session.show_document(demo_document(), store)
    qtbot.waitUntil(lambda: bool(window.session.workshop.made), timeout=20_000)
    window.go_to("log")
    page = window.stations["log"].pages["entries"]
    qtbot.waitUntil(lambda: page.garments.rowCount() == 2, timeout=20_000)
    assert "Wren" in page.run_said.text()
    assert "5 min paused" in page.run_said.text()
    assert page.garments.item(0, 3).text() == "44 of 13 s"
    assert page.garments.item(1, 4).text() == "lost: scorched; cut again: layer 1, Cream"
    assert page.table.item(0, 6).text() == "15 min"
    window.stations["log"].show_page("numbers")
    numbers = window.stations["log"].pages["numbers"]
    assert [numbers.paces.item(0, column).text() for column in range(5)] == ["lay", "30 s", "44 s", "43-46 s", "6"]
