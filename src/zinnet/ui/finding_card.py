"""The card of one finding, with its place and its mends; and the head of findings that are folded."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QRectF, Qt, Signal
from PySide6.QtGui import QEnterEvent, QFocusEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QInputDialog,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from zinnet.base.words import has_words
from zinnet.ui.drawing import draw_sign
from zinnet.ui.language import tr
from zinnet.ui.offers import Offer
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import PLAIN, SMALL, font

if TYPE_CHECKING:
    from zinnet.plan.findings.model import Finding
    from zinnet.ui.session import Session

WIDEST = 210
"""So many pixels of a mend's name have room on its button."""
BY_KEYS = (
    Qt.FocusReason.TabFocusReason,
    Qt.FocusReason.BacktabFocusReason,
    Qt.FocusReason.ShortcutFocusReason,
)
CONFIRMED_THERE = ("loading-side", "settings-changed")
"""What is confirmed on the card of the mat itself; the way there is all that is offered here."""
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
    mended = Signal(str)
    """The name of the mend that was made."""

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

    def light(self, is_lit: bool) -> None:
        """Light the card, or no longer."""
        wanted = "lit" if is_lit else "light"
        if self.property("card") != wanted:
            self.setProperty("card", wanted)
            self.style().unpolish(self)
            self.style().polish(self)

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
        finding = self.finding
        if finding.passed is not None or not finding.may_have_mends or finding.id in CONFIRMED_THERE:
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
            mend = self._offers[number].mend
            if self.session.apply(mend):
                self.mended.emit(mend.name)

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


class Fold(QPushButton):
    """The head of another station's findings: a press shows them, or folds them again."""

    def __init__(self, station: str) -> None:
        super().__init__()
        self._name = tr(station.capitalize())
        self.setProperty("line", True)
        self.setToolTip(plain(f"Show what was found at {self._name}, or fold it"))

    def show_counts(self, counts: str, *, is_open: bool) -> None:
        """Show how many findings there are, and whether they are shown below."""
        self.setText(f"{'▾' if is_open else '▸'}  {self._name}: {counts or tr('passed')}")
        self.setAccessibleName(f"{self._name}: {counts}")
