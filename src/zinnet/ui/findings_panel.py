"""The right edge: the findings, always in sight, with the place and the mend of each."""

from collections.abc import Sequence

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
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
from zinnet.job.edits import pass_finding, take_back_pass
from zinnet.plan.ahead import Ahead
from zinnet.plan.findings.model import LEVELS, Finding
from zinnet.plan.findings.run import BETWEEN_DESIGNS
from zinnet.ui.drawing import draw_sign
from zinnet.ui.language import tr
from zinnet.ui.plain import Label
from zinnet.ui.session import Session
from zinnet.ui.theme import LARGE, PLAIN, SMALL, colour, font

LONG_NAME, LONG_BESIDE_TWO = 20, 9
"""A mend whose name has more letters leaves no room for one button beside it, or for two."""
NAMES = {
    "stop": ("stop", "stops"),
    "warn": ("warning", "warnings"),
    "note": ("note", "notes"),
    "confirm": ("look", "looks"),
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


class FindingCard(QFrame):
    """One finding: the reason in numbers, whose limit it is, and what can be done."""

    def __init__(self, session: Session, finding: Finding) -> None:
        super().__init__()
        self.session, self.finding = session, finding
        self.setObjectName("finding")
        self.setAccessibleName(f"{NAMES[finding.level][0]}: {finding.title}")
        self.setStyleSheet(
            f"QFrame#finding {{ background: {colour('card_light').name()};"
            f" border: 1px solid {colour('card_line').name()}; border-radius: 6px; }}"
        )
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
        texts.addLayout(self._buttons())
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 9, 10, 9)
        row.setSpacing(9)
        row.addWidget(Sign(finding.level), 0, Qt.AlignmentFlag.AlignTop)
        row.addLayout(texts, 1)

    def _buttons(self) -> QVBoxLayout:
        """Return the buttons: the mend first, on a line of its own where it is long."""
        finding = self.finding
        rows, row = QVBoxLayout(), QHBoxLayout()
        rows.setContentsMargins(0, 4, 0, 0)
        rows.setSpacing(6)
        self.mends = [self._mend_button(number) for number in range(len(finding.mends))] if not finding.passed else []
        self.mend = next(iter(self.mends), None)
        most = LONG_BESIDE_TWO if finding.level == "stop" else LONG_NAME
        for button in self.mends:
            row.addWidget(button)
            if len(button.text()) > most or button is not self.mends[-1]:
                row.addStretch(1)
                rows.addLayout(row)
                row = QHBoxLayout()
        self.show_place = QPushButton(tr("Show"))
        self.show_place.setToolTip(tr("Go to the place of this finding"))
        self.show_place.setAccessibleName(f"Show: {finding.title}")
        self.show_place.clicked.connect(lambda: self.session.show_finding(self.finding))
        row.addWidget(self.show_place)
        if finding.level == "stop":
            self.pass_it = QPushButton("Pass ..." if finding.passed is None else "Take back")
            self.pass_it.setToolTip(tr("Go on in spite of this stop, with a reason"))
            self.pass_it.setAccessibleName(f"{self.pass_it.text().removesuffix(' ...')}: {finding.title}")
            self.pass_it.clicked.connect(self._pass)
            row.addWidget(self.pass_it)
        row.addStretch(1)
        rows.addLayout(row)
        return rows

    def _mend_button(self, number: int) -> QPushButton:
        """Return the button of one way to mend it; what it does is asked of the finding as that is then."""
        name = self.finding.mends[number].name
        button = QPushButton(name[0].upper() + name[1:])
        button.setProperty("strong", number == 0)
        button.setToolTip(tr("Mend this; undo takes it back"))
        button.clicked.connect(lambda: self._mend(number))
        return button

    def _mend(self, number: int) -> None:
        self.session.apply(self.finding.mends[number])

    def _pass(self) -> None:
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

    def __init__(self, session: Session) -> None:
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
        self._list = QWidget()
        self._column = QVBoxLayout(self._list)
        self._column.setContentsMargins(0, 0, 4, 0)
        self._column.setSpacing(8)
        area = QScrollArea()
        area.setAccessibleName(tr("Findings"))
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(self._list)
        self._list.setObjectName("findings")
        self._list.setStyleSheet("QWidget#findings { background: transparent }")
        area.viewport().setAutoFillBackground(False)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addLayout(head)
        column.addWidget(area, 1)
        self.cards: list[FindingCard] = []
        self._shown: list[object] | None = None
        session.plan_changed.connect(self.follow)
        session.later.ahead.connect(self._look_ahead)
        session.busy_changed.connect(self._count)
        self.follow()

    def card(self, finding_id: str) -> FindingCard | None:
        """Return the card of a finding, if it is there."""
        return next((card for card in self.cards if card.finding.id == finding_id), None)

    def follow(self) -> None:
        """Show the findings of the plan; cards of findings that stay as they were are kept."""
        self._show(self.session.plan.findings if self.session.has_artwork else ())

    def _look_ahead(self, ahead: Ahead) -> None:
        """Show at once what is wrong between designs; all else is still being worked out."""
        rest = [finding for finding in self.session.plan.findings if finding.id not in BETWEEN_DESIGNS]
        order = sorted([*ahead.findings, *rest], key=lambda one: (one.passed is not None, LEVELS.index(one.level)))
        self._show(tuple(order))

    def _count(self) -> None:
        checking = self.session.is_working
        self.counts.setText(tr("checking ...") if checking else _counts([card.finding for card in self.cards]))

    def _show(self, findings: tuple[Finding, ...]) -> None:
        self._put(findings)
        self._count()

    def _put(self, findings: tuple[Finding, ...]) -> None:
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
            card = cards.pop(0) if cards else FindingCard(self.session, finding)
            card.finding = finding
            self.cards.append(card)
        while self._column.count():
            item = self._column.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None and widget not in self.cards:
                widget.hide()
                widget.deleteLater()
        for card in self.cards:
            self._column.addWidget(card)
        if not self.cards:
            nothing = Label(
                "Nothing to mend." if self.session.has_artwork else "Findings appear here once there is artwork."
            )
            nothing.setProperty("quiet", True)
            nothing.setWordWrap(True)
            self._column.addWidget(nothing)
        self._column.addStretch(1)


def _said(finding: Finding) -> object:
    """Return all that a card shows of a finding."""
    mends = tuple(mend.name for mend in finding.mends)
    return (finding.id, finding.level, finding.measured, finding.limit, finding.passed, mends, finding.place)


def _counts(findings: Sequence[Finding]) -> str:
    found = []
    for level, names in NAMES.items():
        number = sum(finding.level == level and finding.passed is None for finding in findings)
        if number:
            found.append(f"{number} {names[number != 1]}")
    return " · ".join(found)
