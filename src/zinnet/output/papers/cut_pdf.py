"""Mats as PDF at 100 %: the lines to cut by hand, and what is printed on film or paper with its bleed and trim marks.

The page's upper left corner is the mat's; a strip below the mat holds a bar of 100 mm that shows whether a printer
has scaled it.
"""

import io
from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.cutting.spec import CutSpec
from zinnet.data import read_toml
from zinnet.geometry.region import Region, as_region, common
from zinnet.layers.inks import Ink
from zinnet.output.papers.ink import print_ink, reflections
from zinnet.output.papers.paper import (
    BAR_MM,
    FONT,
    INK,
    POINTS_PER_MM,
    QUIET,
    load_font,
    region_path,
)
from zinnet.plan.loading import LoadedMat
from zinnet.plan.model import Facts
from zinnet.plan.printed import printed_pieces

if TYPE_CHECKING:
    from reportlab.pdfgen.canvas import Canvas

FOOT_MM, LEAST_WIDE_MM = 16.0, 112.0
LINE_MM = 0.1
Points = NDArray[np.float64]
Colour = tuple[float, float, float]


class MatPage:
    """Draws mat mm (y down) on one page."""

    def __init__(self, canvas: "Canvas", height_mm: float) -> None:
        self.canvas, self._height = canvas, height_mm

    def at(self, x: float, y: float) -> tuple[float, float]:
        """Return where a point of the mat lies on the page, in points, y up."""
        return x * POINTS_PER_MM, (self._height + FOOT_MM - y) * POINTS_PER_MM

    def lines(self, points: Points, *, closed: bool) -> None:
        """Draw a polyline."""
        path = self.canvas.beginPath()
        for number, (x, y) in enumerate(points[:-1] if closed else points):
            (path.lineTo if number else path.moveTo)(*self.at(float(x), float(y)))
        if closed:
            path.close()
        self.canvas.drawPath(path, stroke=1, fill=0)

    def fill(self, region: Region, colour: str) -> None:
        """Fill a region with a colour, its holes left out."""
        if region.is_empty:
            return
        self.canvas.setFillColor(colour)
        self.canvas.drawPath(region_path(self.canvas, region, self.at), stroke=0, fill=1, fillMode=0)

    def ink(self, ink: Ink) -> None:
        """Print an ink where it lies."""
        print_ink(self.canvas, ink, self.at)

    def pen(self, colour: Colour, width_mm: float) -> None:
        """Set colour and width of lines."""
        self.canvas.setStrokeColorRGB(*colour)
        self.canvas.setLineWidth(width_mm * POINTS_PER_MM)


def cut_pdf(load: LoadedMat) -> bytes:
    """Return the lines of a mat at life size, to be cut by hand."""

    def draw(sheet: MatPage) -> None:
        sheet.pen(INK, LINE_MM)
        for path in load.cut_sheet().paths:
            sheet.lines(path.points, closed=path.closed)

    return _page(load, f"Mat {load.numbers}, {load.films}, as it is cut: {load.trims[0].side_down}", draw)


def bleed_of(spec: CutSpec) -> float:
    """Return how far ink goes on past the trim line: as the user says, else as usual."""
    return float(read_toml("cutting")["print"]["bleed_mm"]) if spec.bleed_mm is None else spec.bleed_mm


def print_pdf(facts: Facts, load: LoadedMat) -> bytes:
    """Return what is printed for a mat at life size: mirrored where it is pressed face down, with bleed and marks."""
    bleed = bleed_of(facts.job.cutting)
    mirrored = load.mats[0].nest.mirrored

    def draw(sheet: MatPage) -> None:
        for piece, inks in printed_pieces(facts, load):
            around = as_region(shapely.buffer(piece, bleed)) if bleed else piece
            rim = as_region(shapely.difference(around, piece))
            for ink in inks if bleed else ():
                beyond = common(as_region(shapely.buffer(ink.region, bleed)), rim)
                sheet.fill(beyond, ink.colour)
                for again in reflections(ink):
                    sheet.ink(replace(again, region=beyond))
            for ink in inks:
                sheet.ink(ink)
            _trim_marks(sheet, piece.bounds, bleed)

    side = "mirrored: print it as it is, do not mirror it again" if mirrored else "not mirrored"
    return _page(load, f"Mat {load.numbers}, {load.films}, to print: {side}", draw)


def _trim_marks(sheet: MatPage, box: tuple[float, float, float, float], bleed: float) -> None:
    """Draw two short lines at each corner of a box, outside the bleed: where to trim."""
    rules = read_toml("cutting")["print"]
    off, long = bleed + rules["mark_off_mm"], rules["mark_mm"]
    left, top, right, bottom = box
    sheet.pen(INK, LINE_MM)
    for x, outward in ((left, -1), (right, 1)):
        for y, away in ((top, -1), (bottom, 1)):
            for dx, dy in ((outward, 0), (0, away)):
                ends = [(x + dx * d, y + dy * d) for d in (off, off + long)]
                sheet.lines(np.array(ends), closed=False)


def _page(load: LoadedMat, said: str, draw: Callable[[MatPage], None]) -> bytes:
    from reportlab.pdfgen.canvas import Canvas

    width, height = load.size
    wide = max(width, LEAST_WIDE_MM)
    buffer = io.BytesIO()
    canvas = Canvas(buffer, pagesize=(wide * POINTS_PER_MM, (height + FOOT_MM) * POINTS_PER_MM), pageCompression=1)
    canvas.setTitle(load.stem)
    canvas.setCreator("Zinnet")
    canvas.setViewerPreference("PrintScaling", "None")
    load_font()
    sheet = MatPage(canvas, height)
    draw(sheet)
    _foot(sheet, height, said)
    canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def _foot(sheet: MatPage, height: float, said: str) -> None:
    """Draw the bar that checks the printer, and what this page is."""
    left, y = 4.0, height + 8.0
    sheet.pen(INK, 0.3)
    ticks: Sequence[tuple[float, float]] = [(left + 10 * k, 3.0 if k % 5 == 0 else 1.8) for k in range(11)]
    sheet.lines(np.array([(left, y), (left + BAR_MM, y)]), closed=False)
    for x, high in ticks:
        sheet.lines(np.array([(x, y), (x, y - high)]), closed=False)
    canvas = sheet.canvas
    canvas.setFillColorRGB(*INK)
    canvas.setFont(FONT, 7)
    canvas.drawString(*sheet.at(left, y + 3.2), "100 mm exactly: print at 100 %, not fitted to the page, and measure")
    canvas.setFillColorRGB(*QUIET)
    canvas.drawString(*sheet.at(left, y + 6.4), said[:110])
