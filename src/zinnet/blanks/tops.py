"""Garments for the upper body, from their measures: body, sleeves, collar or hood, pocket, placket, zip."""

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from zinnet.blanks.model import Cloth, KeepOut, Point, Tape
from zinnet.blanks.outline import (
    Sketch,
    both_sides,
    box,
    cloth,
    curve,
    cut,
    disc,
    flipped,
    line,
    lines_of,
    mirrored_polygon,
    path,
    polygon,
    ribs,
)
from zinnet.geometry.region import as_region

MARK = "neck end of the shoulder seam"


@dataclass(frozen=True)
class _Cut:
    """The corners of a top, on its right half (x > 0); y = 0 is the highest shoulder point."""

    measures: dict[str, float]
    shape: dict[str, Any]

    @property
    def chest(self) -> float:
        return self.measures["chest"]

    @property
    def length(self) -> float:
        return self.measures["length"]

    @property
    def neck(self) -> float:
        return self.measures["neck_width"] / 2

    @property
    def shoulder(self) -> Point:
        return (
            max(self.chest * self.shape["shoulder_share"], self.neck + 12),
            self.chest * self.shape["shoulder_drop_share"],
        )

    @property
    def armpit(self) -> Point:
        return self.chest / 2, self.shoulder[1] + self.chest * (self.shape["armhole_share"] - 0.06)

    @property
    def rib(self) -> float:
        """The height of the knitted band at hem and cuffs."""
        return float(self.chest * self.shape.get("rib_share", 0.0))

    @cached_property
    def armhole(self) -> list[Point]:
        (sx, sy), (ax, ay) = self.shoulder, self.armpit
        if "sleeve" not in self.measures:
            return curve((sx, sy), (sx * 0.86, sy + (ay - sy) * 0.55), (sx * 0.95, ay), (ax, ay))
        return curve((sx, sy), (sx * 0.94, sy + (ay - sy) * 0.5), (sx * 0.96, ay - (ay - sy) * 0.12), (ax, ay))

    @cached_property
    def side(self) -> list[Point]:
        """The side seam, from the armpit down to the hem."""
        (ax, ay), bottom = self.armpit, self.length - 8
        if self.shape.get("legs"):
            return path(
                [(ax, ay)], curve((ax, self.length * 0.72), (ax, self.length * 0.9), (62, bottom), (48, bottom))
            )
        waist = self.measures.get("waist")
        if waist is not None:
            down = bottom - ay
            return path(
                curve((ax, ay), (ax, ay + down * 0.2), (waist / 2, ay + down * 0.22), (waist / 2, ay + down * 0.5)),
                curve((waist / 2, ay + down * 0.5), (waist / 2, ay + down * 0.75), (ax, bottom - 40), (ax - 2, bottom)),
            )
        if self.rib:
            top = self.length - self.rib
            return [(ax, ay), (ax, top), (ax * 0.945, top + self.rib * 0.16), (ax * 0.93, bottom)]
        return [(ax, ay), (ax - 3, bottom)]

    @cached_property
    def hem(self) -> list[Point]:
        end = self.side[-1]
        return curve(end, (end[0] * 0.6, self.length), (end[0] * 0.2, self.length), (0, self.length))

    @cached_property
    def cuff(self) -> tuple[Point, Point]:
        """The upper and the lower end of the sleeve's hem."""
        fall = math.radians(self.shape["sleeve_fall_deg"])
        sleeve, opening = self.measures["sleeve"], self.opening * 0.82
        top = (self.shoulder[0] + sleeve * math.cos(fall), self.shoulder[1] + sleeve * math.sin(fall))
        bottom = (top[0] - opening * math.sin(fall), top[1] + opening * math.cos(fall))
        return top, (max(bottom[0], self.armpit[0] + 5), bottom[1])

    @property
    def opening(self) -> float:
        """The sleeve's hem, laid flat."""
        return float(self.chest * self.shape["sleeve_opening_share"])

    def neckline(self, drop: float) -> list[Point]:
        """Return the collar's lower edge, from the shoulder to the centre line."""
        n = self.neck
        return curve((n, 0), (n * 0.92, drop * 0.75), (n * 0.45, drop), (0, drop))


