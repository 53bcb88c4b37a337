"""Garments for the upper body, from their measures: body, sleeves, collar or hood, pocket, placket, zip."""

from typing import Any

import numpy as np
import shapely
from shapely.geometry import LineString

from zinnet.blanks.model import Cloth, Tape
from zinnet.blanks.outline import (
    Sketch,
    both_sides,
    box,
    cloth,
    curve,
    cut,
    flipped,
    line,
    lines_of,
    mirrored_polygon,
    path,
    polygon,
    ribs,
)
from zinnet.blanks.top_cut import Cut, largest
from zinnet.blanks.top_details import (
    draw_cords,
    draw_hood,
    draw_leaves,
    draw_placket,
    draw_pocket,
    draw_snaps,
    draw_zip,
    inside_back,
    rib_collar,
)
from zinnet.blanks.top_panels import hood_panel, pocket_panel, sleeve_panel

MARK = "neck end of the shoulder seam"


def draw_top(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return the panels of a top: front, back, sleeves, and pocket and hood where it has them."""
    top = Cut(measures, shape)
    panels = [_front(top), _back(top)]
    if "sleeve" in measures:
        panels += [sleeve_panel(top, "right"), sleeve_panel(top, "left")]
    if shape.get("pocket"):
        panels.append(pocket_panel(top))
    if shape["collar"] == "hood":
        panels.append(hood_panel(top))
    return panels


def _body(top: Cut, panel: str, drop: float) -> Sketch:
    """Return front or back with what both have in common."""
    neckline = top.neckline(drop)
    half = path(neckline[::-1], [top.shoulder], top.armhole, top.side, top.hem)
    body = mirrored_polygon(half)
    region, stitches = body, []
    shoulder_seam = line((top.neck, 0), top.shoulder)
    if top.rib:
        band = top.length - top.rib
        region = largest(cut(body, box(4 * top.chest, band, 3 * top.length)))
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
        band_shape = largest(cut(body, box(4 * top.chest, -top.length, top.length - top.rib)))
        sketch.cloth.append(cloth("rib", band_shape))
        sketch.lines += ribs(band_shape, top.chest / 45)
    return sketch


def _sleeves(top: Cut, sketch: Sketch) -> list[Cloth]:
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


def _front(top: Cut) -> Sketch:
    drop = top.measures["neck_drop"]
    sketch = _body(top, "front", drop)
    collar = top.shape["collar"]
    if collar == "hood":
        draw_hood(top, sketch, drop, front=True)
    else:
        sketch.cloth.insert(0, inside_back(top, drop))
    if collar == "rib":
        sketch.cloth.append(rib_collar(top, drop))
    if top.shape.get("pocket"):
        draw_pocket(top, sketch)
    if "placket" in top.measures:
        draw_placket(top, sketch, drop)
    if collar == "leaves":
        draw_leaves(top, sketch, drop)
    if top.shape.get("zip"):
        draw_zip(top, sketch, drop)
    if top.shape.get("legs"):
        draw_snaps(top, sketch)
    if top.shape.get("cords"):
        draw_cords(top, sketch, drop)
    sketch.tapes = _tapes(top)
    return sketch


def _back(top: Cut) -> Sketch:
    drop = top.chest * top.shape["back_drop_share"]
    sketch = _body(top, "back", drop)
    if top.shape["collar"] == "hood":
        draw_hood(top, sketch, drop, front=False)
    elif top.shape["collar"] == "leaves":
        n = top.neck
        band = polygon(both_sides(curve((n + 10, 20), (n * 0.8, -18), (n * 0.4, -26), (0, -26))))
        sketch.cloth.append(cloth("rib", shapely.union(band, mirrored_polygon(path([(0, drop)], [(n, 0), (0, -20)])))))
    else:
        sketch.cloth.append(rib_collar(top, drop))
    return sketch


def _tapes(top: Cut) -> list[Tape]:
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
