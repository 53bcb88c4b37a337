"""Film: where all of it goes; and where it is short, the rescues side by side, each a whole job to take."""

import threading
from collections.abc import Iterator
from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPixmap
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from zinnet.base.units import Unit, write_area
from zinnet.bench.rescues import Rescue, rescues
from zinnet.films.catalogue import in_words
from zinnet.geometry.transform import moved
from zinnet.plan.ledger import film_ledger
from zinnet.shop.film_cost import film_costs, not_whole
from zinnet.ui.aside import Aside
from zinnet.ui.background import Background
from zinnet.ui.card_page import CardPage, light_card, small
from zinnet.ui.films import layer_brush
from zinnet.ui.garment import draw_panel, fit_into
from zinnet.ui.language import tr
from zinnet.ui.nest.ledger_view import LedgerView, total_cost
from zinnet.ui.plain import Label, plain
from zinnet.ui.region_paths import region_path
from zinnet.ui.theme import PLAIN, font
from zinnet.workshop.prices import read_prices

if TYPE_CHECKING:
    from zinnet.plan.ledger import JobLedger
    from zinnet.plan.model import Plan
    from zinnet.shop.film_cost import FilmCost
    from zinnet.ui.session import Session

CARD_PX, PICTURE = 208, QSize(180, 104)
MOST_SAID = 3


class FilmPage(CardPage):
    """The ledger, and the rescues."""

    def __init__(self, session: "Session") -> None:
        super().__init__("Where the film goes")
        self.session = session
        self.found: list[Rescue] = []
        self._searched: object = None
        self._stop = threading.Event()
        self._aside = Aside(session, self)
        self._search = Background(self)
        self.ledger = LedgerView()
        self.head = Label(tr("Not enough film: whole jobs that would do"))
        self.head.setFont(font(PLAIN, bold=True))
        self.look_for = QPushButton(tr("Look for ways out"))
        self.look_for.setProperty("strong", True)
        self.look_for.setToolTip(tr("Nest the job with other films, sizes, counts and mats, and show what holds"))
        self.look_for.clicked.connect(self.search)
        self.state = small("")
        self.row = QHBoxLayout()
        self.row.setSpacing(10)
        holder = QWidget()
        holder.setProperty("holder", True)
        holder.setLayout(self.row)
        self.cards = QScrollArea()
        self.cards.setWidgetResizable(True)
        self.cards.setAccessibleName(tr("The ways out, side by side"))
        self.cards.viewport().setAutoFillBackground(False)
        self.cards.setWidget(holder)
        under = QHBoxLayout()
        under.addWidget(self.head)
        under.addWidget(self.look_for)
        under.addWidget(self.state, 1)
        bars = QScrollArea()
        bars.setWidgetResizable(True)
        bars.setAccessibleName(tr("The ledger of film"))
        bars.viewport().setAutoFillBackground(False)
        inner = QWidget()
        inner.setProperty("holder", True)
        column = QVBoxLayout(inner)
        column.setContentsMargins(0, 4, 8, 0)
        column.addWidget(self.ledger)
        column.addStretch(1)
        bars.setWidget(inner)
        self.column.addWidget(bars, 2)
        self.column.addLayout(under)
        self.column.addWidget(self.cards, 3)
        session.closing.connect(self._leave)

    def look(self) -> object:
        """Return what the page depends on."""
        plan = self.session.plan
        return plan.mats, plan.nests, self.session.workshop.stock, self.session.job.unit

    def show_plan(self) -> None:
        """Count the film beside the window."""
        plan = self.session.plan
        if not plan.nests:
            self.note.setText(tr("Nothing is cut yet. Open artwork: then this counts every piece of its film."))
        self._aside.ask(
            plan,
            lambda: (film_ledger(plan), film_costs(plan, read_prices()), not_whole(plan)),
            lambda found: self._show(plan, *found),
        )

    def _show(self, plan: "Plan", ledger: "JobLedger", costs: "tuple[FilmCost, ...]", whole: str) -> None:
        colours = {nest.film.id: nest.film.colour for nest in plan.nests}
        self.ledger.show_ledger(ledger, costs, colours, plan.job.unit)
        if plan.nests:
            said = f"All film together costs {total_cost(costs):.2f}: what is taken and can't be used again."
            self.note.setText(f"{whole} {said}" if whole else said)
        short = any(one.layout is not None and one.layout.unplaced for one in plan.nests)
        for widget in (self.head, self.look_for, self.state, self.cards):
            widget.setVisible(short)
        if plan is not self._searched:
            self._stop.set()
            self._show_rescues([])
            self.state.setText("")
            self.look_for.setText(tr("Look for ways out"))

    # ways out

    def search(self) -> None:
        """Look for rescues, or end the search."""
        plan = self.session.plan
        if not self._stop.is_set() and self._searched is plan and self._search.is_busy:
            self._stop.set()
            return
        self._searched, self._stop = plan, threading.Event()
        stop = self._stop
        self._show_rescues([])
        self.state.setText(tr("Looking ..."))
        self.look_for.setText(tr("Stop, keep what is found"))
        ways = rescues(plan, read_prices(), goes_on=lambda: not stop.is_set())
        self._next(plan, ways)

    def _next(self, plan: "Plan", ways: Iterator[Rescue]) -> None:
        stop = self._stop

        def take(found: Rescue | None) -> None:
            if plan is not self.session.plan or self._searched is not plan:
                return
            if found is None:
                self.look_for.setText(tr("Look again"))
                self.state.setText(_counted(len(self.found)))
                return
            self._show_rescues([*self.found, found])
            self.state.setText(f"{_counted(len(self.found))}, still looking ...")
            if stop.is_set():
                self.look_for.setText(tr("Look again"))
            else:
                self._next(plan, ways)

        self._search.run(lambda: next(ways, None), take, lambda said: self.state.setText(said))

    def _show_rescues(self, found: list[Rescue]) -> None:
        self.found = found
        while self.row.count():
            item = self.row.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.deleteLater()
        for rescue in found:
            self.row.addWidget(self._card(rescue))
        self.row.addStretch(1)

    def _card(self, rescue: Rescue) -> QWidget:
        card = light_card()
        card.setFixedWidth(CARD_PX)
        column = QVBoxLayout(card)
        column.setContentsMargins(12, 8, 12, 10)
        column.setSpacing(4)
        picture = Label()
        picture.setPixmap(picture_of(rescue.plan, PICTURE, self.devicePixelRatioF()))
        picture.setAccessibleName(rescue.edit.name)
        column.addWidget(picture)
        head = Label(rescue.edit.name[:1].upper() + rescue.edit.name[1:])
        head.setFont(font(PLAIN, bold=True))
        head.setWordWrap(True)
        column.addWidget(head)
        for said in rescue_lines(rescue, self.session.job.unit):
            column.addWidget(small(said))
        column.addStretch(1)
        take = QPushButton(tr("Take it"))
        take.setToolTip(plain(f"{rescue.edit.name}; undo takes it back"))
        take.clicked.connect(lambda checked=False: self.take(rescue))
        column.addWidget(take)
        return card

    def take(self, rescue: Rescue) -> None:
        """Change the job so, with the nests that were made for it."""
        self._stop.set()
        rescue.keep_nests(self.session.document)
        self.session.apply(rescue.edit)

    def _leave(self) -> None:
        self._stop.set()
        self._search.wait()


