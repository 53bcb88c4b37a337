"""The lines of a mat: outlines of its pieces, marks, weed frames, lines through the waste, and the test cut."""

from dataclasses import dataclass

import shapely

from zinnet.base.stages import stage
from zinnet.cutting.order import in_cutting_order
from zinnet.cutting.paths import CutPath, Shape, file_order, line_path
from zinnet.cutting.shared_lines import cut_once
from zinnet.geometry.region import Region, as_region, union
from zinnet.geometry.transform import moved, shift
from zinnet.layers.marks import frame_box
from zinnet.layers.weeding import weed_lines
from zinnet.plan.nests import TEST_CUT, NestedMat


@dataclass(frozen=True)
class MatContent:
    """All that the lines of a mat depend on: what is nested, where its films are stuck, what is cut beside it."""

    mats: tuple[NestedMat, ...]
    corners: tuple[tuple[float, float], ...]
    joined: bool
    framed: bool
    weed_lines: bool


@stage(most=256)
def drawn_lines(content: MatContent) -> tuple[CutPath, ...]:
    """Return the lines in the order in which the nest gives them, no line twice."""
    shapes: list[Shape] = []
    lines: list[CutPath] = []
    for mat, (x, y) in zip(content.mats, content.corners, strict=True):
        found = _shapes(mat, joined=content.joined, framed=content.framed)
        shapes += [Shape(one.name, one.film, moved(one.region, shift(x, y)), one.kind) for one in found]
        if content.weed_lines:
            lines += [line.shifted(x, y) for line in _weed_lines(mat, framed=content.framed)]
    return cut_once(file_order(shapes, lines))


@stage(most=256)
def ordered_lines(content: MatContent, height_mm: float) -> tuple[CutPath, ...]:
    """Return the lines in the order of cutting; the head comes from the lower left corner of a mat so high."""
    return in_cutting_order(drawn_lines(content), (0.0, height_mm))


def _shapes(mat: NestedMat, *, joined: bool, framed: bool) -> list[Shape]:
    """Return what is cut on a mat, ``framed`` by one weed frame. Outlines that are not joined are cut as drawn."""
    found, film = [], mat.nest.film.id
    for placed, region in zip(mat.layout.placed, mat.regions, strict=True):
        name = f"{placed.piece}-copy-{placed.copy_number}"
        part = mat.nest.part(placed.piece)
        if part.marks is not None:
            marks = part.marks.moved(placed.matrix)
            if not marks.registers.is_empty:
                found.append(Shape(f"{name}-marks", film, marks.registers, "mark"))
            found.append(Shape(f"{name}-frame", film, Region([marks.frame]), "frame"))
        if joined:
            found.append(Shape(name, film, region))
        else:
            drawn = [moved(one, placed.matrix) for one in part.drawn]
            found += [Shape(f"{name}-{k}", film, one) for k, one in enumerate(drawn, start=1)]
    if framed:
        found.append(Shape(f"weed-frame-{mat.number}", film, mat.frame(), "frame"))
    return found


def _weed_lines(mat: NestedMat, *, framed: bool) -> list[CutPath]:
    """Return the lines that part the waste inside weed frames."""
    film, found = mat.nest.film.id, []
    if framed:
        frame = mat.frame().bounds
        inside = [("weed-line", union(mat.regions), frame)]
    else:
        inside = [
            (f"{placed.piece}-copy-{placed.copy_number}-line", region, frame_box(region.bounds))
            for placed, region in zip(mat.layout.placed, mat.regions, strict=True)
            if mat.nest.part(placed.piece).marks is not None
        ]
    for name, region, box in inside:
        lines = weed_lines(region, box)
        found += [line_path(f"{name}-{mat.number}-{k}", film, line) for k, line in enumerate(lines, start=1)]
    return found


def test_cut_lines(film: str, spot: Region, height_mm: float) -> tuple[CutPath, ...]:
    """Return the test cut in the spot kept for it: a small square with a triangle inside, the triangle first."""
    left, top, right, bottom = spot.bounds
    margin = (right - left) / 4
    corners = [((left + right) / 2, top + margin), (right - margin, bottom - margin), (left + margin, bottom - margin)]
    shapes = [
        Shape(f"{TEST_CUT}-triangle", film, as_region(shapely.Polygon(corners))),
        Shape(f"{TEST_CUT}-square", film, as_region(shapely.box(left, top, right, bottom)), "frame"),
    ]
    return in_cutting_order(file_order(shapes), (0.0, height_mm))
