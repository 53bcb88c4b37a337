"""Numbers of finding a sheet, and the sheets that are known."""

from functools import cache

from zinnet.base.frozen import Frozen
from zinnet.data import read_toml


class Paper(Frozen):
    """A sheet of known size: its short and its long side in mm."""

    name: str
    sides_mm: tuple[float, float]
    source: str


class BoardNumbers(Frozen):
    """The printed mark sheet: squares across and down, their sides, how much paper is beside and below them."""

    squares: tuple[int, int]
    square_mm: float
    mark_mm: float
    paper_mm: tuple[float, float]
    marks: str
    least_corners: int
    enough_corners: int
    source: str


class PhotoNumbers(Frozen):
    """How a sheet is looked for. Lengths in pixels or mm, shares of the picture or of a side."""

    source: str
    detect_px: int
    levels: int
    least_share: float
    most_share: float
    samples: int
    support: float
    corner_share: float
    ratio_tolerance: float
    least_contrast: float
    most_pixels: int
    straight_px_mm: float
    most_straight_px: int
    beyond_sheets: float
    near_sheets: float
    near_mm: float
    flat_px_mm: float
    finer: float
    most_flat_px: int
    fit_step_mm: float
    slow_mm: float
    least_white: float
    least_step: float
    least_times: float
    least_edge: float
    noise_levels: float
    blur_mm: float
    blur_px: float
    least_alike: float
    surely_alike: float
    least_settled: float
    cloth_edge_mm: float
    other_side: float
    sure_share: float
    stray_apart_mm: float
    least_stray_mm2: float
    beside_mm: float
    least_scrap_mm2: float
    least_seen_mm2: float
    least_hole_mm2: float
    papers: dict[str, Paper]
    board: BoardNumbers


@cache
def photo_numbers() -> PhotoNumbers:
    """Return the numbers."""
    return PhotoNumbers.model_validate(read_toml("photo"))
