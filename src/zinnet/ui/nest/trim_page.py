"""The trim list: which film, what to cut from it, which side down, on which mat, in the order of cutting."""

from typing import TYPE_CHECKING

import shapely
from PySide6.QtCore import QSize, Qt
from PySide6.QtWidgets import QGridLayout, QWidget

from zinnet.base.units import Unit, write_length
from zinnet.films.catalogue import kind_of
from zinnet.geometry.region import as_region
from zinnet.nesting.sheet import film_of
from zinnet.ui.card_page import CardList, CardPage, FilmPicture, light_card, small
from zinnet.ui.films import film_chip
from zinnet.ui.language import tr
from zinnet.ui.plain import Label
from zinnet.ui.theme import LARGE, PLAIN, font

if TYPE_CHECKING:
    from zinnet.plan.trims import Trim
    from zinnet.ui.session import Session

PICTURE = QSize(150, 74)
CHIP = 20
SHOWN_ROLL_MM = 700.0
"""How much of a roll a picture shows at least."""


class TrimPage(CardPage):
    """One card per mat."""

    def __init__(self, session: "Session") -> None:
        super().__init__("Trim list")
        self.session = session
        self.cards = CardList("What is cut from which film, in order")
        self.column.addWidget(self.cards, 1)

    def look(self) -> object:
        """Return what the list depends on."""
        return self.session.plan.mats, self.session.job.unit, self.session.workshop.stock

    def show_plan(self) -> None:
        """Show the list."""
        trims, unit = self.session.plan.trims, self.session.job.unit
        if not trims:
            self.note.setText(tr("Nothing is nested yet. When there are mats, this says what to cut for each of them."))
        else:
            changes = sum(trim.new_settings for trim in trims)
            said = "the machine keeps its settings" if changes == 1 else f"{changes} kinds of film, each set once"
            self.note.setText(
                f"{len(trims)} mats in the order of cutting; {said}. Lengths run along the film, then across. "
                "Cut straight, blade away from your hand."
            )
        self.cards.show_cards([_card(number, trim, unit) for number, trim in enumerate(trims, start=1)])


def _card(number: int, trim: "Trim", unit: Unit) -> QWidget:
    card, film = light_card(), trim.mat.nest.film
    grid = QGridLayout(card)
    grid.setContentsMargins(14, 8, 14, 8)
    grid.setHorizontalSpacing(14)
    grid.setVerticalSpacing(2)
    chip = Label()
    chip.setPixmap(film_chip(film, CHIP).pixmap(CHIP, CHIP))
    chip.setFixedWidth(CHIP)
    head = Label(str(number))
    head.setFont(font(LARGE, bold=True))
    head.setFixedWidth(26)
    grid.addWidget(head, 0, 0, 2, 1, Qt.AlignmentFlag.AlignVCenter)
    grid.addWidget(chip, 0, 1, 2, 1, Qt.AlignmentFlag.AlignVCenter)
    what = Label(instruction(trim, unit))
    what.setFont(font(PLAIN, bold=True))
    what.setWordWrap(True)
    grid.addWidget(what, 0, 2)
    settings = f"  ·  new settings: {kind_of(film).name}" if trim.new_settings else ""
    how = small(f"{loading(trim, unit)}{settings}")
    how.setWordWrap(True)
    grid.addWidget(how, 1, 2)
    grid.addWidget(_picture(trim), 0, 3, 2, 1)
    grid.setColumnStretch(2, 1)
    return card


def instruction(trim: "Trim", unit: Unit) -> str:
    """Return what to cut from which film."""
    long, wide = trim.size
    size = f"{write_length(long, unit=unit, with_unit=False)} x {write_length(wide, unit=unit)}"
    if trim.whole:
        return f"{trim.mat.nest.film.name}: take {trim.source} as it is"
    if trim.item is not None and trim.item.kind == "roll":
        return f"{trim.mat.nest.film.name}: cut {size} off {trim.source}"
    return f"{trim.mat.nest.film.name}: cut {size} from {trim.source}"


def loading(trim: "Trim", unit: Unit) -> str:
    """Return how the film goes on the mat."""
    left, top = trim.stuck_at
    where = "corner on the mat's corner"
    if left or top:
        where = (
            f"corner {write_length(left, unit=unit)} from the mat's left and {write_length(top, unit=unit)} "
            "from its upper edge"
        )
    if "no mat" in trim.on:
        where = "fed straight"
    return f"Load {trim.load}, mat {trim.mat.number}, {trim.on}: {trim.side_down}, {where}"


def _picture(trim: "Trim") -> FilmPicture:
    item = trim.item
    if item is None:
        long, wide = trim.size
        return FilmPicture(
            trim.mat.nest.film.colour,
            as_region(shapely.box(0, 0, max(SHOWN_ROLL_MM, 1.5 * long), wide)),
            size=PICTURE,
            box=trim.box,
        )
    film = film_of(item.sheet(0.0))
    inside = None
    if item.kind == "roll":
        first, last = trim.box[0], trim.box[2]
        inside = (first - 60, 0.0, max(last + 60, first - 60 + SHOWN_ROLL_MM), item.width_mm)
    return FilmPicture(trim.mat.nest.film.colour, film, size=PICTURE, box=trim.box, spoiled=item.spoiled, inside=inside)
