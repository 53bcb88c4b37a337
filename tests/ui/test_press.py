"""Pressing in the real window: steps, positions, recipes, the timeline, and the bench."""

import pytest
from PySide6.QtCore import Qt

from tests.ui.conftest import move_mouse
from zinnet.bench.press_run import PressRun
from zinnet.demo import demo_document
from zinnet.job.edits import choose_recipe, set_blank
from zinnet.plan.in_hand import in_hand
from zinnet.ui.press.readings import Readings
from zinnet.ui.stations.press import PressStation
from zinnet.workshop.cutbook import CutBook
from zinnet.workshop.pressbook import PressBook
from zinnet.workshop.store import WorkshopStore


@pytest.fixture
def press(window, qtbot, tmp_path):
    window.session.show_document(demo_document(), WorkshopStore(tmp_path / "workshop.sqlite"))
    qtbot.waitUntil(lambda: not window.session.background.is_busy, timeout=20_000)
    window.go_to("press")
    station = window.stations["press"]
    assert isinstance(station, PressStation)
    return station


@pytest.fixture
def bench(press, window, qtbot):
    window.enter_bench()
    qtbot.waitUntil(lambda: press.control.run is not None, timeout=20_000)
    return window.benches["press"]


def key(qtbot, bench, which):
    qtbot.keyClick(bench, which)


def hurry(run):
    """Let all timers ring now."""
    for timer in run.timers.all:
        run.timers.add(timer.id, -timer.left_s(run.clock()) - 0.01)


def test_the_steps_are_listed_and_looked_at(press, qtbot):
    page = press.pages["steps"]
    assert page.list.count() == len(press.control.steps) == 17
    page.list.setCurrentRow(8)
    assert page.title.text() == "Tack layer 1, Cream"
    assert "160 °C, 6 s, firm pressure" in page.lines.text()
    qtbot.keyClick(page.list, Qt.Key.Key_Down)
    assert page.title.text() == "Let it cool 15 s"


def test_positions_say_where_the_platen_goes_and_the_map_how_long(press, qtbot):
    press.show_page("places")
    page = press.pages["places"]
    page.list.setCurrentRow(3)
    assert page.head.text() == "One position covers all"
    assert "on the centre line" in page.lines.text()
    assert "below the collar" in page.lines.text()
    qtbot.mouseClick(page.heat, Qt.MouseButton.LeftButton)
    assert page.shows_heat
    assert "90 s" in page.about.text()
    move_mouse(page.picture, page.picture.rect().center())
    qtbot.wait(20)
    qtbot.mouseClick(page.places, Qt.MouseButton.LeftButton)
    assert not page.shows_heat


def test_another_recipe_is_used_from_its_card_and_undone(press, qtbot):
    press.show_page("recipes")
    page = press.pages["recipes"]
    qtbot.mouseClick(page.uses["mint", "hot, peeled hot"], Qt.MouseButton.LeftButton)
    assert press.session.job.pressing.film("mint").school == "hot, peeled hot"
    assert max(step.heat.heat_c for step in press.control.press.presses) == pytest.approx(185)
    press.session.undo()
    assert press.session.job.pressing.film("mint") is None


def test_the_makers_sheet_is_typed_in_once_and_wins(press, qtbot):
    press.show_page("recipes")
    page, said = press.pages["recipes"], []
    press.session.said.connect(said.append)
    qtbot.mouseClick(page.keeps["mint"], Qt.MouseButton.LeftButton)
    assert "needs a heat and a time" in said[-1]
    page.fields["mint", "heat"].setText("305 F")
    page.fields["mint", "time"].setText("12-15")
    qtbot.mouseClick(page.keeps["mint"], Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: bool(press.session.workshop.recipes), timeout=20_000)
    assert press.control.press.offers["mint"][0].recipe.origin == "maker"
    assert len(PressBook(press.session.books.store).recipes()) == 1


def test_the_timeline_is_planned_beside_the_window(press, qtbot):
    press.show_page("timeline")
    page = press.pages["timeline"]
    qtbot.waitUntil(lambda: not press.control.is_planning and press.control.schedule is not None, timeout=40_000)
    assert page.total.text() == "22 min 48 s"
    assert "proven" in page.note.text()
    assert "A second person saves" in page.help.text()


