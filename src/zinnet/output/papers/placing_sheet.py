"""The placing sheet: all layers of a design at life size, to lay each one on its place, as PDF."""

from zinnet.base.errors import ZinnetError
from zinnet.geometry.region import rings_of
from zinnet.layers.marks import marks_of
from zinnet.layers.stack import FilmLayer, LayerStack
from zinnet.output.papers.paper import (
    ACCENT,
    BOLD,
    FONT,
    INK,
    QUIET,
    Pen,
    sheets_pdf,
)
from zinnet.output.papers.template import chosen_design, size_said
from zinnet.plan.model import Facts

DASHES: tuple[tuple[float, ...], ...] = ((), (3, 1.2), (0.8, 0.8), (5, 1, 0.8, 1), (1.5, 1.5))
"""Each layer's line, told apart in black and white."""
LEGEND_MM, LINE_MM = 9.0, 5.0
ROOM_MM, LEAST_MM = 4.0, 90.0


def placing_sheet_pdf(facts: Facts, *, design: int = 0, garment: int = 0, paper: str = "a4") -> bytes:
    """Return the placing sheet of what one design is cut in on one size.

    It shows outlines by layer, the stack's box, centre lines and frame.

    Raises :class:`ZinnetError` where there is nothing to print.
    """
    one, chosen = chosen_design(facts, design, garment)
    fitted = one.composed_of(chosen.index) or chosen
    stack, placement = fitted.stack, fitted.placement
    if stack is None or placement is None or not stack.layers:
        raise ZinnetError("There is no artwork to print a placing sheet of; open artwork first.")
    left, top, right, bottom = marks_of(stack).frame.bounds
    rows = stack.in_press_order
    legend = LEGEND_MM + LINE_MM * len(rows)

    def draw(pen: Pen) -> None:
        for row in rows:
            _draw_layer(pen, row)
        _draw_frame(pen, stack)
        _draw_legend(pen, rows, left, bottom + LEGEND_MM)

    said = f"Placing sheet, {one.blank.name}; artwork {size_said(facts, placement)}"
    box = (left - ROOM_MM, top - ROOM_MM, max(right, left + LEAST_MM) + ROOM_MM, bottom + legend)
    return sheets_pdf(facts.job.title, said, box, paper, draw)


def _draw_layer(pen: Pen, row: FilmLayer) -> None:
    pen.style(INK, 0.3, *DASHES[(row.layer.order - 1) % len(DASHES)])
    for ring in rings_of(row.layer.region):
        pen.line(*[(float(x), float(y)) for x, y in ring[:-1]], closed=True)
    part = max(row.layer.region.geoms, key=lambda one: one.area)
    at = part.representative_point()
    pen.canvas.setFillColorRGB(*ACCENT)
    pen.canvas.setFont(BOLD, 12)
    pen.text(at.x - 1, at.y + 1.5, str(row.layer.order))


def _draw_frame(pen: Pen, stack: LayerStack) -> None:
    """Draw the stack's box and centre lines, and the weed frame with its marks."""
    left, top, right, bottom = stack.box
    marks = marks_of(stack)
    pen.style(ACCENT, 0.25)
    pen.line((left, top), (right, top), (right, bottom), (left, bottom), closed=True)
    pen.style(ACCENT, 0.2, 6, 2, 1, 2)
    frame_left, frame_top, frame_right, frame_bottom = marks.frame.bounds
    middle_x, middle_y = (left + right) / 2, (top + bottom) / 2
    pen.line((middle_x, frame_top), (middle_x, frame_bottom))
    pen.line((frame_left, middle_y), (frame_right, middle_y))
    pen.style(QUIET, 0.25)
    for polygon in (marks.frame, *marks.registers.geoms):
        pen.line(*list(polygon.exterior.coords)[:-1], closed=True)


def _draw_legend(pen: Pen, rows: tuple[FilmLayer, ...], left: float, top: float) -> None:
    for number, row in enumerate(rows):
        y = top + number * LINE_MM
        pen.style(INK, 0.3, *DASHES[(row.layer.order - 1) % len(DASHES)])
        pen.line((left, y - 1), (left + 14, y - 1))
        pen.canvas.setFillColorRGB(*INK)
        pen.canvas.setFont(FONT, 8)
        film = row.film.name if row.film is not None else row.layer.colour
        first = ", pressed first" if row.layer.order == 1 and len(rows) > 1 else ""
        pen.text(left + 17, y, f"{row.layer.order}  {film}{first}")
