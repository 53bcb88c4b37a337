"""Cut apart: the pieces of each film as worn, and what every way to part it takes of film, minutes and money."""

import math
import threading
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QVBoxLayout

from zinnet.base.errors import ZinnetError
from zinnet.base.units import write_area, write_length
from zinnet.job.edits import choose_way, propose_ways
from zinnet.plan.apart_by_hand import by_hand
from zinnet.plan.in_hand import hands_of
from zinnet.plan.nested_ways import nested_way_mm2
from zinnet.plan.parted import FilmWays, Way
from zinnet.ui.aside import Aside
from zinnet.ui.background import Background
from zinnet.ui.card_page import CardPage, small
from zinnet.ui.films import film_chip
from zinnet.ui.language import tr
from zinnet.ui.nest.pieces_picture import PiecesPicture
from zinnet.ui.nest.ways_line import WaysLine
from zinnet.ui.plain import Wrapped, plain
from zinnet.ui.rows import make_button

if TYPE_CHECKING:
    from zinnet.layers.parting import Parts
    from zinnet.layers.stack import FilmLayer
    from zinnet.plan.fitted import FittedDesign
    from zinnet.plan.model import Plan
    from zinnet.ui.session import Session

NEST_S = 1.0
"""How long each way is nested, so that the line says what it really takes."""
CHIP = 16
LEAST_MM = 0.1
MINUTE_S = 60.0


