"""Mats full of film: the sheet that covers a mat, and the gap that is kept between pieces on it."""

from zinnet.machines.cutters import Mat, usual_gap_mm
from zinnet.nesting.model import NestSpec
from zinnet.nesting.sheet import Sheet


def sheet_on(mat: Mat) -> Sheet:
    """Return the film that covers a mat wholly, as much of it as is wanted."""
    return Sheet(
        width_mm=mat.width_mm,
        height_mm=mat.height_mm,
        margin_mm=mat.margin_mm,
        kind="roll" if mat.fed else "mat",
    )


def gap_of(spec: NestSpec) -> float:
    """Return the gap that the user asked for, else the usual one."""
    return usual_gap_mm() if spec.gap_mm is None else spec.gap_mm
