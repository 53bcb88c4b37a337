"""Text as outlines: shaped by HarfBuzz, with kerning, ligatures and marks, one shape per glyph."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from pydantic import Field

from zinnet.artwork.fonts import characters_of, font_face, font_family, fonts_that_have
from zinnet.artwork.model import Artwork, Paint, Shape
from zinnet.errors import ArtworkError
from zinnet.geometry.curves import Subpath
from zinnet.geometry.region import Region, fill
from zinnet.geometry.transform import Matrix, affine, shift
from zinnet.model import Frozen

MOST_LETTERS = 2000
FLATNESS = 1 / 50_000
"""Of the type's size, for measuring outlines."""
Align = Literal["left", "middle", "right"]


class TextSpec(Frozen):
    """A text as the user typed it. Lengths are shares of the type's size, which is its em."""

    text: str = Field(min_length=1, max_length=MOST_LETTERS)
    font: str = "atkinson"
    style: str | None = None
    letter_spacing: float = Field(default=0.0, ge=-0.5, le=5)
    line_spacing: float = Field(default=1.2, ge=0.3, le=10)
    align: Align = "middle"
    colour: str = Field(default="#1a1a1a", pattern="^#[0-9a-f]{6}$")


@dataclass(frozen=True, eq=False)
class Glyph:
    """One glyph of a shaped line: its outline in em, y down, and where its origin is."""

    cluster: int
    glyph: int
    subpaths: tuple[Subpath, ...]
    x: float
    y: float
    advance: float


def shape_line(text: str, font: str, style: str | None = None, letter_spacing: float = 0.0) -> list[Glyph]:
    """Return the glyphs of one line in em, from left to right, the baseline at y = 0.

    Raises :class:`ArtworkError` where the font lacks a character, naming the fonts that have it.
    """
    import uharfbuzz

    _refuse_missing(text, font, style)
    face = font_face(font, style)
    shaper = uharfbuzz.Font(face)
    buffer = uharfbuzz.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    uharfbuzz.shape(shaper, buffer, {"kern": True, "liga": letter_spacing == 0, "calt": True, "mark": True})
    em, x, found = float(face.upem), 0.0, []
    for info, position in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
        advance = position.x_advance / em + letter_spacing
        outline = tuple(_outline(shaper, info.codepoint, em))
        at = x + position.x_offset / em, -position.y_offset / em
        found.append(Glyph(info.cluster, info.codepoint, outline, *at, advance))
        x += advance
    return found


def _refuse_missing(text: str, font: str, style: str | None) -> None:
    known = characters_of(font, style)
    missing = sorted({letter for letter in text if ord(letter) not in known and not letter.isspace()})
    if missing:
        others = fonts_that_have("".join(missing))
        hint = f"these have it: {', '.join(others)}" if others else "none of the shipped fonts has it"
        raise ArtworkError(f"{font_family(font).name} has no “{' '.join(missing)}”; {hint}.")


class _Pen:
    """Collects a glyph's outline, which HarfBuzz draws y up in font units."""

    def __init__(self, em: float) -> None:
        self.em = em
        self.here = np.zeros(2)
        self.rows: list[list[np.ndarray[Any, Any]]] = []
        self.done: list[Subpath] = []

    def _point(self, x: float, y: float) -> np.ndarray[Any, Any]:
        return np.array([x, -y], dtype=np.float64) / self.em

    def move(self, x: float, y: float) -> None:
        self.close()
        self.here = self._point(x, y)

    def line(self, x: float, y: float) -> None:
        end = self._point(x, y)
        if np.abs(end - self.here).max() > 0:
            self.rows.append([self.here, self.here + (end - self.here) / 3, end + (self.here - end) / 3, end])
        self.here = end

    def quadratic(self, cx: float, cy: float, x: float, y: float) -> None:
        control, end = self._point(cx, cy), self._point(x, y)
        self.rows.append([self.here, self.here + (control - self.here) * 2 / 3, end + (control - end) * 2 / 3, end])
        self.here = end

    def cubic(self, ax: float, ay: float, bx: float, by: float, x: float, y: float) -> None:
        end = self._point(x, y)
        self.rows.append([self.here, self._point(ax, ay), self._point(bx, by), end])
        self.here = end

    def close(self) -> None:
        if self.rows:
            start = self.rows[0][0]
            if np.abs(self.here - start).max() > 1e-12:
                self.rows.append(
                    [self.here, self.here + (start - self.here) / 3, start + (self.here - start) / 3, start]
                )
            self.done.append(Subpath(np.array(self.rows, dtype=np.float64), closed=True))
        self.rows = []


def _outline(shaper: Any, glyph: int, em: float) -> Iterator[Subpath]:
    """Yield the closed outlines of a glyph, in em, y down."""
    import uharfbuzz

    pen = _Pen(em)
    functions = uharfbuzz.DrawFuncs()
    functions.set_move_to_func(lambda x, y, data: data.move(x, y))
    functions.set_line_to_func(lambda x, y, data: data.line(x, y))
    functions.set_quadratic_to_func(lambda cx, cy, x, y, data: data.quadratic(cx, cy, x, y))
    functions.set_cubic_to_func(lambda ax, ay, bx, by, x, y, data: data.cubic(ax, ay, bx, by, x, y))
    functions.set_close_path_func(lambda data: data.close())
    shaper.draw_glyph(glyph, functions, pen)
    pen.close()
    yield from pen.done


def text_artwork(spec: TextSpec, *, size_mm: float = 100.0) -> Artwork:
    """Return a text as artwork in mm at a type size (its em), one shape per glyph, lines set below one another."""
    lines = spec.text.split("\n")
    shaped = [shape_line(line, spec.font, spec.style, spec.letter_spacing) if line else [] for line in lines]
    widths = [sum(glyph.advance for glyph in line) - (spec.letter_spacing if line else 0.0) for line in shaped]
    shapes = []
    to_mm = affine(size_mm, 0, 0, size_mm, 0, 0)
    for row, (line, width) in enumerate(zip(shaped, widths, strict=True)):
        left = {"left": 0.0, "middle": (max(widths) - width) / 2, "right": max(widths) - width}[spec.align]
        for glyph in line:
            if glyph.subpaths:
                at: Matrix = to_mm @ shift(left + glyph.x, row * spec.line_spacing + glyph.y)
                name = f"line-{row + 1}-{glyph.cluster + 1}"
                shapes.append(Shape(name, glyph.subpaths, at, Paint(spec.colour), "nonzero", None))
    if not shapes:
        raise ArtworkError("The text holds nothing but spaces; type a word.")
    return Artwork(tuple(shapes), None, 1.0, ())


def glyph_region(glyph: Glyph) -> Region:
    """Return what one glyph covers, in em, its origin at (0, 0)."""
    from zinnet.geometry.curves import flatten

    return fill([flatten(subpath, FLATNESS) for subpath in glyph.subpaths], "nonzero") if glyph.subpaths else Region()


def height_of(text: str, font: str, style: str | None = None) -> float:
    """Return how tall the outlines of a line are, in em: by this a text is sized to a height."""
    boxes = [
        (glyph.y + subpath.cubics[:, :, 1].min(), glyph.y + subpath.cubics[:, :, 1].max())
        for glyph in shape_line(text, font, style)
        for subpath in glyph.subpaths
    ]
    return max(high for _, high in boxes) - min(low for low, _ in boxes) if boxes else 0.0
