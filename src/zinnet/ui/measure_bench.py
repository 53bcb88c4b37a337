"""Measuring at the bench: one tape at a time, large, with the one number to read off it and to type."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from zinnet.base.errors import ZinnetError
from zinnet.base.units import read_length, write_length
from zinnet.blanks.catalogue import measure_kinds
from zinnet.job.edits import set_measure
from zinnet.ui.drawing import draw_card, draw_words, fitting_size, pen
from zinnet.ui.garment import draw_panel, fit_into
from zinnet.ui.language import tr
from zinnet.ui.large_keys import LargeKey, LargeKeys
from zinnet.ui.theme import colour, font

if TYPE_CHECKING:
    from zinnet.blanks.catalogue import MeasureKind
    from zinnet.blanks.model import Tape
    from zinnet.ui.session import Session

HUGE, BIG, MIDDLE = 56, 34, 26
FIELD = (330, 96)
FIELD_FROM_TOP = 250
ROOM = 14


class MeasureBench(QWidget):
    """The measures of the blank, tape by tape."""

    left = Signal()

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.at = 0
        self._wrong = self._now = ""
        self.setAccessibleName(tr("Measuring at the bench"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.field = QLineEdit(self)
        self.field.setFont(font(HUGE, bold=True))
        self.field.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.field.setFixedSize(*FIELD)
        self.field.returnPressed.connect(self.go_on)
        self.keys = LargeKeys(
            (
                LargeKey("back", tr("Back"), (Qt.Key.Key_PageUp,), self.back, "page up"),
                LargeKey("onward", tr("Next"), (Qt.Key.Key_PageDown,), self.go_on, "Enter, page down", main=True),
            )
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        row = QHBoxLayout()
        row.setContentsMargins(70, FIELD_FROM_TOP, 0, 0)
        row.addWidget(self.field)
        row.addStretch(1)
        column.addLayout(row)
        column.addStretch(1)
        column.addWidget(self.keys)
        session.plan_changed.connect(self.follow)

    @property
    def tapes(self) -> "tuple[Tape, ...]":
        """The tapes of the blank's main side."""
        return tuple(self.session.selection.garment.blank.main.tapes)

    @property
    def tape(self) -> "Tape | None":
        """The tape that is read; None when all are."""
        return self.tapes[self.at] if self.at < len(self.tapes) else None

    def begin(self) -> None:
        """Show the first measure that is typical, else the first."""
        blank = self.session.selection.garment.blank
        typical = [k for k, tape in enumerate(self.tapes) if tape.measure not in blank.measured]
        self._show(typical[0] if typical else 0)

    def follow(self) -> None:
        """Show what the plan says now, where it is in sight; what is being typed stays."""
        if self.isVisible():
            self.update()

    def _show(self, at: int) -> None:
        self.at, self._wrong = max(0, min(at, len(self.tapes))), ""
        self.field.clear()
        self.field.setVisible(self.tape is not None)
        if self.tape is not None:
            blank, unit = self.session.selection.garment.blank, self.session.job.unit
            mm = blank.measures[self.tape.measure]
            typical = "" if self.tape.measure in blank.measured else tr("typical, measure yours")
            self._now = f"{write_length(mm, unit=unit)}{f' ({typical})' if typical else ''}"
            self.field.setAccessibleName(self._kind().name)
            self.field.setFocus()
        else:
            self.setFocus()
        onward = tr("Next") if self.tape is not None else tr("All measured")
        self.keys.show_these({"back": tr("Back"), "onward": onward})
        self.setAccessibleDescription(self.said())
        self.update()

    def _kind(self) -> "MeasureKind":
        assert self.tape is not None
        return measure_kinds(self.session.selection.garment.blank.kind)[self.tape.measure]

    def said(self) -> str:
        """Return what is measured now, for whoever hears it instead of reading."""
        return tr("All is measured.") if self.tape is None else f"{self._kind().name}. {self._kind().how}"

    def go_on(self) -> None:
        """Take the number, where one is typed, and go on to the next tape; what makes no sense is said and stays."""
        if self.tape is None:
            self.left.emit()
            return
        text = self.field.text().strip()
        if text:
            try:
                mm = read_length(text, unit=self.session.job.unit)
            except ZinnetError as error:
                self._refuse(str(error))
                return
            said: list[str] = []
            self.session.said.connect(said.append)
            taken = self.session.apply(set_measure(self.tape.measure, mm, self.session.selection.at["size"]))
            self.session.said.disconnect(said.append)
            if not taken:
                self._refuse(said[-1] if said else tr("That can't be; read the tape again."))
                return
        self._show(self.at + 1)

    def _refuse(self, why: str) -> None:
        self._wrong = why
        self.field.selectAll()
        self.update()

    def back(self) -> None:
        """Look at the tape before."""
        self._show(self.at - 1)

    # drawing and keys

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the card."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), colour("felt"))
            card = QRectF(28, 24, self.width() - 56, self.height() - self.keys.height() - 34)
            draw_card(painter, card)
            blank = self.session.selection.garment.blank
            wide = card.width() * 0.5 - 60
            text = QRectF(card.left() + 42, card.top() + 24, wide, 40)
            head = f"Measure · {blank.name} · {min(self.at + 1, len(self.tapes))} of {len(self.tapes)}"
            draw_words(painter, text, fitting_size(head, text, (22, 18, 15)), head, ink="quiet_ink")
            if self.tape is None:
                draw_words(painter, text.adjusted(0, 40, 0, 120), HUGE, "All is measured", bold=True)
                return
            kind = self._kind()
            title = QRectF(text.left(), card.top() + 60, wide, FIELD_FROM_TOP - 70)
            size = fitting_size(kind.name, title, (HUGE, 44, BIG))
            y = title.top() + draw_words(painter, title, size, kind.name, bold=True) + ROOM
            how = QRectF(text.left(), y, wide, max(40.0, FIELD_FROM_TOP - y))
            draw_words(painter, how, fitting_size(kind.how, how, (MIDDLE, 22, 18, 15)), kind.how)
            below = QRectF(text.left(), FIELD_FROM_TOP + FIELD[1] + ROOM, wide, 160)
            told = tr("Read the tape and type it; Enter takes it. Empty, it stays as it is:")
            said = self._wrong or f"{told} {self._now}."
            draw_words(painter, below, MIDDLE - 2, said, ink="stop" if self._wrong else "quiet_ink")
            half = card.left() + card.width() * 0.5
            self._draw_tape(painter, QRectF(half, card.top() + 24, card.width() * 0.5 - 26, card.height() - 48))

    def _draw_tape(self, painter: QPainter, box: QRectF) -> None:
        """Draw the blank with the tape that is read."""
        assert self.tape is not None
        blank = self.session.selection.garment.blank
        world = fit_into(box.adjusted(20, 20, -20, -20), blank.main.bounds)
        draw_panel(painter, world, blank, blank.main)
        aside = QPointF(*self.tape.aside)
        ends = [world.map(QPointF(*point)) + aside for point in (self.tape.start, self.tape.end)]
        painter.setPen(pen("ink", 12))
        painter.drawLine(*ends)
        painter.setPen(pen("tape", 8))
        painter.drawLine(*ends)
        painter.setPen(pen("ink", 2))
        painter.setBrush(colour("accent"))
        for end in ends:
            painter.drawEllipse(end, 9, 9)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Do what a large key does; leave with F11."""
        if event.key() in (Qt.Key.Key_F11, Qt.Key.Key_Escape):
            self.left.emit()
        elif self.tape is None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.go_on()
        elif not self.keys.take(event):
            super().keyPressEvent(event)