@pytest.mark.long
def test_the_sheet_changes_school_covers_platen_and_hands(press, window):
    sheet = window.properties.sheets["press"]
    for combo, value, field in (
        (sheet.school, "full", "school"),
        (sheet.cover, "parchment", "cover"),
        (sheet.degrees, "F", "degrees"),
    ):
        combo.setCurrentIndex(combo.findData(value))
        combo.activated.emit(combo.currentIndex())
        assert getattr(window.session.job.pressing, field) == value
    sheet.people.setValue(2)
    assert window.session.job.pressing.people == 2
    assert window.session.job.pressing.together is None
    for index, value in ((1, True), (2, False), (0, None)):
        sheet.together.setCurrentIndex(index)
        sheet.together.activated.emit(index)
        assert window.session.job.pressing.together is value
    sheet.platen.setCurrentIndex(sheet.platen.findData("plate-5x5"))
    sheet.platen.activated.emit(sheet.platen.currentIndex())
    assert window.session.job.platen == "plate-5x5"
    assert any(finding.id == "platen-smaller" for finding in window.session.plan.findings)


def test_a_finding_of_pressing_leads_to_its_station(press, window):
    window.session.apply(set_blank("x", care_dots=2))
    window.go_to("fit")
    finding = next(one for one in window.session.plan.findings if one.id == "heat-untested")
    window.session.finding_shown.emit(finding)
    assert window.station == "press"


def test_the_bench_is_driven_by_the_space_bar_to_the_end_and_written_down(bench, press, qtbot):
    control, session = press.control, press.session
    run = control.run
    assert isinstance(run, PressRun)
    for _ in range(1000):
        if run.is_over:
            break
        hurry(run)
        key(qtbot, bench, Qt.Key.Key_Space)
    assert run.is_over
    assert not [one for one in session.plan.findings if one.id == "stray-film"]
    bench.repaint()
    key(qtbot, bench, Qt.Key.Key_Y)
    qtbot.waitUntil(lambda: session.job.pressing.pressed_at is not None, timeout=20_000)
    (entry,) = CutBook(session.books.store).entries()
    assert entry.what == "press"
    assert "Tee, adult M 4: press layer 2, amber and layer 3, mint" in entry.said
    assert {one.film for one in session.workshop.pressed} == {"cream", "amber", "mint"}
    assert any(finding.id == "too-fresh" for finding in session.plan.findings)


def test_nothing_is_heated_past_an_open_stop(bench, press, qtbot):
    run, said = press.control.run, []
    press.session.said.connect(said.append)
    press.session.apply(set_blank("x", fabric="acrylic"))
    while run.card.step.kind != "heat up":
        key(qtbot, bench, Qt.Key.Key_Space)
    key(qtbot, bench, Qt.Key.Key_Space)
    assert run.card.step.kind == "heat up"
    assert "stop is open" in said[-1]
    assert "A stop is open: hotter than the cloth bears" in bench.said()
    assert bench.keys.buttons["onward"].text() == "A stop is open"


def test_timers_ring_are_paused_and_survive_the_window(bench, press, qtbot, monkeypatch):
    rung = []
    monkeypatch.setattr("zinnet.ui.press.sound.ring", lambda tone: rung.append(tone))
    run, control = press.control.run, press.control
    while run.card.step.kind != "preheat":
        key(qtbot, bench, Qt.Key.Key_Space)
    key(qtbot, bench, Qt.Key.Key_Space)
    assert len(run.timers.all) == 1
    key(qtbot, bench, Qt.Key.Key_P)
    assert run.timers.all[0].since is None
    key(qtbot, bench, Qt.Key.Key_P)
    key(qtbot, bench, Qt.Key.Key_Plus)
    assert run.timers.all[0].seconds == 20
    again = PressRun(run.cards, press.session.state_folder)
    assert [timer.id for timer in again.timers.all] == [timer.id for timer in run.timers.all]
    hurry(run)
    qtbot.waitUntil(lambda: bool(rung), timeout=5000)
    bench.repaint()
    key(qtbot, bench, Qt.Key.Key_H)
    assert control.stand_in is not None
    while run.card.step.kind != "press":
        key(qtbot, bench, Qt.Key.Key_Space)
    key(qtbot, bench, Qt.Key.Key_Space)
    assert not control.stand_in.is_shut
    assert run.timer(run.card) is None
    control.stand_in.advance(300)
    while not control.stand_in.is_ready:
        control.stand_in.advance(5)
    bench.repaint()
    qtbot.mouseClick(bench.view, Qt.MouseButton.LeftButton, pos=bench.view._display.center().toPoint())
    assert control.stand_in.is_shut
    assert run.timer(run.card) is not None
    card = run.card
    bench.repaint()
    qtbot.mouseClick(bench.view, Qt.MouseButton.LeftButton, pos=bench.view._display.center().toPoint())
    assert not control.stand_in.is_shut
    assert run.card is not card
    key(qtbot, bench, Qt.Key.Key_Backspace)
    key(qtbot, bench, Qt.Key.Key_F11)
    assert press.isVisible()


