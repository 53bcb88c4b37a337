"""Loading: every mat of the job as a card that says what goes where, with which side down and which settings."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from zinnet.base.units import write_length
from zinnet.base.words import shown_source
from zinnet.cutting.advice import worn_blade
from zinnet.plan.printed import printed_pieces
from zinnet.ui.card_page import CardPage, small
from zinnet.ui.cut.mat_drawing import draw_bed, draw_film_corners, draw_pieces, draw_print, mat_world
from zinnet.ui.films import film_chip
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, Paragraph, Wrapped, plain
from zinnet.ui.rows import put_text
from zinnet.ui.theme import PLAIN, font

if TYPE_CHECKING:
    from zinnet.plan.loading import LoadedMat
    from zinnet.ui.cut.control import CutterControl

LIST_WIDTH, TEXT_WIDTH, CHIP = 128, 236, 16


def picture_box(rect: QRectF, load: "LoadedMat") -> QRectF:
    """Return where the mat is drawn, with room beside it for measures; at the top, where it is wider than high."""
    stuck = any(load.stuck_at(trim) != (0.0, 0.0) for trim in load.trims)
    box = rect.adjusted(70 if stuck else 10, 32 if stuck else 8, -10, -10)
    width, height = load.size
    box.setHeight(min(box.height(), box.width() * height / width))
    return box


PRINTED = (
    "At 100 %, not fitted to the page, in best quality on matt paper: Write the cut files writes it.",
    "Measure the bar of 100 mm at its foot before anything is pressed.",
    "Trim it by hand along its marks.",
)


class MatPicture(QWidget):
    """The mat that is looked at, from above."""

    def __init__(self, control: "CutterControl") -> None:
        super().__init__()
        self.control = control
        self.setMinimumSize(QSize(150, 200))
        self.setAccessibleName(tr("The mat from above"))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw it."""
        load = self.control.load
        if load is None:
            return
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            world = mat_world(load, picture_box(QRectF(self.rect()), load))
            draw_bed(painter, world, load)
            if load.is_printed:
                draw_print(painter, world, printed_pieces(self.control.session.plan, load))
                return
            draw_pieces(painter, world, load, self.control.sheet_of(load))
            draw_film_corners(painter, world, load, self.control.session.job.unit)


