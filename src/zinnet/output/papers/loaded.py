"""A mat as it is loaded, drawn small on paper: the mat, the film on it, and the pieces as they are cut."""

from typing import Any

import shapely

from zinnet.geometry.transform import moved, shift
from zinnet.output.papers.paper import (
    BOLD,
    INK,
    QUIET,
    region_path,
)
from zinnet.plan.loading import LoadedMat

ROOM, HEAD, TYPE = 4.0, 10.0, 7.0


class LoadedPicture:
    """A mat within ``size`` (width, height) in points."""

    def __init__(self, load: LoadedMat, size: tuple[float, float]) -> None:
        self.load, self.size = load, size
        width, height = load.size
        self._scale = min((size[0] - 2 * ROOM) / width, (size[1] - HEAD - ROOM) / height)

    def draw(self, canvas: Any) -> None:
        """Draw it on a canvas."""
        width, height = self.load.size
        canvas.setFillColorRGB(*INK)
        canvas.setFont(BOLD, TYPE)
        canvas.drawString(0, self.size[1] - TYPE, f"{self.load.numbers}  {self.load.films}"[:26])
        canvas.setLineWidth(0.6)
        canvas.setStrokeColorRGB(*INK)
        canvas.rect(*self._at(0, height), width * self._scale, height * self._scale, stroke=1, fill=0)
        for trim, mat in zip(self.load.trims, self.load.mats, strict=True):
            there = shift(*self.load.stuck_at(trim))
            sheet = mat.sheet.outline or shapely.box(0, 0, mat.sheet.width_mm, mat.sheet.height_mm)
            canvas.setDash(1.5, 1.5)
            self._outline(canvas, moved(sheet, there), 0.4)
            canvas.setDash()
            for region in mat.regions:
                self._outline(canvas, moved(region, there), 0.35)

    def _at(self, x: float, y: float) -> tuple[float, float]:
        return x * self._scale, self.size[1] - HEAD - y * self._scale

    def _outline(self, canvas: Any, region: shapely.Geometry, line: float) -> None:
        canvas.setStrokeColorRGB(*(QUIET if line > 0.35 else INK))
        canvas.setLineWidth(line)
        canvas.drawPath(region_path(canvas, region, self._at), stroke=1, fill=0)
