"""The bottom edge: a tape rule in the user's unit, and where the pointer is."""

import math
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QWidget

from zinnet.base.units import MM_PER_INCH, write_length
from zinnet.ui.theme import PLAIN, SMALL, colour, font, theme

if TYPE_CHECKING:
    from zinnet.ui.session import Session
    from zinnet.ui.table import TableView

HEIGHT = 30
LEAST_STEP_PIXELS = 6
LEAST_NAME_PIXELS = 42
NAMED = (1, 2, 5, 10, 20, 50, 100, 200, 500)
STEPS_MM = (1.0, 5.0, 10.0, 50.0, 100.0, 500.0)
STEPS_IN = tuple(step * MM_PER_INCH for step in (1 / 16, 1 / 8, 1 / 4, 1 / 2, 1.0, 5.0, 10.0))


class TapeRule(QWidget):
    """A rule whose zero is the centre line (or the left edge of the mat)."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.view: TableView | None = None
        self.from_collar = False
        self.pointer: QPointF | None = None
        self.setFixedHeight(HEIGHT)
        self._unit = ""
        self._picture: tuple[object, QPixmap] | None = None
        session.plan_changed.connect(self._follow)

    def _follow(self) -> None:
        """Draw the other unit; nothing else of a plan is on the rule."""
        unit = self.session.job.unit if self.session.is_begun else ""
        if unit != self._unit:
            self._unit = unit
            self.update()

    def follow_view(self, view: "TableView", *, from_collar: bool) -> None:
        """Measure along another view."""
        if view is self.view:
            return
        if self.view is not None:
            self.view.pointer_moved.disconnect(self._point)
            self.view.view_changed.disconnect(self.update)
        self.view, self.from_collar, self.pointer = view, from_collar, None
        view.pointer_moved.connect(self._point)
        view.view_changed.connect(self.update)
        self.update()

    def _point(self, point: QPointF | None) -> None:
        self.pointer = point
        self.update()

    def in_words(self) -> str:
        """Return where the pointer is, in words."""
        unit = self.session.job.unit
        if self.pointer is None:
            return ""
        if not self.from_collar:
            return (
                f"{write_length(self.pointer.x(), unit=unit)} across, {write_length(self.pointer.y(), unit=unit)} down"
            )
        reference, (x, y) = self._reference()
        across, down = self.pointer.x() - x, self.pointer.y() - y
        side = "right" if across >= 0 else "left"
        under = "below" if down >= 0 else "above"
        return (
            f"{write_length(abs(across), unit=unit)} {side} of centre · "
            f"{write_length(abs(down), unit=unit)} {under} the {reference}"
        )

    def _reference(self) -> tuple[str, tuple[float, float]]:
        """Return the point that the selected design's distance is measured from, else the panel's first."""
        panel, design = self.session.selection.panel, self.session.selection.design
        placement = design.placement if design is not None else None
        if placement is not None and placement.panel.id == panel.id:
            return placement.place.reference_name, placement.reference
        return next(iter(panel.references.items()))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the tape, its ticks and the pointer's place."""
        with QPainter(self) as painter:
            painter.drawPixmap(0, 0, self._tape())
            text = self.in_words()
            if text:
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                painter.setFont(font(PLAIN, bold=True))
                width = painter.fontMetrics().horizontalAdvance(text) + 24
                card = QRectF(self.width() - width - 8, 4, width, HEIGHT - 8)
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(colour("card_light"))
                painter.drawRoundedRect(card, 4, 4)
                painter.setPen(colour("ink"))
                painter.drawText(card, Qt.AlignmentFlag.AlignCenter, text)

    def _tape(self) -> QPixmap:
        """Return the tape with its ticks, drawn once per scale and place."""
        view, ratio = self.view, self.devicePixelRatioF()
        zero = None if view is None else self._left_of(view) + view.offset.x()
        look = (zero, view and view.pixels_per_mm, view and self.session.job.unit, self.size(), theme(), ratio)
        if self._picture is None or self._picture[0] != look:
            picture = QPixmap(self.size() * ratio)
            picture.setDevicePixelRatio(ratio)
            with QPainter(picture) as painter:
                painter.fillRect(self.rect(), colour("tape"))
                painter.setPen(QPen(colour("tape_line"), 1))
                painter.drawLine(0, 0, self.width(), 0)
                if view is not None and zero is not None:
                    self._draw_ticks(painter, view.pixels_per_mm, zero)
            self._picture = (look, picture)
        return self._picture[1]

    def _left_of(self, view: "TableView") -> int:
        """Return how far right of the tape's left end a view begins, in pixels."""
        window = self.window()
        return view.mapTo(window, view.rect().topLeft()).x() - self.mapTo(window, self.rect().topLeft()).x()

    def _draw_ticks(self, painter: QPainter, scale: float, zero: float) -> None:
        inches = self.session.job.unit == "in"
        steps, named = (STEPS_IN, MM_PER_INCH) if inches else (STEPS_MM, 10.0)
        step = next((step for step in steps if step * scale >= LEAST_STEP_PIXELS), steps[-1])
        unit_mm = named
        named = next((n * unit_mm for n in NAMED if n * unit_mm * scale >= LEAST_NAME_PIXELS), NAMED[-1] * unit_mm)
        painter.setFont(font(SMALL))
        for k in range(math.floor(-zero / (step * scale)), math.ceil((self.width() - zero) / (step * scale)) + 1):
            mm = k * step
            x = zero + mm * scale
            whole = abs(mm / named - round(mm / named)) < 1e-6
            half = abs(mm / named * 2 - round(mm / named * 2)) < 1e-6
            painter.setPen(QPen(colour("tape_line"), 1))
            painter.drawLine(QPointF(x, 0), QPointF(x, 12 if whole else 8 if half else 5))
            if whole and x > 40:
                painter.setPen(colour("ink"))
                value = abs(mm) / unit_mm
                painter.drawText(QRectF(x - 20, 12, 40, HEIGHT - 13), Qt.AlignmentFlag.AlignCenter, f"{value:g}")
        painter.setPen(colour("ink"))
        painter.drawText(QRectF(6, 12, 30, HEIGHT - 13), Qt.AlignmentFlag.AlignVCenter, "in" if inches else "cm")
