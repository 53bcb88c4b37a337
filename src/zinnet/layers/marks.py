"""Aids for laying layers on one another: a weed frame with the stack's middle and box on it, and register marks.

All of it lies outside the artwork of every layer: it is cut, and peeled away with the waste.
"""

from dataclasses import dataclass

from shapely.geometry import Point, Polygon

from zinnet.base.stages import stage
from zinnet.data.limits import limits
from zinnet.geometry.region import Region
from zinnet.geometry.transform import Matrix, moved
from zinnet.layers.stack import LayerStack

Box = tuple[float, float, float, float]
QUARTER_SEGMENTS = 8
BOX_NOTCH_SHARE = 0.5
"""How deep the notches at the box's edges are, as a share of those at the centre lines."""


@dataclass(frozen=True, eq=False)
class Marks:
    """The same for every layer of a stack, in artwork mm: the frame's outline, and marks within it."""

    frame: Polygon
    registers: Region

    def moved(self, matrix: Matrix) -> "Marks":
        """Return the marks brought elsewhere by a matrix."""
        (frame,) = moved(Region([self.frame]), matrix).geoms
        return Marks(frame, moved(self.registers, matrix))


@stage(most=64)
def marks_of(stack: LayerStack) -> Marks:
    """Return the frame and the marks of a stack, the same for all its layers."""
    return marks_round(stack.box)


def frame_room_mm() -> float:
    """Return how far a weed frame stands off what it is around."""
    return float(limits()["marks"]["frame_mm"])


def frame_box(box: Box) -> Box:
    """Return the weed frame round a box, in its units of mm."""
    room = frame_room_mm()
    left, top, right, bottom = box
    return left - room, top - room, right + room, bottom + room


def marks_round(box: Box) -> Marks:
    """Return the frame and the marks round the box of a whole stack.

    The frame has a deep notch at each end of both centre lines, a shallow one where each edge of the box would meet it.
    Three of its corners hold a round mark: which one is missing tells how the layer lies.
    """
    numbers = limits()["marks"]
    outer = frame_box(box)
    deep, radius = numbers["tick_mm"], numbers["mark_mm"] / 2
    across, down = _notches(box[0], box[2], deep), _notches(box[1], box[3], deep)
    left, top, right, bottom = outer
    points: list[tuple[float, float]] = [(left, top)]
    for at, depth in across:
        points += [(at - depth / 2, top), (at, top + depth), (at + depth / 2, top)]
    points.append((right, top))
    for at, depth in down:
        points += [(right, at - depth / 2), (right - depth, at), (right, at + depth / 2)]
    points.append((right, bottom))
    for at, depth in reversed(across):
        points += [(at + depth / 2, bottom), (at, bottom - depth), (at - depth / 2, bottom)]
    points.append((left, bottom))
    for at, depth in reversed(down):
        points += [(left, at + depth / 2), (left + depth, at), (left, at - depth / 2)]
    room = numbers["frame_mm"] / 2
    corners = ((left + room, top + room), (right - room, top + room), (left + room, bottom - room))
    circles = [Point(x, y).buffer(radius, quad_segs=QUARTER_SEGMENTS) for x, y in corners]
    return Marks(Polygon(points), Region(circles))


def _notches(low: float, high: float, deep: float) -> list[tuple[float, float]]:
    """Return where notches lie along one side of the frame, and how deep each is; a short side has only its middle."""
    shallow = deep * BOX_NOTCH_SHARE
    middle = ((low + high) / 2, deep)
    if high - low < 3 * deep:
        return [middle]
    return [(low, shallow), middle, (high, shallow)]
