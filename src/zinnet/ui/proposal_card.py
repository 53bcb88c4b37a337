"""The card pinned to the Fit table: the proposed width, its reason, and what fits where."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QRect, QRectF
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from zinnet.base.units import write_length
from zinnet.ui.drawing import draw_card
from zinnet.ui.language import tr
from zinnet.ui.plain import Label
from zinnet.ui.theme import PLAIN, SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.ui.session import Session

WIDTH = 196
TOP, BOTTOM, SPACING = 16, 14, 4
SAME_MM = 0.05


class ProposalCard(QWidget):
    """What Zinnet proposes for the selected design, and why."""

    def __init__(self, session: "Session", parent: QWidget) -> None:
        super().__init__(parent)
        self.session = session
        self.setFixedWidth(WIDTH)
        self.setAccessibleName(tr("Proposed width"))
        self.head = Label(tr("Proposed width"))
        self.head.setFont(font(PLAIN, bold=True))
        self.value = Label()
        self.value.setFont(font(22, bold=True))
        self.reason = Label()
        self.fits = Label()
        for label in (self.reason, self.fits):
            label.setFont(font(SMALL))
            label.setWordWrap(True)
            label.setProperty("quiet", True)
        self.use = QPushButton(tr("Use it"))
        self.use.setToolTip(tr("Take the proposed width; undo takes it back"))
        self.use.clicked.connect(lambda: session.set_fit("use the proposed width", width_mm=None, height_mm=None))
        column = QVBoxLayout(self)
        column.setContentsMargins(14, TOP, 14, BOTTOM)
        column.setSpacing(SPACING)
        for widget in (self.head, self.value, self.reason, self.fits, self.use):
            column.addWidget(widget)
        session.plan_changed.connect(self.follow)
        self.follow()

    def place_in(self, room: QRect) -> None:
        """Pin the card to the upper right of the table."""
        inner = WIDTH - 28
        for label in (self.reason, self.fits):
            label.setMinimumHeight(0)
            label.setFixedSize(inner, max(0, label.heightForWidth(inner)))
        heights = [self.reason.height(), self.fits.height()]
        heights += [widget.sizeHint().height() for widget in (self.head, self.value, self.use)]
        self.setFixedHeight(sum(heights) + 4 * SPACING + TOP + BOTTOM)
        self.move(room.right() - self.width() - 12, 12)

    def follow(self) -> None:
        """Show the proposal of the selected design."""
        design, unit = self.session.selection.design, self.session.job.unit
        proposal = design.proposal if design is not None else None
        self.setVisible(proposal is not None)
        if proposal is None or design is None:
            return
        self.value.setText(write_length(proposal.width_mm, unit=unit))
        reason = proposal.reason(unit)
        self.reason.setText(reason[0].upper() + reason[1:] + ".")
        parts = [("usable area", proposal.usable_mm), ("mat", proposal.mat_mm)]
        if proposal.platen_mm is not None:
            parts.insert(1, ("one press", proposal.platen_mm))
        said = ", ".join(f"{name} {write_length(int(mm * 10) / 10, unit=unit, with_unit=False)}" for name, mm in parts)
        self.fits.setText(f"Largest for the {said} {unit}.")
        self.use.setEnabled(abs(design.word_width_mm - proposal.width_mm) > SAME_MM)
        self.use.setText("Use it" if self.use.isEnabled() else "In use")
        parent = self.parentWidget()
        if parent is not None:
            self.place_in(parent.rect())

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the card and its pin."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            draw_card(painter, QRectF(1, 4, self.width() - 5, self.height() - 9), light=True)
            painter.setPen(colour("ink", 60))
            painter.setBrush(colour("accent"))
            painter.drawEllipse(QRectF(self.width() / 2 - 5, 3, 10, 10))
