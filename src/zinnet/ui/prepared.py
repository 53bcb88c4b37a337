"""What will be drawn of a plan is made ready beside the window, where that takes longer than drawing it."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from zinnet.base.stages import take_turn
from zinnet.ui.region_paths import prepare

if TYPE_CHECKING:
    from zinnet.plan.ahead import Ahead
    from zinnet.ui.session import Session


def prepared_for(session: "Session") -> Callable[["Ahead"], None]:
    """Return what makes the layers ready of the size that is looked at, as finely as such were drawn last."""

    def make_ready(ahead: "Ahead") -> None:
        garment = ahead.garments[min(session.selection.number, len(ahead.garments) - 1)]
        for design in garment.compositions:
            for row in design.layers:
                take_turn()
                prepare(row.layer.region)

    return make_ready
