"""Work by hand on the mats: a piece is dragged, turned, pressed against its neighbours, held, or let go."""

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QTransform

from zinnet.base.units import write_length
from zinnet.geometry.transform import moved, shift, turn
from zinnet.job.edits import held_copies, move_pieces
from zinnet.nesting.by_hand import Around, Direction, around
from zinnet.plan.nests import NestedMat, pin_of
from zinnet.ui.drawing import pen
from zinnet.ui.region_paths import region_path
from zinnet.ui.theme import colour

if TYPE_CHECKING:
    from zinnet.geometry.region import Region
    from zinnet.nesting.model import Placed
    from zinnet.ui.session import Session

SNAP_MM, NUDGE_MM = 4.0, 1.0
NUDGE = "nudge"
FREE_STEP_DEG = 15.0
PIN_PX = 5.0
ARROWS: dict[int, Direction] = {
    Qt.Key.Key_Left: (-1.0, 0.0),
    Qt.Key.Key_Right: (1.0, 0.0),
    Qt.Key.Key_Up: (0.0, -1.0),
    Qt.Key.Key_Down: (0.0, 1.0),
}


@dataclass(frozen=True)
class Lying:
    """One copy of a piece, where it lies on a mat."""

    mat: NestedMat
    placed: "Placed"

    @property
    def region(self) -> "Region":
        """What it takes on the mat."""
        return moved(self.mat.nest.part(self.placed.piece).room, self.placed.matrix)

    @property
    def is_chosen_as(self) -> tuple[str, int]:
        """What tells it from all other copies."""
        return self.placed.piece, self.placed.copy_number


