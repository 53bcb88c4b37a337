"""The right edge: the findings, always in sight, with the place and the mend of each."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QRectF, Qt, Signal
from PySide6.QtGui import QEnterEvent, QFocusEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QInputDialog,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from zinnet.base.words import has_words
from zinnet.plan.findings.levels import LEVELS
from zinnet.ui.drawing import draw_sign
from zinnet.ui.in_turn import InTurn
from zinnet.ui.language import tr
from zinnet.ui.offers import Offer, Offers
from zinnet.ui.plain import Label
from zinnet.ui.theme import LARGE, PLAIN, SMALL, font

if TYPE_CHECKING:
    from zinnet.job.edits import Edit
    from zinnet.plan.ahead import Ahead
    from zinnet.plan.findings.model import Finding
    from zinnet.ui.before_after import BeforeAfter
    from zinnet.ui.session import Session

WIDEST = 210
"""So many pixels of a mend's name have room on its button."""
BY_KEYS = (
    Qt.FocusReason.TabFocusReason,
    Qt.FocusReason.BacktabFocusReason,
    Qt.FocusReason.ShortcutFocusReason,
)
NAMES = {
    "stop": ("stop", "stops"),
    "warn": ("warning", "warnings"),
    "note": ("note", "notes"),
    "confirm": ("check", "checks"),
}


class Sign(QWidget):
    """The sign of a level."""

    def __init__(self, level: str) -> None:
        super().__init__()
        self._level = level
        self.setFixedSize(22, 22)
        self.setAccessibleName(NAMES[level][0])

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the sign."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            draw_sign(painter, self._level, QRectF(1, 1, 20, 20), "!" if self._level in ("stop", "warn") else "i")


