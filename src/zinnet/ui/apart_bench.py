"""Cutting apart at the bench: piece by piece off a weeded mat, trimmed and marked; then the rest is put away."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QTransform
from PySide6.QtWidgets import QWidget

from zinnet.base.units import write_length
from zinnet.nesting.sheet import film_of
from zinnet.plan.cut_apart import mats_apart
from zinnet.plan.ledger import left_of_mats
from zinnet.ui.aside import Aside
from zinnet.ui.cut.mat_drawing import draw_bed, mat_world
from zinnet.ui.drawing import draw_card, draw_label, draw_sign, draw_words, fitting_size, mark_on, pen
from zinnet.ui.films import film_brush
from zinnet.ui.language import tr
from zinnet.ui.large_keys import BACKWARD, ONWARD, LargeKey, LargeKeys
from zinnet.ui.region_paths import region_path
from zinnet.ui.split.weed import CARRIER
from zinnet.ui.theme import colour, font

if TYPE_CHECKING:
    from zinnet.base.units import Unit
    from zinnet.plan.cut_apart import CutOff, MatApart
    from zinnet.plan.loading import LoadedMat
    from zinnet.plan.model import Plan
    from zinnet.ui.session import Session

HUGE, MARK, BIG, MIDDLE, SAID = 48, 84, 34, 26, 19
CAUTION = "Scissors and blades point away from the other hand, and lie closed when they are put down."
DONE_OPACITY = 0.35


class ApartBench(QWidget):
    """One piece at a time, and at the end of each mat what is left of its film."""

    left = Signal()

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.mat = self.at = 0
        self.mats: tuple[MatApart, ...] = ()
        self._plan: Plan | None = None
        self._aside = Aside(session, self)
        self.setAccessibleName(tr("Cutting apart at the bench"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.keys = LargeKeys(
            (
                LargeKey("back", tr("Back"), BACKWARD, self.back, "Backspace, page up"),
                LargeKey("onward", tr("It is cut off"), ONWARD, self.go_on, "space bar, page down", main=True),
                LargeKey("mat", tr("Next mat"), (Qt.Key.Key_N,), self.next_mat, "N"),
            )
        )
        self.keys.put_below(self)
        session.plan_changed.connect(self.follow)

    def begin(self) -> None:
        """Show the first piece of the first mat, or go on where it was."""
        self.setFocus()
        self.follow()

    def follow(self) -> None:
        """Work out how the mats are cut apart, where the plan is another one."""
        if not self.isVisible():
            return
        plan = self.session.plan
        if plan is not self._plan:
            self._aside.ask(plan, lambda: mats_apart(plan), lambda made: self._take(plan, made))
        self._show()

    def _take(self, plan: "Plan", made: "tuple[MatApart, ...]") -> None:
        if [len(one.pieces) for one in made] != [len(one.pieces) for one in self.mats]:
            self.mat = self.at = 0
        self._plan, self.mats = plan, made
        self._show()

    @property
    def current(self) -> "MatApart | None":
        """The mat that is cut apart."""
        return self.mats[self.mat] if self.mat < len(self.mats) else None

    @property
    def piece(self) -> "CutOff | None":
        """The piece that is next; None where all of the mat's are off."""
        mat = self.current
        return mat.pieces[self.at] if mat is not None and self.at < len(mat.pieces) else None

    def go_on(self) -> None:
        """The piece is off: the next one, then the rest of the mat, then the next mat."""
        mat = self.current
        if mat is None:
            return
        if self.at < len(mat.pieces):
            self.at += 1
        else:
            self.next_mat()
        self._show()

    def back(self) -> None:
        """Look at the piece before."""
        if self.at > 0:
            self.at -= 1
        elif self.mat > 0:
            self.mat -= 1
            self.at = len(self.mats[self.mat].pieces)
        self._show()

    def next_mat(self) -> None:
        """Take the next mat; after the last one all is done."""
        if self.mat < len(self.mats):
            self.mat, self.at = self.mat + 1, 0
        self._show()

    def _show(self) -> None:
        said = {"back": tr("Back")}
        if self.current is not None:
            said |= {"onward": tr("It is cut off") if self.piece is not None else tr("It is put away")}
            said |= {"mat": tr("Next mat")}
        self.keys.show_these(said)
        self.setAccessibleDescription(self.said())
        self.update()

    def said(self) -> str:
        """Return what the card says, for whoever hears it instead of reading."""
        return " ".join(self._lines()) if self.mats else ""

    def _lines(self) -> list[str]:
        """Return what is done now, in sentences."""
        mat, piece, unit = self.current, self.piece, self.session.job.unit
        if mat is None:
            return ["All is cut apart. Lay the pieces of each garment together, by their numbers."]
        if piece is None:
            return ["What is left is put away with its label.", *self._left_said(mat.load)]
        whose = "A spare: nobody's yet." if piece.owner is None else f"{piece.owner.name}."
        wide, high = (write_length(mm, unit=unit) for mm in piece.size_mm)
        found = [whose, f"Its carrier: {wide} by {high}.", _margins_said(piece, unit)]
        if piece.tangled:
            found.append("A neighbour reaches into this rectangle: cut free between the two first.")
        return found

    def _left_said(self, load: "LoadedMat") -> list[str]:
        unit = self.session.job.unit
        found = []
        for one in left_of_mats(load.mats):
            name = f"{one.item.kind} {one.item.number}"
            sizes = [
                f"{write_length(right - left, unit=unit)} by {write_length(bottom - top, unit=unit)}"
                for left, top, right, bottom in one.rectangles
            ]
            found.append(f"Of {name}: {', '.join(sizes)}." if sizes else f"Of {name}: nothing of use.")
        if not found:
            found.append("Its film is not from the shelf: add what is left there, with its size.")
        else:
            found.append("Nest, After the cut: gives it its number and prints its label.")
        return found

    # drawing and keys

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the card."""
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), colour("felt"))
            card = QRectF(28, 24, self.width() - 56, self.height() - self.keys.height() - 34)
            draw_card(painter, card)
            mat, piece = self.current, self.piece
            wide = card.width() * (0.5 if mat is not None else 1.0) - 84
            text = QRectF(card.left() + 42, card.top() + 24, wide, 40)
            lines = self._lines() if self.mats or self._plan is not None else ["Working it out ..."]
            if mat is None:
                title = "All is cut apart" if self.mats else "Nothing to cut apart yet"
                lines = lines if self.mats else ["Nest the pieces and cut them first."]
                draw_words(painter, text.adjusted(0, 20, 0, 60), HUGE, title, bold=True)
                draw_words(painter, text.adjusted(0, 100, 0, 300), BIG, lines[0])
                return
            half = card.width() * 0.5
            self._draw_mat(painter, QRectF(card.left() + half, card.top() + 24, half - 26, card.height() - 48), mat)
            head = f"Cut apart · mat {mat.load.numbers}, {mat.load.films} · piece {self.at + 1} of {len(mat.pieces)}"
            if piece is None:
                head = f"Cut apart · mat {mat.load.numbers}, {mat.load.films}"
            draw_words(painter, text, fitting_size(head, text, (SAID + 3, SAID, 16, 14)), head, ink="quiet_ink")
            y = card.top() + 62
            title = "Put the rest away" if piece is None else f"Cut off {piece.layer}"
            y += draw_words(painter, QRectF(text.left(), y, wide, 140), 40, title, bold=True) + 10
            if piece is not None:
                y += draw_words(painter, QRectF(text.left(), y, wide, 40), MIDDLE, "Write on its carrier:") + 2
                y += draw_words(painter, QRectF(text.left(), y, wide, 130), MARK, piece.mark, bold=True) + 4
            for number, line in enumerate(lines):
                size = BIG if number < 2 else MIDDLE
                y += draw_words(painter, QRectF(text.left(), y, wide, 200), size, line, bold=number == 0) + 8
            draw_sign(painter, "warn", QRectF(card.left() + 42, card.bottom() - 58, 28, 26), "!")
            draw_words(painter, QRectF(card.left() + 84, card.bottom() - 62, wide - 40, 54), SAID, CAUTION)

    def _draw_mat(self, painter: QPainter, box: QRectF, mat: "MatApart") -> None:
        """Draw the mat as it lies there: what is off is pale, the piece that is next is lit, with its trim lines."""
        world = mat_world(mat.load, box.adjusted(8, 8, -8, -8))
        draw_bed(painter, world, mat.load)
        for trim in mat.load.trims:
            painter.setTransform(QTransform.fromTranslate(*mat.load.stuck_at(trim)) * world, True)
            painter.setPen(pen("ink", 1))
            painter.setBrush(CARRIER)
            painter.drawPath(region_path(film_of(trim.mat.sheet)))
            painter.resetTransform()
        for number, one in enumerate(mat.pieces):
            painter.setTransform(world, True)
            painter.setOpacity(DONE_OPACITY if number < self.at else 1.0)
            painter.setBrush(film_brush(one.film))
            edge = pen("accent", 3) if number == self.at else pen("ink", 1.2)
            if number != self.at:
                edge.setColor(mark_on(one.film.colour))
            painter.setPen(edge)
            painter.drawPath(region_path(one.region, painter))
            painter.resetTransform()
        for number, one in enumerate(mat.pieces):
            painter.setOpacity(DONE_OPACITY if number < self.at else 1.0)
            self._draw_trim(painter, world, one, lit=number == self.at)
            centre = world.map(QPointF((one.trim[0] + one.trim[2]) / 2, (one.trim[1] + one.trim[3]) / 2))
            draw_label(painter, centre, one.mark)
        painter.setOpacity(1.0)

    def _draw_trim(self, painter: QPainter, world: QTransform, one: "CutOff", *, lit: bool) -> None:
        left, top, right, bottom = one.trim
        box = world.mapRect(QRectF(QPointF(left, top), QPointF(right, bottom)))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(pen("accent" if lit else "ink", 3 if lit else 1.2, dashed=True))
        painter.drawRect(box)
        if not lit:
            return
        unit = self.session.job.unit
        painter.setFont(font(SAID, bold=True))
        wide, high = (write_length(mm, unit=unit) for mm in one.size_mm)
        draw_label(painter, QPointF(box.center().x(), box.top()), wide)
        draw_label(painter, QPointF(box.left(), box.center().y()), high)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Do what a large key does; leave with F11."""
        if event.key() in (Qt.Key.Key_F11, Qt.Key.Key_Escape):
            self.left.emit()
        elif not self.keys.take(event):
            super().keyPressEvent(event)


def _margins_said(piece: "CutOff", unit: "Unit") -> str:
    """Return how far from the film the four sides of the carrier are cut."""
    rows = list(zip(("left", "top", "right", "bottom"), piece.margins_mm, piece.own_edges, strict=True))
    cut = {side: write_length(mm, unit=unit) for side, mm, own in rows if not own}
    edges = " and ".join(side for side, _, own in rows if own)
    found = f"The film's own edge: {edges}. " if edges else ""
    if not cut:
        return found.strip()
    if len(set(cut.values())) == 1:
        where = "all round" if not edges else " and ".join(cut)
        return f"{found}{next(iter(cut.values()))} from the film: {where}."
    return f"{found}From the film: {', '.join(f'{side} {length}' for side, length in cut.items())}."
