"""Films for colours: each colour beside its film, how far they are apart, what else is near, and the contrasts."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QColor, QPixmap
from PySide6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from zinnet.data.limits import limits
from zinnet.films.catalogue import Film, by_nearness, kind_of
from zinnet.films.colours import colour_difference, contrast
from zinnet.job.edits import choose_film
from zinnet.ui.film_picker import FilmButton
from zinnet.ui.films import film_chip, match_said
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import PLAIN, SMALL, colour, font

if TYPE_CHECKING:
    from zinnet.layers.stack import FilmLayer, LayerStack
    from zinnet.ui.session import Session

NEAR = 5
NEAR_A_ROW = 3
BIG, SMALLER = 46, 20


class FilmTable(QScrollArea):
    """One card per colour of the artwork."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.setWidgetResizable(True)
        self.setAccessibleName(tr("Films for the colours of the artwork"))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.viewport().setAutoFillBackground(False)
        self._shown_for: object = None

    def follow(self) -> None:
        """Show the colours of the plan."""
        stack = self.session.selection.stack
        shown = (stack, self.session.workshop.films, self.session.selection.garment.blank.colour, colour("card").name())
        if not self.isVisible() or shown == self._shown_for or stack is None:
            return
        self._shown_for = shown
        holder = QWidget()
        holder.setProperty("holder", True)
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 8, 8)
        column.setSpacing(10)
        for row in stack.in_press_order:
            for one in row.colours:
                column.addWidget(ColourCard(self.session, stack, row, one))
        column.addStretch(1)
        self.setWidget(holder)


class ColourCard(QFrame):
    """One colour: its film, the difference, the nearest films to choose from, and the contrasts."""

    def __init__(self, session: "Session", stack: "LayerStack", row: "FilmLayer", drawn: str) -> None:
        super().__init__()
        self.session, self.drawn = session, drawn
        self.setProperty("card", "plain")
        grid = QGridLayout(self)
        grid.setContentsMargins(14, 12, 14, 12)
        grid.setHorizontalSpacing(14)
        grid.setVerticalSpacing(6)
        grid.addWidget(self._chips(row.film), 0, 0, 2, 1, Qt.AlignmentFlag.AlignTop)
        title = Label(_title(drawn, row))
        title.setFont(font(PLAIN, bold=True))
        title.setWordWrap(True)
        grid.addWidget(title, 0, 1)
        said = Label(_contrasts(session.selection.garment.blank.colour, stack, row))
        said.setFont(font(SMALL))
        said.setProperty("quiet", True)
        said.setWordWrap(True)
        grid.addWidget(said, 1, 1)
        near = QGridLayout()
        near.setSpacing(6)
        self.choices: list[QPushButton] = []
        for film, difference in by_nearness(drawn, session.workshop.films)[:NEAR]:
            button = QPushButton(film_chip(film, SMALLER), film.name.replace("&", "&&"))
            button.setIconSize(QSize(SMALLER, SMALLER))
            button.setFont(font(SMALL))
            button.setCheckable(True)
            button.setChecked(row.film is not None and row.film.id == film.id)
            button.setToolTip(
                plain(f"{film.name}, {kind_of(film).name}: {match_said(difference)}, {difference:.1f} away")
            )
            button.clicked.connect(lambda checked=False, film=film: self._choose(film))
            near.addWidget(button, len(self.choices) // NEAR_A_ROW, len(self.choices) % NEAR_A_ROW)
            self.choices.append(button)
        self.more = FilmButton(session, tr("The film that this colour is cut from"), tr("Another film ..."))
        self.more.setFont(font(SMALL))
        self.more.setStyleSheet("text-align: center")
        self.more.show_film(None)
        self.more.clicked.connect(lambda: self._ask(row))
        near.addWidget(self.more, len(self.choices) // NEAR_A_ROW, len(self.choices) % NEAR_A_ROW)
        grid.addLayout(near, 2, 0, 1, 2)
        grid.setColumnStretch(1, 1)

    def _ask(self, row: "FilmLayer") -> None:
        """Ask for one of all films."""
        taken = self.more.ask(colour=self.drawn, colours=row.colours[:1])
        if taken is not None:
            self.session.apply(choose_film(self.drawn, taken))

    def _choose(self, film: Film) -> None:
        self.session.apply(choose_film(self.drawn, film.id))

    def _chips(self, film: Film | None) -> QWidget:
        """Return the drawn colour and the film side by side, without a gap, as the eye compares them."""
        pair = QWidget()
        row = QHBoxLayout(pair)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        drawn = QPixmap(BIG, BIG)
        drawn.fill(QColor(self.drawn))
        pictures = [drawn, QPixmap() if film is None else film_chip(film, BIG).pixmap(BIG, BIG)]
        for picture, tip in zip(
            pictures, ("as it is drawn", film.name if film is not None else "no film"), strict=True
        ):
            label = Label()
            label.setPixmap(picture)
            label.setFixedSize(BIG, BIG)
            label.setToolTip(plain(tip))
            row.addWidget(label)
        return pair


def _title(drawn: str, row: "FilmLayer") -> str:
    if row.film is None:
        return f"{drawn} · no film yet"
    difference = colour_difference(drawn, row.film.colour)
    shared = f", shared by {len(row.colours)} colours" if len(row.colours) > 1 else ""
    return f"{drawn}  →  {row.film.name}: {match_said(difference)} (layer {row.layer.order}{shared})"


def _contrasts(blank: str, stack: "LayerStack", row: "FilmLayer") -> str:
    """Return the contrast of a film to the blank and to the films that it meets."""
    if row.film is None:
        return "Choose one of the nearest below."
    numbers = limits()["contrast"]
    said = [f"contrast to the blank {_ratio(contrast(row.film.colour, blank), numbers['least_ratio'])}"]
    for pair in stack.pairs:
        if row not in (pair.lower, pair.upper):
            continue
        other = pair.upper if row is pair.lower else pair.lower
        if other.film is not None:
            ratio = contrast(row.film.colour, other.film.colour)
            said.append(f"to {other.film.name} {_ratio(ratio, numbers['films_ratio'])}")
    kind = kind_of(row.film)
    return f"{', '.join(said)}.\n{kind.name[0].upper()}{kind.name[1:]}, {kind.finish}, {kind.thickness_um:.0f} µm."


def _ratio(ratio: float, least: float) -> str:
    return f"{ratio:.1f} : 1" + (" (hard to see)" if ratio < least else "")
