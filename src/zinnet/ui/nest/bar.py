"""The foot of the mats: how much film is used, how the nest goes on, and what can be done."""

from decimal import Decimal
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from zinnet.base.units import Unit, write_area
from zinnet.job.edits import nest_again
from zinnet.plan.ledger import JobLedger, film_ledger
from zinnet.plan.nests import held_pins
from zinnet.shop.film_cost import film_costs
from zinnet.ui.language import tr
from zinnet.ui.plain import Label
from zinnet.workshop.prices import read_prices

if TYPE_CHECKING:
    from zinnet.plan.model import Plan
    from zinnet.ui.nest.hand import HandWork
    from zinnet.ui.session import Session


class NestBar(QWidget):
    """The foot of the nest: how much film is used, how the nest goes on, and what can be done."""

    def __init__(self, session: "Session", hand: "HandWork", parent: QWidget) -> None:
        super().__init__(parent)
        self.session, self.hand = session, hand
        self._asked: object = None
        self._known: tuple[JobLedger, Decimal] | None = None
        self.said = Label()
        self.said.setProperty("chalk", True)
        self.said.setWordWrap(True)
        self.side = QPushButton(tr("Show as worn"))
        self.side.setCheckable(True)
        self.side.setToolTip(tr("Turn the pieces over to how they are worn (W)"))
        self.side.setShortcut("W")
        self.again = QPushButton(tr("Nest again"))
        self.again.setToolTip(tr("Look for another nest; what is held by hand stays where it is"))
        self.again.clicked.connect(self._nest_again)
        self.stop = QPushButton(tr("Stop, keep the best"))
        self.stop.setToolTip(tr("End the nest now; the best so far stays"))
        self.stop.clicked.connect(session.nester.stop)
        row = QHBoxLayout(self)
        row.setContentsMargins(4, 0, 4, 0)
        row.addWidget(self.said, 1)
        for button in (self.stop, self.again, self.side):
            row.addWidget(button)
        self.follow()

    def follow(self) -> None:
        """Show where the nest stands, while it is seen."""
        if not self.isVisible():
            return
        plan, running = self.session.plan, self.session.nester.is_running
        self.stop.setVisible(running)
        self.again.setVisible(not running and bool(plan.mats))
        self.side.setVisible(bool(plan.mats))
        texts = []
        by_hand = self.hand.in_words()
        if by_hand:
            texts.append(by_hand)
        elif plan.mats and running:
            texts.append(_use_so_far(plan, self.session.job.unit))
        elif plan.mats and (known := self._use_of(plan)) is not None:
            texts.append(_use_in_words(*known, self.session.job.unit))
        if running:
            texts.append(f"looking for better, {self.session.nester.share:.0%} of the time")
        self.said.setText("  ·  ".join(texts))

    def showEvent(self, event: object) -> None:
        """Show what changed while nobody looked."""
        super().showEvent(event)  # type: ignore[arg-type]
        self.follow()

    def _use_of(self, plan: "Plan") -> tuple[JobLedger, Decimal] | None:
        """Return the plan's use of film; rows and leftovers take long to look over, so that is done beside."""
        if plan.mats is not self._asked:
            self._asked, self._known = plan.mats, None

            def take(use: tuple[JobLedger, Decimal]) -> None:
                if self._asked is plan.mats:
                    self._known = use
                    self.follow()

            self.session.background.run(
                lambda: (film_ledger(plan), sum((one.amount for one in film_costs(plan, read_prices())), Decimal(0))),
                take,
                lambda error: self.session.said.emit(str(error)),
            )
        return self._known

    def _nest_again(self) -> None:
        self.session.apply(nest_again(held_pins(self.session.plan.mats, self.session.job.nesting)))


def _use_so_far(plan: "Plan", unit: Unit) -> str:
    """Return in a few words how much film the best nest so far takes."""
    taken = sum(mat.reach_mm * mat.sheet.height_mm for mat in plan.mats)
    film = sum(mat.film_mm2 for mat in plan.mats)
    return f"{write_area(taken, unit=unit)} of film so far, {film / taken:.0%} used"


def _use_in_words(use: JobLedger, cost: Decimal, unit: Unit) -> str:
    """Return the film of the job in a sentence: taken, lost, against rows, for a garment, in money."""
    said = [f"{write_area(use.taken_mm2, unit=unit)} of film, {use.lost_mm2 / use.taken_mm2:.0%} lost"]
    scraps = use.taken_mm2 - use.whole_mm2
    if scraps > 1:
        said[0] += f", {scraps / use.taken_mm2:.0%} of it scraps"
    rows = use.rows_mm2
    if rows and rows > use.whole_mm2:
        said.append(f"{1 - use.whole_mm2 / rows:.0%} less new film than in rows" if scraps > 1 else _saved(use, rows))
    each = [] if use.garments < 2 else [write_area(use.taken_mm2 / use.garments, unit=unit)]
    said.append(f"{cost:,.2f} in all")
    each += [f"{cost / use.garments:,.2f}"] if use.garments > 1 else []
    if each:
        said.append(f"{', '.join(each)} a garment")
    return "  ·  ".join(said)


def _saved(use: JobLedger, rows_mm2: float) -> str:
    return f"{1 - use.taken_mm2 / rows_mm2:.0%} less than in rows"
