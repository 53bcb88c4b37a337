"""SVG path data: the grammar of SVG 2, chapter 9.3, into cubic Béziers.

As the standard asks, an error ends the path: what came before it is kept.
"""

import re
from dataclasses import dataclass, field

import numpy as np

from zinnet.geometry.curves import Points, Subpath, arc_as_cubics, lines_as_cubics

COMMAND = re.compile(r"\s*,?\s*([MmZzLlHhVvCcSsQqTtAa])([^MmZzLlHhVvCcSsQqTtAa]*)")
NUMBER = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")
SEPARATOR = re.compile(r"[\s,]*")
ONLY_NUMBERS = re.compile(rf"(?:[\s,]*{NUMBER.pattern})*[\s,]*")
ARC = re.compile(
    rf"[\s,]*({NUMBER.pattern})[\s,]*({NUMBER.pattern})[\s,]*({NUMBER.pattern})"
    rf"[\s,]*([01])[\s,]*([01])[\s,]*({NUMBER.pattern})[\s,]*({NUMBER.pattern})"
)
ARGUMENTS = {"M": 2, "L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Q": 4, "T": 2}
LARGEST = 1e9


@dataclass
class _Pen:
    """Where the path stands while it is read."""

    done: list[Subpath] = field(default_factory=list)
    runs: list[Points] = field(default_factory=list)
    start: tuple[float, float] = (0.0, 0.0)
    here: tuple[float, float] = (0.0, 0.0)
    handle: tuple[float, float] | None = None
    before: str = ""

    def finish(self, *, closed: bool) -> None:
        if self.runs:
            self.done.append(Subpath(np.concatenate(self.runs), closed))
        elif self.before in ("M", "m") and closed:
            self.done.append(Subpath(lines_as_cubics(np.array([self.start, self.start])), closed))
        self.runs = []

    def line(self, points: Points) -> None:
        self.runs.append(lines_as_cubics(np.concatenate([[self.here], points])))
        self.here = (float(points[-1, 0]), float(points[-1, 1]))

    def cubic(self, *points: tuple[float, float]) -> None:
        self.runs.append(np.array([[self.here, *points]]))
        self.here = points[-1]


def read_path(data: str) -> tuple[tuple[Subpath, ...], bool]:
    """Return the subpaths of path data and whether all of it could be read."""
    pen = _Pen()
    at, whole = 0, True
    while match := COMMAND.match(data, at):
        at = match.end()
        if pen.before == "" and match[1] not in "Mm":
            whole = False
            break
        if not _command(pen, match[1], match[2]):
            whole = False
            break
        pen.before = match[1]
    whole = whole and not data[at:].strip(" \t\r\n\f,")
    pen.finish(closed=False)
    return tuple(pen.done), whole


def _command(pen: _Pen, letter: str, text: str) -> bool:
    """Carry out one command with all its arguments; return whether it was read to its end."""
    upper, relative = letter.upper(), letter.islower()
    if upper == "Z":
        if pen.here != pen.start and pen.runs:
            pen.line(np.array([pen.start]))
        pen.finish(closed=True)
        pen.here, pen.handle = pen.start, None
        return not text.strip(" \t\r\n\f,")
    if upper == "A":
        return _arcs(pen, relative, text)
    whole = ONLY_NUMBERS.fullmatch(text) is not None
    readable = text if whole else text[: ONLY_NUMBERS.match(text).end()]  # type: ignore[union-attr]
    values = np.array(NUMBER.findall(readable), dtype=np.float64)
    size = ARGUMENTS[upper]
    if len(values) % size or len(values) == 0:
        whole = False
        values = values[: len(values) - len(values) % size]
    if not np.isfinite(values).all() or (np.abs(values) > LARGEST).any():
        return False
    if len(values):
        rows = values.reshape(-1, size)
        if upper in "HV":
            _axis_lines(pen, upper, relative, rows[:, 0])
        elif upper in "ML":
            _lines(pen, upper, relative, rows)
        else:
            _curves(pen, upper, relative, rows)
    return whole


def _lines(pen: _Pen, upper: str, relative: bool, rows: Points) -> None:
    points = np.cumsum(np.concatenate([[pen.here], rows]), axis=0)[1:] if relative else rows
    if upper == "M":
        pen.finish(closed=False)
        pen.here = pen.start = (float(points[0, 0]), float(points[0, 1]))
        points = points[1:]
    if len(points):
        pen.line(points)
    pen.handle = None


def _axis_lines(pen: _Pen, upper: str, relative: bool, values: Points) -> None:
    axis = "HV".index(upper)
    points = np.tile(np.array(pen.here), (len(values), 1))
    points[:, axis] = np.cumsum(values) + pen.here[axis] if relative else values
    pen.line(points)
    pen.handle = None


def _curves(pen: _Pen, upper: str, relative: bool, rows: Points) -> None:
    for row in rows.reshape(len(rows), -1, 2):
        x0, y0 = pen.here
        given = [(float(x) + x0 * relative, float(y) + y0 * relative) for x, y in row]
        smooth = pen.handle is not None and pen.before.upper() in ("CS" if upper in "CS" else "QT")
        mirrored = (2 * x0 - pen.handle[0], 2 * y0 - pen.handle[1]) if smooth and pen.handle else (x0, y0)
        if upper in "CS":
            first, second, end = given if upper == "C" else (mirrored, *given)
            pen.handle = second
        else:
            control, end = given if upper == "Q" else (mirrored, *given)
            first = ((x0 + 2 * control[0]) / 3, (y0 + 2 * control[1]) / 3)
            second = ((end[0] + 2 * control[0]) / 3, (end[1] + 2 * control[1]) / 3)
            pen.handle = control
        pen.cubic(first, second, end)
        pen.before = upper


def _arcs(pen: _Pen, relative: bool, text: str) -> bool:
    at = 0
    while match := ARC.match(text, at):
        at = match.end()
        rx, ry, tilt, x, y = (float(match[k]) for k in (1, 2, 3, 6, 7))
        if max(abs(rx), abs(ry), abs(x), abs(y)) > LARGEST:
            return False
        end = (x + pen.here[0] * relative, y + pen.here[1] * relative)
        cubics = arc_as_cubics(pen.here, (rx, ry), tilt, match[4] == "1", match[5] == "1", end)
        if len(cubics):
            pen.runs.append(cubics)
        pen.here, pen.handle = end, None
    return at > 0 and not text[at:].strip(" \t\r\n\f,")
