"""The piece under the pointer on the table of Fit."""

from typing import TYPE_CHECKING

import shapely
from PySide6.QtCore import QPointF

from zinnet.geometry.transform import moved

if TYPE_CHECKING:
    from zinnet.plan.cut_parts import CutPart
    from zinnet.ui.session import Session


def piece_at(session: "Session", point: QPointF) -> str | None:
    """Return the piece that covers a point of the panel (mm), the topmost one; None where there is none."""
    selection, plan, spot = session.selection, session.plan, shapely.Point(point.x(), point.y())
    number = selection.number
    on_it = {design.index for design in selection.garment.on_panel(selection.panel.id)}
    for nest in reversed(plan.nests):
        for part in nest.parts:
            if part.garment == number and on_it & set(part.designs) and _covers(session, part, spot):
                return part.name
    return None


def _covers(session: "Session", part: "CutPart", spot: shapely.Point) -> bool:
    """Tell whether any place of a part covers a point of the panel."""
    for copy in range(1, len(part.places) + 1):
        as_cut = moved(spot, session.plan.panel_to_cut(part, copy))
        left, top, right, bottom = part.region.bounds
        if left <= as_cut.x <= right and top <= as_cut.y <= bottom and shapely.contains(part.region, as_cut):
            return True
    return False