def test_film_that_lifts_gets_a_timer_of_its_own(bench, press, qtbot):
    run = press.control.run
    while run.card.step.kind != "peel":
        hurry(run)
        key(qtbot, bench, Qt.Key.Key_Space)
    key(qtbot, bench, Qt.Key.Key_L)
    assert any(timer.id.endswith("-again") for timer in run.timers.all)
    hurry(run)
    bench.repaint()
    key(qtbot, bench, Qt.Key.Key_D)
    assert not any(timer.id.endswith("-again") for timer in run.timers.all)


def test_an_empty_table_says_what_to_do(window, qtbot):
    window.go_to("press")
    control = window.stations["press"].control
    assert control.steps == () or all(step.heat is None for step in control.steps)
    control.plan_schedule()
    assert control.schedule is None
    window.enter_bench()
    assert window.middle.currentIndex() == 0


def test_a_chosen_recipe_shows_in_the_steps(press):
    press.session.apply(choose_recipe("mint", school="low and long"))
    assert "30 s" in " ".join(line for step in press.control.steps for line in step.lines)


def test_the_rest_is_planned_anew_from_where_one_is(bench, press, qtbot):
    run, said = press.control.run, []
    press.session.said.connect(said.append)
    for _ in range(9):
        hurry(run)
        key(qtbot, bench, Qt.Key.Key_Space)
    at, ids = run.at, sorted(card.id for card in run.cards)
    key(qtbot, bench, Qt.Key.Key_R)
    qtbot.waitUntil(lambda: any("Planned anew" in one for one in said), timeout=20_000)
    assert run.at == at
    assert sorted(card.id for card in run.cards) == ids


def test_each_name_is_told_on_its_own_cards_with_lengths_of_its_own_words(window, qtbot):
    window.session.show_document(demo_document(name="names"))
    window.go_to("press")
    window.enter_bench()
    bench, control = window.middle.currentWidget(), window.press
    qtbot.waitUntil(lambda: control.run is not None and bool(control.run.cards))
    run, told = control.run, {}
    for at, card in enumerate(run.cards):
        if card.hand is not None:
            run.at = at
            control.changed.emit()
            assert not bench.grab().isNull()
            told[card.garment] = bench.accessibleDescription()
    named = window.session.plan.named
    assert len(told) == sum(one.names.count for one in named)
    for one in named:
        mine = next(said for garment, said in told.items() if garment.startswith(f"{one.number}: {one.words}"))
        card = next(card for card in run.cards if card.hand and card.garment.startswith(f"{one.number}: "))
        letter, length, goes = in_hand(card).rows("mm")[1]
        assert f"{letter}: {length} {goes}" in mine
    widths = {said.partition("B: ")[2].partition(" mm")[0] for said in told.values()}
    assert len(widths) > len(named) / 2


def test_a_piece_is_measured_at_the_bench_and_the_next_follows(bench, press, qtbot, monkeypatch):
    run = press.control.run
    while run.card.hand is None:
        hurry(run)
        key(qtbot, bench, Qt.Key.Key_Space)
    hurry(run)
    first = run.card
    planned = [length for _, length, _ in bench.view.words.hand(first).rows("mm")]
    texts = iter([["nonsense", "", "", ""], ["", planned[1].replace(" mm", "") + "+9", "", ""], None])

    def typed(dialog):
        for fields in (next(texts), next(texts)):
            for field, text in zip(dialog.fields, fields, strict=True):
                field.setText(text)
            dialog.accept()
            assert dialog.slip is None
            assert len(dialog.wrong.text()) > 20
        left, right = (float(planned[number].removesuffix(" mm")) for number in (1, 2))
        for field, text in zip(dialog.fields, ["", f"{left + 2:.1f}", f"{right - 2:.1f} mm", ""], strict=True):
            field.setText(text)
        dialog.accept()
        return dialog.result()

    monkeypatch.setattr(Readings, "exec", typed)
    key(qtbot, bench, Qt.Key.Key_M)
    (slip,) = run.slips_of(run.cards[run.at + 2]).values()
    assert (slip.right_mm, slip.down_mm) == (pytest.approx(2.0, abs=0.2), pytest.approx(0.0, abs=0.2))
    before = in_hand(run.cards[run.at + 2]).rows("mm")
    run.at += 2
    assert bench.view.words.hand(run.card).rows("mm") != before
    assert "follows what slipped" in bench.said()
