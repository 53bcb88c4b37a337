"""Which piece is cut of a layer, and which layer a piece belongs to: pointing at one lights up the other."""

from collections.abc import Iterator
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from zinnet.plan.cut_parts import CutPart
    from zinnet.ui.session import Session


def piece_of_layer(session: "Session", order: int) -> str | None:
    """Return the first piece that is cut of a layer of the selected design."""
    return next((part.name for part in _parts(session) if part.layer.layer.order == order), None)


def order_of_piece(session: "Session") -> int | None:
    """Return the layer of the piece that is pointed at."""
    return next((part.layer.layer.order for part in _parts(session) if part.name == session.selection.pointed), None)


def _parts(session: "Session") -> Iterator["CutPart"]:
    """Yield the pieces of the selected design on the size that is looked at."""
    number = session.selection.number
    design = session.selection.design.index if session.selection.design is not None else 0
    for nest in session.plan.nests:
        for part in nest.parts:
            if part.garment == number and design in part.designs:
                yield part
