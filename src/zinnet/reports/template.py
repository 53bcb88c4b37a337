"""The paper template: the artwork's outline at life size on sheets that are taped together, as PDF."""

import io
from typing import TYPE_CHECKING

from zinnet.blanks.model import Panel
from zinnet.data import path_of
from zinnet.errors import ZinnetError
from zinnet.facts import Facts
from zinnet.fitted import FittedDesign, Garment
from zinnet.geometry.region import rings_of
from zinnet.placement.guides import guide_square_mm
from zinnet.placement.place import Placement
from zinnet.reports.tiles import FOOT_MM, MARGIN_MM, OVERLAP_MM, Tile, Tiling, tile
from zinnet.units import Unit, write_length

if TYPE_CHECKING:
    from reportlab.pdfgen.canvas import Canvas

POINTS_PER_MM = 72 / 25.4
BAR_MM = 100.0
ROOM_MM = 6.0
INK = (0.1, 0.11, 0.12)
QUIET = (0.45, 0.45, 0.43)
ACCENT = (0.8, 0.27, 0.16)


def template_pdf(facts: Facts, *, design: int = 0, garment: int = 0, paper: str = "a4", square: bool = True) -> bytes:
    """Return the template of one design on one size.

    It shows the artwork's outline, its box and centre lines, the reference it hangs from, the fold lines, and the
    guide square of the size's class. Raises :class:`ZinnetError` where there is nothing to print.
    """
    from reportlab.pdfgen.canvas import Canvas

    one, fitted = _chosen(facts, design, garment)
    placement = fitted.placement
    if placement is None or fitted.split is None:
        raise ZinnetError("There is no artwork to print a template of; open artwork first.")
    tiling = tile(_drawing_box(one, placement, square), paper)
    buffer = io.BytesIO()
    width, height = tiling.paper
    canvas = Canvas(buffer, pagesize=(width * POINTS_PER_MM, height * POINTS_PER_MM), pageCompression=1)
    canvas.setTitle(f"Template: {facts.job.title}")
    canvas.setCreator("Zinnet")
    _load_font()
    for sheet in tiling.tiles():
        _draw_sheet(canvas, sheet, tiling, facts, one, fitted, square)
        canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def _chosen(facts: Facts, design: int, garment: int) -> tuple[Garment, FittedDesign]:
    if not 0 <= garment < len(facts.garments):
        raise ZinnetError(f"The job has {len(facts.garments)} sizes; there is no number {garment + 1}.")
    one = facts.garments[garment]
    if not 0 <= design < len(one.designs):
        raise ZinnetError(f"The job has {len(one.designs)} designs; there is no number {design + 1}.")
    return one, one.designs[design]


def _square_box(garment: Garment, placement: Placement) -> tuple[float, float, float, float]:
    """Return the guide square: around the artwork's middle line, its top edge where the artwork's is."""
    side = guide_square_mm(garment.blank.size_class)
    x, _ = placement.centre
    top = placement.corners[0][1] if placement.turn_deg == 0 else placement.centre[1] - placement.height_mm / 2
    return x - side / 2, top, x + side / 2, top + side


def _drawing_box(garment: Garment, placement: Placement, square: bool) -> tuple[float, float, float, float]:
    """Return the box in panel mm that is printed: artwork, reference and guide square, with room around."""
    xs, ys = [x for x, _ in placement.corners], [y for _, y in placement.corners]
    if _is_near_reference(placement):
        ys.append(placement.reference[1])
    if square:
        left, top, right, bottom = _square_box(garment, placement)
        xs, ys = [*xs, left, right], [*ys, top, bottom]
    return min(xs) - ROOM_MM, min(ys) - ROOM_MM, max(xs) + ROOM_MM, max(ys) + ROOM_MM


def _is_near_reference(placement: Placement) -> bool:
    """Tell whether the reference is near enough to be printed along: a collar, a seam; not a far shoulder."""
    return placement.place.anchor != "middle" and abs(placement.from_reference_mm) <= 200


class _Pen:
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

    def style(self, colour: tuple[float, float, float], width_mm: float, *dash_mm: float) -> None:
        """Set colour, width and dashes of lines."""
        self.canvas.setStrokeColorRGB(*colour)
        self.canvas.setLineWidth(width_mm * POINTS_PER_MM)
        self.canvas.setDash([part * POINTS_PER_MM for part in dash_mm])

    def text(self, x: float, y: float, said: str) -> None:
        """Write beside a point of the panel."""
        self.canvas.drawString(*self.at(x, y), said)


