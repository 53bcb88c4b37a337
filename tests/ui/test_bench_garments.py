"""The press's bench beyond the next card: large keys, garments swapped, lost, added, what is missing, the record."""

import pytest
from PySide6.QtCore import Qt

from tests.hand_clock import HandClock
from zinnet.demo import demo_document
from zinnet.job.edits import set_copies, set_pressing
from zinnet.plan.in_hand import looks_like_another
from zinnet.plan.press_cards import quick_cards
from zinnet.plan.run_garments import run_presses
from zinnet.pressing.schedule.tasks import team_of
from zinnet.ui.press import sound, voice
from zinnet.ui.press.cut_again import CutAgainDialog
from zinnet.ui.press.garments_list import GarmentsList
from zinnet.ui.window import MainWindow
from zinnet.workshop.madebook import MadeBook
from zinnet.workshop.store import WorkshopStore


@pytest.fixture
def named(window, qtbot, tmp_path):
    return at_bench(window, qtbot, tmp_path, "names")


@pytest.fixture
def stewards(window, qtbot, tmp_path):
    return at_bench(window, qtbot, tmp_path, "stewards")


def at_bench(window: MainWindow, qtbot, tmp_path, name):
    window.session.show_document(demo_document(name=name), WorkshopStore(tmp_path / "workshop.sqlite"))
    qtbot.waitUntil(lambda: not window.session.background.is_busy, timeout=60_000)
    window.go_to("press")
    window.press.clock = HandClock()
    window.enter_bench()
    qtbot.waitUntil(lambda: window.press.run is not None and bool(window.press.run.cards), timeout=60_000)
    return window.benches["press"]


def go_to(bench, wanted):
    """Press the large key until a card is due, time going by as the cards ask."""
    run = bench.control.run
    for _ in range(800):
        if run.card is None or wanted(run.card):
            return run.card
        waits = run.awaited(run.card) or run.timer(run.card)
        if waits is not None and waits.left_s(run.clock()) > 0:
            run.clock.later(waits.left_s(run.clock()))
        run.clock.later(5.0)
        (bench._yes if run.card.step.gate else bench.go_on)()
    raise AssertionError("it never comes")


def test_two_names_are_swapped_and_the_list_the_cards_and_the_log_follow(named, qtbot):
    """Each card says its own words before and after; the list has them in the new order."""
    run = named.control.run
    dialog = GarmentsList(named, named.control)
    qtbot.addWidget(dialog)
    rows = [dialog.list.item(row).text() for row in range(dialog.list.count())]
    assert len(rows) == len(named.control.session.plan.named)
    first, second = dialog.states[0], dialog.states[1]
    dialog.list.setCurrentRow(0)
    dialog.buttons["later"].click()
    assert [one.number for one in dialog.states[:2]] == [second.number, first.number]
    assert second.name in dialog.list.item(0).text()
    assert first.name in dialog.list.item(1).text()
    seen = []
    for _ in range(2):
        number = seen[-1][0] if seen else None
        card = go_to(named, lambda card, number=number: card.hand is not None and card.number != number)
        words = card.garment.split(":")[1].split(",")[0].strip()
        named._follow()
        assert words in named.said()
        assert words in named.view.words.head(card)
        assert named.view.words.hand(card).piece.region.equals(card.press.works[0].pieces[0].region)
        seen.append((card.number, words))
    assert [number for number, _ in seen] == [second.number, first.number]
    assert second.name.split(":")[1].strip().startswith(seen[0][1])
    assert run.cards[run.at].number == first.number


def stewards_cards():
    """Return the cards of tees of one size: all their pieces are the very same."""
    return quick_cards(run_presses(demo_document(name="tees").plan), team_of(1, 1, 4))


def test_the_key_names_what_is_in_hand_where_two_look_alike(named, qtbot):
    """Names are taken for one another; a moth of which all are the very same is not."""
    run = named.control.run
    go_to(named, lambda card: card.hand is not None and card.seconds > 0)
    words = named.view.words
    alike = [one for one in run.cards if one.hand is not None and looks_like_another(one, run.cards)]
    assert alike
    for one in alike:
        if one.seconds:
            assert words.onward(one) in (f"No. {one.number}: shut the press", "Wait for the timer")
    moths = stewards_cards()
    assert not any(looks_like_another(one, moths) for one in moths)


