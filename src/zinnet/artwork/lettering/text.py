"""Text as outlines: shaped by HarfBuzz, with kerning, ligatures and marks, one shape per glyph."""

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any, Literal

import numpy as np
from pydantic import Field

from zinnet.artwork.lettering.fonts import (
    DEFAULT,
    font_face,
    font_family,
    fonts_that_have,
    has_font,
    missing_characters,
)
from zinnet.artwork.lettering.runs import Piece, Run, pieces_of
from zinnet.artwork.model import Artwork, Paint, Remark, Shape
from zinnet.base.errors import ArtworkError
from zinnet.base.frozen import Frozen
from zinnet.geometry.curves import Subpath
from zinnet.geometry.region import Region, fill
from zinnet.geometry.transform import Matrix, affine, shift, turn

MOST_LETTERS = 2000
FLATNESS = 1 / 50_000
"""Of the type's size, for measuring outlines."""
Align = Literal["left", "middle", "right"]


class Kern(Frozen):
    """Room added by hand behind one letter of a line, in em."""

    line: int = Field(ge=0)
    letter: int = Field(ge=0)
    em: float = Field(ge=-2, le=10)


class TextSpec(Frozen):
    """A text as the user typed it. Lengths are shares of the type's size, which is its em.

    ``bend_deg`` is the angle that the longest line spans on its circle: 0 is straight, 360 all round, less than
    zero bends it down. ``runs`` are letters in another font or weight.
    """

    text: str = Field(min_length=1, max_length=MOST_LETTERS)
    font: str = "atkinson"
    style: str | None = None
    letter_spacing: float = Field(default=0.0, ge=-0.5, le=5)
    line_spacing: float = Field(default=1.2, ge=0.3, le=10)
    align: Align = "middle"
    bend_deg: float = Field(default=0.0, ge=-360, le=360)
    kerns: tuple[Kern, ...] = ()
    runs: tuple[Run, ...] = Field(default=(), max_length=MOST_LETTERS)
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

    A character that the font lacks leaves its room empty; :func:`refuse_missing` names it.
    """
    import uharfbuzz

    if not text:
        return []
    face = font_face(font, style)
    shaper = uharfbuzz.Font(face)
    buffer = uharfbuzz.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    uharfbuzz.shape(shaper, buffer, {"kern": True, "liga": letter_spacing == 0, "calt": True, "mark": True})
    em, x, found = float(face.upem), 0.0, []
    for info, position in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
        advance = position.x_advance / em + letter_spacing
        outline = tuple(_outline(shaper, info.codepoint, em)) if info.codepoint else ()
        at = x + position.x_offset / em, -position.y_offset / em
        found.append(Glyph(info.cluster, info.codepoint, outline, *at, advance))
        x += advance
    return found


def refuse_missing(spec: TextSpec) -> None:
    """Raise :class:`ArtworkError` where the font lacks a character, naming the fonts that have it."""
    for said, _ in _missing(spec):
        raise ArtworkError(f"{said}.")


def pieces(spec: TextSpec) -> Iterator[tuple[int, Piece]]:
    """Yield a text in pieces of one font each, with the number of their line."""
    for row, line in enumerate(spec.text.split("\n")):
        for piece in pieces_of(row, line, (spec.font, spec.style), spec.runs):
            yield row, piece


def _missing(spec: TextSpec) -> Iterator[tuple[str, int]]:
    """Yield for each font what it lacks, in words, and how many letters that are."""
    lacks: dict[str, set[str]] = {}
    for _, piece in pieces(spec):
        lacks.setdefault(piece.font, set()).update(missing_characters(piece.text, piece.font, piece.style))
    for name, letters in lacks.items():
        if letters:
            yield _said_missing(name, tuple(sorted(letters))), len(letters)


def _said_missing(font: str, missing: tuple[str, ...]) -> str:
    others = [font_family(name).name for name in fonts_that_have("".join(missing))]
    hint = f"these have it: {', '.join(others)}" if others else "no font here has it"
    return f"{font_family(font).name} has no “{' '.join(missing)}”; {hint}"


def missing_remarks(spec: TextSpec) -> list[Remark]:
    """Return a remark about the characters that the font lacks, where it lacks any."""
    return [Remark("missing-glyph", said, count) for said, count in _missing(spec)]


def _remarks(spec: TextSpec, asked: TextSpec) -> tuple[Remark, ...]:
    found, own = missing_remarks(spec), font_family(spec.font).name
    for name in dict.fromkeys((asked.font, *(run.font for run in asked.runs))):
        if not has_font(name):
            found.append(Remark("text", f"the font {name} is not here; set in {own}"))
    return tuple(found)


def known_font(spec: TextSpec) -> TextSpec:
    """Return the text in fonts that are here: its own, else the usual one; letters in one that is not take that."""
    runs = tuple(
        run.model_copy(update={"style": _known_style(run.font, run.style)}) for run in spec.runs if has_font(run.font)
    )
    if not has_font(spec.font):
        return spec.model_copy(update={"font": DEFAULT, "style": None, "runs": runs})
    return spec.model_copy(update={"style": _known_style(spec.font, spec.style), "runs": runs})


def _known_style(font: str, style: str | None) -> str | None:
    return style if style in font_family(font).styles else None


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
    """Return a text as artwork in mm at a type size (its em), one shape per glyph, lines set below one another.

    What the font lacks is left out with a remark. Raises :class:`ArtworkError` where nothing is to be seen.
    """
    asked, spec = spec, known_font(spec)
    lines = _set_lines(spec)
    widths = [sum(glyph.advance for glyph in line) - (spec.letter_spacing if line else 0.0) for line in lines]
    shapes = []
    to_mm = affine(size_mm, 0, 0, size_mm, 0, 0)
    for row, (line, width) in enumerate(zip(lines, widths, strict=True)):
        left = {"left": 0.0, "middle": (max(widths) - width) / 2, "right": max(widths) - width}[spec.align]
        for glyph in line:
            if glyph.subpaths:
                at = _onto_line(glyph, left, row, spec, max(widths))
                name = f"line-{row + 1}-{glyph.cluster + 1}"
                shapes.append(Shape(name, glyph.subpaths, to_mm @ at, Paint(spec.colour), "nonzero", None))
    if not shapes:
        refuse_missing(spec)
        raise ArtworkError("The text holds nothing but spaces; type a word.")
    return Artwork(tuple(shapes), None, 1.0, _remarks(spec, asked))


def _set_lines(spec: TextSpec) -> list[list[Glyph]]:
    """Return the glyphs of each line, with the room that was added by hand."""
    found: list[list[Glyph]] = [[] for _ in spec.text.split("\n")]
    ends = [0.0] * len(found)
    for row, piece in pieces(spec):
        glyphs = shape_line(piece.text, piece.font, piece.style, spec.letter_spacing)
        found[row] += [replace(one, cluster=one.cluster + piece.begin, x=one.x + ends[row]) for one in glyphs]
        ends[row] += sum(one.advance for one in glyphs)
    for row, line in enumerate(found):
        added = {kern.letter: kern.em for kern in spec.kerns if kern.line == row}
        if added:
            moved, x = [], 0.0
            for glyph in line:
                extra = added.get(glyph.cluster, 0.0)
                moved.append(replace(glyph, x=glyph.x + x, advance=glyph.advance + extra))
                x += extra
            found[row] = moved
    return found


def _onto_line(glyph: Glyph, left: float, row: int, spec: TextSpec, widest: float) -> Matrix:
    """Return the matrix that puts a glyph on its line, in em: straight, or with its middle on the line's circle.

    The circle of a bent text is that of its first line; the other lines lie on circles about the same middle.
    """
    x, down = left + glyph.x, row * spec.line_spacing + glyph.y
    if spec.bend_deg == 0 or widest <= 0:
        return shift(x, down)
    radius = widest / math.radians(spec.bend_deg)
    middle = glyph.advance / 2
    angle = math.degrees((x + middle - widest / 2) / radius)
    return shift(widest / 2, radius) @ turn(angle) @ shift(-middle, down - radius)


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
