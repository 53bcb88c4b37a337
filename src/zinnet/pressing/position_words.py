"""Positions of a platen in words: two lengths to its middle, and how it is turned."""

from collections.abc import Sequence

from zinnet.base.units import Unit, write_length
from zinnet.blanks.model import Panel
from zinnet.pressing.platen_positions import Position

HERE_MM = 0.05


def position_said(number: int, position: Position, panel: Panel, unit: Unit) -> str:
    """Return where the middle of the platen lies, from the centre line and the panel's reference, and its turn."""
    name, (_, y) = next(iter(panel.references.items()), ("upper edge", (0.0, panel.bounds[1])))
    side = "on the centre line"
    if abs(position.x) >= HERE_MM:
        side = f"{write_length(abs(position.x), unit=unit)} {'right' if position.x > 0 else 'left'} of the centre line"
    down = position.y - y
    where = f"{write_length(abs(down), unit=unit)} {'below' if down >= 0 else 'above'} the {name}"
    pads = f"; pillow under {' and '.join(position.pads)}" if position.pads else ""
    return f"{number}  {side}, {where}{turn_said(position)}{pads}"


def turn_said(position: Position) -> str:
    """Return how a platen is turned, in words; nothing where it lies straight."""
    angle = (position.turn_deg + 90.0) % 180.0 - 90.0
    if abs(angle) < HERE_MM:
        return ""
    if abs(abs(angle) - 90.0) < HERE_MM:
        return ", the platen upright"
    return f", turned {abs(angle):.0f}° {'clockwise' if angle > 0 else 'counter-clockwise'}"


def rows_said(positions: Sequence[Position], panel: Panel, unit: Unit) -> list[str]:
    """Return every position in words, one line each, in the order of pressing."""
    return [position_said(number, one, panel, unit) for number, one in enumerate(positions, start=1)]
