"""After the cut: what is left of each piece of film, what is kept of it, and the cuts that can still be undone."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt
from PySide6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QPushButton, QWidget

from zinnet.base.units import write_area, write_length
from zinnet.job.edits import record_cut, take_back_cut
from zinnet.machines.cutters import room
from zinnet.plan.ledger import left_of_mats
from zinnet.plan.trims import loads_cut
from zinnet.ui.card_page import CardList, CardPage, FilmPicture, light_card, small
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import PLAIN, font
from zinnet.workshop.after_cut import KEEPS, Keep, Leftover, changes
from zinnet.workshop.stock import Stock

if TYPE_CHECKING:
    from zinnet.ui.session import Session

PICTURE = QSize(190, 96)
Cuts = list[tuple[int, str, str]]


class AfterCutPage(CardPage):
    """One card per leftover, and one per open cut."""

    def __init__(self, session: "Session") -> None:
        super().__init__("After the cut")
        self.session = session
        self.cards = CardList("Leftovers")
        self.choices: list[QComboBox] = []
        self.open_cuts: Cuts = []
        self.done = QPushButton(tr("It is cut: keep the books"))
        self.done.setProperty("strong", True)
        self.done.setToolTip(
            tr("Take the film that was used off the shelf, and put what is left on it with new labels")
        )
        self.done.clicked.connect(self.cut)
        row = QHBoxLayout()
        row.addStretch(1)
        row.addWidget(self.done)
        self.column.addWidget(self.cards, 1)
        self.column.addLayout(row)

    def look(self) -> object:
        """Return what the page depends on."""
        return (
            self.session.plan.mats,
            self.session.job.unit,
            self.session.workshop.stock,
            tuple(self.open_cuts),
            self.session.job.cut,
        )

    def showEvent(self, event: object) -> None:
        """Ask which cuts are open."""
        super().showEvent(event)
        if self.session.books.store.path.exists():
            self._ask()

    def _ask(self) -> None:
        self.session.background.run(
            lambda: Stock(self.session.books.store).open_cuts(),
            self._show_cuts,
            lambda error: self.note.setText(str(error)),
        )

    def _show_cuts(self, cuts: Cuts) -> None:
        self.open_cuts = cuts
        self.follow()

    @property
    def left(self) -> tuple[Leftover, ...]:
        """What is left of the film on the mats."""
        return left_of_mats(self.session.plan.mats)

    def show_plan(self) -> None:
        """Show what is left."""
        left, unit = self.left, self.session.job.unit
        self.choices = []
        cards = [self._cut_card(*cut) for cut in self.open_cuts]
        if self.session.job.cut is None:
            cards += [self._card(one) for one in left]
        record = self.session.job.cut
        self.done.setVisible(bool(left) and record is None)
        if record is not None:
            self.note.setText(f"This job is cut (cut {record.number}): what it used and left is in the books.")
        elif left:
            kept = write_area(sum(one.kept_mm2(one.usual) for one in left), unit=unit)
            taken = write_area(sum(one.taken_mm2 for one in left), unit=unit)
            self.note.setText(
                f"{taken} leave the shelf, {kept} go back on it as it is chosen below. Write the new label on each."
            )
        else:
            self.note.setText(
                "The mats are planned full of film, not from the shelf. Choose “Cut from the shelf” at the right: then "
                "this page puts the leftovers back with a label."
            )
        self.cards.show_cards(cards)

    def _card(self, left: Leftover) -> QWidget:
        unit, film = self.session.job.unit, self.session.workshop.film(left.item.film)
        card = light_card()
        grid = QGridLayout(card)
        grid.setContentsMargins(12, 8, 12, 8)
        grid.setHorizontalSpacing(14)
        box = left.rectangles[0] if left.rectangles else None
        colour = film.colour if film is not None else "#b9b2a3"
        grid.addWidget(FilmPicture(colour, left.region, size=PICTURE, box=box), 0, 0, 3, 1)
        kind = left.item.kind.capitalize()
        head = Label(f"{kind} {left.item.number}, {film.name if film is not None else left.item.film}")
        head.setFont(font(PLAIN, bold=True))
        grid.addWidget(head, 0, 1, Qt.AlignmentFlag.AlignBottom)
        grid.addWidget(small(self._said(left)), 1, 1)
        choice = QComboBox()
        choice.setAccessibleName(f"What is kept of {left.item.kind} {left.item.number}")
        choice.setToolTip(tr("What of it goes back on the shelf"))
        rectangles = ", ".join(
            f"{write_length(right - first, unit=unit, with_unit=False)} x {write_length(low - top, unit=unit)}"
            for first, top, right, low in left.rectangles
        )
        says = {"as it is": "keep it as it is", "rectangles": f"trim to {rectangles}", "nothing": "throw it away"}
        for keep in KEEPS:
            if keep != "rectangles" or left.rectangles:
                choice.addItem(says[keep], keep)
        choice.setCurrentIndex(choice.findData(left.usual))
        self.choices.append(choice)
        grid.addWidget(choice, 2, 1, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop)
        grid.setColumnStretch(1, 1)
        grid.setRowStretch(0, 1)
        grid.setRowStretch(2, 1)
        return card

    def _said(self, left: Leftover) -> str:
        unit = self.session.job.unit
        taken, cut = write_area(left.taken_mm2, unit=unit), write_area(left.cut_mm2, unit=unit)
        rest = write_area(left.region.area, unit=unit)
        lost = write_area(left.taken_mm2 - left.cut_mm2 - left.region.area, unit=unit)
        if not left.rectangles:
            least = write_length(room().least_kept_mm, unit=unit)
            return f"{taken} taken, {cut} cut out; what is left is narrower than {least} everywhere: {lost} are lost"
        return f"{taken} taken, {cut} cut out, {rest} can be used again, {lost} are lost"

    def _cut_card(self, number: int, at: str, job: str) -> QWidget:
        card = light_card()
        row = QHBoxLayout(card)
        row.setContentsMargins(12, 8, 12, 8)
        said = Label(f"Cut {number}, {at[:16].replace('T', ' ')}, for {job}: still open")
        said.setFont(font(PLAIN, bold=True))
        row.addWidget(said, 1)
        for text, tip, action in (
            ("Undo", "Put everything back as it was before the cut", self.undo),
            ("Confirm", "The leftovers are labelled and put away: the cut stands", self.confirm),
        ):
            button = QPushButton(text)
            button.setToolTip(plain(tip))
            button.clicked.connect(lambda checked=False, action=action: action(number))
            row.addWidget(button)
        return card

    def undo(self, number: int) -> None:
        """Put back what a cut took, and take off what it left."""

        def undone(_: None) -> None:
            record = self.session.job.cut
            if record is not None and record.number == number:
                self.session.apply(take_back_cut())
            self._ask()

        self.session.books.use_shelf(lambda stock: stock.undo(number), undone)

    def confirm(self, number: int) -> None:
        """Let a cut stand."""
        self.session.books.use_shelf(lambda stock: stock.confirm(number), lambda done: self._ask())

    def cut(self) -> None:
        """Take what was used off the shelf, and put on it what is kept."""
        mats = self.session.plan.mats
        loads, left = loads_cut(mats), self.left
        keeps: dict[int, Keep] = {place: choice.currentData() for place, choice in enumerate(self.choices)}
        title, before = self.session.job.title, self.session.plan.shelf

        def said(cut: int) -> None:
            self.session.apply(record_cut(cut, before))
            self.session.said.emit(f"Cut {cut} is in the books; it can be undone until it is confirmed.")
            self._ask()

        self.session.books.use_shelf(lambda stock: stock.cut(title, changes(loads, left, keeps)), said)