def _draw_sheet(
    canvas: "Canvas",
    sheet: Tile,
    tiling: Tiling,
    facts: Facts,
    garment: Garment,
    fitted: FittedDesign,
    square: bool,
) -> None:
    placement = fitted.placement
    assert placement is not None
    canvas.saveState()
    window = canvas.beginPath()
    wide, high = tiling.window
    window.rect(
        MARGIN_MM * POINTS_PER_MM,
        (tiling.paper[1] - MARGIN_MM - high) * POINTS_PER_MM,
        wide * POINTS_PER_MM,
        high * POINTS_PER_MM,
    )
    canvas.clipPath(window, stroke=0, fill=0)
    pen = _Pen(canvas, sheet, tiling)
    if square:
        _draw_square(pen, garment, placement)
    _draw_guides(pen, placement, fitted.panel)
    _draw_art(pen, fitted, placement)
    canvas.restoreState()
    _draw_crop_marks(canvas, sheet, tiling)
    _draw_foot(canvas, sheet, tiling, facts, garment, placement)


def _draw_art(pen: _Pen, fitted: FittedDesign, placement: Placement) -> None:
    assert fitted.split is not None
    pen.style(INK, 0.3)
    matrix = placement.matrix
    for ring in rings_of(fitted.split.silhouette):
        laid = ring @ matrix[:2, :2].T + matrix[:2, 2]
        pen.line(*[(float(x), float(y)) for x, y in laid[:-1]], closed=True)
    pen.style(ACCENT, 0.25)
    pen.line(*placement.corners, closed=True)
    pen.style(ACCENT, 0.2, 6, 2, 1, 2)
    a, b, c, d = placement.corners
    for (x1, y1), (x2, y2), (x3, y3), (x4, y4) in ((a, b, d, c), (a, d, b, c)):
        pen.line(((x1 + x2) / 2, (y1 + y2) / 2), ((x3 + x4) / 2, (y3 + y4) / 2))


def _draw_guides(pen: _Pen, placement: Placement, panel: Panel) -> None:
    """Draw the fold line down the centre, and the level of the reference with the mark at its middle."""
    left, top, right, bottom = panel.bounds
    x, y = placement.reference
    pen.style(QUIET, 0.2, 4, 2)
    pen.line((0.0, top - 50), (0.0, bottom + 50))
    if not _is_near_reference(placement):
        return
    pen.line((left, y), (right, y))
    pen.style(INK, 0.4)
    pen.line((x - 6, y), (x + 6, y))
    pen.line((x, y - 4), (x, y + 4))
    pen.canvas.setFillColorRGB(*INK)
    pen.canvas.setFont(FONT, 8)
    pen.text(x + 8, y - 1.5, f"{placement.place.reference_name}, here; fold along the dashed line")


def _draw_square(pen: _Pen, garment: Garment, placement: Placement) -> None:
    left, top, right, bottom = _square_box(garment, placement)
    pen.style(QUIET, 0.25, 2, 2)
    pen.line((left, top), (right, top), (right, bottom), (left, bottom), closed=True)
    pen.canvas.setFillColorRGB(*QUIET)
    pen.canvas.setFont(FONT, 7)
    pen.text(left + 2, bottom - 2, f"guide square, {garment.blank.size_class}")


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


def _draw_foot(
    canvas: "Canvas", sheet: Tile, tiling: Tiling, facts: Facts, garment: Garment, placement: Placement
) -> None:
    """Draw the bar that checks the printer, and what this sheet is."""
    unit: Unit = facts.job.unit
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
    size = (
        f"{write_length(placement.width_mm, unit=unit, with_unit=False)} x "
        f"{write_length(placement.height_mm, unit=unit)}"
    )
    canvas.setFont(BOLD, 9)
    canvas.drawString(left, y - 6 * POINTS_PER_MM, _short(facts.job.title, 60))
    canvas.setFont(FONT, 8)
    canvas.drawString(
        left,
        y - 10.5 * POINTS_PER_MM,
        f"{garment.blank.name}; {placement.place.name.lower()}; artwork {size}; sheet {sheet.name} of "
        f"{tiling.columns} x {tiling.rows}. Cut at the marks, join the letters in order.",
    )


def _short(text: str, most: int) -> str:
    return text if len(text) <= most else f"{text[: most - 1]}…"


FONT, BOLD = "Atkinson", "Atkinson-Bold"


def _load_font() -> None:
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    for name, weight in ((FONT, "Regular"), (BOLD, "Bold")):
        if name not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(name, str(path_of("fonts", f"AtkinsonHyperlegible-{weight}.ttf"))))
