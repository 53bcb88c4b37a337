"""A word through a shape: rows of a word cross a solid shape and change colour where they meet it.

The shape stands solid above and below the rows, a gap apart; one outline fits it all. The layers lie side by side:
none overlaps another, and none has a part thinner than asked.
"""

from typing import Literal, NamedTuple

import shapely
from pydantic import Field

from zinnet.artwork.lettering.lines import text_region
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.model import Artwork
from zinnet.artwork.regions import region_artwork
from zinnet.artwork.silhouettes import one_wide, silhouette
from zinnet.base.errors import ArtworkError
from zinnet.base.frozen import Frozen
from zinnet.data.limits import limits
from zinnet.geometry.region import EMPTY, Region, common, is_dust, union, valid, without
from zinnet.geometry.thickness import (
    offset,
    small,
    swept,
    thickened,
    thin_parts,
    without_holes,
    without_small,
)
from zinnet.geometry.transform import moved, scale, shift

COLOUR = "^#[0-9a-f]{6}$"
SETTLING_ROUNDS = 4
MOST_REPEATS = 12
WORD_SPACE = 0.35
"""The room between the repeated words of a row, in heights of the row, or less where their outlines would not meet."""
MEETING = 0.9
BOLDER = 1.03
"""Letters are made this much bolder than asked, so that the last fit to size leaves them bold enough."""
FLATNESS_MM = 0.01
SURE = 1.02
"""Least lengths are met by so much more: what is cut is measured with a simplified outline."""
FINER = (1.0, 0.7, 0.5)
"""What is thin is looked for at finer shares as well: a tip is a small thing at a large measure."""
DUST_SHARE = 0.01


class WordThroughSpec(Frozen):
    """What crosses what. ``cover`` is the share of the shape's height that the rows fill, ``reach`` their width in
    widths of the shape."""

    word: str = Field(default="LANTERN", min_length=1, max_length=60)
    shape: str = "disc"
    font: str = "bebas-neue"
    style: str | None = None
    rows: int = Field(default=3, ge=1, le=12)
    cover: float = Field(default=0.6, ge=0.1, le=1)
    reach: float = Field(default=1.25, ge=0.5, le=3)
    gap_mm: float = Field(default=3.0, ge=0.5, le=100)
    outline_mm: float = Field(default=3.0, ge=0.5, le=50)
    least_mm: float = Field(default=1.0, ge=0.2, le=10)
    shape_colour: str = Field(default="#f1c453", pattern=COLOUR)
    inside_colour: str = Field(default="#f6f1e7", pattern=COLOUR)
    outside_colour: str = Field(default="#f1c453", pattern=COLOUR)
    outline_colour: str = Field(default="#23304a", pattern=COLOUR)


class Crossing(NamedTuple):
    """The layers in mm, side by side: the shape's rest, the letters inside and outside of it, the outline."""

    rest: Region
    inside: Region
    outside: Region
    outline: Region


def word_through(spec: WordThroughSpec, width_mm: float, shape: Region | None = None) -> Artwork:
    """Return the artwork of a word through a shape, ``width_mm`` wide with its outline."""
    rest, inside, outside, outline = crossing(spec, width_mm, shape)
    return region_artwork(
        [
            ("outline", spec.outline_colour, outline),
            ("shape", spec.shape_colour, rest),
            ("letters-outside", spec.outside_colour, outside),
            ("letters-inside", spec.inside_colour, inside),
        ]
    )


def crossing(spec: WordThroughSpec, width_mm: float, shape: Region | None = None) -> Crossing:
    """Return the layers of a word through a shape, ``width_mm`` wide with its outline.

    Raises :class:`ArtworkError` where the rows leave no room for letters.
    """
    if spec.outline_mm < spec.least_mm:
        raise ArtworkError(
            f"The outline of {spec.outline_mm:g} mm is thinner than the {spec.least_mm:g} mm that are asked for; "
            "make it wider."
        )
    content = width_mm - 2 * spec.outline_mm
    if content < 10 * spec.least_mm:
        raise ArtworkError(f"{width_mm:.0f} mm is too narrow for this outline; make the design wider.")
    solid = one_wide(shape) if shape is not None else silhouette(spec.shape)
    solid = moved(solid, scale(content / max(1.0, spec.reach)))
    letters, band = _rows(spec, solid)
    gap = max(spec.gap_mm, spec.least_mm * SURE)
    away = without(solid, shapely.box(-1e5, band[0] - gap, 1e5, band[1] + gap))
    rest = _blunt(large_enough(swept(away, spec.least_mm), spec.least_mm), spec.least_mm)
    inside, outside = _parted(letters, solid, spec.least_mm)
    drawn = union([rest, inside, outside])
    whole = without_holes(_blunt(offset(drawn, spec.outline_mm), spec.least_mm))
    return _settled([rest, inside, outside], without(whole, drawn), spec.least_mm)


def _settled(parts: list[Region], outline: Region, least: float) -> Crossing:
    """Return the layers with what of the outline is too small to be cut given to the layer that it touches most."""
    for scrap in _too_small(outline, least).geoms:
        edge = offset(Region([scrap]), FLATNESS_MM)
        touched = [common(part, edge).area for part in parts]
        most = touched.index(max(touched))
        parts[most] = union([parts[most], without(edge, union(parts[:most] + parts[most + 1 :]))])
    rest, inside, outside = parts
    return Crossing(rest, inside, outside, without(outline, union(parts)))


