"""The table, its rule, its tags and its panels: by mouse, wheel and keys."""

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QApplication, QInputDialog

from tests.helpers import first_of
from tests.ui.conftest import move_mouse
from tests.ui.test_window import ids, length_named
from zinnet.job.edits import override_side, set_placement, set_unit
from zinnet.plan.findings.levels import LEVELS
from zinnet.ui.findings_panel import NAMES
from zinnet.ui.tags import STATIONS
from zinnet.ui.theme import DAYLIGHT, NIGHT, use_theme


def wheel(view, at, steps):
    event = QWheelEvent(
        at,
        view.mapToGlobal(at),
        QPoint(0, 0),
        QPoint(0, 120 * steps),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(view, event)


def test_the_wheel_zooms_about_the_pointer_and_home_shows_all(demo, qtbot):
    view, at = demo.view, QPointF(300, 300)
    fitted, spot = view.pixels_per_mm, view.to_mm(at)
    wheel(view, at, 2)
    assert view.pixels_per_mm == pytest.approx(fitted * 1.44)
    assert (view.to_mm(at) - spot).manhattanLength() < 1e-6
    qtbot.keyClick(view, Qt.Key.Key_Minus)
    assert view.pixels_per_mm == pytest.approx(fitted * 1.2)
    qtbot.keyClick(view, Qt.Key.Key_Home)
    assert view.pixels_per_mm == pytest.approx(fitted)


def test_the_scale_has_limits(demo):
    view = demo.view
    for steps in (-90, 90):
        wheel(view, QPointF(200, 200), steps)
        assert 0.04 < view.pixels_per_mm < 41


def test_the_middle_button_shifts_the_view(demo, qtbot):
    view = demo.view
    before = view.to_mm(QPointF(100, 100))
    qtbot.mousePress(view, Qt.MouseButton.MiddleButton, pos=QPoint(100, 100))
    move_mouse(view, QPoint(140, 130), Qt.MouseButton.MiddleButton)
    qtbot.mouseRelease(view, Qt.MouseButton.MiddleButton, pos=QPoint(140, 130))
    after = view.to_mm(QPointF(140, 130))
    assert (after - before).manhattanLength() < 1


def test_life_size_is_by_the_screens_own_dots(demo):
    demo.view.life_size()
    assert demo.view.pixels_per_mm == pytest.approx(demo.view.screen().physicalDotsPerInch() / 25.4)


def test_f2_goes_from_one_length_to_the_next_and_escape_leaves(demo, qtbot):
    demo.go_to("measure")
    view = demo.view
    view.repaint()
    names = []
    for _ in range(len(view.lengths) + 1):
        qtbot.keyClick(view, Qt.Key.Key_F2)
        names.append(view.editor.accessibleName())
    assert names[0] == names[-1]
    assert len(set(names)) == len(view.lengths)
    qtbot.keyClick(view, Qt.Key.Key_Escape)
    assert view.editor is None


def test_a_length_may_be_typed_with_arithmetic_in_any_unit(demo, qtbot):
    view = demo.view
    qtbot.mouseClick(
        view, Qt.MouseButton.LeftButton, pos=length_named(view, "Width of the artwork").card.center().toPoint()
    )
    view.editor.setText("(8in - 1 cm) / 2")
    qtbot.keyClick(view.editor, Qt.Key.Key_Return)
    assert first_of(demo.session.plan).placement.width_mm == pytest.approx(96.6)


def test_the_rule_says_where_the_pointer_is_from_the_places_own_reference(demo, qtbot):
    view = demo.view
    x, y = first_of(demo.session.plan).placement.reference
    view.pointer_moved.emit(QPointF(x + 12, y + 30))
    assert demo.rule.in_words() == "12 mm right of centre · 30 mm below the collar"
    view.pointer_moved.emit(QPointF(x - 25.4, y - 12.7))
    demo.session.apply(set_unit("in"))
    assert demo.rule.in_words() == "1 in left of centre · 1/2 in above the collar"
    view.pointer_moved.emit(None)
    assert demo.rule.in_words() == ""
    demo.go_to("nest")
    demo.view.pointer_moved.emit(QPointF(10, 20))
    assert "across" in demo.rule.in_words()


def test_the_rule_is_painted_at_every_scale_and_in_both_units(demo):
    pictures = set()
    for unit in ("mm", "in"):
        demo.session.apply(set_unit(unit))
        for scale in (0.06, 0.4, 2.0, 20.0):
            demo.view.zoom_to(scale)
            pictures.add(demo.rule.grab().toImage().cacheKey())
    assert len(pictures) == 8


def test_tags_are_reached_with_the_keyboard_and_count_findings(demo, qtbot):
    demo.session.apply(set_placement("x", turn_deg=9.0))
    for number, (station, _) in enumerate(STATIONS, start=1):
        qtbot.keyClick(demo, str(number), Qt.KeyboardModifier.ControlModifier)
        tag = demo.tags.tags[station]
        tag.setFocus()
        qtbot.keyClick(tag, Qt.Key.Key_Space)
        assert demo.station == station
        assert tag.selected
    counts = demo.tags.tags["fit"].counts
    assert counts["warn"] == sum(f.station == "fit" and f.level == "warn" for f in demo.session.plan.findings) >= 1


def test_a_stop_is_passed_with_a_reason_and_taken_back(demo, qtbot, monkeypatch):
    demo.session.apply(override_side("cream", False, "so I think"))
    card = demo.findings.card("wrong-cut-side")
    answers = iter([("x", True), ("", False), ("the maker's sheet says so", True)])
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: next(answers))
    qtbot.mouseClick(card.pass_it, Qt.MouseButton.LeftButton)
    assert "at least three letters" in demo.message.text()
    qtbot.mouseClick(card.pass_it, Qt.MouseButton.LeftButton)
    assert demo.session.plan.open_stops
    qtbot.mouseClick(card.pass_it, Qt.MouseButton.LeftButton)
    assert not demo.session.plan.open_stops
    card = demo.findings.card("wrong-cut-side")
    assert card.pass_it.text() == "Take back"
    qtbot.mouseClick(card.pass_it, Qt.MouseButton.LeftButton)
    assert demo.session.plan.open_stops


