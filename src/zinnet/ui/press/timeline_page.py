"""The timeline: which garment is where when, how long it all takes, and what holds it up."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from zinnet.base.units import write_seconds
from zinnet.plan.presses import day_before_said
from zinnet.pressing.schedule.model import RESOURCES, Need, Resource, Schedule, Slot, one_after_another_s
from zinnet.ui.card_page import CardPage, small
from zinnet.ui.drawing import pen
from zinnet.ui.language import tr
from zinnet.ui.plain import Label
from zinnet.ui.theme import LARGE, SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.ui.press.control import PressControl

ROW, LANE, LEFT, TOP = 24, 20, 118, 26
MOST_ROWS = 60
PIXELS = 0.55
"""How wide a second is at least, in pixels, so that short steps are seen."""
SAID: dict[Resource, str] = {"press": "press", "person": "hands", "cooling": "cooling"}
FILLS: dict[Resource, tuple[str, Qt.BrushStyle]] = {
    "press": ("#e4573d", Qt.BrushStyle.SolidPattern),
    "person": ("#f0c84b", Qt.BrushStyle.SolidPattern),
    "cooling": ("#3a7ca5", Qt.BrushStyle.BDiagPattern),
}
STEPS_S = (10, 30, 60, 120, 300, 600, 900, 1800, 3600)


def shown_needs(found: Schedule, slot: Slot) -> list[tuple[Need, int]]:
    """Return what a slot needs with its units, hands first so that the press is drawn over them."""
    rows = list(zip(found.task(slot).needs, slot.units, strict=True))
    return sorted(rows, key=lambda row: ("person", "cooling", "press").index(row[0].resource))


class TimelinePicture(QWidget):
    """One lane for each press, person and cooling place, then one row for each garment."""

    def __init__(self) -> None:
        super().__init__()
        self.found: Schedule | None = None
        self.setAccessibleName(tr("The timeline"))

    def show_schedule(self, found: Schedule | None, width: int) -> None:
        """Show a schedule, as wide as it asks for."""
        self.found = found
        if found is not None:
            rows = min(len(found.works), MOST_ROWS)
            lanes = found.team.presses + found.team.people
            wide = max(width, int(LEFT + found.total_s * min(PIXELS, 20_000 / max(1, found.total_s)) + 20))
            self.setMinimumSize(QSize(wide, TOP + lanes * LANE + 10 + rows * ROW + 20))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw it."""
        found = self.found
        if found is None:
            return
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            scale = (self.width() - LEFT - 16) / max(1, found.total_s)
            self._draw_hours(painter, found.total_s, scale)
            top = self._draw_lanes(painter, found, scale)
            self._draw_garments(painter, found, scale, top)

    def _draw_hours(self, painter: QPainter, total_s: int, scale: float) -> None:
        step = next((one for one in STEPS_S if one * scale >= 64), STEPS_S[-1])
        painter.setFont(font(SMALL))
        for second in range(0, total_s + 1, step):
            x = LEFT + second * scale
            painter.setPen(pen("card_line", 1))
            painter.drawLine(QPointF(x, TOP - 6), QPointF(x, self.height() - 6))
            painter.setPen(colour("quiet_ink"))
            said = write_seconds(second) if second else "0"
            painter.drawText(QRectF(x - 40, 2, 80, 16), Qt.AlignmentFlag.AlignHCenter, said)

    def _draw_lanes(self, painter: QPainter, found: Schedule, scale: float) -> float:
        lanes = {}
        y = float(TOP)
        for resource in ("press", "person"):
            count = found.team.count(resource)
            for unit in range(count):
                lanes[resource, unit] = y
                name = f"{SAID[resource]} {unit + 1}" if count > 1 else SAID[resource]
                painter.setPen(colour("quiet_ink"))
                painter.setFont(font(SMALL, bold=True))
                painter.drawText(QRectF(6, y, LEFT - 12, LANE), Qt.AlignmentFlag.AlignVCenter, name)
                painter.fillRect(QRectF(LEFT, y + 3, self.width() - LEFT - 16, LANE - 6), colour("card_line", 90))
                y += LANE
        for slot in found.slots:
            for need, unit in shown_needs(found, slot):
                at = lanes.get((need.resource, unit))
                if at is not None:
                    self._block(painter, found, slot, need, at + 3, LANE - 6, scale)
        return y + 10

    def _draw_garments(self, painter: QPainter, found: Schedule, scale: float, top: float) -> None:
        for row, work in enumerate(found.works[:MOST_ROWS]):
            painter.setPen(colour("ink"))
            painter.setFont(font(SMALL))
            name = painter.fontMetrics().elidedText(work.name, Qt.TextElideMode.ElideMiddle, LEFT - 14)
            painter.drawText(QRectF(6, top + row * ROW, LEFT - 12, ROW), Qt.AlignmentFlag.AlignVCenter, name)
        for slot in found.slots:
            if slot.garment < MOST_ROWS:
                for need, _ in shown_needs(found, slot):
                    self._block(painter, found, slot, need, top + slot.garment * ROW + 3, ROW - 6, scale)

    def _block(
        self, painter: QPainter, found: Schedule, slot: Slot, need: Need, y: float, height: float, scale: float
    ) -> None:
        fill, style = FILLS[need.resource]
        box = QRectF(LEFT + (slot.start + need.start_s) * scale, y, (need.end_s - need.start_s) * scale, height)
        painter.setPen(pen("ink", 0.8, alpha=150))
        if style is not Qt.BrushStyle.SolidPattern:
            painter.fillRect(box, QColor("#dfe8ee"))
        painter.setBrush(QBrush(QColor(fill), style))
        painter.drawRect(box)
        if box.width() > 44 and height > 14 and need.resource == "person":
            painter.setPen(QColor("#26292b"))
            painter.setFont(font(SMALL))
            text = painter.fontMetrics().elidedText(
                found.task(slot).name, Qt.TextElideMode.ElideRight, int(box.width() - 6)
            )
            if len(text) > 3:
                painter.drawText(box.adjusted(3, 0, -2, 0), Qt.AlignmentFlag.AlignVCenter, text)


