"""A design in the hand: the picture follows at once, what comes of it is worked out beside the window when it rests."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np
import shapely
from PySide6.QtCore import QObject, QTimer, Signal

from zinnet.plan.arranging import Unit, moved_by, units_of

if TYPE_CHECKING:
    from zinnet.job.edits import Edit
    from zinnet.placement.place import Placement
    from zinnet.plan.ahead import Ahead
    from zinnet.plan.fitted import FittedDesign
    from zinnet.ui.session import Session

REST_MS = 25
"""So long the hand is still before what comes of it is worked out."""
MOST_POINTS = 4_000
"""What has more points on the panel is worked out beside the window."""


@dataclass(frozen=True)
class _Hand:
    """What is carried, all of its group, and by how much it was moved from where it lay then (mm on the panel)."""

    unit: Unit
    start: Mapping[int, "Placement"]
    across_mm: float = 0.0
    down_mm: float = 0.0


class Carried(QObject):
    """What is in the hand, where the picture shows it before the plan has followed."""

    changed = Signal()

    def __init__(self, session: "Session", parent: QObject) -> None:
        super().__init__(parent)
        self.session = session
        self._hand: _Hand | None = None
        self._rest = QTimer(self, singleShot=True, interval=REST_MS)
        self._rest.timeout.connect(self._work_out)
        self._let_go = False
        self._asked: _Hand | None = None
        self.ahead: Ahead | None = None
        session.later.ahead.connect(self._look)
        session.later.refused.connect(self._refused)
        session.plan_changed.connect(self._follow)

    def suits(self, design: "FittedDesign") -> bool:
        """Tell whether a design is carried: it is in a group, or too much lies on its panel to follow at once."""
        if design.group:
            return True
        on_it = self.session.selection.garment.on_panel(design.panel.id)
        arts = [other.art for other in on_it if other.art is not None]
        return len(arts) > 1 and sum(map(shapely.get_num_coordinates, arts)) > MOST_POINTS

    def take(self, design: "FittedDesign") -> None:
        """Take a design, with its group, into the hand."""
        (unit,) = units_of(self.session.selection.garment, [design.index])
        start = {one.index: one.placement for one in unit.designs if one.placement is not None}
        self._hand, self._let_go = _Hand(unit, start), False
        self.session.nester.hold(True)

    def carry(self, across_mm: float, down_mm: float) -> None:
        """Move what is in the hand to so far from where it was taken up."""
        if self._hand is not None:
            self._hand, self.ahead = replace(self._hand, across_mm=across_mm, down_mm=down_mm), None
            self._rest.start()
            self.changed.emit()

    def let_go(self) -> None:
        """Lay it down where it is."""
        self._rest.stop()
        self._let_go = True
        if self._hand is not None and not self._hand.across_mm and not self._hand.down_mm:
            self._put_down()
        self._work_out()

    def _put_down(self) -> None:
        self._hand = self.ahead = None
        self.session.nester.hold(False)

    @property
    def is_active(self) -> bool:
        """Whether something is in the hand, or laid down and not worked out yet."""
        return self._hand is not None

    def nudge(self, design: "FittedDesign", across_mm: float, down_mm: float) -> None:
        """Move a design with its group by so much at once (mm on the panel)."""
        garment = self.session.selection.garment
        (unit,) = units_of(garment, [design.index])
        self.session.apply(moved_by(garment, unit, across_mm, down_mm, "move the artwork", merge="arrow"))

    def shown(self, design: "FittedDesign") -> "Placement | None":
        """Return where the picture shows a design."""
        hand, now, drawn = self._hand, design.placement, self.session.selection.drawn
        if now is not None and drawn is not None and drawn.design == design.index and hand is None:
            return drawn.place(now)
        if hand is None or now is None or design.index not in hand.start:
            return now
        return hand.start[design.index].moved(np.array([hand.across_mm, hand.down_mm]))

    def _edit(self) -> "Edit | None":
        hand, garment = self._hand, self.session.selection.garment
        if hand is None:
            return None
        designs = tuple(replace(one, placement=hand.start[one.index]) for one in hand.unit.designs)
        unit = replace(hand.unit, designs=designs)
        return moved_by(garment, unit, hand.across_mm, hand.down_mm, "move the artwork", merge="carry")

    def _work_out(self) -> None:
        edit = self._edit()
        if edit is not None:
            self._asked = self._hand
            self.session.apply_later(edit, self._worked_out)

    def _worked_out(self) -> None:
        if self._let_go and not self.session.is_working:
            self._put_down()
            self.session.document.close_step()
        self.changed.emit()

    def _look(self, ahead: "Ahead") -> None:
        """Show what comes of it where the hand still is where that was asked for."""
        if self._hand is not None and self._hand is self._asked:
            self.ahead = ahead
            self.changed.emit()

    def _refused(self) -> None:
        if self._let_go and self._hand is not None:
            self._put_down()
            self.changed.emit()

    def _follow(self) -> None:
        if self._hand is not None and any(index >= len(self.session.job.designs) for index in self._hand.start):
            self._put_down()