class ApartPage(CardPage):
    """The ways to cut the layers apart, film by film."""

    def __init__(self, session: "Session") -> None:
        super().__init__("Cut apart to save film")
        self.session = session
        self.ways: tuple[FilmWays, ...] = ()
        self.nested: dict[tuple[str, float | None], float] = {}
        self._within: dict[str, float] = {}
        self._for: object = None
        self._stop = threading.Event()
        self._aside = Aside(session, self)
        self._trials = Background(self)
        self.picture = PiecesPicture()
        self.films = QComboBox()
        self.films.setAccessibleName(tr("Film"))
        self.films.setToolTip(tr("Whose pieces are shown"))
        self.films.setIconSize(QSize(CHIP, CHIP))
        self.films.currentIndexChanged.connect(lambda index: self._show_film())
        self.where = QComboBox()
        self.where.setAccessibleName(tr("Place and size"))
        self.where.setToolTip(tr("On which design and size the pieces are shown"))
        self.where.currentIndexChanged.connect(lambda index: self._show_pieces())
        self.line = WaysLine()
        self.line.way_asked.connect(self.take)
        self.said, self.exact = Wrapped(), small("")
        self.join = make_button(tr("Join"), "Cut the chosen pieces as one (J)", partial(self.by_hand, apart=False))
        self.part = make_button(
            tr("Part"), "Cut each part of the chosen pieces by itself (P)", partial(self.by_hand, apart=True)
        )
        self.propose = make_button(tr("As proposed"), "Cut all films apart as it pays best", self._propose)
        self.picture.asked.connect(lambda apart: self.by_hand(apart=apart))
        self.picture.chosen_changed.connect(self._show_buttons)
        self._lay_out()
        session.closing.connect(self._leave)

    def _lay_out(self) -> None:
        side = QVBoxLayout()
        side.setSpacing(8)
        for widget in (self.films, self.where, self.line, self.said, self.exact):
            side.addWidget(widget)
        side.addStretch(1)
        row = QHBoxLayout()
        for button in (self.join, self.part, self.propose):
            row.addWidget(button)
        row.addStretch(1)
        side.addLayout(row)
        body = QHBoxLayout()
        body.setSpacing(16)
        body.addWidget(self.picture, 3)
        body.addLayout(side, 2)
        self.column.addLayout(body, 1)

    # following the plan

    def look(self) -> object:
        """Return what the page depends on."""
        plan = self.session.plan
        return plan.garments, plan.named, plan.job.nesting, plan.shelf, plan.job.unit

    def show_plan(self) -> None:
        """Work the ways out beside the window, then nest them one by one."""
        plan = self.session.plan
        if not plan.is_nested and not self.session.has_artwork:
            self.note.setText(tr("Open artwork first: then this shows how its layers can be cut apart."))
        self._aside.ask(plan, lambda: (plan.ways, _laid_within(plan)), lambda found: self._show_ways(plan, *found))

    def _show_ways(self, plan: "Plan", ways: tuple[FilmWays, ...], within: dict[str, float]) -> None:
        cut = tuple((one.film.id, one.ways) for one in ways), plan.shelf, plan.job.nesting.from_shelf
        if cut != self._for:
            self._for = cut
            self.nested = {}
        self.ways, self._within = ways, within
        kept = self.films.currentData()
        self.films.blockSignals(True)
        self.films.clear()
        for one in ways:
            self.films.addItem(film_chip(one.film, CHIP), one.film.name, one.film.id)
        self.films.setCurrentIndex(max(0, self.films.findData(kept)))
        self.films.blockSignals(False)
        self.note.setText(_in_all(ways) if ways else tr("Nothing is cut of film yet."))
        self._show_film()
        self._nest_ways(plan)

    @property
    def is_nesting(self) -> bool:
        """Whether ways are still being nested."""
        return self._trials.is_busy

    @property
    def film(self) -> FilmWays | None:
        """The film whose pieces are shown."""
        place = self.films.currentIndex()
        return self.ways[place] if 0 <= place < len(self.ways) else None

    def _show_film(self) -> None:
        film, plan = self.film, self.session.plan
        kept = self.where.currentData()
        self.where.blockSignals(True)
        self.where.clear()
        for garment in plan.garments:
            for number, composed in enumerate(garment.same):
                if film is not None and any(row.film == film.film for row in composed.layers):
                    self.where.addItem(f"{composed.name}, {garment.blank.name}", (garment.size, number))
        self.where.setCurrentIndex(max(0, self.where.findData(kept)))
        self.where.blockSignals(False)
        self.where.setVisible(self.where.count() > 1)
        self._show_pieces()

    def _shown(self) -> "tuple[FittedDesign, FilmLayer, Parts] | None":
        film, place = self.film, self.where.currentData()
        if film is None or place is None:
            return None
        for garment in self.session.plan.garments:
            if garment.size == place[0]:
                composed = garment.same[place[1]]
                row = next(row for row in composed.layers if row.film == film.film)
                return composed, row, garment.pieces_of(row)
        return None

    def _show_pieces(self) -> None:
        shown, film, unit = self._shown(), self.film, self.session.job.unit
        if shown is None or film is None:
            self.picture.show_pieces(None, None, ())
            self.line.show_ways(None, {}, unit)
            self.said.setText("")
            self.exact.setText("")
        else:
            composed, row, parts = shown
            self.picture.show_pieces(composed, row, parts)
            self.line.show_ways(film, self._known(film), unit)
            self.said.setText(self._way_said(film))
            self.exact.setText(self._exact_said(film, len(parts)))
        self._show_buttons()

    def _show_buttons(self) -> None:
        chosen, editable = len(self.picture.chosen), self.session.job.nesting.cut_apart != "whole"
        self.join.setEnabled(chosen > 1)
        self.part.setEnabled(chosen > 0)
        spec = self.session.job.nesting
        self.propose.setEnabled(bool(spec.ways) or spec.cut_apart != "proposed" or not editable)

    # in words

    def _known(self, film: FilmWays) -> dict[int, float]:
        found = {}
        for place, way in enumerate(film.ways):
            if (film.film.id, way.share) in self.nested:
                found[place] = self.nested[film.film.id, way.share]
        return found

    def _way_said(self, film: FilmWays) -> str:
        """Return what the way in use takes against whole layers."""
        unit, way, whole = self.session.job.unit, film.way, film.ways[0]
        if len(film.ways) == 1:
            return tr("Its parts lie so near one another, or belong together so closely, that it is cut whole.")
        known = self._known(film)
        about = "" if {0, film.chosen} <= known.keys() else "about "
        area = write_area(known.get(film.chosen, way.film_mm2), unit=unit)
        if way is whole:
            tried = any(one.film == film.film for one in self.session.plan.trials)
            why = " Nested both ways, cutting apart saves less than it was reckoned to." if tried else ""
            return f"Whole: {whole.pieces} pieces to lay, {about}{area} of film.{why}"
        before = write_area(known.get(0, whole.film_mm2), unit=unit)
        more = (way.seconds - whole.seconds) / MINUTE_S
        saved = whole.cost - way.cost
        money = f"{saved:.2f} saved" if saved >= 0 else f"{-saved:.2f} dearer"
        return (
            f"{way.pieces} pieces to lay instead of {whole.pieces}, {more:.0f} min more; {about}{area} of film "
            f"instead of {before}: {money}, the time counted."
        )

    def _exact_said(self, film: FilmWays, pieces: int) -> str:
        """Return how exactly the pieces can be laid by their cards."""
        within = self._within.get(film.film.id)
        if within is None or pieces < 2:
            return ""
        said = write_length(max(within, LEAST_MM), unit=self.session.job.unit)
        return f"Each piece has a card of its own, and is laid within {said} by it."

    # nesting the ways

    def _nest_ways(self, plan: "Plan") -> None:
        """Nest one way after the other that is not known yet, while the page is seen."""
        self._stop.set()
        self._stop = stop = threading.Event()
        todo = [
            (one.film.id, way)
            for one in self.ways
            for way in one.ways
            if len(one.ways) > 1 and math.isfinite(way.film_mm2) and (one.film.id, way.share) not in self.nested
        ]
        if todo and self.isVisible() and self.session.beside:
            self._nest_next(plan, todo, stop)

    def _nest_next(self, plan: "Plan", todo: list[tuple[str, Way]], stop: threading.Event) -> None:
        if stop.is_set() or not todo or not self.isVisible():
            return
        (film, way), *rest = todo

        def take(area: float | None) -> None:
            if stop.is_set():
                return
            if area is not None:
                self.nested[film, way.share] = area
                self._show_pieces()
            self._nest_next(plan, rest, stop)

        self._trials.run(lambda: nested_way_mm2(plan, film, way, NEST_S), take, lambda said: take(None))

    def _leave(self) -> None:
        self._stop.set()
        self._trials.wait()

    # what the user does

    def take(self, place: int) -> None:
        """Cut the film that is shown apart in a way."""
        film = self.film
        if film is not None and place != film.chosen:
            self.session.apply(choose_way(film.film.id, film.ways[place].share))

    def by_hand(self, *, apart: bool) -> None:
        """Join the chosen pieces, or part them."""
        shown = self._shown()
        if shown is None or not self.picture.chosen:
            return
        composed, row, parts = shown
        chosen = [part for number in sorted(self.picture.chosen) for part in parts[number]]
        try:
            self.session.apply(by_hand(composed, row, chosen, apart=apart))
        except ZinnetError as error:
            self.session.said.emit(str(error))

    def _propose(self) -> None:
        self.session.apply(propose_ways())


def _laid_within(plan: "Plan") -> dict[str, float]:
    """Return how exactly the pieces of each film can be laid on the first size, the worst of them, in mm."""
    found: dict[str, float] = {}
    for press in plan.presses[:1]:
        for _, hand in hands_of(press, plan.job.unit):
            film = hand.piece.film.id
            found[film] = max(found.get(film, 0.0), hand.laying.error_mm)
    return found


def _in_all(ways: tuple[FilmWays, ...]) -> str:
    """Return what all ways in use save together."""
    whole, cost = sum(one.ways[0].cost for one in ways), sum(one.way.cost for one in ways)
    pieces = sum(one.way.pieces - one.ways[0].pieces for one in ways)
    if not pieces:
        return tr("All layers are cut whole. A dot on the line is a way to part a film at its wide gaps.")
    saved = f"{whole - cost:.2f} less" if cost <= whole else f"{cost - whole:.2f} more"
    return plain(f"Film and laying cost {saved} than with whole layers: {pieces} more pieces are laid.")