class MendButton(QPushButton):
    """One way to mend a finding; it tells when it is pointed at, with the mouse or by the keyboard."""

    pointed = Signal(object)

    def __init__(self, name: str, number: int) -> None:
        super().__init__()
        self.name, self._number = name, number
        said = name[0].upper() + name[1:]
        self.setText(self.fontMetrics().elidedText(said, Qt.TextElideMode.ElideRight, WIDEST))
        self.setAccessibleName(said)
        self.setProperty("strong", number == 0)

    def enterEvent(self, event: QEnterEvent) -> None:
        """Tell that it is pointed at."""
        super().enterEvent(event)
        self.pointed.emit(self._number)

    def leaveEvent(self, event: QEvent) -> None:
        """Tell that it is not pointed at any more."""
        super().leaveEvent(event)
        self.pointed.emit(None)

    def focusInEvent(self, event: QFocusEvent) -> None:
        """Tell that it is pointed at, where the keyboard came here."""
        super().focusInEvent(event)
        if event.reason() in BY_KEYS:
            self.pointed.emit(self._number)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Tell that it is not pointed at any more."""
        super().focusOutEvent(event)
        self.pointed.emit(None)


class FindingCard(QFrame):
    """One finding: the reason in numbers, whose limit it is, and what can be done."""

    pointed = Signal(object)

    def __init__(self, session: "Session", finding: "Finding") -> None:
        super().__init__()
        self.session, self.finding = session, finding
        self.setAccessibleName(f"{NAMES[finding.level][0]}: {finding.title}")
        self.setProperty("card", "light")
        title = Label(tr(finding.title))
        title.setFont(font(PLAIN, bold=True))
        measured = Label(finding.measured[0].upper() + finding.measured[1:] + ".")
        limit = Label(finding.limit[0].upper() + finding.limit[1:] + ".")
        limit.setFont(font(SMALL))
        limit.setProperty("quiet", True)
        texts = QVBoxLayout()
        texts.setSpacing(3)
        for label in (title, measured, limit):
            label.setWordWrap(True)
            texts.addWidget(label)
        if finding.passed is not None:
            passed = Label(f"Passed: {finding.passed}")
            passed.setWordWrap(True)
            passed.setFont(font(SMALL, bold=True))
            texts.addWidget(passed)
        self._offers: tuple[Offer, ...] | None = None
        self.mends: list[MendButton] = []
        self.state = Label()
        self.state.setFont(font(SMALL))
        self.state.setWordWrap(True)
        self.state.setProperty("quiet", True)
        texts.addWidget(self.state)
        self._column = QVBoxLayout()
        self._column.setContentsMargins(0, 4, 0, 0)
        self._column.setSpacing(6)
        self._column.addLayout(self._last_row())
        texts.addLayout(self._column)
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 9, 10, 9)
        row.setSpacing(9)
        row.addWidget(Sign(finding.level), 0, Qt.AlignmentFlag.AlignTop)
        row.addLayout(texts, 1)
        self.show_offers(None)

    @property
    def mend(self) -> "MendButton | None":
        """The button of the first mend that is offered; None where none is, or none yet."""
        return next((button for button in self.mends if button.isEnabled()), None)

    def _last_row(self) -> QHBoxLayout:
        """Return the buttons that are always there: the way to the place, and past a stop."""
        row = QHBoxLayout()
        self.show_place = QPushButton(tr("Show"))
        self.show_place.setToolTip(tr("Go to the place of this finding"))
        self.show_place.setAccessibleName(f"Show: {self.finding.title}")
        self.show_place.clicked.connect(lambda: self.session.finding_shown.emit(self.finding))
        row.addWidget(self.show_place)
        if self.finding.level == "stop":
            self.pass_it = QPushButton("Override ..." if self.finding.passed is None else "Take back")
            self.pass_it.setToolTip(tr("Go on in spite of this stop, with a reason"))
            self.pass_it.setAccessibleName(f"{self.pass_it.text().removesuffix(' ...')}: {self.finding.title}")
            self.pass_it.clicked.connect(self._pass)
            row.addWidget(self.pass_it)
        row.addStretch(1)
        return row

    def show_offers(self, offers: tuple[Offer, ...] | None) -> None:
        """Show what mends it; as long as that is not known, what was offered before can't be pressed."""
        if self.finding.passed is not None or not self.finding.may_have_mends:
            self.state.hide()
            return
        self.state.setVisible(not self.mends if offers is None else not offers)
        self.state.setText(tr(self.finding.do) if offers is not None else tr("Looking for what mends it ..."))
        if offers is None:
            for button in self.mends:
                button.setEnabled(False)
            return
        self._offers = offers
        names = [offer.mend.name for offer in offers]
        if [button.name for button in self.mends] != names:
            for button in self.mends:
                self._column.removeWidget(button)
                button.hide()
                button.deleteLater()
            self.mends = [MendButton(name, number) for number, name in enumerate(names)]
            for number, button in enumerate(self.mends):
                button.clicked.connect(lambda _=False, number=number: self._mend(number))
                button.pointed.connect(self._point)
                self._column.insertWidget(number, button, 0, Qt.AlignmentFlag.AlignLeft)
                button.show()
        for button, offer in zip(self.mends, offers, strict=True):
            button.setEnabled(True)
            button.setAccessibleDescription("; ".join(offer.proof.changes))

    def _mend(self, number: int) -> None:
        if self._offers is not None:
            self.pointed.emit(None)
            self.session.apply(self._offers[number].mend)

    def _point(self, number: int | None) -> None:
        known = number is not None and self._offers is not None and self.mends[number].isEnabled()
        self.pointed.emit(self._offers[number] if known else None)  # type: ignore[index]

    def _pass(self) -> None:
        from zinnet.job.edits import pass_finding, take_back_pass

        if self.finding.passed is not None:
            self.session.apply(take_back_pass(self.finding.id, self.finding.subject))
            return
        reason, given = QInputDialog.getText(
            self, self.finding.title, "Why may this be passed? The reason is shown from then on."
        )
        if given and has_words(reason):
            self.session.apply(pass_finding(self.finding.id, reason.strip(), self.finding.subject))
        elif given:
            self.session.said.emit("A stop is passed only with a reason of at least three letters.")


