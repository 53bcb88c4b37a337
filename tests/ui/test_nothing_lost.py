"""What is typed in the window is there again: counts, measures and names, whatever was on the table meanwhile."""

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.helpers import crashed
from tests.ui.test_window import type_length
from zinnet.bench.automatic_copy import AutomaticCopy
from zinnet.bench.document import Document

SIZES = ("adult-s", "adult-m", "adult-l", "adult-xl")
KINDS = ("tee", "hoodie", "long-sleeve")
NAMES = ("Odile", "Bram", "Tamsin")
EXAMPLES = 8
ALLOWED = (HealthCheck.function_scoped_fixture, HealthCheck.too_slow)

STEPS = st.one_of(
    st.tuples(st.just("count"), st.sampled_from(SIZES), st.integers(1, 90)),
    st.tuples(st.just("measure"), st.integers(0, 3), st.integers(-15, 15)),
    st.tuples(st.just("kind"), st.sampled_from((*KINDS, "cap"))),
    st.tuples(st.just("station"), st.sampled_from(("measure", "fit", "nest", "cut"))),
    st.tuples(st.just("undone"), st.sampled_from(SIZES), st.integers(1, 9)),
    st.tuples(st.just("names")),
    st.tuples(st.just("saved")),
    st.tuples(st.just("crashed")),
)


class Hand:
    """Types in the window without waiting for anything, and knows what was typed."""

    def __init__(self, window, qtbot, folder):
        self.window, self.qtbot, self.folder = window, qtbot, folder
        self.counts: dict[str, int] = {}
        self.chests: dict[tuple[str, str], float] = {}
        self.has_names = False
        window.session.show_document(Document(window.session.workshop))
        window.show_page("card")

    @property
    def session(self):
        return self.window.session

    def settle(self):
        session = self.session
        self.qtbot.waitUntil(lambda: not session.is_working and not session.background.is_busy)
        QApplication.processEvents()

    def count(self, size, count):
        """Type a count into the card, where its size is made at all."""
        self.window.show_page("card")
        self.qtbot.waitUntil(lambda: bool(self.window.card.form.grid.rows))
        box = self.window.card.form.grid.rows[0].counts.get(size)
        if box is None or not box.isEnabled():
            return
        box.setFocus()
        box.selectAll()
        QTest.keyClicks(box, str(count))
        QTest.keyClick(box, Qt.Key.Key_Return)
        self.counts[size] = count

    def measure(self, number, more):
        """Type how wide a chest is, on the tape of one of the sizes that are made."""
        self.settle()
        if self.session.job.blank.kind not in KINDS:
            return
        garments = self.session.plan.garments
        garment = garments[number % len(garments)]
        self.window.go_to("measure")
        self.session.selection.look_at(size=garment.size)
        self.window.view.repaint()
        mm = round(garment.blank.measures["chest"]) + more
        type_length(self.qtbot, self.window.view, "Chest", f"{mm} mm")
        self.chests[self.session.job.blank.kind, garment.size] = mm

    def kind(self, kind):
        form = self.window.card.form
        self.settle()
        self.window.show_page("card")
        form.kind.setCurrentIndex(form.kind.findData(kind))
        form.kind.activated.emit(form.kind.currentIndex())
        self.settle()

    def station(self, station):
        self.window.go_to(station)

    def undone(self, size, count):
        """Type a count, and take it back."""
        if size in self.counts or not self.counts or self.has_names:
            return
        self.settle()
        before = dict(self.counts)
        self.count(size, count)
        if self.counts != before:
            self.settle()
            self.session.undo()
            self.settle()
            self.counts = before

    def names(self):
        """Paste a list of names; from then on it says how many there are."""
        if self.has_names or self.session.job.blank.kind not in KINDS:
            return
        self.settle()
        QApplication.clipboard().setText("name\n" + "\n".join(NAMES))
        self.window.clipboard.paste()
        self.qtbot.waitUntil(lambda: len(self.session.job.names.rows) == len(NAMES))
        self.settle()
        self.has_names = True

    def saved(self):
        """Save the job, close it, and open it again."""
        self.settle()
        self.session.document.save(self.folder / "kept.zinnet")
        self.session.show_document(Document(self.session.workshop))
        self.window.files.opener.open_job(self.folder / "kept.zinnet")
        self.qtbot.waitUntil(lambda: self.session.document.path is not None)
        self.settle()

    def crashed(self):
        """Leave the automatic copy behind as a crash does, and bring it back."""
        self.settle()
        copy, job = AutomaticCopy(self.folder / "crash"), self.session.job
        copy.keep(job)
        crashed(copy)
        self.session.show_document(Document(self.session.workshop))
        other = AutomaticCopy(self.folder / "crash")
        (left,) = other.left_behind()
        self.window.files.opener.restore(left.path)
        self.qtbot.waitUntil(lambda: self.session.job == job)
        self.qtbot.waitUntil(lambda: other.left_behind() == [])

    def check(self):
        """Look for all that was typed, in the job and on the card."""
        self.settle()
        for kind in KINDS:
            self.kind(kind)
            made = {one.size: one for one in self.session.plan.garments}
            for (of_kind, size), mm in self.chests.items():
                if of_kind == kind and size in made:
                    assert made[size].blank.measures["chest"] == mm
            if self.has_names:
                assert [row.values[0] for row in self.session.job.names.rows] == list(NAMES)
                assert self.session.plan.copies == len(NAMES)
            elif self.counts:
                assert self.session.job.order.counts() == self.counts
                assert {size: one.copies for size, one in made.items()} == self.counts
                shown = self.window.card.form.grid.rows[0].counts
                assert {size: box.value for size, box in shown.items() if box.value} == self.counts


@pytest.mark.long
@pytest.mark.beside
@settings(
    max_examples=EXAMPLES,
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow],
)
@given(steps=st.lists(STEPS, min_size=4, max_size=10))
def test_all_that_is_typed_is_found_again(window, qtbot, tmp_path, steps):
    hand = Hand(window, qtbot, tmp_path)
    for name, *given_ in steps:
        getattr(hand, name)(*given_)
    if hand.session.job.blank.kind == "cap":
        hand.kind("tee")
    hand.check()
