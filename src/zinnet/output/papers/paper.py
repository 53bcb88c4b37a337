"""Drawings at life size on sheets of paper that are taped together, as PDF."""

import io
from collections.abc import Callable
from typing import TYPE_CHECKING, Any

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from zinnet.data import path_of
from zinnet.geometry.region import rings_of
from zinnet.output.papers.tiles import (
    FOOT_MM,
    MARGIN_MM,
    OVERLAP_MM,
    Tile,
    Tiling,
    tile,
)

if TYPE_CHECKING:
    from reportlab.pdfgen.canvas import Canvas

POINTS_PER_MM = 72 / 25.4
BAR_MM = 100.0
FINEST_POINTS = 0.02
"""0.007 mm on the paper."""
INK = (0.1, 0.11, 0.12)
QUIET = (0.45, 0.45, 0.43)
ACCENT = (0.8, 0.27, 0.16)
FONT, BOLD = "Atkinson", "Atkinson-Bold"


class Pen:
    """Draws panel mm on one sheet."""

    def __init__(self, canvas: "Canvas", sheet: Tile, tiling: Tiling) -> None:
        self.canvas, self.sheet, self.tiling = canvas, sheet, tiling

    def at(self, x: float, y: float) -> tuple[float, float]:
        """Return where a point of the panel lies on the page, in points, y up."""
        left, top, _, _ = self.sheet.box
        return (
            (MARGIN_MM + x - left) * POINTS_PER_MM,
            (self.tiling.paper[1] - MARGIN_MM - (y - top)) * POINTS_PER_MM,
        )

    def line(self, *points: tuple[float, float], closed: bool = False) -> None:
        """Draw a polyline."""
        path = self.canvas.beginPath()
        path.moveTo(*self.at(*points[0]))
        for point in points[1:]:
            path.lineTo(*self.at(*point))
        if closed:
            path.close()
        self.canvas.drawPath(path, stroke=1, fill=0)

    def box(self, left: float, top: float, right: float, bottom: float) -> None:
        """Fill a rectangle."""
        x, y = self.at(left, bottom)
        self.canvas.rect(x, y, (right - left) * POINTS_PER_MM, (bottom - top) * POINTS_PER_MM, stroke=0, fill=1)

    def style(self, colour: tuple[float, float, float], width_mm: float, *dash_mm: float) -> None:
        """Set colour, width and dashes of lines."""
        self.canvas.setStrokeColorRGB(*colour)
        self.canvas.setLineWidth(width_mm * POINTS_PER_MM)
        self.canvas.setLineJoin(1)  # round: a sharp tip is not drawn longer than it is
        self.canvas.setDash([part * POINTS_PER_MM for part in dash_mm])

    def text(self, x: float, y: float, said: str) -> None:
        """Write beside a point of the panel."""
        self.canvas.drawString(*self.at(x, y), said)