def _blunt(region: Region, least: float) -> Region:
    """Return a region whose notches end in a round as wide as ``least``: what lay in their tips could not be cut."""
    radius = least * SURE / 2
    filled = without(offset(offset(region, radius), -radius), region)
    tips = [part for part in filled.geoms if part.area > DUST_SHARE * least * least]
    return valid(shapely.simplify(union([region, *(offset(Region([tip]), FLATNESS_MM) for tip in tips)]), FLATNESS_MM))


def large_enough(region: Region, least: float) -> Region:
    """Return the parts of a region that are long enough to stay on the carrier in weeding."""
    return without_small(region, part=_times("part") * least, counter=0.0)


def _rows(spec: WordThroughSpec, solid: Region) -> tuple[Region, tuple[float, float]]:
    """Return the rows of letters across the middle of the shape, and the band (top, bottom) that they fill."""
    left, top, right, bottom = solid.bounds
    band = (bottom - top) * spec.cover
    tall = (band - (spec.rows - 1) * spec.gap_mm) / spec.rows
    if tall < _times("row") * spec.least_mm:
        raise ArtworkError(
            f"{spec.rows} rows in {band:.0f} mm leave {max(0.0, tall):.1f} mm for a letter; take fewer rows, "
            "a smaller gap, or cover more of the shape."
        )
    first = (top + bottom - band) / 2
    row = _sturdy(_bold_row(spec, (right - left) * spec.reach, tall), spec.least_mm)
    side = (left + right) / 2 - (right - left) * spec.reach / 2
    placed = [moved(row, shift(side, first + k * (tall + spec.gap_mm))) for k in range(spec.rows)]
    return _sturdy(union(placed), spec.least_mm), (first, first + band)


def _sturdy(letters: Region, least: float) -> Region:
    """Return letters with no notch and no tip narrower than ``least``: what mends one of them may make another."""
    for _ in range(SETTLING_ROUNDS):
        letters = _blunt(letters, least)
        if _thin(letters, least).is_empty:
            break
        letters = thickened(letters, least * BOLDER)
    return letters


def _bold_row(spec: WordThroughSpec, wide: float, tall: float) -> Region:
    """Return one row just so large: the word as often as it takes to be about as wide, then stretched to it.

    No stroke is thinner than asked: what boldness adds is taken off the size before.
    """
    word = text_region(TextSpec(text=spec.word, font=spec.font, style=spec.style))
    left, top, right, bottom = word.bounds
    natural = (right - left) / (bottom - top)
    space = min(WORD_SPACE * tall, MEETING * 2 * spec.outline_mm)
    count = min(MOST_REPEATS, max(1, round((wide + space) / (natural * tall + space))))
    word_wide = (wide - (count - 1) * space) / count
    flat = moved(word, scale(1 / (right - left), 1 / (bottom - top)) @ shift(-left, -top))
    bolder = spec.least_mm * BOLDER
    left, top, right, bottom = thickened(moved(flat, scale(word_wide, tall)), bolder).bounds
    bold = thickened(moved(flat, scale(2 * word_wide - (right - left), 2 * tall - (bottom - top))), bolder)
    left, top, right, bottom = bold.bounds
    bold = moved(bold, scale(word_wide / (right - left), tall / (bottom - top)) @ shift(-left, -top))
    bold = valid(shapely.simplify(bold, FLATNESS_MM))
    return union([moved(bold, shift(k * (word_wide + space), 0)) for k in range(count)])


def _parted(letters: Region, solid: Region, least: float) -> tuple[Region, Region]:
    """Return the letters inside and outside of the shape.

    A letter that the shape's edge would cut into what can't be cut or weeded lies whole on the side of most of it.
    """
    shapely.prepare(solid)
    inside: list[Region] = []
    outside: list[Region] = []
    for part in letters.geoms:
        one = Region([part])
        if shapely.contains_properly(solid, part):
            inside.append(one)
        elif shapely.disjoint(solid, part):
            outside.append(one)
        else:
            within, beyond = _cut_at(one, solid, least)
            inside.append(within)
            outside.append(beyond)
    return union(inside), union(outside)


def _cut_at(letter: Region, solid: Region, least: float) -> tuple[Region, Region]:
    """Return the two sides of a letter that the shape's edge crosses; slivers of one go to the other."""
    inside = common(letter, solid)
    for _ in range(SETTLING_ROUNDS):
        outside = without(letter, inside)
        inside = union([inside, _too_small(outside, least)])
        slivers = _too_small(inside, least)
        if slivers.is_empty:
            break
        inside = without(inside, slivers)
    outside = without(letter, inside)
    if _too_small(inside, least).is_empty and _too_small(outside, least).is_empty:
        return inside, outside
    mostly = common(letter, solid).area > letter.area / 2
    return (letter, EMPTY) if mostly else (EMPTY, letter)


def _too_small(region: Region, least: float) -> Region:
    parts = list(region.geoms)
    lines = [part for part in parts if is_dust(part, least / 2)]
    return union([_thin(region, least), *small(parts, _times("part") * least), *lines])


def _thin(region: Region, least: float) -> Region:
    return union(thin_parts(region, share * least) for share in FINER)


def _times(what: Literal["part", "row"]) -> float:
    """Return how many times as long, or tall, a thing must be as the thinnest thing is wide."""
    return float(limits()["thin"][f"{what}_times"])
