"""What is offered to mend the findings: worked out and proven beside the window, and never in its way."""

import threading
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

if TYPE_CHECKING:
    from zinnet.base.stages import StageCache
    from zinnet.job.edits import Edit
    from zinnet.plan.changes import Change
    from zinnet.plan.findings.model import Finding
    from zinnet.plan.model import Plan
    from zinnet.plan.proof import Proof
    from zinnet.ui.session import Session

PASSES = ("cheap", "local", "dear")
"""Mends in the order of what their proof costs: drawings that stay, outlines that change, and what is tried first."""
REST_MS = 60
"""Proofs begin when so long nothing was changed."""


@dataclass(frozen=True)
class Offer:
    """A mend that holds, with what it changes, in numbers and where it is seen."""

    mend: "Edit"
    proof: "Proof"
    change: "Change | None"


class Offers(QObject):
    """The mends of the findings of the plan that are proven to hold, as far as they are worked out.

    Of a newer plan all is worked out anew; work for an older one is left off.
    """

    proven = Signal(object)
    """A finding, whose mends are all worked out."""
    safe_found = Signal(object)
    """The edit that makes all safe mends in one step, None where there is none."""
    _done = Signal(int, object, object)
    _ended = Signal(int, object)

    def __init__(self, session: "Session", parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session, self.turns = session, session.background.turns
        self._thread: threading.Thread | None = None
        self._plan: Plan | None = None
        self._round = 0
        self._findings: tuple[Finding, ...] = ()
        self._found: dict[object, tuple[Offer, ...]] = {}
        self._working = self._closed = False
        self._timer = QTimer(self, interval=REST_MS, singleShot=True)
        self._timer.timeout.connect(self._start)
        self._done.connect(self._keep)
        self._ended.connect(self._end)
        session.closing.connect(self.stop)
        session.busy_changed.connect(self._give_way)

    def look_at(self, plan: "Plan", findings: Sequence["Finding"]) -> None:
        """Prove the mends of a plan's findings, in their order, once nothing changes any more.

        What is proven stays so where no more than a nest is new.
        """
        if plan is self._plan or self._closed:
            return
        if self._plan is None or plan.garments is not self._plan.garments or plan.job != self._plan.job:
            self._found = {}
            self._round += 1
            self.safe_found.emit(None)
        self._plan = plan
        self._findings = tuple(one for one in findings if one.may_have_mends and one.passed is None)
        self._work_on()
        self._timer.start()

    def _work_on(self) -> None:
        """Know whether there is work; the search for nests comes after it, but where its findings need the nests."""
        from zinnet.plan.proof import LATER

        self._working = bool(self._open)
        self._session.nester.stand_back(self._working and not any(one.station in LATER for one in self._open))

    @property
    def _open(self) -> tuple["Finding", ...]:
        """The findings whose mends are not worked out yet."""
        return tuple(one for one in self._findings if _told(one) not in self._found)

    def of(self, finding: "Finding") -> tuple[Offer, ...] | None:
        """Return what is offered for a finding, None as long as that is not known."""
        return () if not finding.may_have_mends else self._found.get(_told(finding))

    @property
    def is_working(self) -> bool:
        """Whether mends are still being worked out."""
        return self._working

    def stop(self) -> None:
        """Leave off all work for good, for closing the window."""
        self._closed = True
        self._leave_off()
        if self._thread is not None:
            with self.turns.given():
                self._thread.join()

    def _leave_off(self) -> None:
        self._timer.stop()
        self._round += 1
        self._plan, self._working = None, False
        self._session.nester.stand_back(False)

    def _give_way(self) -> None:
        """Leave off proofs while an edit is worked out: a newer plan follows."""
        if self._session.is_working:
            self._leave_off()
            self.safe_found.emit(None)

    def _start(self) -> None:
        plan, waiting = self._plan, self._open
        if plan is None:
            return
        if not waiting:
            self._work_on()
        elif self._thread is not None and self._thread.is_alive():
            self._timer.start()
        else:
            work = _Work(self, plan, self._round, waiting, self._session.document.stages)
            self._thread = threading.Thread(target=work.run, name="offers", daemon=True)
            self._thread.start()

    def goes_on(self, number: int) -> bool:
        """Whether a round of proofs is still the one that is wanted."""
        return self._round == number

    def tell(self, number: int, finding: "Finding", offers: tuple[Offer, ...]) -> None:
        """Hear from the worker what holds for a finding."""
        self._done.emit(number, finding, offers)

    def tell_end(self, number: int, safe: "Edit | None") -> None:
        """Hear from the worker that all is proven, and what all safe mends together are, where it looked for them."""
        self._ended.emit(number, safe)

    def _keep(self, number: int, finding: "Finding", offers: tuple[Offer, ...]) -> None:
        if number == self._round:
            self._found[_told(finding)] = offers
            self.proven.emit(finding)

    def _end(self, number: int, safe: "Edit | None") -> None:
        if number != self._round:
            return
        if safe is not None:
            self.safe_found.emit(safe)
        self._work_on()
        if self._working:
            self._timer.start()


def _told(finding: "Finding") -> object:
    """Return what tells a finding apart from others of its plan, and from what it says when numbers change."""
    return finding.id, finding.level, finding.subject, finding.about, finding.measured


class _Work:
    """The proofs of one plan, in a thread beside the window."""

    def __init__(
        self, offers: Offers, plan: "Plan", number: int, findings: tuple["Finding", ...], stages: "StageCache"
    ) -> None:
        from zinnet.base.stages import AsideCache

        self._offers, self._plan, self._number, self._findings = offers, plan, number, findings
        self._cache = AsideCache(stages, lambda: offers.goes_on(number))
        self._in_vain: set[int] = set()
        """The findings that a change of outlines leaves as they are: a like one is not tried."""

    def run(self) -> None:
        """Prove mend after mend, the cheap ones of all findings first, until somebody wants another plan's."""
        from zinnet.base.stages import LeftOff

        with self._offers.turns.taken(), suppress(LeftOff, RuntimeError):
            self._prove_all()

    def _prove_all(self) -> None:
        from zinnet.plan.safe import mend_all_safe

        held: dict[int, dict[int, Offer]] = {id(finding): {} for finding in self._findings}
        for dearness in PASSES:
            for finding in self._findings:
                mine, fresh = held[id(finding)], self._holding(finding, dearness)
                mine |= fresh
                if fresh or dearness == _last_pass(finding):
                    self._offers.tell(self._number, finding, tuple(mine[number] for number in sorted(mine)))
        safe = [one for offers in held.values() for one in offers.values() if one.mend.local]
        with self._cache.in_use():
            self._offers.tell_end(self._number, mend_all_safe(self._plan) if len(safe) > 1 else None)

    def _holding(self, finding: "Finding", dearness: str) -> dict[int, Offer]:
        """Return the mends of a finding that hold, of those that cost so much to prove, by their numbers."""
        from zinnet.plan.changes import change_between
        from zinnet.plan.proof import prove

        size = finding.place.size if finding.place is not None else None
        found: dict[int, Offer] = {}
        with self._cache.in_use():
            for number, mend in _mends(finding, dearness):
                if mend.local and id(finding) in self._in_vain:
                    continue
                proof = prove(self._plan, finding, mend)
                if mend.local and proof.leaves_it:
                    self._in_vain.add(id(finding))
                if proof.holds and proof.after is not None:
                    found[number] = Offer(mend, proof, change_between(self._plan, proof.after, size))
        return found


def _mends(finding: "Finding", dearness: str) -> list[tuple[int, "Edit"]]:
    """Return the mends of a finding that cost so much to prove, with their numbers."""
    if dearness == "dear":
        known = len(finding.at_once)
        return [] if finding.more is None else [*enumerate(finding.mends)][known:]
    return [(number, mend) for number, mend in enumerate(finding.at_once) if mend.local == (dearness == "local")]


def _last_pass(finding: "Finding") -> str:
    if finding.more is not None:
        return "dear"
    return "local" if any(mend.local for mend in finding.at_once) else "cheap"
