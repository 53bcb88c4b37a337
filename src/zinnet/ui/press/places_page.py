"""Positions: where the platen goes on the garment, in order and with measures, and how long each point is at heat."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QTransform
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QListWidget, QPushButton, QVBoxLayout, QWidget

from zinnet.base.units import write_length
from zinnet.pressing.heat_map import heat_at
from zinnet.pressing.platen_positions import leaves_whole
from zinnet.pressing.position_words import position_said
from zinnet.ui.card_page import CardPage, small
from zinnet.ui.drawing import draw_label
from zinnet.ui.garment import draw_centre_line, draw_keep_outs, draw_panel, fit_into
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.press.drawing import draw_heat, draw_pieces, draw_positions, heat_colour, lying_at, shown_box, work_at
from zinnet.ui.theme import LARGE, PLAIN, SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.pressing.steps import PressStep
    from zinnet.ui.press.control import PressControl

SIDE_WIDTH = 262
EDGE, MOST_SAID = 10, 6


class PlacesPicture(QWidget):
    """The panel with the platen's positions, or with the seconds of heat."""

    def __init__(self, page: "PlacesPage") -> None:
        super().__init__()
        self.page = page
        self.pointer: QPointF | None = None
        self.world = QTransform()
        self.setMouseTracking(True)
        self.setMinimumSize(QSize(230, 220))
        self.setAccessibleName(tr("The platen's positions on what is pressed"))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Say the seconds of heat under the pointer."""
        self.pointer = event.position()
        self.update()

    def leaveEvent(self, event: object) -> None:
        """Say nothing any more."""
        self.pointer = None
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw it."""
        page, press = self.page, self.page.control.press
        step = page.step
        work = work_at(press, step)
        if work is None:
            return
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            box = QRectF(self.rect()).adjusted(EDGE, EDGE, -EDGE, -EDGE)
            positions = step.heat.coverage.positions if step is not None and step.heat is not None else ()
            self.world = fit_into(box, shown_box(press, work))
            painter.setClipRect(box)
            draw_panel(painter, self.world, press.garment.blank, work.panel)
            if page.shows_heat:
                draw_heat(painter, self.world, press.heat_on(work.panel.id), work.film)
                self._draw_pointed(painter, work.panel.id)
            else:
                carried, bare = lying_at(press.steps, press.steps.index(step), work.panel.id) if step else ([], [])
                pieces = [piece.key for piece in work.pieces]
                draw_pieces(
                    painter, self.world, work, [], carried + bare or pieces, set(), cloth=press.garment.blank.colour
                )
                draw_keep_outs(painter, self.world, press.garment.blank, work.panel)
                draw_centre_line(painter, self.world, press.garment.blank, work.panel)
                draw_positions(painter, self.world, positions)

    def _draw_pointed(self, painter: QPainter, panel: str) -> None:
        inverse, can = self.world.inverted()
        if self.pointer is None or not can:
            return
        at = inverse.map(self.pointer)
        seconds = heat_at(self.page.control.press.presses_on(panel), at.x(), at.y())
        draw_label(painter, self.pointer + QPointF(34, -20), f"{seconds:.0f} s")


