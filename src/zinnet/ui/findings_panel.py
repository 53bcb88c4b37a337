"""The right edge: the findings, always in sight, with the place and the mend of each."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from zinnet.plan.findings.levels import LEVELS, Station
from zinnet.ui.finding_card import NAMES, FindingCard, Fold
from zinnet.ui.in_turn import InTurn
from zinnet.ui.language import tr
from zinnet.ui.offers import Offer, Offers
from zinnet.ui.plain import Label
from zinnet.ui.theme import LARGE, font

if TYPE_CHECKING:
    from zinnet.job.edits import Edit
    from zinnet.plan.ahead import Ahead
    from zinnet.plan.findings.model import Finding
    from zinnet.ui.before_after import BeforeAfter
    from zinnet.ui.session import Session


class FindingsPanel(QWidget):
    """The list of findings: those of the station on the table, the gravest first, then those of the others, folded."""

    changed = Signal(str)
    """What a mend changed, in words."""

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.title = Label(tr("Findings"))
        self.title.setFont(font(LARGE, bold=True))
        self.counts = Label()
        self.counts.setProperty("quiet", True)
        self.counts.setWordWrap(True)
        self.counts.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        head = QHBoxLayout()
        head.addWidget(self.title)
        head.addWidget(self.counts, 1)
        self.list = QWidget()
        self._column = QVBoxLayout(self.list)
        self._column.setContentsMargins(0, 0, 4, 0)
        self._column.setSpacing(8)
        self._nothing = Label()
        self._nothing.setProperty("quiet", True)
        self._nothing.setWordWrap(True)
        self._column.addWidget(self._nothing)
        self._column.addStretch(1)
        self._area = area = QScrollArea()
        area.setAccessibleName(tr("Findings"))
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(self.list)
        self.list.setProperty("holder", True)
        area.viewport().setAutoFillBackground(False)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addLayout(head)
        column.addWidget(area, 1)
        self.safe = QPushButton(tr("Mend all that is safe"))
        self.safe.setToolTip(
            tr("Make all mends that change nothing but outlines too fine for their film; one step to undo")
        )
        self.safe.clicked.connect(self._mend_safe)
        self.safe.hide()
        column.insertWidget(1, self.safe)
        self._safe: Edit | None = None
        self.offers = Offers(session, self)
        self.offers.proven.connect(self._show_offers)
        self.offers.safe_found.connect(self._show_safe)
        self.before_after: BeforeAfter | None = None
        self.cards: list[FindingCard] = []
        self._shown: list[object] | None = None
        self.station = "fit"
        self._unfolded: set[str] = set()
        self._folds: dict[Station, Fold] = {}
        InTurn(session, self.follow, self)
        session.later.ahead.connect(self._look_ahead)
        session.following.ahead.connect(self._look_ahead)
        session.busy_changed.connect(self._count)
        session.busy_changed.connect(self._hold_back)
        self.follow()

    def card(self, finding_id: str) -> FindingCard | None:
        """Return the card of a finding, if it is there."""
        return next((card for card in self.cards if card.finding.id == finding_id), None)

    def follow(self) -> None:
        """Show the findings of the plan; cards of findings that stay as they were are kept."""
        findings = self.session.plan.findings if self.session.has_artwork else ()
        self._show(findings)
        if self.session.is_begun:
            self.offers.look_at(self.session.plan, findings)
        for card in self.cards:
            card.show_offers(self.offers.of(card.finding))
        self._make_room()

    def _hold_back(self) -> None:
        """Offer nothing while an edit is worked out: what was proven, was proven for the job before it."""
        for card in self.cards:
            card.show_offers(None if self.session.is_working else self.offers.of(card.finding))
        self._make_room()

    def _show_offers(self, finding: "Finding") -> None:
        for card in self.cards:
            offers = self.offers.of(card.finding)
            if card.finding.id == finding.id and offers is not None:
                card.show_offers(offers)
        self._make_room()

    def _make_room(self) -> None:
        """Give every card its height at once, before anything of it is drawn in too little room."""
        if not self.isVisible():
            return
        wide = self.list.width() - self._column.contentsMargins().right()
        for card in self.cards:
            if not card.isHidden():
                card.setMinimumHeight(card.heightForWidth(wide))
        self._column.invalidate()
        self.list.resize(self.list.width(), max(self.list.height(), self._column.heightForWidth(self.list.width())))
        self._column.activate()

    def _show_safe(self, edit: "Edit | None") -> None:
        self._safe = edit
        self.safe.setVisible(edit is not None)

    def _mend_safe(self) -> None:
        if self._safe is not None and self.session.apply(self._safe):
            self.changed.emit(tr("Mended all that is safe."))

    def _point(self, offer: Offer | None) -> None:
        """Show what a mend changes that is pointed at."""
        from zinnet.ui.before_after import BeforeAfter

        if offer is not None:
            self.before_after = self.before_after or BeforeAfter(self.session, self.window())
            self.before_after.show_offer(offer, beside=self)
        elif self.before_after is not None:
            self.before_after.hide()

    def _look_ahead(self, ahead: "Ahead") -> None:
        """Show at once what is wrong between designs; all else is still being worked out."""
        from zinnet.plan.findings.run import BETWEEN_DESIGNS

        rest = [finding for finding in self.session.plan.findings if finding.id not in BETWEEN_DESIGNS]
        order = sorted([*ahead.findings, *rest], key=lambda one: (one.passed is not None, LEVELS.index(one.level)))
        self._show(tuple(order))

    def _count(self) -> None:
        checking = self.session.is_working
        self.counts.setText(tr("checking ...") if checking else _counts([card.finding for card in self.cards]))

    def _show(self, findings: tuple["Finding", ...]) -> None:
        self._put(findings)
        self._count()

    def _card(self, finding: "Finding") -> FindingCard:
        card = FindingCard(self.session, finding)
        card.pointed.connect(self._point)
        card.mended.connect(self._mended)
        return card

    def _mended(self, name: str) -> None:
        """Say what was changed."""
        self.changed.emit(f"{name[0].upper()}{name[1:]}.")

    def show_station(self, station: str) -> None:
        """Show the findings of a station first; those of the others are folded below it."""
        if station != self.station:
            self.station = station
            self._unfolded.clear()
            self._arrange()

    def unfold(self, station: str) -> None:
        """Show the findings of another station too, or fold them again."""
        self._unfolded ^= {station}
        self._arrange()
        self._make_room()

    def reveal(self, finding: "Finding") -> None:
        """Keep the card of a finding in sight whose place is shown, and light it."""
        if finding.station != self.station and finding.station not in self._unfolded:
            self.unfold(finding.station)
        for card in self.cards:
            card.light(card.finding == finding)
            if card.finding == finding:
                self._area.ensureWidgetVisible(card)

    def _put(self, findings: tuple["Finding", ...]) -> None:
        said = [_said(finding) for finding in findings]
        if said == self._shown:
            for card, finding in zip(self.cards, findings, strict=True):
                card.finding = finding
            return
        kept: dict[object, list[FindingCard]] = {}
        for old, card in zip(self._shown or (), self.cards, strict=False):
            kept.setdefault(old, []).append(card)
        self._shown = said
        self.cards = []
        for new, finding in zip(said, findings, strict=True):
            cards = kept.get(new)
            card = cards.pop(0) if cards else self._card(finding)
            card.finding = finding
            self.cards.append(card)
        bar = self._area.verticalScrollBar()
        scrolled = bar.value()
        at = self._at_hand(going=[card for cards in kept.values() for card in cards])
        for cards in kept.values():
            for card in cards:
                self._column.removeWidget(card)
                card.hide()
                card.deleteLater()
        self._arrange()
        if at is not None:
            shown = [card for card in self.cards if not card.isHidden()]
            (shown[min(at, len(shown) - 1)].show_place if shown else self._area).setFocus()
        bar.setValue(scrolled)

    def _at_hand(self, going: list[FindingCard]) -> int | None:
        """Return where in the list the keyboard is, if its card is going; the next one takes its place."""
        focused = self.window().focusWidget()
        card = next((one for one in going if focused is not None and one.isAncestorOf(focused)), None)
        if card is None:
            return None
        at = self._column.indexOf(card)
        return sum(not one.isHidden() and self._column.indexOf(one) in range(at) for one in self.cards)

    def _arrange(self) -> None:
        """Put the cards of this station first, then a head for each other one, its cards below it if unfolded."""
        here = [card for card in self.cards if card.finding.station == self.station]
        rows: list[tuple[QWidget, bool]] = [(self._nothing, not here), *((card, True) for card in here)]
        others = dict.fromkeys(card.finding.station for card in self.cards if card.finding.station != self.station)
        for station in others:
            cards = [card for card in self.cards if card.finding.station == station]
            fold = self._folds.get(station) or self._make_fold(station)
            is_open = station in self._unfolded
            fold.show_counts(_counts([card.finding for card in cards]), is_open=is_open)
            rows += [(fold, True), *((card, is_open) for card in cards)]
        for empty in self._folds.keys() - others.keys():
            self._folds[empty].hide()
        self._nothing.setText(self._said_of_none(bool(here)))
        for place, (widget, is_shown) in enumerate(rows):
            item = self._column.itemAt(place)
            if item is None or item.widget() is not widget:
                self._column.insertWidget(place, widget)
            widget.setVisible(is_shown)

    def _said_of_none(self, here: bool) -> str:
        if here:
            return ""
        if not self.session.has_artwork:
            return tr("Findings appear here once there is artwork.")
        return tr("Nothing to mend here.") if self.cards else tr("Nothing to mend.")

    def _make_fold(self, station: Station) -> "Fold":
        fold = self._folds[station] = Fold(station)
        fold.clicked.connect(lambda checked=False: self.unfold(station))
        return fold


def _said(finding: "Finding") -> object:
    """Return all that a card shows of a finding."""
    return (finding.id, finding.level, finding.measured, finding.limit, finding.passed, finding.place)


def _counts(findings: Sequence["Finding"]) -> str:
    found = []
    for level, names in NAMES.items():
        number = sum(finding.level == level and finding.passed is None for finding in findings)
        if number:
            found.append(f"{number} {names[number != 1]}")
    return " · ".join(found)