def draw_top(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return the panels of a top: front, back, sleeves, and pocket and hood where it has them."""
    top = _Cut(measures, shape)
    panels = [_front(top), _back(top)]
    if "sleeve" in measures:
        panels += [_sleeve(top, "right"), _sleeve(top, "left")]
    if shape.get("pocket"):
        panels.append(_pocket_panel(top))
    if shape["collar"] == "hood":
        panels.append(_hood_panel(top))
    return panels


def _body(top: _Cut, panel: str, drop: float) -> Sketch:
    """Return front or back with what both have in common."""
    neckline = top.neckline(drop)
    half = path(neckline[::-1], [top.shoulder], top.armhole, top.side, top.hem)
    body = mirrored_polygon(half)
    region, stitches = body, []
    shoulder_seam = line((top.neck, 0), top.shoulder)
    if top.rib:
        band = top.length - top.rib
        region = polygon_of(cut(body, box(4 * top.chest, band, 3 * top.length)))
        hem = lines_of(shapely.intersection(line((-top.chest, band), (top.chest, band)), body))
    else:
        hem = [LineString(both_sides(top.hem))]
        if not top.shape.get("legs"):
            fold = top.chest * top.shape["hem_share"]
            stitches.append(LineString(both_sides([(x, y - fold) for x, y in top.hem])))
    stitches += [LineString(top.armhole), LineString(flipped(top.armhole))]
    sketch = Sketch(
        id=panel,
        name=panel.capitalize(),
        region=region,
        cloth=[],
        references={"collar": (0.0, drop), "shoulder": (0.0, 0.0), "hem": (0.0, top.length - top.rib)},
        seams={
            "collar": [LineString(both_sides(neckline))],
            "armhole": [LineString(top.armhole), LineString(flipped(top.armhole))],
            "shoulder": [shoulder_seam, LineString(flipped(list(shoulder_seam.coords)))],
            "side": [LineString(top.side), LineString(flipped(top.side))],
            "hem": hem,
        },
        stitches=stitches,
        marks=((-top.neck, 0.0), (top.neck, 0.0)),
        mark_name=MARK,
        visible_mm=top.chest * top.shape["seen_share"],
    )
    if "sleeve" in top.measures:
        sketch.cloth += _sleeves(top, sketch)
    sketch.cloth.append(cloth("cloth", body))
    if top.rib:
        band_shape = polygon_of(cut(body, box(4 * top.chest, -top.length, top.length - top.rib)))
        sketch.cloth.append(cloth("rib", band_shape))
        sketch.lines += ribs(band_shape, top.chest / 45)
    return sketch


def polygon_of(region: BaseGeometry) -> Polygon:
    """Return the largest part of a region."""
    return max(as_region(region).geoms, key=lambda part: part.area)


def _sleeves(top: _Cut, sketch: Sketch) -> list[Cloth]:
    found: list[Cloth] = []
    upper, lower = top.cuff
    long = top.measures["sleeve"] > 0.85 * top.chest
    elbow = curve(
        lower,
        ((lower[0] * 0.5 + top.armpit[0] * 0.5), (lower[1] * 0.5 + top.armpit[1] * 0.5) - (6 if long else 0)),
        (top.armpit[0] + 8, top.armpit[1] + (26 if long else 6)),
        top.armpit,
    )
    shape = polygon(path([top.shoulder], [upper, lower], elbow, top.armhole[::-1]))
    for side in (1, -1):
        one = shape if side == 1 else polygon(flipped(list(shape.exterior.coords)))
        found.append(cloth("cloth", one))
        along = np.array(top.shoulder) - np.array(upper)
        along = along / np.linalg.norm(along)
        back = along * (top.rib or top.chest * top.shape["hem_share"])
        ends = [(side * (x + back[0]), y + back[1]) for x, y in (upper, lower)]
        if top.rib:
            cuff = polygon([(side * upper[0], upper[1]), (side * lower[0], lower[1]), ends[1], ends[0]])
            found.append(cloth("rib", cuff))
        else:
            sketch.stitches += lines_of(shapely.intersection(line(*ends), one))
    return found


def _front(top: _Cut) -> Sketch:
    drop = top.measures["neck_drop"]
    sketch = _body(top, "front", drop)
    collar = top.shape["collar"]
    if collar == "hood":
        _draw_hood(top, sketch, drop, front=True)
    else:
        sketch.cloth.insert(0, _inside_back(top, drop))
    if collar == "rib":
        sketch.cloth.append(_rib_collar(top, drop))
    if top.shape.get("pocket"):
        _draw_pocket(top, sketch)
    if "placket" in top.measures:
        _draw_placket(top, sketch, drop)
    if collar == "leaves":
        _draw_leaves(top, sketch, drop)
    if top.shape.get("zip"):
        _draw_zip(top, sketch, drop)
    if top.shape.get("legs"):
        _draw_snaps(top, sketch)
    if top.shape.get("cords"):
        _draw_cords(top, sketch, drop)
    sketch.tapes = _tapes(top)
    return sketch


def _back(top: _Cut) -> Sketch:
    drop = top.chest * top.shape["back_drop_share"]
    sketch = _body(top, "back", drop)
    if top.shape["collar"] == "hood":
        _draw_hood(top, sketch, drop, front=False)
    elif top.shape["collar"] == "leaves":
        n = top.neck
        band = polygon(both_sides(curve((n + 10, 20), (n * 0.8, -18), (n * 0.4, -26), (0, -26))))
        sketch.cloth.append(cloth("rib", shapely.union(band, mirrored_polygon(path([(0, drop)], [(n, 0), (0, -20)])))))
    else:
        sketch.cloth.append(_rib_collar(top, drop))
    return sketch


def _inside_back(top: _Cut, drop: float) -> Cloth:
    """Return the inside of the back, seen through the neck."""
    back = top.chest * top.shape["back_drop_share"]
    return cloth("inside", polygon(path(both_sides(top.neckline(drop)), both_sides(top.neckline(back))[::-1])))


def _rib_collar(top: _Cut, drop: float) -> Cloth:
    rib, n = top.chest * top.shape["collar_share"], top.neck
    if drop - rib < 4:
        inner = [(n - rib * 0.4, -rib * 0.55), (0, drop - rib)]
        inner = path(curve(inner[0], (n * 0.7, drop - rib), (n * 0.4, drop - rib), inner[1]))
    else:
        inner = curve(
            (n - rib * 0.7, -2), (n * 0.92 - rib * 0.8, (drop - rib) * 0.75), (n * 0.45, drop - rib), (0, drop - rib)
        )
    return cloth("rib", polygon([*both_sides(top.neckline(drop)), *both_sides(inner)[::-1]]))


def _draw_hood(top: _Cut, sketch: Sketch, drop: float, *, front: bool) -> None:
    n, high = top.neck, top.chest * top.shape["hood_share"]
    outer = path(
        curve((n + 6, 10), (n * 1.55, -high * 0.25), (n * 1.6, -high * 0.62), (n * 1.05, -high * 0.88)),
        curve((n * 1.05, -high * 0.88), (n * 0.75, -high), (n * 0.3, -high * 1.02), (0, -high * 1.02)),
    )
    hood = polygon(path(both_sides(outer), both_sides(top.neckline(drop))[::-1]))
    sketch.cloth.insert(0, cloth("hood", hood))
    if not front:
        sketch.stitches.append(line((0, -high), (0, drop)))
        return
    opening = path(
        curve((0, drop - 6), (n * 0.55, drop - 12), (n * 0.92, drop * 0.2), (n * 0.98, -high * 0.3)),
        curve((n * 0.98, -high * 0.3), (n * 1.0, -high * 0.68), (n * 0.6, -high * 0.84), (0, -high * 0.84)),
    )
    hole = mirrored_polygon(opening)
    sketch.cloth.insert(1, cloth("inside", hole))
    sketch.stitches.append(LineString(shapely.buffer(hole, 14).exterior.coords))


def _draw_pocket(top: _Cut, sketch: Sketch) -> None:
    half, high = top.measures["pocket_width"] / 2, top.measures["pocket_height"]
    bottom = top.length - top.rib
    outline = path(
        [(0, bottom), (half, bottom), (half, bottom - high * 0.34)],
        curve(
            (half, bottom - high * 0.34),
            (half * 0.95, bottom - high * 0.55),
            (half * 0.72, bottom - high * 0.9),
            (half * 0.64, bottom - high),
        ),
        [(0, bottom - high)],
    )
    shape = mirrored_polygon(outline)
    sketch.cloth.append(cloth("pocket", shape))
    sketch.stitches.append(LineString(shapely.buffer(shape, -6).exterior.coords))
    sketch.keep_outs.append(KeepOut("thick seam", as_region(shape), raised=True))
    sketch.references["pocket"] = (0.0, bottom - high)


def _draw_placket(top: _Cut, sketch: Sketch, drop: float) -> None:
    long = min(top.measures["placket"], top.length - drop - 12)
    wide = max(16.0, top.chest * 0.06)
    strip = box(wide, drop, drop + long)
    sketch.cloth.append(cloth("placket", strip))
    sketch.stitches.append(LineString(shapely.buffer(strip, -3, join_style="mitre").exterior.coords))
    count = max(2, round(long / 75) + 1)
    for k in range(count):
        y = drop + 14 + (long - 30) * k / max(1, count - 1)
        sketch.cloth.append(cloth("button", disc(0, y, 5.5 if top.chest > 380 else 4.0)))
    sketch.keep_outs.append(KeepOut("buttons", as_region(box(wide + 6, drop, drop + long))))
    sketch.references["placket"] = (0.0, drop + long)


def _draw_leaves(top: _Cut, sketch: Sketch, drop: float) -> None:
    n = top.neck
    for side in (1, -1):
        leaf = [
            (side * x, y)
            for x, y in path(
                curve((n * 0.86, -16), (n + 16, -2), (n + 20, 22), (n * 1.02, drop * 0.62)),
                [(n * 0.78, drop + n * 0.36), (3, drop - 2)],
                curve((3, drop - 2), (n * 0.4, drop * 0.8), (n * 0.66, drop * 0.3), (n * 0.86, -16)),
            )
        ]
        shape = polygon(leaf)
        sketch.cloth.append(cloth("collar", shape))
        sketch.keep_outs.append(KeepOut("thick seam", as_region(shape)))
    sketch.cloth.insert(
        1,
        cloth(
            "collar", mirrored_polygon(path(curve((0, -26), (n * 0.5, -26), (n * 0.8, -22), (n * 0.9, -12)), [(0, 2)]))
        ),
    )


def _draw_zip(top: _Cut, sketch: Sketch, drop: float) -> None:
    tape = box(16, drop - 4, top.length - 8)
    sketch.cloth += [cloth("zip", tape), cloth("metal", box(5, drop - 4, top.length - 8))]
    sketch.cloth.append(cloth("metal", polygon([(-5, drop + 2), (5, drop + 2), (4, drop + 26), (-4, drop + 26)])))
    sketch.stitches += [line((x, drop), (x, top.length - 8)) for x in (-13, 13)]
    sketch.keep_outs.append(KeepOut("zip", as_region(box(24, drop - 4, top.length))))


def _draw_snaps(top: _Cut, sketch: Sketch) -> None:
    for x in (-24, 0, 24):
        sketch.cloth.append(cloth("button", disc(x, top.length - 16, 5)))
    sketch.keep_outs.append(KeepOut("plastic", as_region(box(110, top.length - 34, top.length))))
    n = top.neck
    for side in (1, -1):
        overlap = [
            (side * x, y) for x, y in curve((n, 0), (n + 8, 20), (n + 26, 36), (top.shoulder[0], top.armpit[1] * 0.5))
        ]
        sketch.stitches.append(LineString(overlap))


def _draw_cords(top: _Cut, sketch: Sketch, drop: float) -> None:
    out, hang = top.neck * 0.3, top.chest * 0.3
    for side in (1, -1):
        cord = curve(
            (side * out, drop + 4),
            (side * out * 1.1, drop + hang * 0.4),
            (side * (out + 10), drop + hang * 0.7),
            (side * out, drop + hang),
        )
        sketch.cloth.append(cloth("cord", LineString(cord).buffer(3.0)))
        sketch.cloth.append(cloth("metal", disc(side * out, drop + 2, 5)))
        sketch.keep_outs.append(KeepOut("cords", as_region(disc(side * out, drop + 4, 12))))


def _tapes(top: _Cut) -> list[Tape]:
    (ax, ay), n = top.armpit, top.neck
    drop = top.measures["neck_drop"]
    tapes = [
        Tape("chest", (-ax, ay + 12), (ax, ay + 12)),
        Tape("length", (n, 0), (n, top.length), (34, 0)),
        Tape("neck_width", (-n, 0), (n, 0), (0, -20)),
        Tape("neck_drop", (0, 0), (0, drop)),
    ]
    if "sleeve" in top.measures:
        tapes.append(Tape("sleeve", (-top.shoulder[0], top.shoulder[1]), (-top.cuff[0][0], top.cuff[0][1])))
    if "waist" in top.measures:
        y = ay + (top.length - 8 - ay) / 2
        tapes.append(Tape("waist", (-top.measures["waist"] / 2, y), (top.measures["waist"] / 2, y)))
    if "pocket_width" in top.measures:
        half, bottom, high = top.measures["pocket_width"] / 2, top.length - top.rib, top.measures["pocket_height"]
        tapes.append(Tape("pocket_width", (-half, bottom), (half, bottom), (0, 20)))
        tapes.append(Tape("pocket_height", (0, bottom - high), (0, bottom)))
    if "placket" in top.measures:
        tapes.append(Tape("placket", (0, drop), (0, drop + top.measures["placket"]), (-44, 0)))
    return tapes


def _sleeve(top: _Cut, side: str) -> Sketch:
    """Return a sleeve, its middle line upward; x = 0 is that line, y = 0 the shoulder seam."""
    long, hem = top.measures["sleeve"], top.opening / 2
    upper = max(hem * 1.05, (top.armpit[1] - top.shoulder[1]) * 0.52)
    rise = min(long * 0.45, upper * 0.9)
    cap = curve((0, 0), (upper * 0.5, 0), (upper * 0.8, rise * 0.6), (upper, rise))
    half = path(cap, [(hem, long), (0, long)])
    shape = mirrored_polygon(half)
    fold = top.rib or top.chest * top.shape["hem_share"]
    edge = [LineString([(s * upper, rise), (s * hem, long)]) for s in (1, -1)]
    end = long - top.rib
    sketch = Sketch(
        id=f"{side}-sleeve",
        name=f"{side.capitalize()} sleeve",
        region=polygon_of(cut(shape, box(4 * upper, end, long + 10))) if top.rib else shape,
        cloth=[cloth("cloth", shape)],
        references={"hem": (0.0, end), "shoulder": (0.0, 0.0)},
        seams={
            "armhole": [LineString(both_sides(cap[::-1]))],
            "seam": edge,
            "hem_fold": [line((-hem, end), (hem, end))],
        },
        marks=((-hem, end), (hem, end)),
        mark_name="end of the sleeve's hem",
    )
    seam = lines_of(shapely.intersection(line((-upper, long - fold), (upper, long - fold)), shape))
    sketch.stitches += seam
    if top.rib:
        sketch.cloth.append(cloth("rib", polygon_of(cut(shape, box(4 * upper, -10, end)))))
        sketch.lines += ribs(polygon_of(sketch.cloth[-1].region), top.chest / 45)
    return sketch


def _pocket_panel(top: _Cut) -> Sketch:
    """Return the pocket by itself; y = 0 is its upper seam."""
    half, high = top.measures["pocket_width"] / 2, top.measures["pocket_height"]
    outline = path(
        [(0, 0), (half * 0.64, 0)],
        curve((half * 0.64, 0), (half * 0.72, high * 0.1), (half * 0.95, high * 0.45), (half, high * 0.66)),
        [(half, high), (0, high)],
    )
    shape = mirrored_polygon(outline)
    sketch = Sketch(
        id="pocket",
        name="Pocket",
        region=shape,
        cloth=[cloth("cloth", shape)],
        references={"pocket": (0.0, 0.0), "middle": (0.0, high / 2)},
        seams={"seam": [LineString(shape.exterior.coords)]},
        marks=((-half * 0.64, 0.0), (half * 0.64, 0.0)),
        mark_name="upper corner of the pocket",
    )
    sketch.stitches.append(LineString(shapely.buffer(shape, -6).exterior.coords))
    return sketch


def _hood_panel(top: _Cut) -> Sketch:
    """Return one side of the hood, its opening at the left; x = 0 is the middle of the side."""
    high = top.chest * top.shape["hood_share"]
    wide = high * 0.72
    shape = polygon(
        path(
            [(-wide / 2, high * 0.92), (-wide / 2, high * 0.2)],
            curve((-wide / 2, high * 0.2), (-wide / 2, 0), (-wide * 0.2, 0), (0, 0)),
            curve((0, 0), (wide * 0.42, 0), (wide / 2, high * 0.2), (wide / 2, high * 0.5)),
            curve((wide / 2, high * 0.5), (wide / 2, high * 0.75), (wide * 0.3, high * 0.95), (wide * 0.1, high)),
        )
    )
    sketch = Sketch(
        id="hood",
        name="Hood",
        region=shape,
        cloth=[cloth("cloth", shape)],
        references={"middle": (0.0, high * 0.5)},
        seams={"seam": [LineString(shape.exterior.coords)]},
        mark_name="edge of the hood",
    )
    sketch.stitches.append(line((-wide / 2 + 18, high * 0.9), (-wide / 2 + 18, high * 0.1)))
    return sketch
