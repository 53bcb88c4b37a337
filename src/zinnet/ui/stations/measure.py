"""Measure: the blank with its tapes; a value is typed on the tape."""

from functools import partial

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QMouseEvent, QPainter

from zinnet.blanks.model import Tape, blank_kind
from zinnet.edits import set_measure
from zinnet.ui.drawing import draw_card, draw_chalk_text, draw_tape, pen
from zinnet.ui.garment import draw_blank, draw_centre_line
from zinnet.ui.session import Session
from zinnet.ui.table import EditableLength, TableView
from zinnet.ui.theme import LARGE, PLAIN, SMALL, colour, font
from zinnet.units import write_length

ASIDE = {"neck_width": QPointF(0, -20), "length": QPointF(34, 0)}
"""Tapes that are drawn beside what they measure, in pixels, joined to it by chalk."""


class MeasureStation(TableView):
    """The blank, lying flat, with one tape per measure."""

    def __init__(self, session: Session) -> None:
        super().__init__(session, "The blank with its measures")
        self.explained = "chest"

    def content_box(self) -> tuple[float, float, float, float]:
        """Return the blank's box."""
        return self.session.plan.blank.outline.bounds  # type: ignore[no-any-return]

    def margins(self) -> tuple[int, int, int, int]:
        """Keep room for the title and for the card that explains a measure."""
        return (40, 104, 40, 96)

    def backdrop(self) -> object:
        """Show the blank."""
        return self.session.plan.blank

    def paint_backdrop(self, painter: QPainter) -> None:
        """Draw the blank and its centre line."""
        draw_blank(painter, self, self.session.plan.blank)
        draw_centre_line(painter, self, self.session.plan.blank)

    def paint_table(self, painter: QPainter) -> None:
        """Draw the tapes, and how the measure under the pointer is taken."""
        blank = self.session.plan.blank
        for tape in sorted(blank.tapes, key=lambda tape: tape.measure == self.explained):
            self._draw_tape(painter, tape)
        draw_chalk_text(painter, QPointF(self.width() / 2, 26), blank.name, bold=True, pixels=LARGE)
        unmeasured = len(blank.measures) - len(blank.measured)
        said = "all measured" if not unmeasured else f"{unmeasured} of {len(blank.measures)} are typical; measure yours"
        draw_chalk_text(painter, QPointF(self.width() / 2, 47), said, pixels=PLAIN, name="quiet_chalk")
        self._draw_how(painter)

    def _draw_tape(self, painter: QPainter, tape: Tape) -> None:
        blank, unit = self.session.plan.blank, self.session.job.unit
        mm = blank.measures[tape.measure]
        typical = tape.measure not in blank.measured
        name = blank_kind(blank.kind).measures[tape.measure].name
        text = write_length(mm, unit=unit)
        start, end = self.to_pixels(*tape.start), self.to_pixels(*tape.end)
        aside = ASIDE.get(tape.measure)
        if aside is not None:
            painter.setPen(pen("chalk", 1.2, dashed=True))
            for point in (start, end):
                painter.drawLine(point, point + aside)
            start, end = start + aside, end + aside
        card = draw_tape(painter, start, end, f"~ {text}" if typical else text, typical=typical)
        self.lengths.append(EditableLength(name, card, mm, partial(self._set_measure, tape.measure)))

    def _set_measure(self, measure: str, mm: float) -> bool:
        return self.session.apply(set_measure(measure, mm))

    def _draw_how(self, painter: QPainter) -> None:
        kind = blank_kind(self.session.plan.blank.kind)
        measure = kind.measures[self.explained]
        width = min(620.0, self.width() - 40.0)
        card = QRectF((self.width() - width) / 2, self.height() - 76, width, 62)
        draw_card(painter, card)
        painter.setPen(colour("ink"))
        painter.setFont(font(PLAIN, bold=True))
        painter.drawText(card.adjusted(16, 8, -16, -34), Qt.AlignmentFlag.AlignVCenter, measure.name)
        painter.setPen(colour("quiet_ink"))
        painter.setFont(font(SMALL))
        painter.drawText(
            card.adjusted(16, 8, -16, -34),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
            "click a value on its tape, or press F2, to type yours",
        )
        painter.setFont(font(PLAIN))
        painter.drawText(
            card.adjusted(16, 28, -16, -6), Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap, measure.how
        )

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Explain the measure whose value is under the pointer."""
        super().mouseMoveEvent(event)
        for tape, length in zip(
            sorted(self.session.plan.blank.tapes, key=lambda tape: tape.measure == self.explained),
            self.lengths,
            strict=False,
        ):
            if length.card.contains(event.position()) and tape.measure != self.explained:
                self.explained = tape.measure
                self.update()
                return
