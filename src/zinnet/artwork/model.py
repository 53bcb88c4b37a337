"""What every reader of artwork gives: painted outlines in the source's own units, and remarks."""

from dataclasses import dataclass
from typing import Literal

from zinnet.geometry.curves import Subpath
from zinnet.geometry.region import FillRule, Region
from zinnet.geometry.stroke import Cap, Join
from zinnet.geometry.transform import Matrix

RemarkCode = Literal[
    "picture", "text", "blend", "open-outline", "clipped", "left-out", "mended", "no-size", "missing-glyph", "flattened"
]


@dataclass(frozen=True)
class Remark:
    """Something that the reader found, mended or left out."""

    code: RemarkCode
    message: str
    count: int = 1


@dataclass(frozen=True)
class Paint:
    """A colour ``#rrggbb`` and how much it covers, 0 to 1."""

    colour: str
    opacity: float = 1.0


@dataclass(frozen=True)
class StrokeStyle:
    """How an outline is stroked; width and dashes are in the shape's own units."""

    paint: Paint
    width: float
    cap: Cap = "butt"
    join: Join = "miter"
    miter_limit: float = 4.0
    dashes: tuple[float, ...] = ()
    dash_offset: float = 0.0


@dataclass(frozen=True, eq=False)
class Shape:
    """One painted shape. ``matrix`` leads from its own units to the artwork's."""

    name: str
    subpaths: tuple[Subpath, ...]
    matrix: Matrix
    fill: Paint | None
    fill_rule: FillRule
    stroke: StrokeStyle | None
    clips: tuple[Region, ...] = ()


@dataclass(frozen=True)
class Group:
    """Parts of a film that are kept together on the mat, or set apart; each is told by a point in it.

    ``colours`` are those of the parts, spot by spot: what else lies there is not meant.
    """

    spots: tuple[tuple[float, float], ...]
    apart: bool
    colours: tuple[str, ...] = ()

    def colours_of(self) -> list[tuple[tuple[float, float], str | None]]:
        """Return each spot with the colour of the part that it is in."""
        return list(zip(self.spots, self.colours or (None,) * len(self.spots), strict=True))


@dataclass(frozen=True, eq=False)
class Artwork:
    """Painted shapes from the bottom up, in the source's viewBox units (y down).

    ``view`` is the visible box (left, top, right, bottom); ``mm_per_unit`` is set where the source
    states a physical size. ``pictures`` are those embedded, as files; one that is not embedded is empty.
    ``whole_picture`` is the file of a picture that stays one: the only shape is what is seen of it, in its pixels.
    """

    shapes: tuple[Shape, ...]
    view: tuple[float, float, float, float] | None
    mm_per_unit: float | None
    remarks: tuple[Remark, ...]
    pictures: tuple[bytes, ...] = ()
    groups: tuple[Group, ...] = ()
    whole_picture: bytes = b""