class HeatLegend(QWidget):
    """What the colours of the heat map mean, with the film's limit."""

    def __init__(self, page: "PlacesPage") -> None:
        super().__init__()
        self.page = page
        self.setFixedHeight(56)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw a box for each amount."""
        press, work = self.page.control.press, work_at(self.page.control.press, self.page.step)
        if work is None or not self.page.shows_heat:
            return
        spots = press.heat_on(work.panel.id)
        most = max((spot.seconds for spot in spots), default=0.0)
        with QPainter(self) as painter:
            painter.setFont(font(SMALL))
            shown = spots[:: max(1, -(-len(spots) // 5))]
            for column, spot in enumerate(shown):
                box = QRectF(column * 52, 4, 46, 18)
                painter.setPen(colour("ink"))
                painter.setBrush(heat_colour(spot.seconds, most))
                painter.drawRect(box)
                painter.drawText(QRectF(box.left(), 24, 46, 16), f"{spot.seconds:.0f} s")


class PlacesPage(CardPage):
    """The presses of the garment, and where the platen goes for each."""

    def __init__(self, control: "PressControl") -> None:
        super().__init__("Positions")
        self.control = control
        self.shows_heat = False
        self._at = 0
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Presses"))
        self.list.setFixedHeight(150)
        self.list.setWordWrap(True)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.currentRowChanged.connect(self.choose)
        self.places = QPushButton(tr("Positions"))
        self.heat = QPushButton(tr("Seconds of heat"))
        group = QButtonGroup(self)
        for button, shows, tip in (
            (self.places, False, "Where the platen goes for this press (P)"),
            (self.heat, True, "How long each point is at heat, over all presses (H)"),
        ):
            button.setCheckable(True)
            button.setToolTip(plain(tip))
            button.clicked.connect(lambda checked=False, shows=shows: self.show_heat(shows))
            group.addButton(button)
        self.heat.setShortcut("H")
        self.places.setShortcut("P")
        self.picture = PlacesPicture(self)
        self.head = Label()
        self.head.setFont(font(LARGE, bold=True))
        self.head.setWordWrap(True)
        self.lines = Label()
        self.lines.setFont(font(PLAIN))
        self.lines.setWordWrap(True)
        self.legend = HeatLegend(self)
        self.about = small("")
        buttons = QHBoxLayout()
        buttons.addWidget(self.places)
        buttons.addWidget(self.heat)
        side = QVBoxLayout()
        side.setSpacing(8)
        side.addLayout(buttons)
        side.addWidget(self.list)
        side.addWidget(self.head)
        side.addWidget(self.lines)
        side.addWidget(self.legend)
        side.addStretch(1)
        side.addWidget(self.about)
        holder = QWidget()
        holder.setLayout(side)
        holder.setFixedWidth(SIDE_WIDTH)
        row = QHBoxLayout()
        row.setSpacing(14)
        row.addWidget(self.picture, 1)
        row.addWidget(holder)
        self.column.addLayout(row, 1)
        control.changed.connect(self.follow)

    @property
    def presses(self) -> list["PressStep"]:
        """The steps in which something is heated."""
        return [step for step in self.control.steps if step.heat is not None]

    @property
    def step(self) -> "PressStep | None":
        """The press that is looked at."""
        presses = self.presses
        return presses[min(self._at, len(presses) - 1)] if presses else None

    def show_heat(self, shows: bool) -> None:
        """Show the seconds of heat, or the positions."""
        self.shows_heat = shows
        self._shown_for = None
        self.follow()

    def look(self) -> object:
        """Return what the page depends on."""
        return self.control.press, self._at, self.shows_heat, self.control.session.job.unit

    def show_plan(self) -> None:
        """Show the presses."""
        step = self.step
        for widget in (self.list, self.picture, self.head, self.lines, self.places, self.heat, self.legend, self.about):
            widget.setVisible(step is not None)
        if step is None or step.heat is None:
            self.note.setText(tr("Nothing is pressed with heat here."))
            return
        self.places.setChecked(not self.shows_heat)
        self.heat.setChecked(self.shows_heat)
        self.list.blockSignals(True)
        self.list.clear()
        self.list.addItems([one.title for one in self.presses])
        self.list.setCurrentRow(min(self._at, len(self.presses) - 1))
        self.list.blockSignals(False)
        work = work_at(self.control.press, step)
        assert work is not None
        unit = self.control.session.job.unit
        platen = work.platen
        size = (
            ""
            if platen is None
            else (
                f"{platen.name}, {write_length(platen.width_mm, unit=unit, with_unit=False)} x "
                f"{write_length(platen.height_mm, unit=unit)}"
            )
        )
        self.note.setText(f"{work.panel.name} of the {self.control.press.garment.blank.name}; {size}.")
        coverage = step.heat.coverage
        count = len(coverage.positions)
        if self.shows_heat:
            self.head.setText(tr("Seconds at heat, all presses together"))
            self.lines.setText(tr("Point at a spot to read its seconds."))
            limits = {piece.kind.name: piece.kind.most_heat_s for piece in work.pieces if piece.kind.most_heat_s}
            self.about.setText(
                "; ".join(f"{name} film bears {most:.0f} s (typical, unsourced)" for name, most in limits.items())
            )
        else:
            self.head.setText("One position covers all" if count == 1 else f"{count} positions")
            shown = [
                position_said(k, one, work.panel, unit) for k, one in enumerate(coverage.positions[:MOST_SAID], start=1)
            ]
            shown += [f"and {count - MOST_SAID} more" if count > MOST_SAID else ""]
            self.lines.setText("\n".join(line for line in shown if line))
            whole = " as they leave every part whole" if leaves_whole(work.film, coverage.positions) else ""
            fewest = f"At least {coverage.least} are needed; these are {count}{whole}."
            proof = "Fewer can't do." if coverage.is_proven else fewest
            left = (
                "" if coverage.left.is_empty else " Some film can't be reached without pressing on what must stay cool."
            )
            self.about.setText(f"{proof}{left} Measures are to the middle of the platen.")
        self.picture.update()
        self.legend.update()

    def choose(self, row: int) -> None:
        """Look at another press."""
        if row >= 0:
            self._at = row
            self.follow()
