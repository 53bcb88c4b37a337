"""The ledger of film in a picture: a bar for each film, of what is on garments, what is kept, and what is lost."""

from decimal import Decimal
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFontMetricsF, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from zinnet.base.units import Unit, write_area
from zinnet.ui.drawing import pen
from zinnet.ui.language import tr
from zinnet.ui.theme import PLAIN, SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.plan.ledger import FilmLedger, JobLedger
    from zinnet.shop.film_cost import FilmCost

BAR, ROW, PATCH = 22.0, 82.0, 11.0
LEAST_MM2 = 50.0
"""What is less is not spoken of."""
LOST_FILLS = (
    Qt.BrushStyle.Dense1Pattern,
    Qt.BrushStyle.Dense3Pattern,
    Qt.BrushStyle.DiagCrossPattern,
    Qt.BrushStyle.HorPattern,
    Qt.BrushStyle.CrossPattern,
    Qt.BrushStyle.VerPattern,
    Qt.BrushStyle.BDiagPattern,
    Qt.BrushStyle.FDiagPattern,
)


class LedgerView(QWidget):
    """One row a film: its name and what it comes to, the bar, and the kinds of loss in words."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(tr("Where the film goes"))
        self._ledger: JobLedger | None = None
        self._costs: tuple[FilmCost, ...] = ()
        self._colours: dict[str, str] = {}
        self._unit: Unit = "mm"

    def show_ledger(
        self, ledger: "JobLedger | None", costs: "tuple[FilmCost, ...]", colours: dict[str, str], unit: Unit
    ) -> None:
        """Show where the film goes; ``colours`` are those of the films by their ids."""
        self._ledger, self._costs, self._colours, self._unit = ledger, costs, colours, unit
        films = () if ledger is None else ledger.films
        self.setFixedHeight(int(max(1, len(films)) * ROW))
        rows = [self.row_said(film, cost) for film, cost in zip(films, costs, strict=True)]
        self.setAccessibleDescription("; ".join(rows))
        self.update()

    def row_said(self, film: "FilmLedger", cost: "FilmCost") -> str:
        """Return what is said of a film above its bar."""
        parts = (
            ("taken", film.taken_mm2),
            ("on garments", film.on_garments_mm2),
            ("kept", film.kept_mm2),
            ("lost", film.lost_mm2),
        )
        said = ", ".join(f"{write_area(area, unit=self._unit)} {what}" for what, area in parts)
        return f"{film.name}: {said}; {cost.amount:.2f}"

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the rows; all bars are to one scale."""
        if self._ledger is None or not self._ledger.films:
            return
        most = max(film.taken_mm2 for film in self._ledger.films) or 1.0
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            for row, (film, cost) in enumerate(zip(self._ledger.films, self._costs, strict=True)):
                top = row * ROW
                painter.setFont(font(PLAIN, bold=True))
                painter.setPen(colour("ink"))
                painter.drawText(QPointF(0, top + 14), self.row_said(film, cost))
                self._draw_bar(painter, QRectF(0, top + 22, (self.width() - 2) * film.taken_mm2 / most, BAR), film)
                self._draw_losses(painter, top + 60, film)

    def _draw_losses(self, painter: QPainter, foot: float, film: "FilmLedger") -> None:
        """Draw how film is lost in words, each kind behind a patch of its hatching."""
        painter.setFont(font(SMALL))
        metrics, x = QFontMetricsF(painter.font()), 0.0
        for (kind, area), style in zip(film.lost.items(), LOST_FILLS, strict=True):
            if area < LEAST_MM2:
                continue
            said = f"{write_area(area, unit=self._unit)} {kind}"
            if x + PATCH + 5 + metrics.horizontalAdvance(said) > self.width():
                return
            painter.setPen(pen("ink", 1))
            painter.setBrush(QBrush(colour("quiet_ink", 150), style))
            painter.drawRect(QRectF(x, foot - PATCH + 2, PATCH, PATCH))
            painter.setPen(colour("quiet_ink"))
            painter.drawText(QPointF(x + PATCH + 5, foot + 1), said)
            x += PATCH + metrics.horizontalAdvance(said) + 19

    def _draw_bar(self, painter: QPainter, bar: QRectF, film: "FilmLedger") -> None:
        if film.taken_mm2 <= 0:
            return
        scale, left = bar.width() / film.taken_mm2, bar.left()
        parts: list[tuple[float, QBrush]] = [
            (film.on_garments_mm2, QBrush(QColor(self._colours.get(film.film, "#888888")))),
            (film.kept_mm2, QBrush(colour("card_light"))),
        ]
        for area, style in zip(film.lost.values(), LOST_FILLS, strict=True):
            parts.append((area, QBrush(colour("quiet_ink", 150), style)))
        painter.setPen(Qt.PenStyle.NoPen)
        for area, brush in parts:
            painter.setBrush(brush)
            painter.drawRect(QRectF(left, bar.top(), area * scale, bar.height()))
            left += area * scale
        painter.setPen(pen("ink", 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(bar)
        edge = bar.left()
        for area in (film.on_garments_mm2, film.kept_mm2):
            edge += area * scale
            painter.drawLine(QPointF(edge, bar.top()), QPointF(edge, bar.bottom()))


def total_cost(costs: "tuple[FilmCost, ...]") -> Decimal:
    """Return what all film costs."""
    return sum((one.amount for one in costs), Decimal(0))
