"""What is sewn on a garment for the upper body: collar, hood, pocket, placket, zip, snaps, cords."""

import shapely
from shapely.geometry import LineString

from zinnet.blanks.model import Cloth, KeepOut
from zinnet.blanks.outline import (
    Sketch,
    both_sides,
    box,
    cloth,
    curve,
    disc,
    line,
    mirrored_polygon,
    path,
    polygon,
)
from zinnet.blanks.top_cut import Cut
from zinnet.geometry.region import as_region


def inside_back(top: Cut, drop: float) -> Cloth:
    """Return the inside of the back, seen through the neck."""
    back = top.chest * top.shape["back_drop_share"]
    return cloth("inside", polygon(path(both_sides(top.neckline(drop)), both_sides(top.neckline(back))[::-1])))


def rib_collar(top: Cut, drop: float) -> Cloth:
    """Return the knitted band round the neck."""
    rib, n = top.chest * top.shape["collar_share"], top.neck
    if drop - rib < 4:
        inner = [(n - rib * 0.4, -rib * 0.55), (0, drop - rib)]
        inner = path(curve(inner[0], (n * 0.7, drop - rib), (n * 0.4, drop - rib), inner[1]))
    else:
        inner = curve(
            (n - rib * 0.7, -2), (n * 0.92 - rib * 0.8, (drop - rib) * 0.75), (n * 0.45, drop - rib), (0, drop - rib)
        )
    return cloth("rib", polygon([*both_sides(top.neckline(drop)), *both_sides(inner)[::-1]]))


def draw_hood(top: Cut, sketch: Sketch, drop: float, *, front: bool) -> None:
    """Draw the hood above the neck, open at the front."""
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


def draw_pocket(top: Cut, sketch: Sketch) -> None:
    """Draw the pocket of a hoodie."""
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


def draw_placket(top: Cut, sketch: Sketch, drop: float) -> None:
    """Draw the button strip."""
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


def draw_leaves(top: Cut, sketch: Sketch, drop: float) -> None:
    """Draw the leaves of a shirt's collar."""
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


def draw_zip(top: Cut, sketch: Sketch, drop: float) -> None:
    """Draw a zip down the front."""
    tape = box(16, drop - 4, top.length - 8)
    sketch.cloth += [cloth("zip", tape), cloth("metal", box(5, drop - 4, top.length - 8))]
    sketch.cloth.append(cloth("metal", polygon([(-5, drop + 2), (5, drop + 2), (4, drop + 26), (-4, drop + 26)])))
    sketch.stitches += [line((x, drop), (x, top.length - 8)) for x in (-13, 13)]
    sketch.keep_outs.append(KeepOut("zip", as_region(box(24, drop - 4, top.length))))


def draw_snaps(top: Cut, sketch: Sketch) -> None:
    """Draw the snaps between the legs, and the overlap at the shoulders."""
    for x in (-24, 0, 24):
        sketch.cloth.append(cloth("button", disc(x, top.length - 16, 5)))
    sketch.keep_outs.append(KeepOut("plastic", as_region(box(110, top.length - 34, top.length))))
    n = top.neck
    for side in (1, -1):
        overlap = [
            (side * x, y) for x, y in curve((n, 0), (n + 8, 20), (n + 26, 36), (top.shoulder[0], top.armpit[1] * 0.5))
        ]
        sketch.stitches.append(LineString(overlap))


def draw_cords(top: Cut, sketch: Sketch, drop: float) -> None:
    """Draw the cords of a hood."""
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
