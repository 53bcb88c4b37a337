"""The paper template: the artwork's outline at life size on sheets that are taped together, as PDF."""

from zinnet.base.errors import ZinnetError
from zinnet.base.units import write_length
from zinnet.blanks.model import Panel
from zinnet.geometry.region import rings_of
from zinnet.output.papers.paper import (
    ACCENT,
    FONT,
    INK,
    QUIET,
    Pen,
    sheets_pdf,
)
from zinnet.placement.guides import guide_square_mm
from zinnet.placement.place import Placement
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.model import Facts

ROOM_MM = 6.0


def template_pdf(facts: Facts, *, design: int = 0, garment: int = 0, paper: str = "a4", square: bool = True) -> bytes:
    """Return the template of one design on one size.

    It shows the artwork's outline, its box and centre lines, the reference it hangs from, the fold lines, and the
    guide square of the size's class. Raises :class:`ZinnetError` where there is nothing to print.
    """
    one, fitted = chosen_design(facts, design, garment)
    placement = fitted.placement
    if placement is None or fitted.split is None:
        raise ZinnetError("There is no artwork to print a template of; open artwork first.")

    def draw(pen: Pen) -> None:
        if square:
            _draw_square(pen, one, placement)
        _draw_guides(pen, placement, fitted.panel)
        _draw_art(pen, fitted, placement)

    said = f"{one.blank.name}; {placement.place.name.lower()}; artwork {size_said(facts, placement)}"
    return sheets_pdf(facts.job.title, said, _drawing_box(one, placement, square), paper, draw)


def size_said(facts: Facts, placement: Placement) -> str:
    """Return the artwork's width and height in the user's unit."""
    unit = facts.job.unit
    wide = write_length(placement.width_mm, unit=unit, with_unit=False)
    return f"{wide} x {write_length(placement.height_mm, unit=unit)}"


def chosen_design(facts: Facts, design: int, garment: int) -> tuple[Garment, FittedDesign]:
    """Return a design on a size by their numbers from 0; raises :class:`ZinnetError` where there is none."""
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


def _draw_art(pen: Pen, fitted: FittedDesign, placement: Placement) -> None:
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


def _draw_guides(pen: Pen, placement: Placement, panel: Panel) -> None:
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


def _draw_square(pen: Pen, garment: Garment, placement: Placement) -> None:
    left, top, right, bottom = _square_box(garment, placement)
    pen.style(QUIET, 0.25, 2, 2)
    pen.line((left, top), (right, top), (right, bottom), (left, bottom), closed=True)
    pen.canvas.setFillColorRGB(*QUIET)
    pen.canvas.setFont(FONT, 7)
    pen.text(left + 2, bottom - 2, f"guide square, {garment.blank.size_class}")
