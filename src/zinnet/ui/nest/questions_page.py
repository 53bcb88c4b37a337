"""Questions to the job and the shelf: each is asked with one button and answered beside the window."""

import threading
from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QLineEdit, QPushButton, QWidget

from zinnet.base.errors import ZinnetError
from zinnet.base.units import Unit, read_size
from zinnet.bench import answers as words
from zinnet.bench.answers import Answer, carried_out
from zinnet.bench.rescues import Rescue
from zinnet.bench.ways_out import WayOut
from zinnet.nesting.questions import GoesOn
from zinnet.nesting.rectangles import how_many_rectangles
from zinnet.plan.model import Facts
from zinnet.ui.background import Background
from zinnet.ui.card_page import CardList, CardPage, light_card, small
from zinnet.ui.language import tr
from zinnet.ui.nest.already_card import AlreadyFields
from zinnet.ui.nest.offer_list import OfferList
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import PLAIN, font
from zinnet.workshop.prices import read_prices

if TYPE_CHECKING:
    from zinnet.ui.session import Session

type Answers = Callable[[Facts, GoesOn, Unit], Answer]
QUESTIONS: tuple[tuple[str, str, str, Answers], ...] = (
    ("more", "How many more garments?", "For how many more the film holds all pieces", words.more),
    ("largest", "How large can it be?", "By how much all designs may grow on the film there is", words.largest),
    ("missing", "What is missing?", "How much roll is missing for pieces that found no room", words.missing_film),
    ("scraps", "Which scraps would do?", "What each scrap of these films holds", words.scraps),
    ("films", "Which film is near, and enough?", "The nearest colours on the shelf that hold all pieces", words.films),
    ("mats", "Would another mat save?", "Loads, film and money on every mat", words.mats),
)
"""Each question by its name: what its button says, its tip, and what answers it."""
ALREADY = ("What goes with what is there?", "What is cut or pressed already, or the garment, is other than planned")
MOST_OFFERS = 3


class QuestionsPage(CardPage):
    """The questions, and what they were answered with since the plan changed last."""

    def __init__(self, session: "Session") -> None:
        super().__init__("Questions")
        self.session = session
        self.background = Background(self)
        self.asked: str | None = None
        self._stop = threading.Event()
        self.answers: dict[str, Answer] = {}
        self.cards = CardList("Questions and answers")
        self.buttons: dict[str, QPushButton] = {}
        self.labels: dict[str, QLabel] = {}
        self.offers: dict[str, OfferList] = {}
        self.column.addWidget(self.cards, 1)
        self.rectangles = RectanglesCard(session)
        self.already = AlreadyFields(session)
        already = self._card("already", *ALREADY, self.already)
        self.cards.show_cards([*(self._card(*question[:3]) for question in QUESTIONS), already, self.rectangles])
        session.closing.connect(self._leave)

    def look(self) -> object:
        """Return what the answers depend on."""
        plan = self.session.plan
        return plan.nests, plan.mats, self.session.workshop.stock, self.session.job.unit, self.asked

    def show_plan(self) -> None:
        """Forget answers that no longer hold."""
        plan, ready = self.session.plan, self.session.plan.is_nested
        look = (plan.mats, self.session.workshop.stock, self.session.job.unit)
        if look != getattr(self, "_answered_for", None):
            self._answered_for = look
            self.answers.clear()
            self.stop()
        self.note.setText(
            "Answers are found by nesting, as good as the seconds allow; rectangles are counted in straight rows."
            if ready
            else "Open artwork and let it be nested first; rectangles can be counted at any time."
        )
        self.already.show_plan()
        for name, button in self.buttons.items():
            running = name == self.asked
            button.setEnabled(ready and self.asked in (None, name))
            button.setText("Stop" if running else _question(name))
            answer = self.answers.get(name, Answer(""))
            said = tr("Looking ...") if running else answer.said
            self.labels[name].setText(said)
            self.labels[name].setVisible(bool(said))
            self.offers[name].show_offers(() if running else answer.offers[:MOST_OFFERS], enabled=self.asked is None)

    def carry_out(self, name: str, way: WayOut) -> None:
        """Nest the job as an answer would have it beside the window, and take it where it holds."""
        plan = self.session.plan
        self.asked, self._stop = name, threading.Event()
        stop = self._stop

        def done(found: Rescue | None) -> None:
            if self.asked != name or self._stop is not stop:
                return
            self.asked = None
            if stop.is_set() or plan is not self.session.plan:
                self.follow()
            elif found is None:
                self.answers[name] = Answer(f"{self.answers[name].said}\n{_does_not_hold(way)}")
                self.follow()
            else:
                found.keep_nests(self.session.document)
                self.session.apply(found.edit)

        self.background.run(lambda: carried_out(plan, way, read_prices()), done, lambda error: done(None))
        self.follow()

    def _card(self, name: str, said: str, tip: str, fields: QWidget | None = None) -> QWidget:
        card = light_card()
        grid = QGridLayout(card)
        grid.setContentsMargins(12, 8, 12, 8)
        grid.setHorizontalSpacing(14)
        button = QPushButton(said)
        button.setToolTip(plain(tip))
        button.setFixedWidth(232)
        button.clicked.connect(lambda checked=False: self.ask(name))
        answer = Label()
        answer.setFont(font(PLAIN))
        answer.setWordWrap(True)
        answer.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        grid.addWidget(button, 0, 0, Qt.AlignmentFlag.AlignTop)
        grid.addWidget(small(tip + "."), 0, 1)
        if fields is not None:
            grid.addWidget(fields, 1, 1)
        grid.addWidget(answer, 2, 1)
        self.offers[name] = OfferList()
        self.offers[name].taken.connect(lambda way: self.carry_out(name, way))
        grid.addWidget(self.offers[name], 3, 1)
        grid.setColumnStretch(1, 1)
        self.buttons[name], self.labels[name] = button, answer
        return card

    def ask(self, name: str) -> None:
        """Ask a question, or stop the one that is asked."""
        if self.asked is not None:
            self.stop()
            return
        plan, unit = self.session.plan, self.session.job.unit
        try:
            answer = self._answers(name)
        except ZinnetError as error:
            self.answers[name] = Answer(str(error))
            self.show_plan()
            return
        self.asked, self._stop = name, threading.Event()
        stop = self._stop

        def done(said: Answer) -> None:
            if self.asked == name and self._stop is stop:
                self.asked = None
                if not stop.is_set():
                    self.answers[name] = said
                self.follow()

        def refused(error: str) -> None:
            done(Answer(str(error)))

        self.background.run(lambda: answer(plan, lambda: not stop.is_set(), unit), done, refused)
        self.follow()

    def _answers(self, name: str) -> Answers:
        """Return what answers a question; raises where what was typed for it can't be read."""
        if name == "already":
            found = self.already.answers()
            return lambda facts, goes_on, unit: found(facts)
        return next(question[3] for question in QUESTIONS if question[0] == name)

    def _leave(self) -> None:
        """Give the question up, and wait until nobody looks for its answer any more."""
        self.stop()
        self.background.wait()

    def stop(self) -> None:
        """Give the question up."""
        if self.asked is not None:
            self._stop.set()
            self.asked = None
            self.follow()


