"""Bags and aprons from their measures."""

from typing import Any

import numpy as np
import shapely
from shapely.geometry import LineString

from zinnet.blanks.model import KeepOut, Tape
from zinnet.blanks.outline import (
    Sketch,
    box,
    cloth,
    curve,
    cut,
    disc,
    edges_of,
    flipped,
    line,
    mirrored_polygon,
    path,
    polygon,
    rounded,
)
from zinnet.geometry.region import as_region

HANDLE_MM = 25.0


def draw_tote(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return front and back of a bag with two handles; y = 0 is its upper edge."""
    return [_tote_side(measures, "front"), _tote_side(measures, "back")]


def _tote_side(measures: dict[str, float], name: str) -> Sketch:
    width, height, gap, drop = (measures[key] for key in ("width", "height", "handle_gap", "handle"))
    half = width / 2
    bag = mirrored_polygon(
        path(
            [(0, 0), (half, 0)],
            curve((half, 0), (half + 2, height * 0.4), (half + 1, height * 0.8), (half - 3, height)),
            [(0, height)],
        )
    )
    inner, outer = gap / 2, gap / 2 + HANDLE_MM
    arch = path(
        [(outer, 0)],
        curve((outer, 0), (outer, -drop * 0.75), (outer * 0.75, -drop), (0, -drop)),
    )
    under = curve((inner, 0), (inner, -drop * 0.72), (inner * 0.7, -drop + HANDLE_MM), (0, -drop + HANDLE_MM))
    handle = cut(mirrored_polygon([*arch, (0, 0)]), mirrored_polygon([*under, (0, 0.01)]))
    patch_high = min(38.0, height * 0.15)
    patches = [box(HANDLE_MM, 0, patch_high, side * (gap + HANDLE_MM) / 2) for side in (1, -1)]
    sketch = Sketch(
        id=name,
        name=name.capitalize(),
        region=box(width - 6, 0, height),
        cloth=[cloth("strap", shapely.affinity.translate(handle, 0, -6)), cloth("cloth", bag), cloth("strap", handle)],
        references={"handles": (0.0, 0.0), "top": (0.0, 0.0), "middle": (0.0, height / 2), "bottom": (0.0, height)},
        seams={
            "side": [line((s * half, 0), (s * half, height)) for s in (1, -1)],
            "top": [line((-half, 0), (half, 0))],
            "bottom": [line((-half, height), (half, height))],
        },
        marks=((-inner, 0.0), (inner, 0.0)),
        mark_name="inner end of the handle seam",
    )
    sketch.stitches.append(line((-half, 24), (half, 24)))
    for patch in patches:
        sketch.cloth.append(cloth("strap", patch))
        left, top, right, bottom = shapely.buffer(patch, -3, join_style="mitre").bounds
        sketch.stitches += [
            line((left, top + 2), (right, bottom)),
            line((right, top + 2), (left, bottom)),
            *edges_of(shapely.box(left, top, right, bottom)),
        ]
        sketch.keep_outs.append(KeepOut("thick seam", as_region(patch)))
    if name == "front":
        sketch.tapes = [
            Tape("width", (-half, height * 0.72), (half, height * 0.72)),
            Tape("height", (half, 0), (half, height), (-38, 0)),
            Tape("handle_gap", (-inner, 0), (inner, 0), (0, -16)),
            Tape("handle", (0, -drop), (0, 0), (-96, 0)),
        ]
    return sketch


def draw_drawstring(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return the front of a bag that a cord closes; y = 0 is its upper edge."""
    width, height, casing = measures["width"], measures["height"], measures["casing"]
    half = width / 2
    bag = mirrored_polygon(
        path(
            curve((0, 3), (half * 0.4, 0), (half * 0.7, 4), (half, 0)),
            curve((half, 0), (half - 4, casing), (half, casing * 2), (half, height * 0.5)),
            [(half, height - 10)],
            curve((half, height - 10), (half, height), (half - 6, height), (half - 14, height)),
            [(0, height)],
        )
    )
    sketch = Sketch(
        id="front",
        name="Front",
        region=box(width - 8, casing, height),
        cloth=[],
        references={
            "casing": (0.0, casing),
            "top": (0.0, casing),
            "middle": (0.0, (casing + height) / 2),
            "bottom": (0.0, height),
        },
        seams={
            "side": [line((s * half, 0), (s * half, height)) for s in (1, -1)],
            "casing": [line((-half, casing), (half, casing))],
            "bottom": [line((-half, height), (half, height))],
        },
        marks=((-half + 4, casing), (half - 4, casing)),
        mark_name="end of the casing's seam",
    )
    for side in (1, -1):
        cord = curve(
            (side * half, casing / 2),
            (side * (half + 46), casing * 3),
            (side * (half + 30), height * 0.7),
            (side * (half - 12), height - 14),
        )
        sketch.cloth.append(cloth("cord", LineString(cord).buffer(3.5)))
        sketch.keep_outs.append(KeepOut("cords", as_region(disc(side * (half - 12), height - 14, 16))))
    sketch.cloth.append(cloth("cloth", bag))
    sketch.cloth += [cloth("metal", disc(side * (half - 12), height - 14, 7)) for side in (1, -1)]
    sketch.cloth += [cloth("inside", disc(side * (half - 12), height - 14, 3.5)) for side in (1, -1)]
    sketch.stitches.append(line((-half + 3, casing), (half - 3, casing)))
    sketch.lines += [
        line((x, 4), (x + (3 if k % 2 else -3), casing - 3))
        for k, x in enumerate(np.linspace(-half + 14, half - 14, 15))
    ]
    sketch.keep_outs.append(KeepOut("cords", as_region(box(width, 0, casing))))
    sketch.tapes = [
        Tape("width", (-half, height * 0.75), (half, height * 0.75)),
        Tape("height", (half, 0), (half, height), (-40, 0)),
        Tape("casing", (-half, 0), (-half, casing), (-16, 0)),
    ]
    return [sketch]


def draw_gift_bag(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return a bag whose name panel is what is pressed; y = 0 is the panel's upper border."""
    width, height, down = measures["width"], measures["height"], measures["panel_down"]
    panel_width, panel_height = measures["panel_width"], measures["panel_height"]
    half, top, bottom = width / 2, -down, height - down
    teeth = [(float(x), top - (7 if k % 2 else 0)) for k, x in enumerate(np.linspace(-half, half, 41))]
    bag = polygon([(-half, bottom), *teeth, (half, bottom)])
    panel = rounded(box(panel_width, 0, panel_height), min(5.0, panel_height / 6))
    border = shapely.buffer(panel, 6)
    grip = LineString(curve((-half * 0.35, top), (-half * 0.35, top - 75), (half * 0.35, top - 75), (half * 0.35, top)))
    sketch = Sketch(
        id="name-panel",
        name="Name panel",
        region=box(panel_width, 0, panel_height),
        cloth=[
            cloth("cord", grip.buffer(3.5)),
            cloth("cloth", bag),
            cloth("rib", border),
            cloth("panel", panel),
        ],
        references={"top": (0.0, 0.0), "middle": (0.0, panel_height / 2)},
        seams={"edge": edges_of(box(panel_width, 0, panel_height))},
        marks=((-panel_width / 2, 0.0), (panel_width / 2, 0.0)),
        mark_name="upper corner of the panel",
    )
    sketch.lines += [line((-half * 0.82, top), (-half * 0.82, bottom)), line((half * 0.82, top), (half * 0.82, bottom))]
    sketch.tapes = [
        Tape("width", (-half, bottom), (half, bottom), (0, -22)),
        Tape("height", (half, top), (half, bottom), (26, 0)),
        Tape("panel_width", (-panel_width / 2, panel_height), (panel_width / 2, panel_height), (0, 34)),
        Tape("panel_height", (-panel_width / 2, 0), (-panel_width / 2, panel_height), (-52, 0)),
        Tape("panel_down", (half * 0.5, top), (half * 0.5, 0)),
    ]
    return [sketch]


def draw_pouch(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return the front of a pouch with a zip; y = 0 is the zip's upper edge."""
    width, height, zip_height = measures["width"], measures["height"], measures["zip_height"]
    half = width / 2
    body = rounded(box(width, 0, height), 9)
    teeth = zip_height / 2
    sketch = Sketch(
        id="front",
        name="Front",
        region=box(width, zip_height, height),
        cloth=[
            cloth("cloth", body),
            cloth("zip", box(width - 10, teeth - 6, teeth + 6)),
            cloth("metal", box(width - 14, teeth - 2, teeth + 2)),
        ],
        references={"zip": (0.0, zip_height), "middle": (0.0, (zip_height + height) / 2)},
        seams={
            "edge": [line((-half, 0), (-half, height), (half, height), (half, 0))],
            "zip": [line((-half, zip_height), (half, zip_height))],
        },
        marks=((-half, zip_height), (half, zip_height)),
        mark_name="end of the seam under the zip",
    )
    pull = polygon(
        [
            (half - 26, teeth - 5),
            (half - 10, teeth - 5),
            (half + 6, teeth - 3),
            (half + 6, teeth + 3),
            (half - 10, teeth + 5),
            (half - 26, teeth + 5),
        ]
    )
    sketch.cloth.append(cloth("metal", pull))
    sketch.stitches += [line((-half + 3, zip_height), (half - 3, zip_height))]
    sketch.keep_outs.append(KeepOut("zip", as_region(box(width + 12, 0, zip_height))))
    sketch.tapes = [
        Tape("width", (-half, height * 0.8), (half, height * 0.8)),
        Tape("height", (half, 0), (half, height), (24, 0)),
        Tape("zip_height", (-half, 0), (-half, zip_height), (-24, 0)),
    ]
    return [sketch]


def draw_apron(measures: dict[str, float], shape: dict[str, Any], *, spec: object) -> list[Sketch]:
    """Return the front of an apron; y = 0 is the bib's upper edge."""
    width, length, bib, waist = (measures[key] for key in ("width", "length", "bib_width", "bib_height"))
    half, top = width / 2, bib / 2
    flare = curve((top, 4), (top + 6, waist * 0.6), (half - (half - top) * 0.45, waist * 0.95), (half, waist))
    side = path(flare, [(half, waist), (half - 4, length)])
    apron = mirrored_polygon(path([(0, 0), (top, 0)], side, [(0, length)]))
    strap = LineString(curve((top - 10, 4), (top + 10, -bib * 0.9), (-top - 10, -bib * 0.9), (-top + 10, 4))).buffer(9)
    sketch = Sketch(
        id="front",
        name="Front",
        region=apron,
        cloth=[cloth("strap", strap)],
        references={"bib": (0.0, 0.0), "waist": (0.0, waist), "hem": (0.0, length)},
        seams={"edge": edges_of(apron)},
        marks=((-top, 0.0), (top, 0.0)),
        mark_name="upper corner of the bib",
    )
    for s in (1, -1):
        tie = curve(
            (s * (half - 4), waist + 8),
            (s * (half + 60), waist + 6),
            (s * (half + 70), waist + 60),
            (s * (half + 54), waist + 150),
        )
        sketch.cloth.append(cloth("strap", LineString(tie).buffer(8)))
    sketch.cloth.append(cloth("cloth", apron))
    sketch.stitches += [LineString(side), LineString(flipped(side))]
    sketch.stitches = edges_of(shapely.buffer(apron, -10))
    pocket = box(width * 0.52, waist + length * 0.08, waist + length * 0.34)
    sketch.cloth.append(cloth("pocket", pocket))
    sketch.stitches += [
        *edges_of(shapely.buffer(pocket, -5, join_style="mitre")),
        line((0, pocket.bounds[1]), (0, pocket.bounds[3])),
    ]
    sketch.keep_outs.append(KeepOut("thick seam", as_region(pocket), raised=True))
    sketch.tapes = [
        Tape("width", (-half, length * 0.85), (half, length * 0.85)),
        Tape("length", (top, 0), (top, length), (26, 0)),
        Tape("bib_width", (-top, 0), (top, 0), (0, -18)),
        Tape("bib_height", (0, 0), (0, waist)),
    ]
    return [sketch]