class LoadingPage(CardPage):
    """The list of mats, and the card of the one that is looked at."""

    def __init__(self, control: "CutterControl") -> None:
        super().__init__("Loading")
        self.control = control
        self.buttons: list[QPushButton] = []
        self._group = QButtonGroup(self)
        self._list = QVBoxLayout()
        self._list.setSpacing(4)
        holder = QWidget()
        holder.setProperty("holder", True)
        holder.setLayout(self._list)
        area = QScrollArea()
        area.setAccessibleName(tr("The mats in the order of cutting"))
        area.setWidget(holder)
        area.setWidgetResizable(True)
        area.setFixedWidth(LIST_WIDTH)
        area.viewport().setAutoFillBackground(False)
        self.picture = MatPicture(control)
        self.side = Label()
        self.side.setFont(font(20, bold=True))
        self.side.setWordWrap(True)
        self.lines = Wrapped()
        self.lines.setFont(font(PLAIN))
        self.yes = QPushButton(tr("Yes, it is loaded like this"))
        self.yes.setProperty("strong", True)
        self.yes.setToolTip(tr("It is loaded as this card says; goes on to the next mat. Nothing is sent before (Y)"))
        self.yes.setShortcut("Y")
        self.yes.clicked.connect(control.confirm_loaded)
        self.no = QPushButton(tr("No, not yet"))
        self.no.setProperty("small", True)
        self.no.setToolTip(tr("Take back that the mat is loaded like this"))
        self.no.clicked.connect(lambda: control.say_loaded(False))
        card = QVBoxLayout()
        card.setSpacing(8)
        card.addWidget(self.side)
        card.addWidget(self.lines)
        card.addStretch(1)
        card.addWidget(small("Blades point away from hands; hands off the cutter while it has power."))
        card.addWidget(self.yes)
        card.addWidget(self.no)
        text = QWidget()
        text.setLayout(card)
        text.setFixedWidth(TEXT_WIDTH)
        row = QHBoxLayout()
        row.setSpacing(14)
        row.addWidget(area)
        row.addWidget(self.picture, 1)
        row.addWidget(text)
        self.column.addLayout(row, 1)
        control.changed.connect(self.follow)

    def look(self) -> object:
        """Return what the page depends on."""
        control, load = self.control, self.control.load
        return (
            control.session.plan.loads,
            control.session.job.cutting,
            control.session.job.unit,
            load.key if load is not None else None,
            tuple(control.finished),
            None if load is None else control.sheet_of(load) is not None,
        )

    def show_plan(self) -> None:
        """Show the mats."""
        load, loads = self.control.load, self.control.loads
        for widget in (self.picture, self.side, self.lines, self.yes, self.no):
            widget.setVisible(load is not None)
        self._fill_list()
        if load is None:
            self.note.setText(tr("Nothing is nested yet. When there are mats, each has a card here: what goes where."))
            return
        left = sum(not one.is_loaded for one in loads if not one.is_printed)
        self.note.setText(
            f"{len(loads)} mats in the order of cutting, films of one setting after one another; {left} to load. "
            "Seen from above, as the cutter sees it."
        )
        self.side.setText(load.trims[0].side_down[0].upper() + load.trims[0].side_down[1:])
        self.lines.show_paragraphs(self._lines(load))
        self.yes.setVisible(not load.is_printed)
        put_text(self.yes, "Loaded; go on" if load.is_loaded else "Yes, it is loaded like this")
        self.no.setVisible(load.is_loaded and not load.is_printed)
        self.picture.update()

    def _lines(self, load: "LoadedMat") -> list[Paragraph]:
        unit = self.control.session.job.unit
        found = [Paragraph("", load.grip)]
        if load.is_printed:
            return [*found, *(Paragraph(line) for line in PRINTED)]
        for trim in load.trims:
            left, top = load.stuck_at(trim)
            where = "its corner on the mat's corner"
            if load.bed.fed:
                where = "its free end at the start"
            elif left or top:
                where = f"{write_length(left, unit=unit)} from the left, {write_length(top, unit=unit)} from the top"
            found.append(Paragraph(f"{trim.source}: {where}"))
        if load.curls:
            found.append(Paragraph("Roll or bray it flat; tape the corners if they lift."))
        blade = load.cutting.blade
        with_blade = "" if blade is None else f" Blade {blade.number}, {blade.metres:.1f} m cut."
        settings = load.settings_said
        found.append(Paragraph(f"{settings[0].upper()}{settings[1:]}.{with_blade}"))
        found.append(Paragraph(shown_source(load.known.source), is_quiet=True))
        film = load.mats[0].nest.film.id
        worn = worn_blade(blade, self.control.session.workshop.tests, film, load.cutting.machine)
        if worn is not None:
            found.append(Paragraph(f"{worn}.", "The blade is likely worn:"))
        if load.changes:
            found.append(Paragraph("; ".join(load.changes), "Other than before:"))
        if self.control.sheet_of(load) is not None:
            duration = self.control.duration_of(load).in_words()
            found.append(Paragraph(f"{duration[0].upper()}{duration[1:]}."))
        return found

    def _fill_list(self) -> None:
        for button in self.buttons:
            self._group.removeButton(button)
            button.hide()
            button.deleteLater()
        while self._list.count():
            self._list.takeAt(0)
        self.buttons = []
        chosen = self.control.load
        for load in self.control.loads:
            state = "cut" if load.key in self.control.finished else "loaded" if load.is_loaded else ""
            button = QPushButton(f"Mat {load.numbers}{', ' + state if state else ''}")
            button.setIcon(film_chip(load.mats[0].nest.film, CHIP))
            button.setCheckable(True)
            button.setChecked(load is chosen)
            button.setToolTip(plain(f"{load.films}: {load.trims[0].side_down}"))
            button.setStyleSheet("QPushButton { text-align: left; padding: 4px 8px; }")
            button.clicked.connect(lambda checked=False, load=load: self.control.choose(load))
            self._group.addButton(button)
            self._list.addWidget(button)
            self.buttons.append(button)
        self._list.addStretch(1)
