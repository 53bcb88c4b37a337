"""Recipes: what is known of each film on this fabric, as a range with its schools, and the maker's sheet typed in."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from zinnet.base.errors import ZinnetError
from zinnet.base.units import Degrees, write_temperature
from zinnet.base.words import source_said
from zinnet.job.edits import choose_recipe
from zinnet.plan.presses import GarmentPress, degrees_of
from zinnet.pressing.known_recipes import Offer, heat_span, seconds_span
from zinnet.pressing.recipes import KeptRecipe
from zinnet.pressing.typed_recipe import typed_recipe
from zinnet.ui.card_page import CardList, CardPage, light_card, small
from zinnet.ui.drawing import pen
from zinnet.ui.films import film_chip
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.theme import PLAIN, SMALL, colour, font
from zinnet.workshop.pressbook import PressBook

if TYPE_CHECKING:
    from zinnet.films.catalogue import Film
    from zinnet.pressing.heat_limits import Limit
    from zinnet.ui.press.control import PressControl

AXIS = (110.0, 215.0)
ROW_HEIGHT, AXIS_HEIGHT, LEFT = 22, 22, 8
FIELDS = (
    ("heat", "Heat", "such as 320 F or 150 C-160 C"),
    ("time", "Seconds", "such as 10-15"),
    ("tack", "Tack", "seconds"),
    ("back", "Back", "seconds"),
    ("wait", "Wait", "seconds"),
    ("pressure", "Pressure", "light, medium, firm"),
    ("peel", "Peel", "hot, warm, cool, cold"),
)


class HabitChart(QWidget):
    """The recipes of a film along an axis of heat, each with its school; limits are lines across."""

    def __init__(
        self, found: tuple[Offer, ...], limits: tuple["Limit", ...], chosen: str | None, degrees: Degrees
    ) -> None:
        super().__init__()
        self.found, self.limits, self.chosen, self.degrees = found, limits, chosen, degrees
        self.setFixedHeight(ROW_HEIGHT * len(found) + AXIS_HEIGHT)
        self.setMinimumWidth(260)
        self.setAccessibleName(tr("Recipes by heat"))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the axis, the limits and a bar for each recipe."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            low, high = AXIS
            width = self.width() - 2 * LEFT

            def x(heat_c: float) -> float:
                return LEFT + (min(max(heat_c, low), high) - low) / (high - low) * width

            bottom = self.height() - AXIS_HEIGHT
            painter.setFont(font(SMALL))
            for heat in range(120, 211, 20):
                painter.setPen(pen("card_line", 1))
                painter.drawLine(int(x(heat)), 0, int(x(heat)), bottom)
                painter.setPen(colour("quiet_ink"))
                painter.drawText(
                    QRectF(x(heat) - 30, bottom + 4, 60, 16),
                    Qt.AlignmentFlag.AlignHCenter,
                    write_temperature(heat, degrees=self.degrees),
                )
            for limit in self.limits[:1]:
                if limit.most_c < high:
                    painter.fillRect(
                        QRectF(x(limit.most_c), 0, LEFT + width - x(limit.most_c), bottom), colour("stop", 26)
                    )
                    painter.setPen(pen("stop", 1.6, dashed=True))
                    painter.drawLine(int(x(limit.most_c)), 0, int(x(limit.most_c)), bottom)
            for row, offer in enumerate(self.found):
                self._draw_row(painter, row, offer, x)

    def _draw_row(self, painter: QPainter, row: int, offer: Offer, x: object) -> None:
        recipe, y = offer.recipe, row * ROW_HEIGHT + ROW_HEIGHT / 2
        is_chosen = recipe.school == self.chosen
        span = recipe.heat_c
        assert callable(x)
        painter.setPen(pen("ink", 1))
        painter.setBrush(colour("accent" if is_chosen else "tape"))
        time = (
            f"{recipe.seconds[0]:g}"
            if recipe.seconds and recipe.seconds[0] == recipe.seconds[1]
            else (f"{recipe.seconds[0]:g}-{recipe.seconds[1]:g}" if recipe.seconds else "?")
        )
        text = f"{recipe.school}, {time} s"
        painter.setFont(font(SMALL, bold=is_chosen))
        if span is None:
            painter.drawText(QRectF(LEFT + 4, y - 10, self.width() - 20, 20), Qt.AlignmentFlag.AlignVCenter, text)
            return
        left, right = x(span[0]), x(span[1])
        painter.drawRoundedRect(QRectF(left - 5, y - 6, right - left + 10, 12), 5, 5)
        wide = painter.fontMetrics().horizontalAdvance(text)
        on_right = right + 12 + wide < self.width()
        at = QRectF(right + 10, y - 10, wide + 6, 20) if on_right else QRectF(left - wide - 14, y - 10, wide + 6, 20)
        painter.fillRect(at.adjusted(-3, 2, 0, -2), colour("card_light", 230))
        painter.drawText(at, Qt.AlignmentFlag.AlignVCenter, text)


class RecipesPage(CardPage):
    """A card for each film of the job."""

    def __init__(self, control: "PressControl") -> None:
        super().__init__("Recipes")
        self.control = control
        self.cards = CardList("Films and how they are pressed")
        self.column.addWidget(self.cards, 1)
        self.uses: dict[tuple[str, str], QPushButton] = {}
        self.fields: dict[tuple[str, str], QLineEdit] = {}
        self.keeps: dict[str, QPushButton] = {}
        control.changed.connect(self.follow)

    def look(self) -> object:
        """Return what the page depends on."""
        session = self.control.session
        return self.control.press, session.job.pressing, session.workshop.recipes, session.workshop.pressed

    def show_plan(self) -> None:
        """Show the films."""
        press = self.control.press
        films = {
            piece.film.id: piece.film for work in press.works for piece in work.pieces if piece.kind.bond != "glue"
        }
        self.uses, self.fields, self.keeps = {}, {}, {}
        blank = press.garment.blank
        self.note.setText(
            f"On {blank.fabric}. Every row is one practitioner's habit (common practice, no source); the film maker's "
            "sheet wins over them, and what worked here wins over both."
            if films
            else "Nothing is pressed with heat here; when a layer has film for it, its recipes stand on cards."
        )
        self.cards.show_cards([self._card(film, press) for film in films.values()])

    def _card(self, film: "Film", press: GarmentPress) -> QWidget:
        degrees = degrees_of(self.control.session.job)
        found = press.offers.get(film.id, ())
        setting = next(
            (piece.setting for work in press.works for piece in work.pieces if piece.film.id == film.id), None
        )
        card = light_card()
        column = QVBoxLayout(card)
        column.setContentsMargins(12, 8, 12, 10)
        column.setSpacing(4)
        head = QHBoxLayout()
        chip = Label()
        chip.setPixmap(film_chip(film, 18).pixmap(QSize(18, 18)))
        name = Label(f"{film.name}: {self._range(found, degrees)}")
        name.setFont(font(PLAIN, bold=True))
        head.addWidget(chip)
        head.addWidget(name, 1)
        column.addLayout(head)
        if setting is not None:
            where = f"; nearest, known {setting.offer.nearest}: test it on a hem" if setting.offer.nearest else ""
            column.addWidget(small(f"Now: {setting.recipe.in_words(degrees)} ({setting.offer.in_words}){where}"))
            if setting.recipe.origin == "learned":
                column.addWidget(small(source_said(setting.recipe.source)))
            if setting.limit is not None:
                limit = write_temperature(setting.limit.most_c, degrees=degrees)
                column.addWidget(small(f"Held to {limit}: {setting.limit.whose}."))
        if found:
            row = QHBoxLayout()
            chosen = setting.recipe.school if setting is not None else None
            row.addWidget(HabitChart(found, press.limits, chosen, degrees), 1)
            row.addLayout(self._use_buttons(film, found, chosen))
            column.addLayout(row)
        column.addLayout(self._form(film))
        return card

    def _range(self, found: tuple[Offer, ...], degrees: Degrees) -> str:
        heat, time = heat_span(found), seconds_span(found)
        if heat is None or time is None:
            return "heat and time only by its sheet" if found else "no recipe is near"
        low, high = (write_temperature(one, degrees=degrees) for one in heat)
        heats = low if low == high else f"{low} to {high}"
        times = f"{time[0]:g} s" if time[0] == time[1] else f"{time[0]:g} to {time[1]:g} s"
        return f"{heats}, {times}, by {len(found)} habit{'s' * (len(found) != 1)}"

    def _use_buttons(self, film: "Film", found: tuple[Offer, ...], chosen: str | None) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(2)
        for offer in found:
            school = offer.recipe.school
            button = QPushButton("In use" if school == chosen else "Use")
            button.setEnabled(school != chosen)
            button.setStyleSheet("QPushButton { padding: 0px 6px; min-height: 14px; }")
            button.setFixedHeight(ROW_HEIGHT - 2)
            button.setToolTip(plain(f"Press {film.name} by “{school}” ({offer.in_words})"))
            button.clicked.connect(lambda checked=False, s=school: self._use(film, s))
            self.uses[film.id, school] = button
            column.addWidget(button)
        column.addSpacing(AXIS_HEIGHT)
        return column

    def _use(self, film: "Film", school: str) -> None:
        self.control.session.apply(choose_recipe(film.id, school=school))

    def _form(self, film: "Film") -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(4)
        label = small("Maker's sheet")
        label.setFixedWidth(76)
        row.addWidget(label)
        for name, said, tip in FIELDS:
            field = QLineEdit()
            field.setPlaceholderText(said.lower())
            field.setAccessibleName(f"{said} of {film.name}")
            field.setToolTip(plain(f"{said} by the maker's sheet, {tip}"))
            self.fields[film.id, name] = field
            row.addWidget(field)
        keep = QPushButton(tr("Keep"))
        keep.setToolTip(tr("Keep this as the film maker's sheet; it wins over habits from now on, in every job"))
        keep.clicked.connect(lambda: self.keep_sheet(film))
        self.keeps[film.id] = keep
        row.addWidget(keep)
        return row

    def keep_sheet(self, film: "Film") -> None:
        """Keep what was typed as the film maker's sheet."""
        session = self.control.session
        typed = {name: self.fields[film.id, name].text() for name, *_ in FIELDS}
        try:
            recipe = typed_recipe(typed, origin="maker", degrees=degrees_of(session.job))
        except ZinnetError as error:
            session.said.emit(str(error))
            return
        kept = KeptRecipe(film=film.id, recipe=recipe)
        session.books.use(
            lambda store: PressBook(store).keep(kept),
            lambda done: session.said.emit(f"The sheet of {film.name} is kept; it wins over habits."),
        )