class FindingsPanel(QWidget):
    """The list of findings, the gravest first."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.title = Label(tr("Findings"))
        self.title.setFont(font(LARGE, bold=True))
        self.counts = Label()
        self.counts.setProperty("quiet", True)
        head = QHBoxLayout()
        head.addWidget(self.title)
        head.addStretch(1)
        head.addWidget(self.counts)
        self.list = QWidget()
        self._column = QVBoxLayout(self.list)
        self._column.setContentsMargins(0, 0, 4, 0)
        self._column.setSpacing(8)
        self._nothing = Label()
        self._nothing.setProperty("quiet", True)
        self._nothing.setWordWrap(True)
        self._column.addWidget(self._nothing)
        self._column.addStretch(1)
        area = QScrollArea()
        area.setAccessibleName(tr("Findings"))
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(self.list)
        self.list.setProperty("holder", True)
        area.viewport().setAutoFillBackground(False)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addLayout(head)
        column.addWidget(area, 1)
        self.safe = QPushButton(tr("Mend all that is safe"))
        self.safe.setToolTip(
            tr("Make all mends that change nothing but outlines too fine for their film; one step to undo")
        )
        self.safe.clicked.connect(self._mend_safe)
        self.safe.hide()
        column.insertWidget(1, self.safe)
        self._safe: Edit | None = None
        self.offers = Offers(session, self)
        self.offers.proven.connect(self._show_offers)
        self.offers.safe_found.connect(self._show_safe)
        self.before_after: BeforeAfter | None = None
        self.cards: list[FindingCard] = []
        self._shown: list[object] | None = None
        InTurn(session, self.follow, self)
        session.later.ahead.connect(self._look_ahead)
        session.following.ahead.connect(self._look_ahead)
        session.busy_changed.connect(self._count)
        session.busy_changed.connect(self._hold_back)
        self.follow()

    def card(self, finding_id: str) -> FindingCard | None:
        """Return the card of a finding, if it is there."""
        return next((card for card in self.cards if card.finding.id == finding_id), None)

    def follow(self) -> None:
        """Show the findings of the plan; cards of findings that stay as they were are kept."""
        findings = self.session.plan.findings if self.session.has_artwork else ()
        self._show(findings)
        if self.session.is_begun:
            self.offers.look_at(self.session.plan, findings)
        for card in self.cards:
            card.show_offers(self.offers.of(card.finding))
        self._make_room()

    def _hold_back(self) -> None:
        """Offer nothing while an edit is worked out: what was proven, was proven for the job before it."""
        for card in self.cards:
            card.show_offers(None if self.session.is_working else self.offers.of(card.finding))
        self._make_room()

    def _show_offers(self, finding: "Finding") -> None:
        for card in self.cards:
            offers = self.offers.of(card.finding)
            if card.finding.id == finding.id and offers is not None:
                card.show_offers(offers)
        self._make_room()

    def _make_room(self) -> None:
        """Give every card its height at once, before anything of it is drawn in too little room."""
        if not self.isVisible():
            return
        wide = self.list.width() - self._column.contentsMargins().right()
        for card in self.cards:
            card.setMinimumHeight(card.heightForWidth(wide))
        self._column.invalidate()
        self.list.resize(self.list.width(), max(self.list.height(), self._column.heightForWidth(self.list.width())))
        self._column.activate()

    def _show_safe(self, edit: "Edit | None") -> None:
        self._safe = edit
        self.safe.setVisible(edit is not None)

    def _mend_safe(self) -> None:
        if self._safe is not None:
            self.session.apply(self._safe)

    def _point(self, offer: Offer | None) -> None:
        """Show what a mend changes that is pointed at."""
        from zinnet.ui.before_after import BeforeAfter

        if offer is not None:
            self.before_after = self.before_after or BeforeAfter(self.session, self.window())
            self.before_after.show_offer(offer, beside=self)
        elif self.before_after is not None:
            self.before_after.hide()

    def _look_ahead(self, ahead: "Ahead") -> None:
        """Show at once what is wrong between designs; all else is still being worked out."""
        from zinnet.plan.findings.run import BETWEEN_DESIGNS

        rest = [finding for finding in self.session.plan.findings if finding.id not in BETWEEN_DESIGNS]
        order = sorted([*ahead.findings, *rest], key=lambda one: (one.passed is not None, LEVELS.index(one.level)))
        self._show(tuple(order))

    def _count(self) -> None:
        checking = self.session.is_working
        self.counts.setText(tr("checking ...") if checking else _counts([card.finding for card in self.cards]))

    def _show(self, findings: tuple["Finding", ...]) -> None:
        self._put(findings)
        self._count()

    def _card(self, finding: "Finding") -> FindingCard:
        card = FindingCard(self.session, finding)
        card.pointed.connect(self._point)
        return card

    def _put(self, findings: tuple["Finding", ...]) -> None:
        said = [_said(finding) for finding in findings]
        if said == self._shown:
            for card, finding in zip(self.cards, findings, strict=True):
                card.finding = finding
            return
        kept: dict[object, list[FindingCard]] = {}
        for old, card in zip(self._shown or (), self.cards, strict=False):
            kept.setdefault(old, []).append(card)
        self._shown = said
        self.cards = []
        for new, finding in zip(said, findings, strict=True):
            cards = kept.get(new)
            card = cards.pop(0) if cards else self._card(finding)
            card.finding = finding
            self.cards.append(card)
        for cards in kept.values():
            for card in cards:
                self._column.removeWidget(card)
                card.hide()
                card.deleteLater()
        for place, card in enumerate(self.cards):
            item = self._column.itemAt(place)
            if item is None or item.widget() is not card:
                self._column.insertWidget(place, card)
        self._nothing.setText(
            "Nothing to mend." if self.session.has_artwork else "Findings appear here once there is artwork."
        )
        self._nothing.setVisible(not self.cards)


def _said(finding: "Finding") -> object:
    """Return all that a card shows of a finding."""
    return (finding.id, finding.level, finding.measured, finding.limit, finding.passed, finding.place)


def _counts(findings: Sequence["Finding"]) -> str:
    found = []
    for level, names in NAMES.items():
        number = sum(finding.level == level and finding.passed is None for finding in findings)
        if number:
            found.append(f"{number} {names[number != 1]}")
    return " · ".join(found)
