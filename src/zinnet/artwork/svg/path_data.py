"""SVG path data: the grammar of SVG 2, chapter 9.3, into cubic Béziers.

As the standard asks, an error ends the path: what came before it is kept.
"""

import re
from collections.abc import Iterable
from dataclasses import dataclass, field
from itertools import islice

import numpy as np

from zinnet.artwork.svg.bounds import SMALLEST, is_bounded
from zinnet.geometry.curves import Points, Subpath, arc_as_cubics, lines_as_cubics

COMMAND = re.compile(r"\s*+,?+\s*+([MmZzLlHhVvCcSsQqTtAa])([^MmZzLlHhVvCcSsQqTtAa]*+)")
NUMBER = re.compile(r"[+-]?+(?:\d++\.?+\d*+|\.\d++)(?:[eE][+-]?+\d++)?+")
ONLY_NUMBERS = re.compile(rf"(?:[\s,]*+{NUMBER.pattern})*+[\s,]*+")
ARC = re.compile(
    rf"[\s,]*+({NUMBER.pattern})[\s,]*+({NUMBER.pattern})[\s,]*+({NUMBER.pattern})"
    rf"[\s,]*+([01])[\s,]*+([01])[\s,]*+({NUMBER.pattern})[\s,]*+({NUMBER.pattern})"
)
"""All take what they can and give nothing back, so that no text is gone through more than once."""
ARGUMENTS = {"M": 2, "L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Q": 4, "T": 2}


Spot = tuple[float, float]


@dataclass
class _Pen:
    """Where the path stands while it is read. Runs of lines and of curves are gathered before they become arrays."""

    done: list[Subpath] = field(default_factory=list)
    runs: list[Points] = field(default_factory=list)
    lines: list[Spot] = field(default_factory=list)
    curves: list[tuple[Spot, Spot, Spot, Spot]] = field(default_factory=list)
    start: Spot = (0.0, 0.0)
    here: Spot = (0.0, 0.0)
    handle: Spot | None = None
    before: str = ""

    def flush(self) -> None:
        """Turn what was gathered into arrays."""
        if self.lines:
            self.runs.append(lines_as_cubics(np.array(self.lines)))
            self.lines = []
        if self.curves:
            self.runs.append(np.array(self.curves))
            self.curves = []

    def finish(self, *, closed: bool) -> None:
        """End the subpath."""
        self.flush()
        if self.runs:
            self.done.append(Subpath(np.concatenate(self.runs), closed))
        elif self.before in ("M", "m") and closed:
            self.done.append(Subpath(lines_as_cubics(np.array([self.start, self.start])), closed))
        self.runs = []

    @property
    def is_drawing(self) -> bool:
        """Whether the subpath has anything in it yet."""
        return bool(self.runs or self.lines or self.curves)

    def line(self, points: Iterable[Spot]) -> None:
        """Draw straight lines."""
        if self.curves:
            self.flush()
        if not self.lines:
            self.lines.append(self.here)
        self.lines.extend(points)
        self.here = self.lines[-1]

    def cubic(self, first: Spot, second: Spot, end: Spot) -> None:
        """Draw a curve."""
        if self.lines:
            self.flush()
        self.curves.append((self.here, first, second, end))
        self.here = end

    def arc(self, cubics: Points) -> None:
        """Draw an arc that is given as curves."""
        self.flush()
        self.runs.append(cubics)


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
        if pen.here != pen.start and pen.is_drawing:
            pen.line([pen.start])
        pen.finish(closed=True)
        pen.here, pen.handle = pen.start, None
        return not text.strip(" \t\r\n\f,")
    if upper == "A":
        return _arcs(pen, relative, text)
    readable = ONLY_NUMBERS.match(text)
    whole = readable is not None and readable.end() == len(text)
    values = [float(number) for number in NUMBER.findall(text, 0, readable.end() if readable else 0)]
    size = ARGUMENTS[upper]
    if len(values) % size or not values:
        whole = False
        values = values[: len(values) - len(values) % size]
    if not is_bounded(values):
        return False
    if not values:
        return False
    if upper in "HV":
        _axis_lines(pen, upper, relative, values)
    else:
        pairs = list(zip(values[::2], values[1::2], strict=True))
        if upper in "ML":
            _lines(pen, upper, relative, pairs)
        else:
            _curves(pen, upper, relative, pairs)
    return whole


def _lines(pen: _Pen, upper: str, relative: bool, pairs: list[Spot]) -> None:
    if relative:
        x, y = pen.here
        for index, (dx, dy) in enumerate(pairs):
            x, y = x + dx, y + dy
            pairs[index] = (x, y)
    if upper == "M":
        pen.finish(closed=False)
        pen.here = pen.start = pairs[0]
        pairs = pairs[1:]
    if pairs:
        pen.line(pairs)
    pen.handle = None


def _axis_lines(pen: _Pen, upper: str, relative: bool, values: list[float]) -> None:
    for value in values:
        x, y = pen.here
        if upper == "H":
            pen.line([(x * relative + value, y)])
        else:
            pen.line([(x, y * relative + value)])
    pen.handle = None


def _curves(pen: _Pen, upper: str, relative: bool, pairs: list[Spot]) -> None:
    size = ARGUMENTS[upper] // 2
    for at in range(0, len(pairs), size):
        x0, y0 = pen.here
        given = [(x + x0 * relative, y + y0 * relative) for x, y in pairs[at : at + size]]
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
        if not is_bounded((rx, ry, tilt, x, y)):
            return False
        if min(abs(rx), abs(ry)) < SMALLEST:
            rx = ry = 0.0
        end = (x + pen.here[0] * relative, y + pen.here[1] * relative)
        cubics = arc_as_cubics(pen.here, (rx, ry), tilt, match[4] == "1", match[5] == "1", end)
        if len(cubics):
            pen.arc(cubics)
        pen.here, pen.handle = end, None
    return at > 0 and not text[at:].strip(" \t\r\n\f,")


def count_points(data: str, most: int) -> int:
    """Return about how many points path data holds, without reading it; counting stops beyond ``most``."""
    return sum(1 for _ in islice(NUMBER.finditer(data), 2 * most + 2)) // 2
