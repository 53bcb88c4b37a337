"""The plainest nest: boxes in columns. It answers at once, and stands in when the engine finds nothing."""

from functools import lru_cache

import shapely

from zinnet.geometry.transform import moved, turn
from zinnet.nesting.model import Layout, NestTask, Piece, Placed, SheetLayout

Box = tuple[float, float, float, float]


def shelf_nest(task: NestTask) -> Layout:
    """Return a layout of the pieces' boxes in columns along x, the tallest first."""
    sheet, gap = task.sheet, task.gap_mm
    width, height = sheet.width_mm - 2 * sheet.margin_mm, sheet.height_mm - 2 * sheet.margin_mm
    queue: list[tuple[Piece, int, float, Box]] = []
    unplaced: list[str] = []
    for piece in task.pieces:
        best = best_turn(piece, width, height)
        if best is None:
            unplaced += [piece.name] * piece.copies
            continue
        queue += [(piece, copy, *best) for copy in range(1, piece.copies + 1)]
    queue.sort(key=lambda row: row[3][0] - row[3][2])

    sheets: list[list[Placed]] = []
    reaches: list[float] = []
    x = y = column = 0.0
    for piece, copy, angle, box in queue:
        across, down = box[2] - box[0], box[3] - box[1]
        if not sheets or (y > 0 and y + down > height):
            x, y, column = (x + column + gap if sheets else 0.0), 0.0, 0.0
        if not sheets or x + across > width + 1e-9:
            if task.most_sheets is not None and len(sheets) >= task.most_sheets:
                unplaced.append(piece.name)
                continue
            sheets.append([])
            reaches.append(0.0)
            x = y = column = 0.0
        shift_x, shift_y = sheet.margin_mm + x - box[0], sheet.margin_mm + y - box[1]
        sheets[-1].append(Placed(piece=piece.name, copy_number=copy, x_mm=shift_x, y_mm=shift_y, turn_deg=angle))
        reaches[-1] = max(reaches[-1], sheet.margin_mm + x + across)
        y += down + gap
        column = max(column, across)
    return Layout(
        sheets=tuple(
            SheetLayout(placed=tuple(placed), used_length_mm=reach)
            for placed, reach in zip(sheets, reaches, strict=True)
        ),
        unplaced=tuple(unplaced),
    )


@lru_cache(maxsize=2048)
def best_turn(piece: Piece, width: float, height: float) -> tuple[float, Box] | None:
    """Return the allowed turn (deg) at which the piece fits and reaches least along x, and its box then."""
    allowed = piece.allowed_turns
    if allowed is None:
        allowed = tuple(float(angle) for angle in range(0, 360, 5))
    hull = shapely.convex_hull(piece.region)
    fitting = []
    for angle in allowed:
        box = moved(hull, turn(angle)).bounds
        if box[2] - box[0] <= width + 1e-9 and box[3] - box[1] <= height + 1e-9:
            fitting.append((round(box[2] - box[0], 6), angle, box))
    if not fitting:
        return None
    _, angle, box = min(fitting)
    return angle, box