def test_findings_stand_in_order_of_gravity_and_show_goes_there(demo, qtbot):
    demo.session.apply(override_side("cream", False, "so I think"))
    demo.session.apply(set_placement("x", turn_deg=9.0))
    order = [LEVELS.index(card.finding.level) for card in demo.findings.cards]
    assert order == sorted(order)
    demo.go_to("nest")
    qtbot.mouseClick(demo.findings.card("tilted").show_place, Qt.MouseButton.LeftButton)
    assert demo.station == "fit"
    assert demo.view.shown_box is not None
    assert all(level in NAMES for level in LEVELS)


def test_both_themes_can_be_read(demo):
    """Text on card and felt has a contrast of at least 4.5 : 1 (WCAG 2.2, 1.4.3)."""
    from coloraide import Color

    for theme in (NIGHT, DAYLIGHT):
        pairs = [
            (theme.chalk, theme.felt),
            (theme.quiet_chalk, theme.felt),
            (theme.ink, theme.card),
            (theme.ink, theme.card_light),
            (theme.quiet_ink, theme.card),
            (theme.quiet_ink, theme.card_light),
            (theme.ink, theme.tape),
        ]
        for text, ground in pairs:
            assert Color(text).contrast(Color(ground), method="wcag21") >= 4.5, (theme.name, text, ground)
    use_theme(NIGHT)


def test_every_control_has_a_name_or_a_text_for_a_screen_reader(demo):
    from PySide6.QtWidgets import QAbstractButton, QComboBox, QLineEdit

    for kind in (QComboBox, QLineEdit):
        for widget in demo.findChildren(kind):
            if widget.objectName() == "qt_spinbox_lineedit" or isinstance(widget.parent(), QComboBox):
                continue
            assert widget.accessibleName() or widget.toolTip(), widget
    for button in demo.findChildren(QAbstractButton):
        if type(button).__name__ in ("QPushButton", "QCheckBox"):
            assert button.text() or button.accessibleName(), button
    assert "too-thin" in ids(demo)


def editing(view, qtbot, name, text):
    """Type into the editor on a tape, and return it; nothing is taken yet."""
    card = length_named(view, name).card
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=card.center().toPoint())
    qtbot.keyClicks(view.editor, text)
    return view.editor


def test_tab_takes_what_was_typed_on_a_tape_and_escape_gives_it_up(demo, qtbot):
    demo.go_to("measure")
    view = demo.view
    before = demo.session.plan.blank.measures["chest"]
    qtbot.keyClick(editing(view, qtbot, "Chest", "54 cm"), Qt.Key.Key_Escape)
    assert view.editor is None
    assert demo.session.plan.blank.measures["chest"] == before
    qtbot.keyClick(editing(view, qtbot, "Chest", "54 cm"), Qt.Key.Key_Tab)
    assert view.editor is None
    assert demo.session.plan.blank.measures["chest"] == 540


def test_going_on_to_the_next_tape_takes_what_was_typed(demo, qtbot):
    demo.go_to("measure")
    view = demo.view
    editor = editing(view, qtbot, "Chest", "54 cm")
    names = [length.name for length in view.lengths]
    qtbot.keyClick(editor, Qt.Key.Key_F2)
    assert demo.session.plan.blank.measures["chest"] == 540
    assert view.editor.accessibleName() == names[(names.index("Chest") + 1) % len(names)]


def test_what_is_no_length_is_said_and_the_tape_stays_open(demo, qtbot):
    demo.go_to("measure")
    editor = editing(demo.view, qtbot, "Chest", "abc")
    for key in (Qt.Key.Key_Return, Qt.Key.Key_F2):
        qtbot.keyClick(editor, key)
        assert demo.view.editor is editor
        assert "abc" in demo.message.text()
    qtbot.keyClick(editor, Qt.Key.Key_Tab)
    assert demo.view.editor is None
