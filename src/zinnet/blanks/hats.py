"""Hats from their measures: cap, bucket hat, beanie."""

import math
from typing import Any

import numpy as np
import shapely
from shapely.geometry import LineString

from zinnet.blanks.model import Arc, Point, Tape
from zinnet.blanks.outline import (
    Sketch,
    both_sides,
    box,
    cloth,
    curve,
    cut,
    disc,
    edges_of,
    flipped,
    line,
    lines_of,
    mirrored_polygon,
    path,
    polygon,
    ribs,
    rounded,
)
from zinnet.data.limits import limits


def arc_of(width_mm: float, rise_mm: float) -> Arc:
    """Return the circle through both ends of a chord, rising ``rise_mm`` above it in the middle, which is (0, 0).

    With half the chord c and the rise s its radius is (c^2 + s^2) / 2s: the sagitta theorem
    (Euclid, Elements III.35).
    """
    half = width_mm / 2
    radius = (half * half + rise_mm * rise_mm) / (2 * rise_mm)
    return Arc((0.0, radius), radius)


def points_on(arc: Arc, first_deg: float, last_deg: float, count: int = 60) -> list[Point]:
    """Return points of an arc; degrees go clockwise from straight up."""
    angles = np.radians(np.linspace(first_deg, last_deg, count))
    (x, y), r = arc.centre, arc.radius
    return [(float(x + r * math.sin(a)), float(y - r * math.cos(a))) for a in angles]


