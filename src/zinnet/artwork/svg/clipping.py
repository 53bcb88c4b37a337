"""What clips and masks leave of an element, as areas."""

from dataclasses import replace
from xml.etree.ElementTree import Element

import shapely

from zinnet.artwork.model import Artwork
from zinnet.artwork.painted import paint_artwork, rough_extent
from zinnet.artwork.svg.bounds import is_bounded
from zinnet.artwork.svg.context import Context, Walk
from zinnet.artwork.svg.luminance import light_of, on_black
from zinnet.artwork.svg.paint import reference_in
from zinnet.artwork.svg.shapes import SHAPES, outline
from zinnet.artwork.svg.style import INHERITED, inherit, length
from zinnet.artwork.svg.transform_list import read_transform
from zinnet.artwork.svg.xml_guard import local_name, reference
from zinnet.artwork.visible import visible_patches
from zinnet.geometry.curves import flatten
from zinnet.geometry.region import EMPTY, FillRule, Region, common, fill, hull_box, union
from zinnet.geometry.transform import IDENTITY, Matrix, affine, moved, shift, stretch

DEEPEST = 150
FILL_WORK = 8
"""How much more work a point of an outline is that is filled than one that is only clipped."""


def mask_area(walk: Walk, mask: Element, element: Element, context: Context) -> Region:
    """Return the area that a mask leaves, in artwork units: where its light covers half or more (CSS Masking 1)."""
    matrix = context.matrix
    if mask.get("maskContentUnits") == "objectBoundingBox":
        matrix = matrix @ _box_matrix(element, context)
    kept, walk.shapes = walk.shapes, []
    style = inherit(INHERITED, walk.sheets.declared(mask))
    within = replace(context, matrix=matrix, style=style, clips=(), opacity=1.0, depth=context.depth + 1)
    for child in mask:
        walk.visit(child, within)
    shapes, walk.shapes = tuple(walk.shapes), kept
    alpha = style.get("mask-type") == "alpha"
    if not shapes:
        return EMPTY
    drawn = Artwork(shapes, None, None, ())
    patches = visible_patches(paint_artwork(on_black(drawn, alpha=alpha), rough_extent(drawn) / 20_000))
    lights = [(patch.region, light_of(patch.colour)) for patch in patches]
    walk.remarks["clipped"] += any(0.05 < light < 0.95 for _, light in lights)
    return union(region for region, light in lights if light >= 0.5)


def _box_matrix(element: Element, context: Context) -> Matrix:
    """Return the matrix from the unit square to the box of a shape, in the shape's units."""
    subpaths = outline(element, context.width, context.height)[0] if local_name(element) in SHAPES else ()
    if not subpaths:
        return IDENTITY
    left, top, right, bottom = hull_box([shapely.MultiPoint(s.cubics.reshape(-1, 2)) for s in subpaths])
    return affine(right - left, 0, 0, bottom - top, left, top)


def clip_area(
    walk: Walk, clip: Element, element: Element, context: Context, within: tuple[Element, ...] = ()
) -> Region:
    """Return the area that a ``clipPath`` leaves, in artwork units; what leads back to itself clips no more."""
    matrix = context.matrix @ read_transform(clip.get("transform"))
    if clip.get("clipPathUnits") == "objectBoundingBox":
        matrix = context.matrix @ _box_matrix(element, context) @ read_transform(clip.get("transform"))
    found = []
    for child in clip:
        target = walk.ids.get(reference(child), child) if local_name(child) == "use" else child
        if local_name(target) not in SHAPES:
            continue
        style = inherit(context.style, walk.sheets.declared(target))
        inner = matrix @ read_transform(child.get("transform"))
        if target is not child:
            inner = inner @ shift(length(child.get("x")), length(child.get("y")))
            inner = inner @ read_transform(target.get("transform"))
        tolerance = max(context.width, context.height, 1.0) / 200_000 / max(stretch(inner), 1e-9)
        subpaths = outline(target, context.width, context.height)[0]
        if not is_bounded(inner) or not all(is_bounded(s.moved(inner).cubics) for s in subpaths):
            continue
        walk.budget.count_points(sum(len(s.cubics) for s in subpaths))
        rings = [flatten(s, tolerance) for s in subpaths]
        walk.budget.count_work(FILL_WORK * sum(map(len, rings)))
        rule: FillRule = "evenodd" if style["clip-rule"] == "evenodd" else "nonzero"
        found.append(moved(fill(rings, rule), inner))
    region = union(found)
    nested = walk.ids.get(reference_in(clip.get("clip-path")))
    if nested is not None and nested not in (clip, *within) and local_name(nested) == "clipPath":
        region = common(region, clip_area(walk, nested, element, context, (*within, clip)))
    return region
