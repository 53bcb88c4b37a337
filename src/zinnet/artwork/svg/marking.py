"""Painting the markers of a shape, each in a viewport of its own."""

from dataclasses import replace
from xml.etree.ElementTree import Element

import numpy as np
import shapely

from zinnet.artwork.svg.context import Context, Walk
from zinnet.artwork.svg.markers import MOST_MARKERS, Vertex, vertices
from zinnet.artwork.svg.paint import reference_in
from zinnet.artwork.svg.style import INHERITED, inherit, length
from zinnet.artwork.svg.transform_list import fit_view_box, read_view_box
from zinnet.artwork.svg.xml_guard import local_name
from zinnet.geometry.curves import Subpath
from zinnet.geometry.region import as_region
from zinnet.geometry.transform import moved, scale, shift, turn

MARKERS = ("marker-start", "marker-mid", "marker-end")


def paint_markers(walk: Walk, subpaths: tuple[Subpath, ...], context: Context) -> None:
    """Paint the markers of a shape, each in a viewport of its own."""
    style = context.style
    named = {which: walk.ids.get(reference_in(style[which])) for which in MARKERS}
    if not any(marker is not None and local_name(marker) == "marker" for marker in named.values()):
        return
    thick = length(style["stroke-width"], default=1.0)
    for count, vertex in enumerate(vertices(subpaths)):
        marker = named[vertex.which]
        if marker is None or local_name(marker) != "marker" or marker.get("id", "") in context.inside_use:
            continue
        if count > MOST_MARKERS:
            walk.remarks["left-out"] += 1
            return
        _marker(walk, marker, vertex, thick, context)


def _marker(walk: Walk, marker: Element, vertex: Vertex, thick: float, context: Context) -> None:
    orient = marker.get("orient", "0")
    angle = vertex.angle_deg if orient.startswith("auto") else length(orient.removesuffix("deg"))
    if orient == "auto-start-reverse" and vertex.which == "marker-start":
        angle += 180
    size = 1.0 if marker.get("markerUnits") == "userSpaceOnUse" else thick
    wide, high = length(marker.get("markerWidth"), default=3.0), length(marker.get("markerHeight"), default=3.0)
    if wide <= 0 or high <= 0 or size <= 0:
        return
    box = read_view_box(marker.get("viewBox")) or (0.0, 0.0, wide, high)
    fitted = fit_view_box(box, wide, high, marker.get("preserveAspectRatio"))
    reference_point = fitted @ np.array([length(marker.get("refX")), length(marker.get("refY")), 1.0])
    at = context.matrix @ shift(vertex.x, vertex.y) @ turn(angle) @ scale(size)
    at = at @ shift(-float(reference_point[0]), -float(reference_point[1]))
    style = inherit(INHERITED, walk.sheets.declared(marker))
    clips = context.clips
    if style.get("overflow", "hidden") not in ("visible", "auto"):
        clips = (*clips, as_region(moved(shapely.box(0, 0, wide, high), at)))
    within = replace(
        context,
        matrix=at @ fitted,
        style=style,
        clips=clips,
        width=box[2],
        height=box[3],
        depth=context.depth + 1,
        inside_use=(*context.inside_use, marker.get("id", "")),
    )
    for child in marker:
        walk.visit(child, within)