def draw_cap(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return front and sides of a cap. On the front (0, 0) is the middle of the brim seam."""
    width, rise, height, brim = (measures[key] for key in ("brim_width", "brim_rise", "height", "brim"))
    half = width / 2
    arc = arc_of(width, rise)
    reach = math.degrees(math.asin(min(1.0, half / arc.radius)))
    if rise > half:
        reach = 180 - reach
    seam = points_on(arc, 0, reach)
    seam[0], seam[-1] = (0.0, 0.0), (half, rise)
    side = curve((half, rise), (half * 1.04, -height * 0.5), (half * 0.72, -height), (0, -height))
    crown = mirrored_polygon(path(seam, side))
    edge = curve((half + 4, rise - 2), (half * 1.08, rise + brim * 0.6), (half * 0.66, brim), (0, brim))
    visor = mirrored_polygon(path(seam, [(half + 4, rise - 2)], edge))
    panel_edge = curve(
        (half * 0.86, rise * 0.8), (half * 0.84, -height * 0.4), (half * 0.5, -height * 0.85), (0, -height)
    )
    front = Sketch(
        id="front",
        name="Front",
        region=crown,
        cloth=[cloth("rib", disc(0, -height - 1, 5)), cloth("cloth", crown), cloth("brim", visor)],
        references={"brim": (0.0, 0.0), "top": (0.0, -height)},
        seams={"brim": [LineString(both_sides(seam[::-1]))], "crown": [LineString(both_sides(side))]},
        marks=((-half, rise), (half, rise)),
        mark_name="corner of the brim",
        arc=arc,
        is_round=True,
        visible_mm=width * float(limits()["seen"]["cap_share"]),
    )
    front.lines += [LineString(panel_edge), LineString(flipped(panel_edge))]
    for share in (0.15, 0.32, 0.49, 0.66, 0.83):
        front.stitches.append(LineString(both_sides(_between(edge, seam[::-1], share))))
    front.tapes = [
        Tape("brim_width", (-half, rise), (half, rise), (0, 0)),
        Tape("brim_rise", (half * 0.5, 0), (half * 0.5, rise)),
        Tape("height", (0, -height), (0, 0)),
        Tape("brim", (0, 0), (0, brim), (-70, 0)),
    ]
    return [front, _cap_side("left", width, height), _cap_side("right", width, height)]


def _between(outer: list[Point], inner: list[Point], share: float) -> list[Point]:
    """Return the line that lies a share of the way from the inner to the outer one; both end on the centre line."""
    steps = np.linspace(0, 1, 40)
    lines = [LineString(line).interpolate(steps, normalized=True) for line in (outer, inner)]
    far, near = (shapely.get_coordinates(points) for points in lines)
    return [(float(x), float(y)) for x, y in near + (far - near) * share]


def _cap_side(name: str, width: float, height: float) -> Sketch:
    """Return one side of the crown; y = 0 is its lower edge, the brim at the front."""
    half = width * 0.42
    sign = 1 if name == "left" else -1
    dome = polygon(
        [
            (sign * x, y)
            for x, y in path(
                [(-half, 0)],
                curve((-half, 0), (-half * 1.1, -height * 0.6), (-half * 0.5, -height), (0, -height)),
                curve((0, -height), (half * 0.6, -height), (half * 1.1, -height * 0.55), (half, 0)),
            )
        ]
    )
    sketch = Sketch(
        id=f"{name}-side",
        name=f"{name.capitalize()} side",
        region=dome,
        cloth=[cloth("cloth", dome)],
        references={"edge": (0.0, 0.0), "middle": (0.0, -height * 0.4)},
        seams={"crown": edges_of(dome)},
        marks=((-half, 0.0), (half, 0.0)),
        mark_name="end of the lower edge",
    )
    sketch.stitches.append(line((-half + 2, -8), (half - 2, -8)))
    sketch.cloth.append(cloth("inside", disc(0, -height * 0.72, 3.2)))
    return sketch


def draw_bucket_hat(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return one side of a bucket hat; it has no front. (0, 0) is the middle of the brim seam."""
    width, height, brim = measures["crown_width"], measures["crown_height"], measures["brim"]
    half, top = width / 2, width * 0.43
    lid = 8.0 - height
    seam = curve((half, -4), (half * 0.7, 6), (half * 0.3, 8), (0, 8))
    crown = mirrored_polygon(
        path(
            [(0, lid)],
            curve((0, lid), (top * 0.4, lid), (top * 0.8, lid - 3), (top, lid - 3)),
            [(half, -4)],
            seam,
        )
    )
    cover = mirrored_polygon(
        path(
            curve((0, lid), (top * 0.4, lid), (top * 0.8, lid - 3), (top, lid - 3)),
            curve((top, lid - 3), (top * 0.8, lid - 20), (top * 0.4, lid - 22), (0, lid - 22)),
        )
    )
    wide = half + brim * 0.62
    flare = mirrored_polygon(
        path(
            seam[::-1],
            curve((half, -4), (half + brim * 0.3, brim * 0.3), (wide, brim * 0.55), (wide, brim * 0.62)),
            curve((wide, brim * 0.62), (wide * 0.7, brim * 1.08), (wide * 0.3, brim * 1.12), (0, brim * 1.12)),
        )
    )
    sketch = Sketch(
        id="side",
        name="Better side",
        region=crown,
        cloth=[cloth("rib", cover), cloth("cloth", crown), cloth("brim", flare)],
        references={"brim": (0.0, 8.0), "middle": (0.0, -height / 2 + 4)},
        seams={
            "seam": [LineString(both_sides(seam))],
            "edge": [line((s * top, lid - 3), (s * half, -4)) for s in (1, -1)],
            "lid": [LineString(both_sides(curve((top, lid - 3), (top * 0.8, lid - 3), (top * 0.4, lid), (0, lid))))],
        },
        marks=((-half, -4.0), (half, -4.0)),
        mark_name="end of the brim seam",
    )
    for k in range(1, 5):
        low = brim * 1.12 * k / 5
        ring = curve(
            (half + (wide - half) * k / 5, -4 + (brim * 0.62) * k / 5),
            (wide * 0.7, low + 6),
            (wide * 0.3, low + 8),
            (0, low + 8),
        )
        sketch.stitches += lines_of(shapely.intersection(LineString(both_sides(ring)), flare))
    sketch.cloth += [cloth("inside", disc(s * half * 0.86, -height * 0.55, 3.5)) for s in (1, -1)]
    sketch.tapes = [
        Tape("crown_width", (-half, -4), (half, -4), (0, 14)),
        Tape("crown_height", (0, lid), (0, 8)),
        Tape("brim", (half * 0.5, 6), (half * 0.5, 6 + brim)),
    ]
    return [sketch]


def draw_beanie(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return the cuff of a beanie, and the part above it; y = 0 is the cuff's lower edge."""
    width, height, cuff = measures["width"], measures["height"], measures["cuff"]
    half = width / 2
    top = curve((half - 5, -cuff + 4), (half * 1.02, -height * 0.72), (half * 0.7, -height), (0, -height))
    dome = mirrored_polygon(path([(0, -cuff + 4)], top))
    band = rounded(box(width, -cuff, 0), min(10.0, cuff / 4))
    parts = [cloth("cloth", dome), cloth("rib", band)]
    lines = [*ribs(dome, 9.0), *ribs(shapely.buffer(band, -1), 9.0)]
    marks = ((-half, 0.0), (half, 0.0))
    on_cuff = Sketch(
        id="cuff",
        name="Cuff",
        region=box(width, -cuff, 0),
        cloth=parts,
        references={"middle": (0.0, -cuff / 2), "edge": (0.0, 0.0)},
        seams={"edge": edges_of(box(width, -cuff, 0))},
        lines=lines,
        marks=marks,
        mark_name="lower corner of the cuff",
    )
    on_cuff.tapes = [
        Tape("width", (-half, 0), (half, 0), (0, 22)),
        Tape("height", (half, -height), (half, 0), (34, 0)),
        Tape("cuff", (-half, -cuff), (-half, 0), (-26, 0)),
    ]
    body = cut(dome, box(3 * width, -cuff, cuff))
    above = Sketch(
        id="body",
        name="Above the cuff",
        region=max(body.geoms, key=lambda part: part.area),
        cloth=parts,
        references={"middle": (0.0, -cuff - (height - cuff) * 0.4), "edge": (0.0, -cuff)},
        seams={"edge": edges_of(body)},
        lines=lines,
        marks=((-half, -cuff), (half, -cuff)),
        mark_name="upper corner of the cuff",
    )
    return [on_cuff, above]
