"""Cut files as HP-GL: pen moves in units of 0.025 mm, y up from the lower left corner of the mat."""

import numpy as np
from numpy.typing import NDArray

from zinnet.cutting.paths import CutSheet

UNITS_PER_MM = 40
"""HP-GL's plotter unit is 0.025 mm (HP-GL/2 reference)."""


def cut_hpgl(sheet: CutSheet) -> str:
    """Return the HP-GL program that cuts a mat."""
    commands = ["IN;", "PA;", "SP1;"]
    for piece in sheet.pieces:
        for path in piece.paths:
            first, *rest = _in_units(path.points, sheet.height_mm)
            if not rest:
                continue
            commands.append(f"PU{first[0]},{first[1]};")
            commands.append("PD" + ",".join(f"{x},{y}" for x, y in rest) + ";")
    commands.append("PU0,0;")
    commands.append("SP0;")
    return "\n".join(commands) + "\n"


def _in_units(points: NDArray[np.float64], height_mm: float) -> list[tuple[int, int]]:
    """Return the points in plotter units, those that round to the one before left out."""
    upright = np.column_stack([points[:, 0], height_mm - points[:, 1]]) * UNITS_PER_MM
    rounded = np.rint(upright).astype(int)
    keep = np.ones(len(rounded), dtype=bool)
    keep[1:] = (np.diff(rounded, axis=0) != 0).any(axis=1)
    return [(int(x), int(y)) for x, y in rounded[keep]]