def rescue_lines(rescue: Rescue, unit: Unit) -> list[str]:
    """Return what a rescue comes to, line by line."""
    lines = [f"{rescue.film_cost:.2f} of film, {rescue.minutes:.0f} min of hands"]
    if rescue.kept_mm2 >= 1:
        lines.append(f"{write_area(rescue.kept_mm2, unit=unit)} go back on the shelf")
    if rescue.difference is not None:
        lines.append(f"colour {rescue.difference:.0f} away: {in_words(rescue.difference)}")
    return [*lines, *rescue.said[:MOST_SAID]]


def _counted(count: int) -> str:
    return "nothing found that holds" if not count else "1 way out" if count == 1 else f"{count} ways out"


def picture_of(plan: "Plan", size: QSize, ratio: float) -> QPixmap:
    """Return a small picture of the first size as it is worn."""
    pixmap = QPixmap(size * ratio)
    pixmap.setDevicePixelRatio(ratio)
    pixmap.fill(Qt.GlobalColor.transparent)
    garment = plan.garments[0]
    composed = next(iter(garment.compositions), None)
    if composed is None or composed.placement is None:
        return pixmap
    with QPainter(pixmap) as painter:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        panel = composed.panel
        world = fit_into(QRectF(0, 0, size.width(), size.height()), panel.region.bounds)
        draw_panel(painter, world, garment.blank, panel)
        painter.setTransform(world, True)
        painter.setPen(Qt.PenStyle.NoPen)
        for one in garment.composed_on(panel.id):
            for row in one.layers:
                painter.setBrush(layer_brush(row))
                for matrix in one.placement.matrices if one.placement is not None else ():
                    painter.drawPath(region_path(moved(row.layer.region, matrix)))
    return pixmap