def sheets_pdf(
    title: str, said: str, box: tuple[float, float, float, float], paper: str, draw: Callable[[Pen], None]
) -> bytes:
    """Return the PDF of a drawing whose box (left, top, right, bottom) is in mm; ``draw`` draws it on every sheet."""
    from reportlab.pdfgen.canvas import Canvas

    tiling = tile(box, paper)
    buffer = io.BytesIO()
    width, height = tiling.paper
    canvas = Canvas(buffer, pagesize=(width * POINTS_PER_MM, height * POINTS_PER_MM), pageCompression=1)
    canvas.setTitle(title)
    canvas.setCreator("Zinnet")
    load_font()
    wide, high = tiling.window
    for sheet in tiling.tiles():
        canvas.saveState()
        window = canvas.beginPath()
        window.rect(
            MARGIN_MM * POINTS_PER_MM,
            (height - MARGIN_MM - high) * POINTS_PER_MM,
            wide * POINTS_PER_MM,
            high * POINTS_PER_MM,
        )
        canvas.clipPath(window, stroke=0, fill=0)
        draw(Pen(canvas, sheet, tiling))
        canvas.restoreState()
        _draw_crop_marks(canvas, sheet, tiling)
        _draw_foot(canvas, sheet, tiling, title, said)
        canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def _draw_crop_marks(canvas: "Canvas", sheet: Tile, tiling: Tiling) -> None:
    """Draw where to cut: in the middle of each overlap, so that neighbours join edge to edge."""
    wide, high = tiling.window
    height = tiling.paper[1]
    half = OVERLAP_MM / 2
    left = MARGIN_MM + (half if sheet.column else 0)
    right = MARGIN_MM + wide - (half if sheet.column < tiling.columns - 1 else 0)
    top = MARGIN_MM + (half if sheet.row else 0)
    bottom = MARGIN_MM + high - (half if sheet.row < tiling.rows - 1 else 0)
    canvas.setStrokeColorRGB(*INK)
    canvas.setLineWidth(0.15 * POINTS_PER_MM)
    canvas.setDash()
    for x in (left, right):
        for y in (top, bottom):
            outward_x, outward_y = (-1 if x == left else 1), (-1 if y == top else 1)
            for dx, dy in ((outward_x, 0), (0, outward_y)):
                start, end = (x + dx * 1.5, y + dy * 1.5), (x + dx * 6, y + dy * 6)
                canvas.line(
                    start[0] * POINTS_PER_MM,
                    (height - start[1]) * POINTS_PER_MM,
                    end[0] * POINTS_PER_MM,
                    (height - end[1]) * POINTS_PER_MM,
                )
    canvas.setFillColorRGB(*QUIET)
    canvas.setFont(BOLD, 30)
    canvas.setFillAlpha(0.35)
    canvas.drawRightString((right - 4) * POINTS_PER_MM, (height - top - 12) * POINTS_PER_MM, sheet.name)
    canvas.setFillAlpha(1)


def _draw_foot(canvas: "Canvas", sheet: Tile, tiling: Tiling, title: str, said: str) -> None:
    """Draw the bar that checks the printer, and what this sheet is."""
    y = (MARGIN_MM + FOOT_MM - 9) * POINTS_PER_MM
    left = MARGIN_MM * POINTS_PER_MM
    canvas.setStrokeColorRGB(*INK)
    canvas.setDash()
    canvas.setLineWidth(0.3 * POINTS_PER_MM)
    canvas.line(left, y, left + BAR_MM * POINTS_PER_MM, y)
    for k in range(11):
        x = left + k * 10 * POINTS_PER_MM
        canvas.line(x, y, x, y + (3 if k % 5 == 0 else 1.8) * POINTS_PER_MM)
    canvas.setFillColorRGB(*INK)
    canvas.setFont(FONT, 8)
    canvas.drawString(
        left + (BAR_MM + 4) * POINTS_PER_MM,
        y,
        "100 mm exactly: print at 100 %, measure",
    )
    canvas.setFont(BOLD, 9)
    canvas.drawString(left, y - 6 * POINTS_PER_MM, _short(title, 60))
    canvas.setFont(FONT, 8)
    canvas.drawString(
        left,
        y - 10.5 * POINTS_PER_MM,
        f"{said}; sheet {sheet.name} of {tiling.columns} x {tiling.rows}. Cut at the marks, join the letters in order.",
    )


def _short(text: str, most: int) -> str:
    return text if len(text) <= most else f"{text[: most - 1]}…"


def region_path(canvas: "Canvas", region: BaseGeometry, at: Callable[[float, float], tuple[float, float]]) -> Any:
    """Return the rings of a region as a path of the canvas; ``at`` says where a point of it lies, in points, y up.

    ``at`` is an affine transform. What is finer than any printer draws is left out.
    """
    origin = np.array(at(0.0, 0.0))
    axes = np.array([at(1.0, 0.0), at(0.0, 1.0)]) - origin
    path = canvas.beginPath()
    for ring in rings_of(shapely.simplify(region, FINEST_POINTS / np.linalg.norm(axes[0]), preserve_topology=False)):
        spots = (ring[:-1] @ axes + origin).tolist()
        for number, spot in enumerate(spots):
            (path.lineTo if number else path.moveTo)(*spot)
        if spots:
            path.close()
    return path


def load_font() -> None:
    """Let reportlab know the fonts that ship with Zinnet, and write pictures as they are, not as letters."""
    from reportlab import rl_config
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    rl_config.useA85 = 0
    for name, weight in ((FONT, "Regular"), (BOLD, "Bold")):
        if name not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(name, str(path_of("fonts", f"AtkinsonHyperlegible-{weight}.ttf"))))