def _does_not_hold(way: WayOut) -> str:
    return f"Tried: {way.edit.name}. No nest of all pieces was found so; nothing is changed."


def _question(name: str) -> str:
    return next((question[1] for question in QUESTIONS if question[0] == name), ALREADY[0])


class RectanglesCard(QWidget):
    """How many equal rectangles lie on film, answered while it is typed."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        card = light_card()
        outer = QHBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(card)
        grid = QGridLayout(card)
        grid.setContentsMargins(12, 8, 12, 8)
        grid.setHorizontalSpacing(14)
        self.rectangle, self.film = QLineEdit(), QLineEdit()
        for field, name, example in (
            (self.rectangle, "The rectangle", "7.2 x 5 in"),
            (self.film, "The film, width x length", "9.5 x 132 in"),
        ):
            field.setPlaceholderText(example)
            field.setAccessibleName(name)
            field.setToolTip(plain(f"{name}, such as {example}"))
            field.textChanged.connect(lambda text: self.count())
        question = Label(tr("How many rectangles?"))
        question.setFont(font(PLAIN, bold=True))
        question.setFixedWidth(232)
        grid.addWidget(question, 0, 0)
        fields = QHBoxLayout()
        fields.setSpacing(8)
        fields.addWidget(self.rectangle)
        fields.addWidget(Label(tr("on")))
        fields.addWidget(self.film)
        grid.addLayout(fields, 0, 1)
        self.answer = Label(tr("Type a rectangle and the film, width x length."))
        self.answer.setWordWrap(True)
        grid.addWidget(self.answer, 1, 1)
        grid.setColumnStretch(1, 1)

    def count(self) -> None:
        """Count the rectangles that were typed."""
        if not self.rectangle.text().strip() or not self.film.text().strip():
            self.answer.setText(tr("Type a rectangle and the film, width x length."))
            return
        unit = self.session.job.unit
        try:
            counts = how_many_rectangles(
                read_size(self.rectangle.text(), unit=unit), read_size(self.film.text(), unit=unit)
            )
        except ZinnetError as error:
            self.answer.setText(str(error))
            return
        mixed = f", {counts.mixed} mixed" if counts.mixed > max(counts.long_along, counts.short_along) else ""
        self.answer.setText(
            f"{counts.long_along} with the long side along the film, {counts.short_along} with the short side{mixed}."
        )