class HandWork:
    """The piece that is chosen and perhaps being dragged; the plan changes only when it is let go."""

    def __init__(self, session: "Session") -> None:
        self.session = session
        self.chosen: tuple[str, int] | None = None
        self.dragged: Lying | None = None
        self._grip = QPointF()

    # what is chosen

    @property
    def lying(self) -> Lying | None:
        """The chosen copy where it lies now: while it is dragged, where it would be put."""
        if self.dragged is not None:
            return self.dragged
        return next((one for one in self._all() if one.is_chosen_as == self.chosen), None)

    def _all(self) -> list[Lying]:
        return [Lying(mat, placed) for mat in self.session.plan.mats for placed in mat.layout.placed]

    def choose_next(self, step: int) -> None:
        """Choose the next piece, or the one before."""
        every = self._all()
        if not every:
            return
        keys = [one.is_chosen_as for one in every]
        at = keys.index(self.chosen) + step if self.chosen in keys else 0
        self.chosen = keys[at % len(keys)]
        assert self.chosen is not None
        self.session.selection.point_at(self.chosen[0])

    def is_held(self, one: Lying) -> bool:
        """Tell whether a piece stays where it is when the rest is nested again."""
        return one.is_chosen_as in held_copies(self.session.job.nesting)

    def surroundings(self, one: Lying) -> Around:
        """Return what lies around a piece on the mat where it is."""
        mat = one.mat
        own = [(placed.piece, placed.copy_number) for placed in mat.layout.placed]
        index = own.index(one.is_chosen_as) if one.is_chosen_as in own else None
        rooms = [*mat.rooms, *([] if mat.test_spot is None else [mat.test_spot])]
        return around(mat.sheet, rooms, index, mat.nest.task.gap_mm)

    def in_words(self) -> str:
        """Return in words how much room the chosen piece has."""
        one = self.lying
        if one is None:
            return ""
        unit, nearby = self.session.job.unit, self.surroundings(one)
        gap, wanted = nearby.gap_to_next(one.region), one.mat.nest.task.gap_mm
        held = self.is_held(one)
        name = f"{one.mat.nest.film.name}, copy {one.placed.copy_number}" + (", held" if held else "")
        if nearby.slack(one.region) < -0.002 and gap >= wanted - 0.002:
            return f"{name}: over the edge or on a spoiled spot"
        if gap == float("inf"):
            return f"{name}: alone on its mat"
        room = f"{write_length(gap, unit=unit)} to the next, {write_length(wanted, unit=unit)} wanted"
        return f"{name}: {'touches another piece' if gap == 0 else room}"

    # dragging

    def press(self, one: Lying, at: QPointF) -> None:
        """Take a piece up; ``at`` is where on its sheet."""
        self.chosen, self._grip = one.is_chosen_as, at - QPointF(one.placed.x_mm, one.placed.y_mm)
        self._from = one

    def drag(self, mat: NestedMat, at: QPointF, *, snap: bool) -> None:
        """Move the piece that is taken up to a point of a sheet of its film; it snaps to what is near."""
        start = self._from
        if mat.nest is not start.mat.nest:
            return
        spot = at - self._grip
        one = Lying(mat, start.placed.model_copy(update={"x_mm": spot.x(), "y_mm": spot.y()}))
        if snap:
            across, down = self.surroundings(one).snapped(one.region, SNAP_MM)
            one = replace(
                one, placed=one.placed.model_copy(update={"x_mm": spot.x() + across, "y_mm": spot.y() + down})
            )
        self.dragged = one

    def release(self) -> None:
        """Put the piece down where it is."""
        one, self.dragged = self.dragged, None
        if one is not None:
            self._put("move a piece", one)

    # by keys

    def key(self, event: QKeyEvent) -> bool:
        """Do what a key asks for with the chosen piece; tell whether it was one of ours."""
        key, one = event.key(), self.lying
        if key in (Qt.Key.Key_PageDown, Qt.Key.Key_PageUp):
            self.choose_next(1 if key == Qt.Key.Key_PageDown else -1)
            return True
        if one is None:
            return False
        shifted = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if key in ARROWS:
            self.push(one, ARROWS[key], nudge=shifted)
        elif key == Qt.Key.Key_R:
            self.turn(one, back=shifted)
        elif key == Qt.Key.Key_P:
            self.hold(one)
        elif key == Qt.Key.Key_M:
            self.to_next_mat(one)
        elif key == Qt.Key.Key_Escape:
            self.chosen = self.dragged = None
        else:
            return False
        return True

    def push(self, one: Lying, direction: Direction, *, nudge: bool) -> None:
        """Press a piece against what lies in a direction, or nudge it by a millimetre."""
        way = NUDGE_MM if nudge else self.surroundings(one).pressed(one.region, direction)
        if way == 0:
            self.session.said.emit("The piece has no room there: nudge it free first (Shift and an arrow).")
            return
        placed = one.placed.model_copy(
            update={"x_mm": one.placed.x_mm + direction[0] * way, "y_mm": one.placed.y_mm + direction[1] * way}
        )
        self._put(NUDGE if nudge else "press against", replace(one, placed=placed))

    def turn(self, one: Lying, *, back: bool) -> None:
        """Turn a piece about its middle to the next turn that its film allows."""
        piece = next(piece for piece in one.mat.nest.task.pieces if piece.name == one.placed.piece)
        allowed, now = piece.allowed_turns, one.placed.turn_deg
        if allowed is None:
            by = -FREE_STEP_DEG if back else FREE_STEP_DEG
        elif len(allowed) < 2:
            self.session.said.emit("This film has a direction: its pieces stay as they are.")
            return
        else:
            at = int(np.argmin([abs((now - angle + 180) % 360 - 180) for angle in allowed]))
            by = allowed[(at + (-1 if back else 1)) % len(allowed)] - now
        left, top, right, bottom = one.region.bounds
        middle = (left + right) / 2, (top + bottom) / 2
        matrix = shift(*middle) @ turn(by) @ shift(-middle[0], -middle[1]) @ one.placed.matrix
        placed = one.placed.model_copy(
            update={"x_mm": float(matrix[0, 2]), "y_mm": float(matrix[1, 2]), "turn_deg": (now + by) % 360}
        )
        self._put("turn a piece", replace(one, placed=placed))

    def hold(self, one: Lying) -> None:
        """Hold a piece where it is when the rest is nested again, or let it go."""
        held = self.is_held(one)
        self._put("let a piece go" if held else "hold a piece", one, held=not held)

    def to_next_mat(self, one: Lying) -> None:
        """Move a piece to the next mat of its film, where it was on this one."""
        mats = [mat for mat in self.session.plan.mats if mat.nest is one.mat.nest]
        if len(mats) < 2:
            self.session.said.emit("There is no other mat of this film.")
            return
        self._put("move to another mat", replace(one, mat=mats[(mats.index(one.mat) + 1) % len(mats)]))

    def _put(self, name: str, one: Lying, *, held: bool = True) -> None:
        self.session.nester.settle(one.mat.nest.key)
        merge = f"{name} {one.is_chosen_as}" if name == NUDGE else ""
        self.session.apply(move_pieces(name, [pin_of(one.mat, one.placed, held=held)], merge=merge))

    # drawing

    def paint(self, painter: QPainter, to_table: QTransform, mat: NestedMat) -> None:
        """Draw what is held on a mat, and the chosen piece if it is on it; ``to_table`` goes from its mm to pixels."""
        held = held_copies(self.session.job.nesting)
        for placed in mat.layout.placed if held else ():
            if (placed.piece, placed.copy_number) in held:
                middle = moved(mat.nest.part(placed.piece).region, placed.matrix).representative_point()
                self._paint_pin(painter, to_table.map(QPointF(middle.x, middle.y)))
        one = self.lying
        if one is None or one.mat is not mat:
            return
        bad = self.surroundings(one).slack(one.region) < -0.002
        painter.save()
        painter.setTransform(to_table)
        painter.setPen(pen("stop" if bad else "accent", 2.4))
        fill = QColor(colour("stop" if bad else "accent"))
        fill.setAlpha(70)
        painter.setBrush(fill)
        painter.drawPath(region_path(one.region, painter))
        painter.restore()

    def _paint_pin(self, painter: QPainter, at: QPointF) -> None:
        painter.setPen(pen("ink", 1.4))
        painter.drawLine(at, at + QPointF(0, 2.4 * PIN_PX))
        painter.setBrush(colour("accent"))
        painter.drawEllipse(at, PIN_PX, PIN_PX)