def test_a_garment_is_lost_with_its_film_named_and_one_more_is_made(stewards, qtbot, tmp_path):
    run, control = stewards.control.run, stewards.control
    go_to(stewards, lambda card: card.number == 1 and card.step.kind == "peel")
    dialog = CutAgainDialog.of_lost(stewards, control, run.planned[2].press, run.lost_of(1), "Tee 1")
    qtbot.addWidget(dialog)
    qtbot.waitUntil(lambda: len(dialog.found) == len(run.lost_of(1)), timeout=60_000)
    assert all(found.said in dialog.list.item(row).text() for row, found in enumerate(dialog.found.values()))
    dialog.reason.setCurrentText("fell off the table")
    dialog.write(str(tmp_path / "out"))
    assert {path.suffix for path in (tmp_path / "out").iterdir()} == {".svg", ".plt"}
    run.spoil(1, dialog.what, again=dialog.again.isChecked())
    listed = GarmentsList(stewards, control)
    qtbot.addWidget(listed)
    states = {one.number: one for one in listed.states}
    assert states[1].state == "lost: fell off the table"
    assert any(name.endswith(", again") for name in (one.name for one in listed.states))
    listed.list.setCurrentRow([one.number for one in listed.states].index(1))
    assert not listed.buttons["lost"].isEnabled()
    for button in ("aside", "now", "more"):
        listed.list.setCurrentRow([one.number for one in listed.states].index(3))
        listed.buttons[button].click()
    assert run.card.number == 3


def test_after_the_stand_ins_run_the_log_has_a_line_a_garment_with_real_times(window, qtbot, tmp_path):
    """Half a minute too long at one press is in the log within a second; the lost garment with its recut, too."""
    bench = at_bench(window, qtbot, tmp_path, "tees")
    control, run = bench.control, bench.control.run
    control.habits.who = "Wren"
    bench._use_stand_in()
    control.stand_in.advance(900)
    real = {}
    while not run.is_over:
        card = run.card
        waits = run.awaited(card)
        if waits is not None:
            run.clock.later(max(0.0, waits.left_s(run.clock())))
        run.clock.later(4.0)
        control.stand_in.advance(400)
        if card.step.kind == "press" and run.timer(card) is None:
            if control.stand_in.is_shut:
                control.pull_handle()
                assert run.card is card, "it was opened after the preheat, no more"
            control.pull_handle()
            if not control.stand_in.is_shut:  # it is set to another heat, and warms up
                control.stand_in.advance(600)
                control.pull_handle()
            assert control.stand_in.is_shut
            shut = card.seconds + (30.0 if not real else 0.3)
            run.clock.later(shut)
            real.setdefault(card.number, []).append(shut)
            control.pull_handle()
            assert not control.stand_in.is_shut
        elif card.number == 2 and card.step.kind == "peel" and 2 not in run.spoiled:
            run.spoil(2, "scorched", again=True)
        else:
            bench.go_on()
    bench._yes()
    qtbot.waitUntil(lambda: bool(window.session.workshop.made), timeout=60_000)
    (entry,) = MadeBook(window.session.books.store).entries()
    assert entry.run.who == "Wren"
    assert entry.verdict == "usable"
    assert len(entry.run.garments) == 5
    for line in entry.run.garments:
        shut = [one.real_s for one in line.presses if not one.title.startswith("Preheat")]
        assert shut == pytest.approx(real[line.number], abs=1.0)
    lost = next(line for line in entry.run.garments if line.number == 2)
    assert lost.spoiled == "scorched"
    assert lost.recut


def test_a_presenters_keys_and_the_large_keys_do_what_the_space_bar_does(stewards, qtbot):
    run = stewards.control.run
    qtbot.keyClick(stewards, Qt.Key.Key_PageDown)
    assert run.at == 1
    qtbot.keyClick(stewards, Qt.Key.Key_PageUp)
    assert run.at == 0
    button = stewards.keys.buttons["onward"]
    assert button.width() >= 210
    assert button.height() >= 60
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    assert run.at == 1
    assert not stewards.keys.buttons["lifts"].isVisible()
    go_to(stewards, lambda card: card.step.kind == "peel")
    stewards._follow()
    assert stewards.keys.buttons["lifts"].isVisible()
    qtbot.keyClick(stewards, Qt.Key.Key_L)
    assert any(timer.id.endswith("-again") for timer in run.timers.all)
    qtbot.keyClick(stewards, Qt.Key.Key_D)
    at = run.at
    qtbot.keyClick(stewards, Qt.Key.Key_S)
    assert run.at == at + 1


