"""The bench view: one large card at a time, read from two metres and driven by the space bar. The as-laid check."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPolygonF, QTransform
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from zinnet.base.errors import ZinnetError
from zinnet.base.units import read_length, write_length
from zinnet.job.edits import record_readings
from zinnet.placement.as_laid import AsLaid, Readings, expected_readings, locate, readings_at, sides_of
from zinnet.pressing.reach import is_heated
from zinnet.ui.drawing import draw_card, draw_sign, pen
from zinnet.ui.garment import draw_centre_line, draw_layers, draw_panel, fit_into
from zinnet.ui.language import tr
from zinnet.ui.large_keys import BACKWARD, ONWARD, LargeKey, LargeKeys
from zinnet.ui.plain import Label
from zinnet.ui.theme import colour, font

if TYPE_CHECKING:
    from zinnet.blanks.procedures import Procedure
    from zinnet.placement.place import Placement
    from zinnet.ui.session import Session

HUGE, BIG, MIDDLE = 46, 30, 22
FIELDS = (
    ("left_mm", "A", "left side to the left edge"),
    ("right_mm", "B", "right side to the right edge"),
    ("top_left_mm", "C", "upper left corner to the left mark"),
    ("top_right_mm", "D", "upper right corner to the right mark"),
)
QUICK = ("left_mm", "top_left_mm")
CAUTION = "Press and base may be hot already: gloves, nothing left switched on alone. Labels and manuals come first."


@dataclass(frozen=True)
class LayCard:
    """One card of the bench: a title and what to do."""

    title: str
    lines: tuple[str, ...]


def lay_cards(procedure: "Procedure", *, centred: bool) -> tuple[LayCard, ...]:
    """Return the cards of laying a piece on an object: finding the place, laying, reading the ruler."""
    found = procedure.centre if centred else procedure.aside
    creased = centred and any("crease" in line for line in found)
    matched = "Match the creases, carrier up." if creased else "Lay it where it belongs, measured on both sides."
    return (
        LayCard("Find the centre" if centred else "Find the place", found),
        LayCard("Lay it", (matched, "Step back and look: a guide is not to be trusted fully.")),
        LayCard("Read the ruler", ()),
    )


class Bench(QWidget):
    """The job as one large card at a time."""

    left = Signal()

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.setAccessibleName(tr("Bench view"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.step = 0
        self.quick = False
        self.found: AsLaid | None = None
        self.fields: dict[str, QLineEdit] = {}
        self.labels: dict[str, QLabel] = {}
        self.readings = QWidget(self)
        self.answer = Label()
        self.answer.setWordWrap(True)
        self.answer.setFont(font(BIG, bold=True))
        self.answer.setAccessibleName(tr("What to do"))
        self.switch = QPushButton(tr("Two rulers only"))
        self.switch.setCheckable(True)
        self.switch.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.switch.setToolTip(tr("The quick form: left side and upper left corner; no tilt is told"))
        self.switch.toggled.connect(self._set_quick)
        self._lay_out_readings()
        self.keys = LargeKeys(
            (
                LargeKey("back", tr("Back"), BACKWARD, lambda: self.go_to_step(self.step - 1), "Backspace, page up"),
                LargeKey("onward", tr("Next"), ONWARD, self.go_on, "space bar, page down", main=True),
            )
        )
        self.keys.put_below(self)
        session.plan_changed.connect(self.follow)

    def _lay_out_readings(self) -> None:
        grid = QGridLayout()
        grid.setHorizontalSpacing(16)
        grid.setVerticalSpacing(8)
        for row, (name, letter, said) in enumerate(FIELDS):
            mark = Label(letter)
            mark.setFont(font(BIG, bold=True))
            label = Label(said)
            label.setFont(font(MIDDLE))
            field = QLineEdit()
            field.setFont(font(MIDDLE, bold=True))
            field.setFixedSize(150, 42)
            field.setAlignment(Qt.AlignmentFlag.AlignCenter)
            field.setAccessibleName(said)
            field.returnPressed.connect(self._next_field(name))
            self.fields[name] = field
            self.labels[name] = label
            for place, widget in enumerate((mark, label, field)):
                grid.addWidget(widget, row, place)
        grid.setColumnStretch(1, 1)
        row_of_buttons = QHBoxLayout()
        row_of_buttons.addWidget(self.switch)
        row_of_buttons.addStretch(1)
        column = QVBoxLayout(self.readings)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(12)
        column.addLayout(grid)
        column.addLayout(row_of_buttons)
        column.addWidget(self.answer)
        column.addStretch(1)

    def _next_field(self, name: str) -> Callable[[], None]:
        def go() -> None:
            shown = [key for key, _, _ in FIELDS if not self.quick or key in QUICK]
            after = shown.index(name) + 1
            if after < len(shown):
                self.fields[shown[after]].setFocus()
                self.fields[shown[after]].selectAll()
            else:
                self.judge()

        return go

    @property
    def cards(self) -> tuple[LayCard, ...]:
        """The cards of what is on the table."""
        at = self.placement
        procedure = self.session.selection.garment.blank.procedure
        return lay_cards(procedure, centred=at is None or at.is_on_centre)

    @property
    def placement(self) -> "Placement | None":
        """The placement of the selected design."""
        return self.session.selection.design.placement if self.session.selection.design is not None else None

    def begin(self) -> None:
        """Show the first card, nothing read yet."""
        self.step, self.found = 0, None
        for field in self.fields.values():
            field.clear()
        self.answer.setText("")
        self.follow()
        self.setFocus()

    def go_to_step(self, step: int) -> None:
        """Show another card."""
        self.step = min(max(step, 0), len(self.cards) - 1)
        self.follow()
        if self.step == len(self.cards) - 1:
            self.fields["left_mm"].setFocus()
        else:
            self.setFocus()

    def go_on(self) -> None:
        """Show the next card; at the last one work out where the piece lies."""
        if self.step < len(self.cards) - 1:
            self.go_to_step(self.step + 1)
        else:
            self.judge()

    def follow(self) -> None:
        """Show the plan's numbers, where they are in sight."""
        if not self.isVisible():
            return
        at, unit = self.placement, self.session.job.unit
        is_last = self.step == len(self.cards) - 1
        self.keys.show_these({"back": tr("Back"), "onward": tr("Where does it lie?") if is_last else tr("Next")})
        self.readings.setVisible(self.step == len(self.cards) - 1 and at is not None)
        if at is not None:
            planned = expected_readings(at)
            for name, _, said in FIELDS:
                value = getattr(planned, name)
                self.fields[name].setPlaceholderText(f"plan {write_length(round(value), unit=unit, with_unit=False)}")
                mark = said.replace("left mark", f"left {at.panel.mark_name}").replace(
                    "right mark", f"right {at.panel.mark_name}"
                )
                self.labels[name].setText(mark)
                self.labels[name].setWordWrap(True)
        self._place()
        self.update()

    def _set_quick(self, quick: bool) -> None:
        self.quick = quick
        for name, field in self.fields.items():
            field.setEnabled(not quick or name in QUICK)
        self.fields["left_mm"].setFocus()

    def judge(self) -> None:
        """Read the fields and say where the piece lies."""
        at, unit = self.placement, self.session.job.unit
        if at is None:
            return
        values: dict[str, float | None] = {}
        for name, letter, _ in FIELDS:
            if self.quick and name not in QUICK:
                continue
            try:
                values[name] = read_length(self.fields[name].text(), unit=unit)
            except ZinnetError:
                self._say(f"{letter} is not read yet, or is no length; type it like 140 or 14 cm.", "warn")
                self.fields[name].setFocus()
                return
        try:
            readings = Readings.model_validate(values)
            found = locate(readings, at)
        except ZinnetError as error:
            self._say(str(error), "warn")
            return
        self.found = found
        self.session.apply(record_readings(readings, **self.session.selection.at))
        self._say(found.advice(sides_of(at), unit), "good" if found.is_good else "warn")

    def show_readings(self, *, right_mm: float, down_mm: float, turn_deg: float) -> None:
        """Read the ruler of a piece that lies off by this, for a try at the bench without one."""
        at, unit = self.placement, self.session.job.unit
        if at is None:
            return
        self.go_to_step(len(self.cards) - 1)
        readings = readings_at(at, right_mm=right_mm, down_mm=down_mm, turn_deg=turn_deg)
        for name, field in self.fields.items():
            field.setText(write_length(round(getattr(readings, name)), unit=unit, with_unit=False))
        self.judge()

    def _say(self, text: str, name: str) -> None:
        self.answer.setText(text)
        self.answer.setFont(font(34 if len(text) < 90 else MIDDLE, bold=True))
        self.answer.setStyleSheet(f"QLabel {{ color: {colour('good' if name == 'good' else 'stop').name()}; }}")

    # drawing and keys

    def _card(self) -> QRectF:
        return QRectF(28, 28, self.width() - 56, self.height() - self.keys.height() - 38)

    def _picture_box(self) -> QRectF:
        card = self._card()
        wide = min(360.0, card.width() * 0.34)
        return QRectF(card.right() - wide - 30, card.top() + 84, wide, card.height() - 170)

    def _place(self) -> None:
        card = self._card()
        right = self._picture_box().left() - 30
        self.readings.setGeometry(
            int(card.left() + 42), int(card.top() + 130), int(right - card.left() - 42), int(card.height() - 220)
        )

    def resizeEvent(self, event: object) -> None:
        """Keep the fields on the card."""
        super().resizeEvent(event)  # type: ignore[arg-type]
        self._place()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the card."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), colour("felt"))
            card = self._card()
            draw_card(painter, card)
            painter.setBrush(colour("felt"))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.drawEllipse(QPointF(card.center().x(), card.top() + 20), 8, 8)
            self._draw_text(painter, card)
            if self.placement is not None and self.session.selection.design is not None:
                self._draw_picture(painter, self.placement)

    def _draw_text(self, painter: QPainter, card: QRectF) -> None:
        step, garment = self.cards[self.step], self.session.selection.garment
        painter.setPen(colour("quiet_ink"))
        painter.setFont(font(20))
        place = (
            self.session.selection.design.name.lower()
            if self.session.selection.design is not None
            else "no artwork yet"
        )
        head = f"Lay · step {self.step + 1} of {len(self.cards)} · {garment.blank.name}, {place}"
        painter.drawText(card.adjusted(42, 34, -30, 0), Qt.AlignmentFlag.AlignTop, head)
        painter.setPen(colour("ink"))
        painter.setFont(font(HUGE, bold=True))
        painter.drawText(card.adjusted(40, 58, -30, 0), Qt.AlignmentFlag.AlignTop, step.title)
        painter.setFont(font(BIG))
        y = card.top() + 160
        right = self._picture_box().left() - 36
        for number, said in enumerate(step.lines, start=1):
            box = QRectF(card.left() + 42, y, right - card.left() - 42, 130)
            painter.drawText(box, Qt.TextFlag.TextWordWrap, f"{number}  {said}")
            y += 112
        if not is_heated(garment.blank):
            return
        draw_sign(painter, "warn", QRectF(card.left() + 42, card.bottom() - 58, 32, 30), "!")
        painter.setPen(colour("ink"))
        painter.setFont(font(17))
        painter.drawText(
            QRectF(card.left() + 88, card.bottom() - 66, card.width() - 130, 46), Qt.AlignmentFlag.AlignVCenter, CAUTION
        )

    def _draw_picture(self, painter: QPainter, at: "Placement") -> None:
        garment, design = self.session.selection.garment, self.session.selection.design
        assert design is not None
        world = fit_into(self._picture_box(), at.panel.bounds)
        draw_panel(painter, world, garment.blank, at.panel)
        draw_centre_line(painter, world, garment.blank, at.panel)
        draw_layers(painter, world, design)
        if self.step < len(self.cards) - 1:
            return
        if self.found is not None and self.found.contradiction is None:
            self._draw_as_laid(painter, world, at, self.found)
        corners, marks = at.corners, at.panel.marks
        middle_left = ((corners[0][0] + corners[3][0]) / 2, (corners[0][1] + corners[3][1]) / 2)
        middle_right = ((corners[1][0] + corners[2][0]) / 2, (corners[1][1] + corners[2][1]) / 2)
        left, right = at.panel.edges_near(middle_left[1])
        rulers = (
            ("left_mm", "A", middle_left, (left, middle_left[1])),
            ("right_mm", "B", middle_right, (right, middle_right[1])),
            ("top_left_mm", "C", corners[0], marks[0]),
            ("top_right_mm", "D", corners[1], marks[1]),
        )
        for name, letter, start, end in rulers:
            if self.quick and name not in QUICK:
                continue
            a, b = world.map(QPointF(*start)), world.map(QPointF(*end))
            painter.setPen(pen("tape", 4))
            painter.drawLine(a, b)
            centre = (a + b) / 2
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour("card_light"))
            painter.drawEllipse(centre, 14, 14)
            painter.setPen(colour("ink"))
            painter.setFont(font(17, bold=True))
            painter.drawText(QRectF(centre.x() - 14, centre.y() - 14, 28, 28), Qt.AlignmentFlag.AlignCenter, letter)

    def _draw_as_laid(self, painter: QPainter, world: QTransform, at: "Placement", found: AsLaid) -> None:
        """Draw in a dashed line where the piece lies now."""
        x, y = at.centre
        off = QTransform().translate(x + found.right_mm, y + found.down_mm).rotate(found.turn_deg).translate(-x, -y)
        painter.setPen(pen("accent", 2.4, dashed=True))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolygon((off * world).map(QPolygonF([QPointF(*corner) for corner in at.corners])))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Do what a large key does; leave with F11 or Escape."""
        if event.key() in (Qt.Key.Key_F11, Qt.Key.Key_Escape):
            self.left.emit()
        elif not self.keys.take(event):
            super().keyPressEvent(event)
