"""The lay sheet: all that lies on one side at life size, over numbered bands, to lay a group by it, as PDF."""

import math
from collections.abc import Sequence

import shapely

from zinnet.base.errors import ZinnetError
from zinnet.base.units import Unit, write_length
from zinnet.geometry.region import Region, rings_of
from zinnet.output.papers.paper import ACCENT, BOLD, FONT, INK, QUIET, Pen, sheets_pdf
from zinnet.output.papers.placing_sheet import DASHES
from zinnet.placement.place import Placement
from zinnet.plan.model import Facts
from zinnet.plan.presses import GarmentPress
from zinnet.plan.run_garments import run_presses
from zinnet.pressing.pieces import PanelWork, PressPiece

BAND_MM = 50.0
"""How high a band is: a sheet of paper that slipped is seen by it, and a height is read off it."""
ROOM_MM, MARGIN_MM, LEGEND_MM, LINE_MM = 6.0, 14.0, 9.0, 5.0


def lay_sheet_pdf(facts: Facts, *, garment: int = 0, panel: str | None = None, paper: str = "a4") -> bytes:
    """Return the lay sheet of one side.

    Every piece stands in its outline with its number in the order of laying, over bands that count from the reference;
    the centre line, the reference and the edges of the object that are near are drawn.

    Parameters
    ----------
    facts : Facts
        The job's plan.
    garment : int
        Which garments of the run, from 0: of a list of names one name each, else one size each.
    panel : str or None
        Which side by its id; the first one that anything lies on.
    paper : 'a4', 'letter' or 'roll'
        Sheets that are taped together, or one as large as it all is.

    Raises
    ------
    ZinnetError
        Where nothing lies there.
    """
    name, press, works = _chosen(facts, garment, panel)
    pieces = [(piece, region) for work in works for piece in work.pieces for region in piece.each]
    placement = next(one.placement for one in press.garment.compositions if one.panel.id == works[0].panel.id)
    assert placement is not None
    left, top, right, bottom = _bounds([region for _, region in pieces])
    rows = [piece for work in works for piece in work.pieces]
    box = (
        left - MARGIN_MM,
        top - ROOM_MM,
        right + MARGIN_MM,
        bottom + ROOM_MM + LEGEND_MM + LINE_MM * len(rows),
    )
    around = (left - MARGIN_MM, top - ROOM_MM, right + MARGIN_MM, bottom + ROOM_MM)

    def draw(pen: Pen) -> None:
        _draw_bands(pen, placement, around, facts.job.unit)
        _draw_object(pen, works[0], placement, around)
        for number, (piece, region) in enumerate(pieces, start=1):
            _draw_piece(pen, piece, region, number)
        _draw_legend(pen, pieces, left - MARGIN_MM, bottom + ROOM_MM + LEGEND_MM)

    said = f"Lay sheet, {name}, {works[0].panel.name.lower()}; {len(pieces)} pieces"
    return sheets_pdf(facts.job.title, said, box, paper, draw)


def _chosen(facts: Facts, garment: int, panel: str | None) -> tuple[str, GarmentPress, list[PanelWork]]:
    presses = [one for one in run_presses(facts) if one[1].works]
    if not presses:
        raise ZinnetError("There is nothing to lay; open artwork and choose its films first.")
    if not 0 <= garment < len(presses):
        raise ZinnetError(f"There are no garments {garment + 1}; the run has {len(presses)} kinds of them.")
    name, press = presses[garment]
    sides = list(dict.fromkeys(work.panel.id for work in press.works))
    if panel is not None and panel not in sides:
        raise ZinnetError(f"Nothing lies on “{panel}”; there is {', '.join(sides)}.")
    side = panel or sides[0]
    return name, press, [work for work in press.works if work.panel.id == side]


def _bounds(regions: Sequence[Region]) -> tuple[float, float, float, float]:
    found = shapely.total_bounds(list(regions))
    return tuple(float(one) for one in found)  # type: ignore[return-value]


def _draw_bands(pen: Pen, placement: Placement, box: tuple[float, float, float, float], unit: Unit) -> None:
    """Draw bands from the reference down, every second one pale grey, each with its number and its height."""
    left, top, right, bottom = box
    zero = placement.reference[1]
    first, last = math.floor((top - zero) / BAND_MM), math.ceil((bottom - zero) / BAND_MM)
    for band in range(first, last):
        upper, lower = max(top, zero + band * BAND_MM), min(bottom, zero + (band + 1) * BAND_MM)
        if upper >= lower:
            continue
        if band % 2:
            pen.canvas.setFillColorRGB(0.93, 0.93, 0.92)
            pen.box(left, upper, right, lower)
        pen.style(QUIET, 0.15)
        pen.line((left, upper), (right, upper))
        pen.canvas.setFillColorRGB(*QUIET)
        pen.canvas.setFont(BOLD, 14)
        number = str(band + 1 if band >= 0 else band)
        pen.text(left + 1, upper + 6, number)
        pen.text(right - 7, upper + 6, number)
        pen.canvas.setFont(FONT, 6)
        if upper > top:
            pen.text(left + 1, upper + 9.5, write_length(band * BAND_MM, unit=unit))


def _draw_object(pen: Pen, work: PanelWork, placement: Placement, box: tuple[float, float, float, float]) -> None:
    """Draw the centre line, and what of the object's edge and its reference is near."""
    left, top, right, bottom = box
    x, y = placement.reference
    pen.style(ACCENT, 0.25, 6, 2, 1, 2)
    if left < x < right:
        pen.line((x, top), (x, bottom))
    pen.style(ACCENT, 0.35)
    if top < y < bottom:
        pen.line((left, y), (right, y))
    pen.style(QUIET, 0.25)
    near = shapely.box(left, top, right, bottom)
    for ring in rings_of(work.panel.region):
        for line in shapely.get_parts(shapely.intersection(shapely.LineString(ring), near)):
            if shapely.get_num_points(line) > 1:
                pen.line(*[(float(px), float(py)) for px, py in shapely.get_coordinates(line)])


def _draw_piece(pen: Pen, piece: PressPiece, region: Region, number: int) -> None:
    pen.style(INK, 0.3, *DASHES[(piece.number - 1) % len(DASHES)])
    for ring in rings_of(region):
        pen.line(*[(float(x), float(y)) for x, y in ring[:-1]], closed=True)
    part = max(region.geoms, key=lambda one: one.area)
    at = part.representative_point()
    pen.canvas.setFillColorRGB(*ACCENT)
    pen.canvas.setFont(BOLD, 12)
    pen.text(at.x - 1.5, at.y + 1.5, str(number))


def _draw_legend(pen: Pen, pieces: Sequence[tuple[PressPiece, Region]], left: float, top: float) -> None:
    numbers: dict[str, list[int]] = {}
    names: dict[str, PressPiece] = {}
    for number, (piece, _) in enumerate(pieces, start=1):
        numbers.setdefault(piece.key, []).append(number)
        names[piece.key] = piece
    for row, (key, mine) in enumerate(numbers.items()):
        y, piece = top + row * LINE_MM, names[key]
        pen.style(INK, 0.3, *DASHES[(piece.number - 1) % len(DASHES)])
        pen.line((left, y - 1), (left + 14, y - 1))
        pen.canvas.setFillColorRGB(*INK)
        pen.canvas.setFont(FONT, 8)
        said = str(mine[0]) if len(mine) == 1 else f"{mine[0]} to {mine[-1]}"
        pen.text(left + 17, y, f"{said}  {piece.name}{', pressed first' if row == 0 and len(numbers) > 1 else ''}")