def test_what_is_missing_at_the_dry_fit_is_cut_again(stewards, qtbot, monkeypatch):
    card = go_to(stewards, lambda card: card.dry_fit is not None)
    stewards._follow()
    assert stewards.keys.buttons["missing"].isVisible()
    laid = stewards.view.words.laid_out(card)
    assert all(said in stewards.said() for _, said in laid.fit.rows)
    assert any("pieces" in said for _, said in laid.fit.rows)
    shown = []
    monkeypatch.setattr(CutAgainDialog, "exec", lambda dialog: shown.append(dialog.list.count()))
    qtbot.keyClick(stewards, Qt.Key.Key_X)
    assert shown == [len(laid.fit.pieces)]


def test_cards_are_spoken_and_the_tone_is_chosen(stewards, monkeypatch):
    spoken, rung = [], []
    monkeypatch.setattr(voice, "say", spoken.append)
    monkeypatch.setattr(sound, "ring", rung.append)
    habits = stewards.control.habits
    habits.is_spoken, habits.tone = True, "a low gong"
    card = go_to(stewards, lambda card: card.hand is not None and card.ends_with_step)
    stewards._spoken = ""
    stewards._follow()
    assert card.title in spoken[-1]
    run = stewards.control.run
    run.clock.later(60)
    stewards.go_on()
    run.clock.later(60)
    stewards.control._tick()
    assert spoken[-1] == "Open now"
    assert rung[-1] == "a low gong"
    menu = stewards.more.menu()
    assert [action.text() for action in menu.actions() if "Leave" in action.text()]


def test_two_people_have_cards_side_by_side_each_with_a_key(window, qtbot, tmp_path):
    window.session.show_document(demo_document(name="tees"), WorkshopStore(tmp_path / "workshop.sqlite"))
    window.session.apply(set_pressing("people", people=2))
    qtbot.waitUntil(lambda: not window.session.background.is_busy, timeout=60_000)
    window.go_to("press")
    window.press.clock = HandClock()
    window.enter_bench()
    qtbot.waitUntil(lambda: window.press.run is not None and bool(window.press.run.cards), timeout=60_000)
    bench, control = window.benches["press"], window.press
    run, by_second = control.run, 0
    for _ in range(2000):
        if run.is_over:
            break
        run.clock.later(3.0)
        bench._follow()
        beside, due = control.beside, run.card
        assert bench.second_side.isVisible() == (beside is not None)
        if beside is not None:
            assert beside.number != due.number
            at = run.at
            qtbot.keyClick(bench, Qt.Key.Key_Return)
            by_second += run.at > at
            assert run.card is due
            assert bench.width() <= 1280
        qtbot.keyClick(bench, Qt.Key.Key_Y if due.step.gate else Qt.Key.Key_Space)
        if beside is not None and control.beside is not None:
            bench.repaint()
    assert run.is_over
    assert by_second > 8


def test_a_job_that_was_changed_during_its_run_says_that_the_cards_begin_anew(stewards, window, qtbot):
    run, said = stewards.control.run, []
    go_to(stewards, lambda card: card.number == 1 and card.step.kind == "peel")
    window.session.said.connect(said.append)
    stewards.end()
    window.enter_bench()
    qtbot.waitUntil(lambda: stewards.control.run is not None, timeout=60_000)
    assert stewards.control.run.at == run.at
    assert not said
    stewards.end()
    window.session.apply(set_copies(5))
    qtbot.waitUntil(lambda: not window.session.background.is_busy, timeout=60_000)
    window.enter_bench()
    qtbot.waitUntil(lambda: stewards.control.run is not None and stewards.control.run.key != run.key, timeout=60_000)
    assert stewards.control.run.at == 0
    assert any("begin anew" in one for one in said)
