"""The plainest nest: boxes in columns. It answers at once, and stands in when the engine finds nothing."""

import shapely

from zinnet.base.stages import stage
from zinnet.geometry.transform import moved, turn
from zinnet.nesting.model import Layout, NestTask, Piece, Placed, SheetLayout
from zinnet.nesting.sheet import Sheet, taken_mm

Box = tuple[float, float, float, float]
Row = tuple[Piece, int]
"""A piece and the number of one of its copies."""


def shelf_nest(task: NestTask) -> Layout:
    """Return a layout of the pieces' boxes in columns along x, the tallest first, on the plain sheets in order.

    Examples
    --------
    >>> from zinnet.geometry.region import as_region
    >>> from zinnet.nesting.sheet import Sheet, taken_mm
    >>> import shapely
    >>> task = NestTask(
    ...     (Piece("card", as_region(shapely.box(0, 0, 50, 30)), 5),), (Sheet(width_mm=120, height_mm=100),), gap_mm=2
    ... )
    >>> layout = shelf_nest(task)
    >>> [len(sheet.placed) for sheet in layout.sheets], layout.unplaced
    ([3, 2], ())
    """
    waiting: list[Row] = [(piece, copy) for piece in task.pieces for copy in range(1, piece.copies + 1)]
    sheets: list[SheetLayout] = []
    for index, sheet in enumerate(task.sheets):
        used, left = 0, sheet.roll_mm
        while sheet.is_plain and waiting and (sheet.copies is None or used < sheet.copies):
            load = sheet if left is None else sheet.model_copy(update={"width_mm": min(sheet.width_mm, left)})
            placed, reach, left_over = _columns(load, waiting, task.gap_mm)
            if not placed:
                break
            left = None if left is None else left - taken_mm(sheet, reach)
            if left is not None and left <= 2 * sheet.margin_mm:
                used = sheet.copies or 0
            sheets.append(SheetLayout(placed=tuple(placed), used_length_mm=reach, sheet=index))
            waiting = left_over
            used += 1
    return Layout(sheets=tuple(sheets), unplaced=tuple(piece.name for piece, _ in waiting))


def _columns(sheet: Sheet, rows: list[Row], gap: float) -> tuple[list[Placed], float, list[Row]]:
    """Fill one sheet with boxes in columns; return what lies where, how far it reaches, and what is left over."""
    width, height = sheet.inner
    fitting, left_over = [], []
    for piece, copy in rows:
        best = best_turn(piece, width, height)
        if best is None:
            left_over.append((piece, copy))
        else:
            fitting.append((piece, copy, *best))
    fitting.sort(key=lambda row: row[3][0] - row[3][2])
    placed: list[Placed] = []
    x = y = column = reach = 0.0
    for piece, copy, angle, box in fitting:
        across, down = box[2] - box[0], box[3] - box[1]
        if y > 0 and y + down > height:
            x, y, column = x + column + gap, 0.0, 0.0
        if x + across > width + 1e-9:
            left_over.append((piece, copy))
            continue
        shift_x, shift_y = sheet.margin_mm + x - box[0], sheet.margin_mm + y - box[1]
        placed.append(Placed(piece=piece.name, copy_number=copy, x_mm=shift_x, y_mm=shift_y, turn_deg=angle))
        reach = max(reach, sheet.margin_mm + x + across)
        y += down + gap
        column = max(column, across)
    return placed, reach, left_over


def fits(piece: Piece, task: NestTask) -> bool:
    """Tell whether a piece fits on any of the task's sheets, by its box."""
    return any(min(sheet.inner) > 0 and best_turn(piece, *sheet.inner) is not None for sheet in task.sheets)


def least_width(piece: Piece) -> float:
    """Return how wide film must be at least to hold the piece at one of its turns, its length along the film, in mm."""
    allowed = piece.allowed_turns or tuple(float(angle) for angle in range(0, 360, 5))
    hull = shapely.convex_hull(piece.region)
    boxes = [moved(hull, turn(angle)).bounds for angle in allowed]
    return float(min(box[3] - box[1] for box in boxes))


@stage(most=2048)
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
