"""The smaller panels of a garment for the upper body, each lying by itself: sleeves, pocket, hood."""

import shapely
from shapely.geometry import LineString

from zinnet.blanks.outline import (
    Sketch,
    both_sides,
    box,
    cloth,
    curve,
    cut,
    line,
    lines_of,
    mirrored_polygon,
    path,
    polygon,
    ribs,
)
from zinnet.blanks.top_cut import Cut, largest


def sleeve_panel(top: Cut, side: str) -> Sketch:
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
        region=largest(cut(shape, box(4 * upper, end, long + 10))) if top.rib else shape,
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
        sketch.cloth.append(cloth("rib", largest(cut(shape, box(4 * upper, -10, end)))))
        sketch.lines += ribs(largest(sketch.cloth[-1].region), top.chest / 45)
    return sketch


def pocket_panel(top: Cut) -> Sketch:
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


def hood_panel(top: Cut) -> Sketch:
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
