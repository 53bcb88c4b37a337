"""Outlines of one's own for a blank, read from SVG or DXF into rings in mm."""

import io
import math
from pathlib import PurePath

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.artwork.painted import paint_artwork, rough_extent
from zinnet.artwork.svg import read_svg
from zinnet.blanks.model import OwnOutline
from zinnet.errors import BlankError, ZinnetError
from zinnet.geometry.region import Region, as_region, rings_of, union

FLATNESS_MM = 0.05
JOIN_MM = 0.1
MOST_BYTES = 10_000_000
MOST_ENTITIES = 20_000
MOST_POINTS = 20_000
LEAST_MM2 = 25.0
UNIT_MM = {0: 1.0, 1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0}
"""DXF's $INSUNITS: none, inches, feet, mm, cm, m (DXF reference, HEADER section)."""


def read_outline(name: str, data: bytes) -> OwnOutline:
    """Return the outline that a file draws, the upper left of its box at (0, 0), y down.

    Raises :class:`BlankError` where it holds no closed outline.
    """
    if len(data) > MOST_BYTES:
        raise BlankError(f"{name} has {len(data) / 1e6:.0f} MB; an outline has at most {MOST_BYTES / 1e6:.0f}.")
    ending = PurePath(name).suffix.lower()
    try:
        region = _from_dxf(name, data) if ending == ".dxf" else _from_svg(name, data)
    except BlankError:
        raise
    except ZinnetError as error:
        raise BlankError(str(error)) from None
    if region.area < LEAST_MM2:
        raise BlankError(f"{name} holds no closed outline of any size; draw the blank's edge as one closed line.")
    region = as_region(shapely.simplify(region, FLATNESS_MM))
    if shapely.get_num_coordinates(region) > MOST_POINTS:
        raise BlankError(f"{name} has an outline of more than {MOST_POINTS} points; simplify it.")
    left, top, _, _ = region.bounds
    rings = tuple(tuple((round(x - left, 4), round(y - top, 4)) for x, y in ring) for ring in rings_of(region))
    return OwnOutline(name=name, rings=rings)


def _from_svg(name: str, data: bytes) -> Region:
    artwork = read_svg(data, name)
    if not artwork.shapes:
        raise BlankError(f"{name} holds no shape; draw the blank's edge as one closed line.")
    mm = artwork.mm_per_unit or 1.0
    painted = paint_artwork(artwork, min(FLATNESS_MM / mm, rough_extent(artwork) / 1000))
    return as_region(shapely.transform(union(area.region for area in painted), lambda points: points * mm))


def _from_dxf(name: str, data: bytes) -> Region:
    import ezdxf.recover
    from ezdxf import path as dxf_path
    from ezdxf.lldxf.const import DXFError

    try:
        drawing, _ = ezdxf.recover.read(io.BytesIO(data))
    except (DXFError, OSError, ValueError, IndexError, KeyError, TypeError, AttributeError, RecursionError):
        raise BlankError(f"{name} is not a DXF that can be read; export it again, as DXF R2000 or later.") from None
    factor = UNIT_MM.get(int(drawing.header.get("$INSUNITS", 0)), 1.0)
    lines: list[NDArray[np.float64]] = []
    for count, entity in enumerate(drawing.modelspace()):
        if count > MOST_ENTITIES:
            raise BlankError(f"{name} has more than {MOST_ENTITIES} entities; keep the blank's edge only.")
        try:
            drawn = dxf_path.make_path(entity)
            points = np.array([(p.x, p.y) for p in drawn.flattening(FLATNESS_MM / factor)], dtype=np.float64)
        except (TypeError, ValueError, DXFError, ZeroDivisionError, ArithmeticError, AttributeError):
            continue
        if len(points) >= 2 and np.isfinite(points).all() and float(np.abs(points).max()) < 1e7:
            lines.append(points * (factor, -factor))
    return _areas_of(lines)


def _areas_of(lines: list[NDArray[np.float64]]) -> Region:
    """Return what closed lines, or lines whose ends meet, enclose by the even-odd rule."""
    rings = [line for line in lines if math.dist(line[0], line[-1]) <= JOIN_MM and len(line) >= 4]
    loose = [line for line in lines if not (math.dist(line[0], line[-1]) <= JOIN_MM and len(line) >= 4)]
    if loose:
        joined = shapely.union_all([shapely.LineString(np.round(line / JOIN_MM) * JOIN_MM) for line in loose])
        faces = shapely.get_parts(shapely.polygonize([shapely.node(joined)]))
        rings += [np.asarray(face.exterior.coords) for face in faces]
    region = shapely.Polygon()
    for ring in rings:
        region = shapely.symmetric_difference(region, shapely.make_valid(shapely.Polygon(ring)))
    return as_region(region)
