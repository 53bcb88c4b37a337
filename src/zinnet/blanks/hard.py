"""Hard things from their measures: canvas, plate, pan, board, tumbler and mug."""

import math
from typing import Any

import numpy as np
import shapely
from shapely.geometry import Polygon

from zinnet.blanks.model import Arc, KeepOut, Point, Tape
from zinnet.blanks.outline import (
    Sketch,
    box,
    cloth,
    disc,
    edges_of,
    line,
    polygon,
    rounded,
    seen_of_round,
)
from zinnet.geometry.region import as_region


def draw_canvas(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return a framed canvas seen from behind: what is seen of the cloth inside its bars; y = 0 is the outer edge."""
    width, height, bar = measures["width"], measures["height"], measures["bar"]
    half = width / 2
    opening = shapely.box(-half + bar, bar, half - bar, height - bar)
    frame = box(width, 0, height)
    sketch = Sketch(
        id="opening",
        name="Inside the bars",
        region=opening,
        cloth=[cloth("wood", rounded(frame, 2)), cloth("cloth", opening)],
        references={"middle": (0.0, height / 2), "top": (0.0, bar)},
        marks=((-half + bar, bar), (half - bar, bar)),
        mark_name="inner corner of the bars",
    )
    corners = [(-half, 0.0), (half, 0.0), (half, height), (-half, height)]
    inner = [(-half + bar, bar), (half - bar, bar), (half - bar, height - bar), (-half + bar, height - bar)]
    sketch.lines += [line(a, b) for a, b in zip(corners, inner, strict=True)]
    for k in np.linspace(0.12, 0.88, 7):
        x = -half + width * k
        sketch.cloth += [cloth("metal", box(9, y, y + 2, x)) for y in (bar * 0.35, height - bar * 0.35)]
    sketch.tapes = [
        Tape("width", (-half, height), (half, height), (0, 22)),
        Tape("height", (half, 0), (half, height), (24, 0)),
        Tape("bar", (-half, height * 0.5), (-half + bar, height * 0.5)),
    ]
    return [sketch]


def draw_plate(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return a plate or pan; (0, 0) is its middle. One of glass is pressed from below and seen through."""
    bottom, rim = measures["bottom"] / 2, measures["rim"] / 2
    glass = bool(shape.get("glass"))
    flat = disc(0, 0, bottom)
    parts = [cloth("glass" if glass else "metal-rim", disc(0, 0, rim)), cloth("glass-flat" if glass else "cloth", flat)]
    rings = edges_of(disc(0, 0, (bottom + rim) / 2)) + edges_of(disc(0, 0, max(bottom + 2, rim - 4)))
    tapes = [
        Tape("bottom", (-bottom, 0), (bottom, 0)),
        Tape("rim", (-rim, rim), (rim, rim), (0, 18)),
    ]
    marks = ((-bottom, 0.0), (bottom, 0.0))

    def side(panel: str, name: str, *, through: bool, food: bool) -> Sketch:
        return Sketch(
            id=panel,
            name=name,
            region=flat,
            cloth=parts,
            references={"middle": (0.0, 0.0)},
            seams={"edge": edges_of(flat)},
            lines=rings,
            marks=marks,
            mark_name="edge of the flat bottom, at half height",
            tapes=tapes,
            seen="through-glass" if through else "front",
            touched=as_region(disc(0, 0, rim)) if food else None,
        )

    if not glass:
        return [side("front", "Front", through=False, food=False)]
    return [
        side("underside", "Underside, seen through the glass", through=True, food=False),
        side("upper-side", "Upper side", through=False, food=True),
    ]


def draw_board(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return a frame with an inset; (0, 0) is the middle of the inset."""
    width, height = measures["width"], measures["height"]
    inset_width, inset_height = measures["inset_width"], measures["inset_height"]
    inset = shapely.box(-inset_width / 2, -inset_height / 2, inset_width / 2, inset_height / 2)
    frame = rounded(shapely.box(-width / 2, -height / 2, width / 2, height / 2), 4)
    sketch = Sketch(
        id="inset",
        name="Inset",
        region=inset,
        cloth=[
            cloth("wood", frame),
            cloth("inside", shapely.buffer(inset, 1.5, join_style="mitre")),
            cloth("cloth", inset),
        ],
        references={"middle": (0.0, 0.0)},
        marks=((-inset_width / 2, -inset_height / 2), (inset_width / 2, -inset_height / 2)),
        mark_name="upper corner of the inset",
    )
    sketch.tapes = [
        Tape("width", (-width / 2, height / 2), (width / 2, height / 2), (0, 22)),
        Tape("height", (width / 2, -height / 2), (width / 2, height / 2), (24, 0)),
        Tape("inset_width", (-inset_width / 2, inset_height * 0.3), (inset_width / 2, inset_height * 0.3)),
        Tape("inset_height", (-inset_width * 0.22, -inset_height / 2), (-inset_width * 0.22, inset_height / 2)),
    ]
    return [sketch]


def rolled_out(top_mm: float, bottom_mm: float, height_mm: float) -> tuple[Polygon, Arc | None]:
    """Return a cup's wall rolled out flat, and the circle of its rim where the wall tapers.

    (0, 0) is the middle of the rim. A frustum's wall is a sector of a ring: with the slant height s (the wall is
    measured along itself) the radii are s D / (D - d) and s d / (D - d), and both arcs are as long as their
    circles. Source: any geometry handbook, development of a conical frustum.
    """
    if abs(top_mm - bottom_mm) < 1e-6:
        return box(math.pi * top_mm, 0, height_mm), None
    wide, narrow = max(top_mm, bottom_mm), min(top_mm, bottom_mm)
    outer = height_mm * wide / (wide - narrow)
    inner = outer - height_mm
    half = math.pi * wide / outer / 2
    angles = np.linspace(-half, half, 161)
    upward = top_mm > bottom_mm

    def ring(radius: float) -> list[Point]:
        if upward:
            return [(radius * math.sin(a), outer - radius * math.cos(a)) for a in angles]
        return [(radius * math.sin(a), radius * math.cos(a) - inner) for a in angles]

    shape = polygon([*ring(outer), *ring(inner)[::-1]])
    return shape, Arc((0.0, outer), outer) if upward else Arc((0.0, -inner), -inner)


def draw_cup(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return the wall of a tumbler or mug rolled out; (0, 0) is the middle of the rim, opposite the handle."""
    top, bottom, height, handle = *(measures[key] for key in ("top", "bottom", "height")), measures.get("handle", 0.0)
    wall, arc = rolled_out(top, bottom, height)
    lips = shape["lips_mm"]
    band = _upper_band(wall, arc, lips)
    sketch = Sketch(
        id="wall",
        name="Wall, rolled out",
        region=wall,
        cloth=[cloth("cloth", wall), cloth("rib", band)],
        references={"rim": (0.0, 0.0), "middle": (0.0, (lips + height) / 2)},
        seams={"edge": edges_of(wall)},
        marks=(_rim_point(arc, -math.pi * top / 4), _rim_point(arc, math.pi * top / 4)),
        mark_name="rim, a quarter round",
        arc=arc,
        touched=band,
        is_round=True,
        visible_mm=math.pi * (top + bottom) / 2 * seen_of_round(),
        round_mm=None if handle > 0 else math.pi * top,
        ends=("back, the handle" if handle else "back", "back, the handle" if handle else "back"),
    )
    if handle > 0:
        for s in (1, -1):
            first, last = _rim_point(arc, s * math.pi * top / 2), _rim_point(arc, s * (math.pi * top / 2 - handle / 2))
            foot = [(x + (0 if arc is None else -x / arc.radius * height), y + height) for x, y in (first, last)]
            spot = shapely.intersection(polygon([first, last, foot[1], foot[0]]), wall)
            sketch.cloth.append(cloth("inside", spot))
            sketch.keep_outs.append(KeepOut("plastic", as_region(spot)))
    _, _, rx, ry = wall.bounds
    sketch.tapes = [
        Tape("top", (-top / 2, 0), (top / 2, 0), (0, -20)),
        Tape("bottom", (-bottom / 2, height), (bottom / 2, height), (0, 22)),
        Tape("height", (0, 0), (0, height), (0, 0)),
    ]
    if handle > 0:
        sketch.tapes.append(Tape("handle", (rx - handle / 2, ry * 0.75), (rx + handle / 2, ry * 0.75)))
    return [sketch]


def _rim_point(arc: Arc | None, along: float) -> Point:
    """Return the point of the rim ``along`` mm from its middle."""
    if arc is None:
        return along, 0.0
    angle = along / arc.radius
    return arc.radius * math.sin(angle), arc.centre[1] - arc.radius * math.cos(angle)


def _upper_band(wall: Polygon, arc: Arc | None, depth: float) -> shapely.MultiPolygon:
    """Return the part of the wall within ``depth`` of the rim, which lips touch."""
    if arc is None:
        left, _, right, _ = wall.bounds
        return as_region(shapely.box(left, 0, right, depth))
    steps = 400
    if arc.radius > 0:
        keep = shapely.Point(arc.centre).buffer(arc.radius - depth, quad_segs=steps)
        return as_region(shapely.difference(wall, keep))
    return as_region(shapely.intersection(wall, shapely.Point(arc.centre).buffer(-arc.radius + depth, quad_segs=steps)))
