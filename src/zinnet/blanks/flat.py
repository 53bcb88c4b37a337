"""Flat cloth from its measures: blanket, mat, pillow cover, sash, stocking, jar strip, plain shapes, own outlines."""

from typing import Any

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from zinnet.base.errors import BlankError
from zinnet.blanks.model import BlankSpec, KeepOut, Tape
from zinnet.blanks.outline import (
    Sketch,
    box,
    cloth,
    curve,
    disc,
    edges_of,
    line,
    path,
    polygon,
    rounded,
    seen_of_round,
)
from zinnet.geometry.region import as_region


def draw_cloth(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return a rectangle of cloth; (0, 0) is the middle of its upper edge."""
    width, height = measures["width"], measures["height"]
    binding = min(shape.get("binding_mm", 0.0), width / 6, height / 6)
    whole = box(width, 0, height)
    drawn = rounded(whole, min(10.0, width / 12, height / 12)) if binding else whole
    sketch = Sketch(
        id="front",
        name="Front",
        region=whole,
        cloth=[cloth("rib" if binding else "cloth", drawn)],
        references={"top": (0.0, 0.0), "middle": (0.0, height / 2)},
        seams={"edge": edges_of(whole)},
        marks=((-width / 2, 0.0), (width / 2, 0.0)),
    )
    if binding:
        inner = shapely.buffer(whole, -binding, join_style="mitre")
        sketch.cloth.append(cloth("cloth", inner))
        sketch.stitches += edges_of(shapely.buffer(whole, -binding * 0.75, join_style="mitre"))
    sketch.tapes = _box_tapes(width, height)
    return [sketch]


def _box_tapes(width: float, height: float) -> list[Tape]:
    return [
        Tape("width", (-width / 2, height), (width / 2, height), (0, 20)),
        Tape("height", (width / 2, 0), (width / 2, height), (22, 0)),
    ]


def draw_pillow(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return the front of a pillow cover, a zip in its lower seam."""
    width, height = measures["width"], measures["height"]
    half = width / 2
    bow = width * 0.012
    right = path(curve((half, 0), (half - bow, height * 0.25), (half - bow, height * 0.75), (half, height)))
    drawn = polygon(
        path(
            [(-half, 0)],
            curve((-half, 0), (-half * 0.5, bow), (half * 0.5, bow), (half, 0)),
            right,
            curve((half, height), (half * 0.5, height - bow), (-half * 0.5, height - bow), (-half, height)),
            [(-x, y) for x, y in right][::-1],
        )
    )
    sketch = Sketch(
        id="front",
        name="Front",
        region=drawn,
        cloth=[cloth("cloth", drawn), cloth("zip", box(width * 0.7, height - bow - 7, height - bow + 1))],
        references={"top": (0.0, 0.0), "middle": (0.0, height / 2)},
        seams={"edge": edges_of(drawn)},
        marks=((-half, 0.0), (half, 0.0)),
    )
    sketch.stitches += edges_of(shapely.buffer(drawn, -6))
    sketch.keep_outs.append(KeepOut("zip", as_region(box(width * 0.74, height - 18, height + 2))))
    sketch.tapes = _box_tapes(width, height)
    return [sketch]


def draw_sash(measures: dict[str, float], shape: dict[str, Any], *, spec: BlankSpec) -> list[Sketch]:
    """Return the part of a sash about the chest, lying straight as the viewer reads it; (0, 0) is its middle.

    Over the wearer's right shoulder it runs, for the viewer, from the upper left to the lower right: its left end
    is the shoulder's. Over the left shoulder the left end is the hip's. The joint is at the hip.
    """
    width, visible, around = measures["width"], measures["visible"], measures["around"]
    half, long = width / 2, min(around / 2, visible * 1.35)
    ribbon = shapely.box(-long / 2, -half, long / 2, half)
    sketch = Sketch(
        id="chest",
        name="Chest",
        region=ribbon,
        cloth=[cloth("satin", ribbon)],
        references={"middle": (0.0, 0.0)},
        seams={"edge": [line((-long / 2, s * half), (long / 2, s * half)) for s in (1, -1)]},
        marks=((-visible / 2, -half), (visible / 2, -half)),
        mark_name="upper edge where the sash bends away",
        visible_mm=visible,
    )
    sketch.stitches += [line((-long / 2, s * (half - 4)), (long / 2, s * (half - 4))) for s in (1, -1)]
    sketch.lines += [line((s * visible / 2, -half), (s * visible / 2, half)) for s in (1, -1)]
    right = spec.shoulder == "right"
    sketch.ends = (
        ("over the right shoulder", "hip, with the joint")
        if right
        else ("hip, with the joint", "over the left shoulder")
    )
    sketch.tapes = [
        Tape("width", (long / 2, -half), (long / 2, half), (-30, 0)),
        Tape("visible", (-visible / 2, half), (visible / 2, half), (0, 26)),
        Tape("around", (-long / 2, -half), (long / 2, -half), (0, -26)),
    ]
    return [sketch]


def draw_stocking(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return a stocking's cuff and its leg, the toe to the right; y = 0 is the upper edge."""
    width, length, cuff_height, foot = (measures[key] for key in ("width", "length", "cuff_height", "foot"))
    half = width / 2
    leg = polygon(
        path(
            [(-half, 0), (half, 0), (half, length * 0.62)],
            curve(
                (half, length * 0.62),
                (half, length * 0.76),
                (half + 10, length * 0.78),
                (foot - half - width * 0.3, length * 0.84),
            ),
            curve(
                (foot - half - width * 0.3, length * 0.84),
                (foot - half + 8, length * 0.86),
                (foot - half + 8, length * 1.14),
                (foot - half - width * 0.35, length * 1.15),
            ),
            curve(
                (foot - half - width * 0.35, length * 1.15),
                (half * 0.4, length * 1.15),
                (-half * 1.02, length * 1.12),
                (-half * 1.02, length * 0.96),
            ),
            curve(
                (-half * 1.02, length * 0.96),
                (-half * 1.02, length * 0.8),
                (-half, length * 0.7),
                (-half, length * 0.6),
            ),
        )
    )
    band = rounded(box(width + 16, -4, cuff_height), 7)
    fur = bool(shape.get("fur"))
    parts = [
        cloth("cord", LineString(curve((-half, 4), (-half - 36, -10), (-half - 30, -52), (-half + 4, -6))).buffer(4)),
        cloth("cloth", leg),
    ]
    parts += [cloth("rib", _heel(half, length)), cloth("fur" if fur else "panel", band)]
    on_leg = Sketch(
        id="leg",
        name="Leg",
        region=box(width, cuff_height, length * 0.78),
        cloth=parts,
        references={"cuff": (0.0, cuff_height), "middle": (0.0, (cuff_height + length * 0.78) / 2)},
        seams={"edge": edges_of(box(width, cuff_height, length * 0.78))},
        marks=((-half, cuff_height), (half, cuff_height)),
        mark_name="end of the cuff's lower edge",
    )
    on_leg.stitches += edges_of(shapely.buffer(leg, -6))
    on_leg.keep_outs.append(KeepOut("fur" if fur else "thick seam", as_region(band)))
    on_leg.tapes = [
        Tape("width", (-half, cuff_height), (half, cuff_height), (0, 34)),
        Tape("length", (-half, 0), (-half, length), (-30, 0)),
        Tape("cuff_height", (half + 8, 0), (half + 8, cuff_height), (22, 0)),
        Tape("foot", (-half, length * 1.15), (foot - half, length * 1.15), (0, 18)),
    ]
    if fur:
        return [on_leg]
    on_cuff = Sketch(
        id="cuff",
        name="Cuff",
        region=box(width + 10, 0, cuff_height),
        cloth=parts,
        references={"middle": (0.0, cuff_height / 2), "top": (0.0, 0.0)},
        seams={"edge": edges_of(box(width + 10, 0, cuff_height))},
        stitches=on_leg.stitches,
        marks=((-half - 5, 0.0), (half + 5, 0.0)),
        mark_name="upper corner of the cuff",
        tapes=on_leg.tapes,
    )
    return [on_cuff, on_leg]


def _heel(half: float, length: float) -> Polygon:
    return polygon(
        curve(
            (-half * 1.02, length * 0.84),
            (-half * 0.1, length * 0.9),
            (-half * 0.1, length * 1.06),
            (-half * 0.62, length * 1.126),
        )
        + curve(
            (-half * 0.62, length * 1.126),
            (-half * 0.95, length * 1.1),
            (-half * 1.02, length * 1.02),
            (-half * 1.02, length * 0.84),
        )
    )


def draw_jar_strip(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return a strip rolled out, the overlap of its joint at both ends; (0, 0) is the middle of its upper edge."""
    around, height, overlap = measures["around"], measures["height"], measures["overlap"]
    long = around + overlap
    half = long / 2
    strip = box(long, 0, height)
    sketch = Sketch(
        id="band",
        name="Rolled out",
        region=box(around - overlap, 0, height),
        cloth=[cloth("cloth", strip)],
        references={"top": (0.0, 0.0), "middle": (0.0, height / 2)},
        seams={"edge": [line((-half, y), (half, y)) for y in (0.0, height)]},
        marks=((-half, 0.0), (half, 0.0)),
        mark_name="end of the strip",
        is_round=True,
        visible_mm=around * seen_of_round(),
        round_mm=around,
        ends=("joint", "joint"),
    )
    sketch.stitches += [line((-half, y), (half, y)) for y in (5.0, height - 5.0)]
    for s in (1, -1):
        if overlap > 0:
            lap = box(overlap, 0, height, s * (half - overlap / 2))
            sketch.cloth.append(cloth("rib", lap))
            sketch.keep_outs.append(KeepOut("thick seam", as_region(lap)))
    sketch.tapes = [
        Tape("around", (-half + overlap / 2, height), (half - overlap / 2, height), (0, 24)),
        Tape("height", (half, 0), (half, height), (22, 0)),
        Tape("overlap", (-half, 0), (-half + overlap, 0), (0, -22)),
    ]
    return [sketch]


def draw_round(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return a disc; (0, 0) is its middle."""
    radius = measures["diameter"] / 2
    shape_ = disc(0, 0, radius)
    sketch = Sketch(
        id="front",
        name="Front",
        region=shape_,
        cloth=[cloth("cloth", shape_)],
        references={"middle": (0.0, 0.0)},
        seams={"edge": edges_of(shape_)},
        marks=((-radius, 0.0), (radius, 0.0)),
        mark_name="edge at half height",
    )
    sketch.tapes = [Tape("diameter", (-radius, 0), (radius, 0))]
    return [sketch]


def draw_own(measures: dict[str, float], shape: dict[str, Any], *, spec: BlankSpec) -> list[Sketch]:
    """Return the user's own outline, scaled to the width that was measured; (0, 0) is the middle of its box."""
    if spec.outline is None:
        (square,) = draw_cloth({"width": measures["width"], "height": measures["width"]}, shape, spec=spec)
        square.tapes = square.tapes[:1]
        return [square]
    region = shapely.Polygon()
    for ring in spec.outline.rings:
        region = shapely.symmetric_difference(region, shapely.make_valid(Polygon(np.array(ring))))
    region = as_region(region)
    if region.is_empty:
        raise BlankError(f"The outline {spec.outline.name} holds no area; bring closed lines.")
    left, top, right, bottom = region.bounds
    factor = measures["width"] / (right - left)
    region = shapely.affinity.translate(region, -(left + right) / 2, -(top + bottom) / 2)
    region = shapely.affinity.scale(region, factor, factor, origin=(0, 0))
    left, top, right, bottom = region.bounds
    sketch = Sketch(
        id="front",
        name="Front",
        region=region,
        cloth=[cloth("cloth", region)],
        references={"middle": (0.0, 0.0), "top": (0.0, top)},
        seams={"edge": edges_of(region)},
        marks=((left, top), (right, top)),
        mark_name="upper corner of its box",
    )
    sketch.tapes = [Tape("width", (left, bottom), (right, bottom), (0, 22))]
    return [sketch]
