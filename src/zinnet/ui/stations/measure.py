"""Measure: the blank with its tapes; a value is typed on the tape; spots to keep off are drawn on it."""

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QTransform

from zinnet.base.units import write_length
from zinnet.blanks.catalogue import measure_kinds
from zinnet.blanks.model import DrawnKeepOut, KeepOutKind, Panel, Tape
from zinnet.job.edits import drop_keep_out, keep_off, set_measure
from zinnet.ui.drawing import draw_card, draw_chalk_text, draw_tape, pen
from zinnet.ui.garment import draw_centre_line, draw_keep_outs, draw_panel, draw_usable, fit_into
from zinnet.ui.stations.fit_guides import draw_ends
from zinnet.ui.stations.measure_sizes import LEFT, WIDTH, MeasureSizes
from zinnet.ui.stations.worn_sash import draw_worn_sash
from zinnet.ui.table import EditableLength, TableView
from zinnet.ui.theme import LARGE, PLAIN, SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.ui.session import Session

LEAST_SPOT_MM = 3.0
BELOW_FOR_HOW = 118
"""Room at the lower edge for the card that explains a measure."""


class MeasureStation(TableView):
    """The blank, lying flat, with one tape per measure."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "The blank with its measures")
        self.explained = ""
        self.keep_out_kind: KeepOutKind | None = None
        self._drawn_from: QPointF | None = None
        self._drawn_to: QPointF | None = None
        self.sizes = MeasureSizes(session, self)

    @property
    def panel(self) -> Panel:
        """The panel on the table: the one that was chosen, else the one with the measures."""
        return self.session.selection.chosen_panel or self.session.selection.garment.blank.main

    def content_box(self) -> tuple[float, float, float, float]:
        """Return the panel's box."""
        return self.panel.bounds

    def margins(self) -> tuple[int, int, int, int]:
        """Keep room for the title and for the card that explains a measure."""
        return (72 if self.sizes.isHidden() else LEFT + WIDTH + 20, 104, 72, 150)

    def backdrop(self) -> object:
        """Show the panel."""
        return self.session.selection.garment.blank, self.panel

    def paint_backdrop(self, painter: QPainter) -> None:
        """Draw the panel, its usable area and its centre line."""
        blank = self.session.selection.garment.blank
        draw_panel(painter, self.world, blank, self.panel)
        draw_keep_outs(painter, self.world, blank, self.panel)
        draw_usable(painter, self.world, blank, self.panel)
        draw_centre_line(painter, self.world, blank, self.panel)

    def paint_table(self, painter: QPainter) -> None:
        """Draw the tapes, and how the measure under the pointer is taken."""
        blank, tapes = self.session.selection.garment.blank, self.panel.tapes
        names = [tape.measure for tape in tapes]
        if self.explained not in names:
            self.explained = names[0] if names else ""
        for tape in sorted(tapes, key=lambda tape: tape.measure == self.explained):
            self._draw_tape(painter, tape)
        draw_chalk_text(painter, QPointF(self.width() / 2, 26), blank.name, bold=True, pixels=LARGE)
        draw_chalk_text(painter, QPointF(self.width() / 2, 47), self._said(), pixels=PLAIN, name="quiet_chalk")
        draw_ends(painter, self, self.panel)
        if any(self.panel.ends) and self.panel.visible_mm is not None:
            draw_worn_sash(painter, self.rect(), blank, self.session.job.blank.shoulder, above=BELOW_FOR_HOW)
        self._draw_spot(painter)
        if self.explained:
            self._draw_how(painter)

    def _said(self) -> str:
        blank = self.session.selection.garment.blank
        if not self.panel.tapes:
            return f"{self.panel.name}; the measures are on the {blank.main.name.lower()}"
        unmeasured = len(blank.measures) - len(blank.measured)
        if not unmeasured:
            return f"{self.panel.name}; all measured"
        return f"{self.panel.name}; {unmeasured} of {len(blank.measures)} are typical; measure yours"

    def _draw_tape(self, painter: QPainter, tape: Tape) -> None:
        blank, unit = self.session.selection.garment.blank, self.session.job.unit
        mm = blank.measures[tape.measure]
        typical = tape.measure not in blank.measured
        name = measure_kinds(blank.kind)[tape.measure].name
        text = write_length(mm, unit=unit)
        start, end, aside = self.to_pixels(*tape.start), self.to_pixels(*tape.end), QPointF(*tape.aside)
        if not aside.isNull():
            painter.setPen(pen("chalk", 1.2, dashed=True))
            for point in (start, end):
                painter.drawLine(point, point + aside)
            start, end = start + aside, end + aside
        card = draw_tape(painter, start, end, f"~ {text}" if typical else text, typical=typical)
        self.lengths.append(EditableLength(name, card, mm, partial(self._set_measure, tape.measure)))

    def _set_measure(self, measure: str, mm: float) -> bool:
        return self.session.apply(set_measure(measure, mm, self.session.selection.at["size"]))

    def _draw_how(self, painter: QPainter) -> None:
        """Draw the card that says how a measure is taken, with its small picture."""
        measure = measure_kinds(self.session.selection.garment.blank.kind)[self.explained]
        width = min(660.0, self.width() - 40.0)
        card = QRectF((self.width() - width) / 2, self.height() - 96, width, 84)
        draw_card(painter, card)
        self._draw_how_picture(painter, QRectF(card.left() + 10, card.top() + 7, 92, card.height() - 14))
        text = card.adjusted(116, 10, -16, -10)
        painter.setPen(colour("ink"))
        painter.setFont(font(PLAIN, bold=True))
        painter.drawText(text, Qt.AlignmentFlag.AlignTop, measure.name)
        painter.setPen(colour("quiet_ink"))
        painter.setFont(font(SMALL))
        painter.drawText(
            text,
            Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignRight,
            "click a value on its tape, or press F2, to type yours",
        )
        painter.setFont(font(PLAIN))
        painter.drawText(text.adjusted(0, 22, 0, 0), Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap, measure.how)

    def _draw_how_picture(self, painter: QPainter, box: QRectF) -> None:
        tape = next(tape for tape in self.panel.tapes if tape.measure == self.explained)
        world = fit_into(box.adjusted(4, 4, -4, -4), self.panel.bounds)
        draw_panel(painter, world, self.session.selection.garment.blank, self.panel)
        start, end = world.map(QPointF(*tape.start)), world.map(QPointF(*tape.end))
        painter.setPen(pen("ink", 5))
        painter.drawLine(start, end)
        painter.setPen(pen("tape", 3))
        painter.drawLine(start, end)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("accent"))
        for point in (start, end):
            painter.drawEllipse(point, 3.2, 3.2)

    def _draw_spot(self, painter: QPainter) -> None:
        if self._drawn_from is None or self._drawn_to is None:
            return
        painter.setPen(pen("stop", 1.6, dashed=True))
        fill = QColor(colour("stop", 60))
        painter.setBrush(fill)
        painter.drawRect(QRectF(self._drawn_from, self._drawn_to).normalized())

    # mouse

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Edit a measure; while spots are drawn, begin one, or take away the one under the pointer."""
        if self.keep_out_kind is None or event.button() != Qt.MouseButton.LeftButton:
            super().mousePressEvent(event)
            return
        self.close_editor()
        at = self.to_mm(event.position())
        for index, one in enumerate(self.session.job.blank.keep_outs):
            inside = one.left <= at.x() <= one.right and one.top <= at.y() <= one.bottom
            if one.panel == self.panel.id and inside:
                self.session.apply(drop_keep_out(index))
                return
        self._drawn_from = self._drawn_to = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Explain the measure whose value is under the pointer, or draw on."""
        super().mouseMoveEvent(event)
        if self._drawn_from is not None:
            self._drawn_to = event.position()
            self.update()
            return
        kinds = measure_kinds(self.session.selection.garment.blank.kind)
        for length in self.lengths:
            if length.card.contains(event.position()):
                measure = next(name for name, kind in kinds.items() if kind.name == length.name)
                if measure != self.explained:
                    self.explained = measure
                    self.update()
                return

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Keep off the spot that was drawn."""
        super().mouseReleaseEvent(event)
        if self._drawn_from is None or self.keep_out_kind is None:
            return
        world: QTransform = self.world.inverted()[0]
        box = world.mapRect(QRectF(self._drawn_from, event.position()).normalized())
        self._drawn_from = self._drawn_to = None
        if min(box.width(), box.height()) >= LEAST_SPOT_MM:
            spot = DrawnKeepOut(
                panel=self.panel.id,
                kind=self.keep_out_kind,
                left=round(box.left(), 1),
                top=round(box.top(), 1),
                right=round(box.right(), 1),
                bottom=round(box.bottom(), 1),
            )
            self.session.apply(keep_off(spot))
        self.update()
