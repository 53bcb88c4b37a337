"""Steps: what is done in which order, with a drawing of the garment as it lies and what could go wrong."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from zinnet.base.units import write_seconds
from zinnet.plan.in_hand import hand_at
from zinnet.plan.press_cards import hands_at
from zinnet.ui.aside import Aside
from zinnet.ui.card_page import CardPage, small
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, Paragraph
from zinnet.ui.press.drawing import draw_step
from zinnet.ui.theme import PLAIN, font

MOST_SAID = 3
"""So many pieces of a step that lays several are told here; the bench and the job sheet tell all."""

if TYPE_CHECKING:
    from zinnet.plan.presses import GarmentPress
    from zinnet.pressing.steps import PressStep
    from zinnet.ui.press.control import PressControl

LIST_WIDTH, TEXT_WIDTH = 176, 222


def step_said(number: int, step: "PressStep") -> str:
    """Return a step as a line of the list."""
    time = f", {write_seconds(step.seconds)}" if step.heat is not None and step.seconds else ""
    return f"{number}  {step.headline}{time}"


def saved_said(press: "GarmentPress") -> str:
    """Return what pressing films at once saves, as a sentence; empty where it saves nothing."""
    saved = press.saved_s
    return (
        f"Pressing films at once saves {write_seconds(saved)} on each {press.object.procedure.noun}. "
        if saved >= 1
        else ""
    )


class StepPicture(QWidget):
    """The garment as it lies at the step that is looked at."""

    def __init__(self, control: "PressControl") -> None:
        super().__init__()
        self.control = control
        self.setMinimumSize(QSize(130, 200))
        self.setAccessibleName(tr("What is worked on, as it lies"))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw it."""
        press = self.control.press
        if not press.steps:
            return
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            index = min(self.control.step_index, len(press.steps) - 1)
            draw_step(painter, QRectF(self.rect()).adjusted(6, 6, -6, -6), press, index)


class StepsPage(CardPage):
    """The list of steps, and the one that is looked at."""

    def __init__(self, control: "PressControl") -> None:
        super().__init__("Steps")
        self.control = control
        self._aside = Aside(control.session, self)
        self._saved: tuple[GarmentPress | None, str] = (None, "")
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Steps of pressing"))
        self.list.setFixedWidth(LIST_WIDTH)
        self.list.setWordWrap(True)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.currentRowChanged.connect(self._choose)
        self.picture = StepPicture(control)
        self.title = Label()
        self.title.setFont(font(20, bold=True))
        self.title.setWordWrap(True)
        self.lines = Label()
        self.lines.setFont(font(PLAIN))
        self.lines.setWordWrap(True)
        self.caution = small("")
        card = QVBoxLayout()
        card.setSpacing(8)
        card.addWidget(self.title)
        card.addWidget(self.lines)
        card.addStretch(1)
        card.addWidget(self.caution)
        text = QWidget()
        text.setLayout(card)
        text.setFixedWidth(TEXT_WIDTH)
        row = QHBoxLayout()
        row.setSpacing(14)
        row.addWidget(self.list)
        row.addWidget(self.picture, 1)
        row.addWidget(text)
        self.column.addLayout(row, 1)
        control.changed.connect(self.follow)

    def look(self) -> object:
        """Return what the page depends on."""
        return self.control.press, self.control.step_index

    def show_plan(self) -> None:
        """Show the steps."""
        steps = self.control.steps
        for widget in (self.list, self.picture, self.title, self.lines, self.caution):
            widget.setVisible(bool(steps))
        if not steps:
            self.note.setText(
                "Nothing to press yet. When a layer has its film, its steps stand here, one after another."
            )
            return
        press = self.control.press
        if self._saved[0] is not press:
            self._say(press, "")
            self._aside.ask(press, lambda: saved_said(press), lambda saved: self._say(press, saved))
        said = [step_said(number, step) for number, step in enumerate(steps, start=1)]
        shown = [self.list.item(row).text() for row in range(self.list.count())]
        self.list.blockSignals(True)
        if said != shown:
            self.list.clear()
            for text in said:
                self.list.addItem(QListWidgetItem(text))
        index = min(self.control.step_index, len(steps) - 1)
        self.list.setCurrentRow(index)
        self.list.blockSignals(False)
        step = steps[index]
        self.title.setText(step.headline)
        rows = [Paragraph(line) for line in (*self._lengths(press, index), *step.lines)]
        rows += [Paragraph(step.wrong, "Can go wrong:")] if step.wrong else []
        rows += [Paragraph(step.lifts, "If it lifts:")] if step.lifts else []
        self.lines.show_paragraphs(rows)
        self.caution.setText(step.caution or "")
        self.picture.update()

    def _lengths(self, press: "GarmentPress | None", index: int) -> list[str]:
        """Return the lengths by which the pieces of a step are laid."""
        unit = self.control.session.job.unit
        if press is None or press.steps[index].kind != "lay":
            return []
        hands = [hand_at(press, index, hand, unit) for hand in hands_at(press, index)]
        found = []
        for hand in hands[:MOST_SAID]:
            said = "; ".join(f"{length} {goes}" for _, length, goes in hand.rows(unit))
            found.append(f"{hand.name}: {said}.")
        return found

    def _say(self, press: "GarmentPress", saved: str) -> None:
        """Say what is pressed; what pressing films at once saves follows when it is worked out."""
        self._saved = press, saved
        self.note.setText(
            f"{press.garment.blank.name}, {press.garment.blank.fabric}: {len(press.steps)} steps. {saved}"
            "Labels, the makers' sheets and the press's manual come before all of it."
        )

    def _choose(self, row: int) -> None:
        if row >= 0:
            self.control.look_at_step(row)
