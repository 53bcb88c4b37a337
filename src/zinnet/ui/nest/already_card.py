"""What is there already: which of four things it is, and what of it; the page of questions asks what goes with it."""

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QComboBox, QGridLayout, QLineEdit, QStackedWidget, QVBoxLayout, QWidget

from zinnet.base.units import read_length
from zinnet.bench.already import cut_in, hidden, on_cloth, pressed_first
from zinnet.bench.answers import Answer
from zinnet.ui.card.cloth import ClothBox
from zinnet.ui.films import film_chip
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain

if TYPE_CHECKING:
    from collections.abc import Callable

    from zinnet.films.catalogue import Film
    from zinnet.plan.model import Facts
    from zinnet.ui.session import Session

KINDS = (
    ("cut", "It is cut already, from"),
    ("cloth", "The garment's colour is"),
    ("fault", "A fault shows, so far beside it:"),
    ("pressed", "It is pressed already:"),
)
"""What can be there already, each with the words before what is to be said of it."""


class AlreadyFields(QWidget):
    """The fields in which is said what is there already."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.kind = _combo(tr("What is there already"), 22)
        for name, said in KINDS:
            self.kind.addItem(tr(said), name)
        self.old, self.film = _combo(tr("The film that it was to be cut from")), _combo(tr("The film it is cut from"))
        self._cloth_of: str | None = None
        self.cloth = ClothBox(lambda cloth: None, "The garment's colour")
        self.pressed = _combo(tr("The film that is pressed"))
        self.reach = QLineEdit()
        self.reach.setPlaceholderText("8 mm")
        self.reach.setAccessibleName(tr("How far beside the artwork the fault reaches"))
        self.reach.setToolTip(plain(tr("How far beside the artwork the fault reaches, such as 8 mm")))
        cut = QWidget()
        below = QGridLayout(cut)
        below.setContentsMargins(0, 0, 0, 0)
        below.addWidget(self.film, 0, 0, 1, 2)
        below.addWidget(Label(tr("instead of")), 1, 0)
        below.addWidget(self.old, 1, 1)
        below.setColumnStretch(1, 1)
        self.stack = QStackedWidget()
        for widget in (cut, self.cloth, self.reach, self.pressed):
            self.stack.addWidget(widget)
        self.kind.currentIndexChanged.connect(self.stack.setCurrentIndex)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.kind)
        column.addWidget(self.stack)

    def show_plan(self) -> None:
        """Offer the films and cloths that there are."""
        plan = self.session.plan
        used = dict.fromkeys(row.film for _, one in plan.composed for row in one.layers if row.film is not None)
        _fill(self.old, [(film.name, film.id, film) for film in used])
        _fill(self.pressed, [(film.name, film.id, film) for film in used])
        _fill(self.film, [(film.name, film.id, film) for film in plan.workshop.films])
        if self._cloth_of != plan.blank.colour:
            self._cloth_of = plan.blank.colour
            self.cloth.show_cloth(plan.blank.colour, "")

    def answers(self) -> "Callable[[Facts], Answer]":
        """Return what answers the question as it stands; raises where what was typed can't be read."""
        kind, films = self.kind.currentData(), {film.id: film for film in self.session.workshop.films}
        unit = self.session.job.unit
        if kind == "cut":
            old, film = films.get(self.old.currentData()), films[self.film.currentData()]
            return lambda facts: Answer(tr("Nothing is cut yet.")) if old is None else cut_in(facts, old, film)
        if kind == "cloth":
            colour = self.cloth.cloth[0]
            return lambda facts: on_cloth(facts, colour)
        if kind == "fault":
            reach = read_length(self.reach.text() or "0", unit=unit)
            return lambda facts: hidden(facts, reach, unit)
        first = films.get(self.pressed.currentData())
        return lambda facts: Answer(tr("Nothing is pressed yet.")) if first is None else pressed_first(facts, first)


def _combo(name: str, length: int = 8) -> QComboBox:
    combo = QComboBox()
    combo.setAccessibleName(name)
    combo.setToolTip(plain(name))
    combo.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
    combo.setMinimumContentsLength(length)
    return combo


def _fill(combo: QComboBox, rows: "list[tuple[str, str, Film]]") -> None:
    """Fill a combo with names and what they stand for; what was chosen stays."""
    if [combo.itemData(k) for k in range(combo.count())] == [value for _, value, _ in rows]:
        return
    kept = combo.currentData()
    combo.clear()
    for said, value, film in rows:
        combo.addItem(film_chip(film), said, value)
    combo.setCurrentIndex(max(0, combo.findData(kept)))