class Legend(QWidget):
    """What the blocks mean."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(22)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw a block for each resource."""
        with QPainter(self) as painter:
            painter.setFont(font(SMALL))
            x = 0
            for resource in RESOURCES:
                fill, style = FILLS[resource]
                box = QRectF(x, 3, 22, 14)
                painter.fillRect(box, QColor("#dfe8ee"))
                painter.setPen(pen("ink", 0.8))
                painter.setBrush(QBrush(QColor(fill), style))
                painter.drawRect(box)
                painter.setPen(colour("ink"))
                painter.drawText(QRectF(x + 28, 2, 80, 16), Qt.AlignmentFlag.AlignVCenter, SAID[resource])
                x += 100


class TimelinePage(CardPage):
    """The schedule of the whole job."""

    def __init__(self, control: "PressControl") -> None:
        super().__init__("Timeline")
        self.control = control
        self.total = Label()
        self.total.setFont(font(26, bold=True))
        self.against = small("")
        self.help = Label()
        self.help.setFont(font(LARGE))
        self.help.setWordWrap(True)
        numbers = QVBoxLayout()
        numbers.setSpacing(2)
        numbers.addWidget(self.total)
        numbers.addWidget(self.against)
        head = QHBoxLayout()
        head.setSpacing(26)
        head.addLayout(numbers, 1)
        head.addWidget(self.help, 1)
        self.picture = TimelinePicture()
        self.area = QScrollArea()
        self.area.setAccessibleName(tr("The timeline"))
        self.area.setWidgetResizable(True)
        self.area.setWidget(self.picture)
        self.area.setAccessibleName(tr("The timeline of all garments"))
        self.area.viewport().setAutoFillBackground(False)
        self.picture.setProperty("holder", True)
        self.column.addLayout(head)
        self.column.addWidget(Legend())
        self.column.addWidget(self.area, 1)
        control.changed.connect(self.follow)

    def follow(self) -> None:
        """Plan the run where the page is seen, and show it."""
        if self.isVisible():
            self.control.plan_schedule()
        super().follow()

    def look(self) -> object:
        """Return what the page depends on."""
        return self.control.schedule, self.control.helped, self.control.is_planning, self.area.width()

    def show_plan(self) -> None:
        """Show the schedule."""
        control, found = self.control, self.control.schedule
        for widget in (self.total, self.against, self.help, self.area):
            widget.setVisible(found is not None)
        if found is None:
            self.note.setText(
                "Planning who does what when ..."
                if control.is_planning
                else "Nothing to press yet. When the layers have their films, the run of all garments is planned here."
            )
            self.picture.show_schedule(None, 0)
            return
        team = found.team
        proof = "proven: no faster order exists" if found.is_proven else f"at most {found.gap:.1%} above the shortest"
        before = day_before_said(self.control.session.plan.presses)
        self.note.setText(
            f"{before + ' ' if before else ''}{len(found.works)} garments; {_count(team.presses, 'press', 'presses')}, "
            f"{_count(team.people, 'person', 'people')}, room for {team.cooling} to cool; {proof}."
        )
        self.total.setText(write_seconds(found.total_s))
        alone = one_after_another_s(found.works, team)
        saved = f", {write_seconds(alone - found.total_s)} saved" if alone > found.total_s else ""
        pattern = ""
        if found.pattern is not None:
            begun = "a garment" if found.pattern.begun == 1 else f"{found.pattern.begun} garments"
            pattern = f" Every {write_seconds(found.pattern.period_s)} {begun} more, {found.pattern.in_work} in work."
        self.against.setText(f"One after another {write_seconds(alone)}{saved}.{pattern}")
        if control.is_planning:
            self.help.setText(tr("Looking what would shorten it ..."))
        else:
            said = [f"{row.in_words(team)} saves {write_seconds(row.saves_s)}." for row in control.helped]
            self.help.setText("\n".join(said) or "One more of anything would save nothing.")
        self.picture.show_schedule(found, self.area.width() - 12)


def _count(number: int, one: str, many: str) -> str:
    return f"1 {one}" if number == 1 else f"{number} {many}"
