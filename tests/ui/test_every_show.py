"""Show, for every finding that there is: the page, the size and the place are on screen, and framed."""

import pytest
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtWidgets import QApplication

from tests.checks.test_findings import SHOWN
from zinnet.plan.findings.kinds import catalogue
from zinnet.ui.finding_card import CONFIRMED_THERE
from zinnet.ui.showing import NAMES, PAGE_OF


def pressed_show(window, qtbot, finding_id):
    """Go to another station, unfold what is folded there, press Show of a finding, and return the finding."""
    station = catalogue()[finding_id].station
    window.go_to("log")
    panel = window.findings
    card = panel.card(finding_id)
    assert card.isHidden()
    panel.unfold(station)
    QApplication.processEvents()
    assert card.isVisible()
    qtbot.mouseClick(card.show_place, Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    assert panel.card(finding_id) is card
    assert card.isVisible()
    return card.finding


@pytest.mark.parametrize("finding_id", SHOWN)
def test_show_leads_to_what_the_finding_speaks_of(window, qtbot, finding_id):
    document = SHOWN[finding_id]()
    window.session._workshop = document.workshop  # what is on its shelf
    window.session.show_document(document)
    finding = pressed_show(window, qtbot, finding_id)
    place, view = finding.place, window.view
    if finding_id in NAMES:
        assert window.table.currentWidget() is window.full_pages["names"]
        return
    assert window.station == finding.station
    assert window.table.currentWidget() is view
    if place is not None and place.size is not None:
        assert window.session.selection.garment.size == place.size
    if finding_id in PAGE_OF:
        assert view.page == PAGE_OF[finding_id]
        assert view.pages[view.page].isVisible()
        if finding.station == "cut" and place is not None and place.mat is not None:
            assert place.mat in [mat.number for mat in window.cutter.load.mats]
    elif place is not None:
        assert view.shown_box is not None
        left, top, right, bottom = view.shown_box
        framed = view.world.mapRect(QRectF(QPointF(left, top), QPointF(right, bottom)))
        assert QRectF(view.rect()).contains(framed)
        if place.panel is not None:
            assert (
                window.session.selection.chosen_panel or window.session.selection.garment.blank.main
            ).id == place.panel


def test_every_finding_of_cut_and_press_has_its_page():
    there = {name for name, kind in catalogue().items() if kind.station in ("cut", "press")}
    assert there == set(PAGE_OF)
    assert all(name in catalogue() for name in NAMES)


@pytest.mark.proven
@pytest.mark.parametrize("finding_id", SHOWN)
def test_a_mend_is_made_said_and_taken_back_and_the_list_keeps_its_place(window, qtbot, finding_id):
    document = SHOWN[finding_id]()
    window.session._workshop = document.workshop
    window.session.show_document(document)
    finding = pressed_show(window, qtbot, finding_id)
    panel, session = window.findings, window.session
    qtbot.waitUntil(lambda: not panel.offers.is_working)
    card = panel.card(finding_id)
    if not card.mends:
        assert not finding.may_have_mends or not panel.offers.of(finding) or finding_id in CONFIRMED_THERE
        return
    before, name = session.job, card.mends[0].name
    card.mends[0].setFocus(Qt.FocusReason.TabFocusReason)
    at = panel._area.verticalScrollBar().value()
    qtbot.mouseClick(card.mends[0], Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    assert session.job != before
    said = (finding_id, finding.subject, finding.measured)
    assert said not in [(one.id, one.subject, one.measured) for one in session.plan.findings]
    assert window.message.isVisible()
    assert window.message.text().casefold() == f"{name}.".casefold()
    assert panel.isAncestorOf(window.focusWidget())
    assert panel._area.verticalScrollBar().value() <= at
    qtbot.mouseClick(window.message.undo, Qt.MouseButton.LeftButton)
    assert session.job == before
