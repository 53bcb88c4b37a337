"""An outlined name: a name, straight or bent, with one or two outlines and a second line below it."""

from pydantic import Field

from zinnet.artwork.lettering.lines import text_region
from zinnet.artwork.lettering.text import TextSpec, missing_remarks
from zinnet.artwork.model import Artwork
from zinnet.artwork.regions import region_artwork
from zinnet.base.errors import ArtworkError
from zinnet.base.frozen import Frozen
from zinnet.geometry.region import Region, union
from zinnet.geometry.thickness import Corners, closed, offset
from zinnet.geometry.transform import moved, scale, shift

COLOUR = "^#[0-9a-f]{6}$"
LINE_GAP = 0.12
"""The room between the name and the second line, in heights of the name."""


class OutlineRing(Frozen):
    """One outline: how wide it is and its colour."""

    width_mm: float = Field(default=3.0, gt=0, le=50)
    colour: str = Field(default="#23304a", pattern=COLOUR)


class OutlinedNameSpec(Frozen):
    """The name and what goes round it, the innermost outline first. The second line is a share of the name's width."""

    name: str = Field(default="Wrenfield", min_length=1, max_length=200)
    font: str = "dancing-script"
    style: str | None = None
    letter_spacing: float = Field(default=0.0, ge=-0.5, le=5)
    bend_deg: float = Field(default=0.0, ge=-360, le=360)
    colour: str = Field(default="#f1c453", pattern=COLOUR)
    outlines: tuple[OutlineRing, ...] = Field(default=(OutlineRing(),), max_length=3)
    corners: Corners = "round"
    second: str = Field(default="", max_length=200)
    second_font: str = "bebas-neue"
    second_share: float = Field(default=0.6, ge=0.1, le=1.5)
    least_gap_mm: float = Field(default=1.0, ge=0, le=10)


def outlined_name(spec: OutlinedNameSpec, width_mm: float) -> Artwork:
    """Return the artwork of an outlined name, ``width_mm`` wide with its outlines, the outermost at the bottom.

    Gaps inside an outline that are narrower than ``least_gap_mm`` are filled: nothing could be weeded from them.
    """
    round_it = sum(ring.width_mm for ring in spec.outlines)
    inner = width_mm - 2 * round_it
    if inner <= max(5.0, round_it):
        raise ArtworkError(f"{width_mm:.0f} mm is too narrow for these outlines; make the design wider.")
    words = name_region(spec)
    left, top, right, _ = words.bounds
    words = moved(words, scale(inner / (right - left)) @ shift(-left, -top))
    areas = [("name", spec.colour, words)]
    grown, reach = words, 0.0
    for number, ring in enumerate(spec.outlines, start=1):
        reach += ring.width_mm
        grown = union([closed(offset(words, reach, corners=spec.corners), spec.least_gap_mm), grown])
        areas.insert(0, (f"outline-{number}", ring.colour, grown))
    remarks = [remark for line in _lines(spec) for remark in missing_remarks(line)]
    return region_artwork(areas, remarks=tuple(remarks))


def _lines(spec: OutlinedNameSpec) -> list[TextSpec]:
    """Return the name as a text, and the second line where there is one."""
    name = TextSpec(
        text=spec.name,
        font=spec.font,
        style=spec.style,
        letter_spacing=spec.letter_spacing,
        bend_deg=spec.bend_deg,
    )
    second = spec.second.strip()
    return [name, TextSpec(text=spec.second, font=spec.second_font)] if second else [name]


def name_region(spec: OutlinedNameSpec) -> Region:
    """Return the name and the second line below its middle, in em."""
    name, *below_it = map(text_region, _lines(spec))
    if not below_it:
        return name
    (second,) = below_it
    left, top, right, bottom = name.bounds
    wide = (right - left) * spec.second_share
    own_left, own_top, own_right, _ = second.bounds
    size = wide / (own_right - own_left)
    below = bottom + LINE_GAP * (bottom - top)
    at = shift((left + right - wide) / 2, below) @ scale(size) @ shift(-own_left, -own_top)
    return union([name, moved(second, at)])
