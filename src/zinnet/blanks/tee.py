"""The tee: outline, panel, seams and usable area from five measures."""

import math
from collections.abc import Sequence
from functools import lru_cache

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from zinnet.blanks.model import Blank, BlankSpec, Tape, blank_kind, measures_of
from zinnet.errors import BlankError
from zinnet.geometry.curves import Subpath, flatten
from zinnet.geometry.region import as_region, union, without

Point = tuple[float, float]
FLATNESS_MM = 0.1


@lru_cache(maxsize=32)
def build_blank(spec: BlankSpec) -> Blank:
    """Return the blank that the measures give, in mm.

    Raises :class:`BlankError` where measures contradict each other.
    """
    kind = blank_kind(spec.kind)
    measures = measures_of(spec)
    _refuse_contradictions(measures)
    shape = kind.shape
    chest, length = measures["chest"], measures["length"]
    neck, drop = measures["neck_width"] / 2, measures["neck_drop"]
    shoulder = (chest * shape["shoulder_share"], chest * shape["shoulder_drop_share"])
    armpit = (chest / 2, shoulder[1] + chest * shape["armhole_share"] - chest * 0.06)
    cuff_top, cuff_bottom = _cuff(shoulder, armpit, measures["sleeve"], chest, shape)

    collar_edge = _curve((neck, 0), (neck * 0.92, drop * 0.75), (neck * 0.45, drop), (0, drop))
    armhole = _curve(
        shoulder,
        (shoulder[0] * 0.94, shoulder[1] + (armpit[1] - shoulder[1]) * 0.5),
        (shoulder[0] * 0.96, armpit[1] - (armpit[1] - shoulder[1]) * 0.12),
        armpit,
    )
    hem = _curve((chest / 2 - 3, length - 8), (chest * 0.3, length), (chest * 0.1, length), (0, length))
    half_panel = [*collar_edge[::-1], *armhole, *hem]
    panel = _mirrored_polygon(half_panel)
    half_outline = [*collar_edge[::-1], shoulder, cuff_top, cuff_bottom, armpit, *hem]
    outline = _mirrored_polygon(half_outline)

    rib = shape["collar_rib_mm"]
    inner = _curve(
        (neck - rib * 0.7, -2),
        (neck * 0.92 - rib * 0.8, (drop - rib) * 0.75),
        (neck * 0.45, drop - rib),
        (0, drop - rib),
    )
    collar = as_region(_polygon([*_both_sides(collar_edge), *_both_sides(inner)[::-1]]))

    clearance = kind.clearance
    keep_off = [
        LineString(_both_sides(collar_edge)).buffer(clearance["collar_mm"]),
        *(LineString(side).buffer(clearance["armhole_mm"]) for side in (armhole, _flipped(armhole))),
        *(
            LineString([(sign * neck, 0), (sign * shoulder[0], shoulder[1])]).buffer(clearance["shoulder_mm"])
            for sign in (1, -1)
        ),
        *(
            LineString([(sign * armpit[0], armpit[1]), (sign * hem[0][0], hem[0][1])]).buffer(clearance["side_mm"])
            for sign in (1, -1)
        ),
        LineString(_both_sides(hem)).buffer(clearance["hem_mm"]),
    ]
    usable = max(without(panel, union(keep_off)).geoms, key=lambda part: part.area)
    hem_line = LineString(_both_sides([(x, y - shape["hem_mm"]) for x, y in hem]))
    return Blank(
        kind=spec.kind,
        name=kind.name,
        colour=spec.colour or kind.colour,
        seen=kind.seen,
        measures=measures,
        measured=frozenset(measure.name for measure in spec.measured),
        outline=as_region(outline),
        panel=as_region(panel),
        usable=as_region(usable),
        collar=collar,
        collar_point=(0.0, drop),
        seams=(
            LineString(armhole),
            LineString(_flipped(armhole)),
            hem_line,
            *_sleeve_hems(cuff_top, cuff_bottom, shoulder, shape["hem_mm"]),
        ),
        tapes=(
            Tape("chest", (-armpit[0], armpit[1] + 12), (armpit[0], armpit[1] + 12)),
            Tape("length", (neck, 0), (neck, length)),
            Tape("neck_width", (-neck, 0), (neck, 0)),
            Tape("neck_drop", (0, 0), (0, drop)),
            Tape("sleeve", (-shoulder[0], shoulder[1]), (-cuff_top[0], cuff_top[1])),
        ),
    )


def _refuse_contradictions(measures: dict[str, float]) -> None:
    chest, length = measures["chest"], measures["length"]
    if measures["neck_width"] > 0.6 * chest:
        raise BlankError(
            f"A neck of {measures['neck_width']:.0f} mm does not go with a chest of {chest:.0f} mm: "
            "it is at most 0.6 of the chest. Measure both again."
        )
    if measures["neck_drop"] > 0.35 * length:
        raise BlankError(
            f"A neck drop of {measures['neck_drop']:.0f} mm does not go with a body length of {length:.0f} mm: "
            "it is at most 0.35 of the length. Measure both again."
        )
    if length < 0.75 * chest:
        raise BlankError(
            f"A body length of {length:.0f} mm does not go with a chest of {chest:.0f} mm: "
            "the body is at least 0.75 times as long as the chest is wide. Measure both again."
        )


def _cuff(shoulder: Point, armpit: Point, sleeve: float, chest: float, shape: dict[str, float]) -> tuple[Point, Point]:
    """Return the upper and lower end of the sleeve's hem."""
    fall = math.radians(shape["sleeve_fall_deg"])
    top = (shoulder[0] + sleeve * math.cos(fall), shoulder[1] + sleeve * math.sin(fall))
    opening = chest * shape["sleeve_opening_share"]
    bottom = (top[0] - opening * math.sin(fall) * 0.82, top[1] + opening * math.cos(fall) * 0.82)
    return top, (max(bottom[0], armpit[0] + 5), bottom[1])


def _sleeve_hems(top: Point, bottom: Point, shoulder: Point, hem_mm: float) -> list[LineString]:
    along = np.array(shoulder) - np.array(top)
    inward = along / np.linalg.norm(along) * hem_mm
    return [LineString([(sign * (x + inward[0]), y + inward[1]) for x, y in (top, bottom)]) for sign in (1, -1)]


def _curve(*points: Point) -> list[Point]:
    cubic = Subpath(np.array([points], dtype=np.float64), closed=False)
    return [(float(x), float(y)) for x, y in flatten(cubic, FLATNESS_MM)]


def _flipped(points: Sequence[Point]) -> list[Point]:
    return [(-x, y) for x, y in points]


def _both_sides(right_half: Sequence[Point]) -> list[Point]:
    """Return a line that ends on the centre line, continued to its mirror image."""
    return [*right_half, *_flipped(right_half[:-1])[::-1]]


def _mirrored_polygon(right_half: Sequence[Point]) -> Polygon:
    return _polygon([*right_half, *_flipped(right_half)[::-1]])


def _polygon(points: Sequence[Point]) -> Polygon:
    polygon = Polygon(points)
    if polygon.is_valid:
        return polygon
    parts = shapely.get_parts(shapely.make_valid(polygon))
    return max((part for part in parts if isinstance(part, Polygon)), key=lambda part: part.area)
