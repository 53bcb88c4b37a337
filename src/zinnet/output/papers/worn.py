"""A panel as worn, drawn small on paper: its cloth, the layers with their numbers, and the lengths to lay them by."""

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from zinnet.base.units import Unit, write_length
from zinnet.blanks.model import Panel
from zinnet.geometry.region import Region
from zinnet.geometry.transform import Matrix, moved
from zinnet.layers.stack import FilmLayer
from zinnet.output.papers.ink import print_ink
from zinnet.output.papers.paper import (
    ACCENT,
    BOLD,
    FONT,
    INK,
    QUIET,
    region_path,
)
from zinnet.placement.place import Placement
from zinnet.plan.fitted import FittedDesign, Garment

ROOM, MARK, TYPE = 22.0, 5.0, 7.0
"""Room around the panel for lengths, the radius of a layer's number, and the size of type, in points."""
PALE = 0.82
"""How much of a blank's colour is taken out, so that lines and layers stand out in print."""
Point = tuple[float, float]


@dataclass(frozen=True)
class _Page:
    """Where the panel's mm lie on the drawing, in points, y up."""

    scale: float
    left: float
    top: float

    def at(self, x: float, y: float) -> Point:
        return self.left + x * self.scale, self.top - y * self.scale


class WornPicture:
    """A panel with all designs that lie on it, to be drawn within ``width`` x ``height`` points."""

    def __init__(self, garment: Garment, panel: Panel, unit: Unit, size: tuple[float, float]) -> None:
        self.garment, self.blank, self.panel, self.unit, self.size = garment, garment.blank, panel, unit, size
        left, top, right, bottom = panel.bounds
        scale = min((size[0] - 2 * ROOM) / (right - left), (size[1] - 2 * ROOM) / (bottom - top))
        self._page = _Page(
            scale,
            (size[0] - (right - left) * scale) / 2 - left * scale,
            (size[1] + (bottom - top) * scale) / 2 + top * scale,
        )

    def draw(self, canvas: Any) -> None:
        """Draw it on a canvas."""
        self._cloth(canvas)
        for design in self.garment.composed_on(self.panel.id):
            if design.placement is None or design.stack is None:
                continue
            for matrix in design.placement.matrices:
                for row in design.layers:
                    self._fill(canvas, moved(row.seen, matrix), _colour(row), INK, 0.35)
                    for ink in design.shown(row) if row.is_print else ():
                        self._fill(canvas, moved(ink.region, matrix), ink.colour, INK, 0.1)
                        print_ink(canvas, ink.moved(matrix), self._page.at)
            for number, (x, y) in _numbers(design, design.placement.matrix):
                self._number(canvas, number, self._page.at(x, y))
        for design in self.garment.on_panel(self.panel.id):
            if design.placement is not None and design.stack is not None:
                self._lengths(canvas, design.placement)

    def _cloth(self, canvas: Any) -> None:
        pale = _pale(self.blank.colour)
        for part in self.panel.cloth:
            self._fill(canvas, part.region, pale, QUIET, 0.6)
        canvas.setDash(2, 2)
        canvas.setStrokeColorRGB(*QUIET)
        canvas.setLineWidth(0.4)
        for line in (*self.panel.seams, *self.panel.lines):
            points = [self._page.at(x, y) for x, y in line.coords]
            for start, end in pairwise(points):
                canvas.line(*start, *end)
        canvas.setDash()

    def _fill(self, canvas: Any, region: Region, colour: str, line: tuple[float, float, float], width: float) -> None:
        if region.is_empty:
            return
        canvas.setFillColor(colour)
        canvas.setStrokeColorRGB(*line)
        canvas.setLineWidth(width)
        canvas.drawPath(region_path(canvas, region, self._page.at), stroke=1, fill=1, fillMode=0)

    def _number(self, canvas: Any, number: int, at: Point) -> None:
        canvas.setFillColorRGB(1, 1, 1)
        canvas.setStrokeColorRGB(*INK)
        canvas.setLineWidth(0.5)
        canvas.circle(*at, MARK, stroke=1, fill=1)
        canvas.setFillColorRGB(*INK)
        canvas.setFont(BOLD, TYPE)
        canvas.drawCentredString(at[0], at[1] - TYPE * 0.36, str(number))

    def _lengths(self, canvas: Any, placement: Placement) -> None:
        """Draw how far the artwork lies from its reference, its width, and what is free at its sides."""
        left, top, right, bottom = placement.block
        middle = (top + bottom) / 2
        _, reference_y = placement.reference
        edges = self.panel.edges_at(middle)
        level = {"top": top, "bottom": bottom, "middle": middle}[placement.place.anchor]
        below = bottom + 14 / self._page.scale
        if abs(level - reference_y) * self._page.scale > TYPE:
            x = (left + right) / 2
            self._length(canvas, (x, reference_y), (x, level), abs(level - reference_y))
        self._length(canvas, (left, below), (right, below), right - left)
        if edges is not None:
            for outer, inner in ((edges[0], left), (right, edges[1])):
                if (inner - outer) * self._page.scale > 4 * TYPE:
                    self._length(canvas, (outer, middle), (inner, middle), inner - outer)

    def _length(self, canvas: Any, start: Point, end: Point, length_mm: float) -> None:
        """Draw a line with ticks at its ends and its length on it."""
        (x1, y1), (x2, y2) = self._page.at(*start), self._page.at(*end)
        canvas.setStrokeColorRGB(*ACCENT)
        canvas.setLineWidth(0.6)
        canvas.line(x1, y1, x2, y2)
        upright = abs(y2 - y1) > abs(x2 - x1)
        for x, y in ((x1, y1), (x2, y2)):
            canvas.line(x - 3 * upright, y - 3 * (not upright), x + 3 * upright, y + 3 * (not upright))
        said = write_length(length_mm, unit=self.unit)
        wide = canvas.stringWidth(said, FONT, TYPE) + 3
        x, y = (x1 + x2) / 2, (y1 + y2) / 2
        canvas.setFillColorRGB(1, 1, 1)
        canvas.rect(x - wide / 2, y - TYPE * 0.6, wide, TYPE * 1.2, stroke=0, fill=1)
        canvas.setFillColorRGB(*INK)
        canvas.setFont(FONT, TYPE)
        canvas.drawCentredString(x, y - TYPE * 0.35, said)


def _numbers(design: FittedDesign, matrix: Matrix) -> Iterator[tuple[int, Point]]:
    """Yield the number of each layer, and a point of the panel in the largest part that is seen of it."""
    for row in design.layers:
        seen = moved(row.seen, matrix)
        if not seen.is_empty:
            point = max(seen.geoms, key=lambda part: part.area).representative_point()
            yield row.layer.order, (point.x, point.y)


def _colour(row: FilmLayer) -> str:
    """Return the colour in which a layer is seen: that of its film."""
    return row.film.colour if row.film is not None else row.layer.colour


def _pale(colour: str) -> str:
    parts = [int(colour[k : k + 2], 16) for k in (1, 3, 5)]
    return "#" + "".join(f"{round(part + (255 - part) * PALE):02x}" for part in parts)
