"""Reading SVG into artwork: the walk over the tree, with styles, transforms, ``use`` and clips."""

from collections import Counter
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import islice
from xml.etree.ElementTree import Element

import numpy as np
import shapely

from zinnet.artwork.model import Artwork, Remark, RemarkCode, Shape, StrokeStyle
from zinnet.artwork.path_data import count_points
from zinnet.artwork.style import INHERITED, LENGTH, PX_PER_UNIT, StyleSheets, fraction, inherit, length
from zinnet.artwork.svg_paint import read_paint, reference_in
from zinnet.artwork.svg_shapes import SHAPES, outline
from zinnet.artwork.transform_list import fit_view_box, read_transform, read_view_box
from zinnet.artwork.xml_guard import local_name, parse_xml, reference
from zinnet.errors import ArtworkError
from zinnet.geometry.curves import Subpath, flatten
from zinnet.geometry.region import FillRule, Region, as_region, common, fill, hull_box, union
from zinnet.geometry.transform import IDENTITY, Matrix, moved, shift, stretch

MOST_ELEMENTS = 5_000
MOST_POINTS = 150_000
DEEPEST = 150
MOST_DASH_LENGTHS = 200
MM_PER_PX = 25.4 / 96
CONTAINERS = {"g", "a", "svg", "symbol", "switch"}
SILENT = {"defs", "style", "title", "desc", "metadata", "clipPath", "mask", "marker", "pattern", "filter"}
SILENT |= {"linearGradient", "radialGradient", "symbol", "script", "namedview", "sodipodi:namedview", ""}
MESSAGES: dict[RemarkCode, str] = {
    "picture": "a picture, which has no outline to cut; trace it",
    "text": "text that is not yet outlines; turn it into outlines in the program that made it",
    "blend": "a gradient, pattern or filter, shown as its mean colour",
    "open-outline": "an outline that does not close; it was filled as if closed",
    "clipped": "a mask, which was left out",
    "left-out": "an element that can't be cut and was left out",
    "mended": "an outline with an error in it, read up to the error",
}


@dataclass(frozen=True)
class _Context:
    """What an element inherits."""

    matrix: Matrix
    style: dict[str, str]
    opacity: float
    width: float
    height: float
    clips: tuple[Region, ...] = ()
    depth: int = 0
    inside_use: tuple[str, ...] = ()


@lru_cache(maxsize=64)
def read_svg(data: bytes, name: str = "The artwork") -> Artwork:
    """Return the artwork of an SVG file in its viewBox units.

    Raises :class:`ArtworkError` where the file is broken, hostile, too large or holds nothing.
    """
    root = parse_xml(data, name)
    if local_name(root) != "svg":
        raise ArtworkError(f"{name} is not SVG: it begins with <{local_name(root)}>. Save it as SVG.")
    return _Reader(root, name).read()


def direct_children(data: bytes, name: str) -> list[tuple[str | None, Artwork]]:
    """Return (id, artwork) for each direct child of the root that paints something."""
    root = parse_xml(data, name)
    if local_name(root) != "svg":
        raise ArtworkError(f"{name} is not SVG: it begins with <{local_name(root)}>. Save it as SVG.")
    reader = _Reader(root, name)
    found = []
    for child in root:
        if local_name(child) in SILENT:
            continue
        artwork = reader.read(only=child)
        if artwork.shapes:
            found.append((child.get("id"), artwork))
    if not found:
        raise ArtworkError(f"{name} holds no piece: its root has no child that paints a shape.")
    return found


class _Reader:
    """One walk over one file."""

    def __init__(self, root: Element, name: str) -> None:
        self.root, self.name = root, name
        self.elements = sum(1 for _ in islice(root.iter(), MOST_ELEMENTS + 1))
        self._refuse_too_many()
        self.elements = 0
        self.sheets = StyleSheets(root)
        self.ids = {element.get("id", ""): element for element in root.iter() if element.get("id")}
        self.remarks: Counter[RemarkCode] = Counter()
        self.shapes: list[Shape] = []
        self.points = 0
        self.view, self.mm_per_unit = self._page()

    def read(self, only: Element | None = None) -> Artwork:
        """Return the artwork of the whole file, or of one child of its root."""
        self.shapes, self.remarks = [], Counter()
        style = inherit(INHERITED, self.sheets.declared(self.root))
        width, height = (self.view[2] - self.view[0], self.view[3] - self.view[1]) if self.view else (0.0, 0.0)
        opacity = fraction(style.get("opacity"))
        context = _Context(IDENTITY, style, opacity, width, height)
        if style.get("display") != "none":
            for child in self.root if only is None else [only]:
                self._visit(child, context)
        pictures = self.remarks["picture"]
        if only is None and not self.shapes and not pictures:
            hint = " Its text must be turned into outlines first." if self.remarks["text"] else ""
            raise ArtworkError(f"{self.name} holds nothing to cut: no filled or stroked shape.{hint}")
        remarks = tuple(Remark(code, MESSAGES[code], n) for code, n in self.remarks.items() if n)
        return Artwork(tuple(self.shapes), self.view, self.mm_per_unit, remarks, pictures)

    def _page(self) -> tuple[tuple[float, float, float, float] | None, float | None]:
        """Return the visible box in viewBox units and the mm per unit, where the file states them."""
        box_text, root = self.root.get("viewBox"), self.root
        box = read_view_box(box_text)
        width, height = length(root.get("width"), default=-1), length(root.get("height"), default=-1)
        if width == 0 or height == 0 or (box_text and box_text.strip() and box is None):
            raise ArtworkError(f"{self.name} has a page of no size; set its width, height and viewBox.")
        if box is None:
            view = (0.0, 0.0, width, height) if width > 0 and height > 0 else None
            per_unit = MM_PER_PX
        else:
            fitted_width = width if width > 0 else (height * box[2] / box[3] if height > 0 else box[2])
            fitted_height = height if height > 0 else fitted_width * box[3] / box[2]
            to_page = fit_view_box(box, fitted_width, fitted_height, root.get("preserveAspectRatio"))
            (left, top), (right, bottom) = (
                np.linalg.solve(to_page, (x, y, 1))[:2] for x, y in ((0, 0), (fitted_width, fitted_height))
            )
            view = (float(left), float(top), float(right), float(bottom))
            per_unit = MM_PER_PX * float(to_page[0, 0])
        match = LENGTH.fullmatch(root.get("width", ""))
        unit = (match[2] or "").lower() if match else ""
        physical = unit in PX_PER_UNIT and unit not in ("", "px")
        return view, per_unit if physical else None

    def _visit(self, element: Element, context: _Context) -> None:
        self.elements += 1
        self._refuse_too_many()
        if context.depth > DEEPEST:
            raise ArtworkError(f"{self.name} nests groups more than {DEEPEST} deep; ungroup it and save it again.")
        name = local_name(element)
        if name in SHAPES:
            self._shape(element, self._enter(element, context))
        elif name == "use":
            self._use(element, context)
        elif name in CONTAINERS and name != "symbol":
            self._container(element, context)
        elif name == "image":
            self.remarks["picture"] += 1
        elif name == "text":
            self.remarks["text"] += 1
        elif name not in SILENT and "}" not in str(element.tag).replace("{http://www.w3.org/2000/svg}", ""):
            self.remarks["left-out"] += 1

    def _refuse_too_many(self) -> None:
        if self.elements > MOST_ELEMENTS:
            raise ArtworkError(
                f"{self.name} holds more than {MOST_ELEMENTS} elements; simplify it or open a part of it."
            )

    def _enter(self, element: Element, context: _Context) -> _Context | None:
        """Return what is inherited within an element, or None where it is not shown."""
        style = inherit(context.style, self.sheets.declared(element))
        if style.get("display") == "none":
            return None
        matrix = context.matrix @ read_transform(style.get("transform"))
        entered = replace(
            context,
            matrix=matrix,
            style=style,
            opacity=context.opacity * fraction(style.get("opacity")),
            depth=context.depth + 1,
        )
        if style.get("filter", "none") != "none":
            self.remarks["blend"] += 1
        if style.get("mask", "none") != "none":
            self.remarks["clipped"] += 1
        clip = self.ids.get(reference_in(style.get("clip-path")))
        if clip is not None and local_name(clip) == "clipPath":
            entered = replace(entered, clips=(*entered.clips, self._clip(clip, element, entered)))
        return entered

    def _container(self, element: Element, context: _Context) -> None:
        entered = self._enter(element, context)
        if entered is None:
            return
        if local_name(element) == "svg":
            entered = self._viewport(element, entered, element.get("width"), element.get("height"))
        children = list(element)
        if local_name(element) == "switch":
            children = children[:1]
        for child in children:
            self._visit(child, entered)

    def _viewport(
        self, element: Element, context: _Context, width_text: str | None, height_text: str | None
    ) -> _Context:
        """Return the context within a nested ``svg`` or ``symbol``: its viewBox, clipped to its viewport."""
        x = length(element.get("x"), percent_of=context.width)
        y = length(element.get("y"), percent_of=context.height)
        width = length(width_text, percent_of=context.width, default=context.width)
        height = length(height_text, percent_of=context.height, default=context.height)
        matrix = context.matrix @ shift(x, y)
        clips = context.clips
        if context.style.get("overflow", "hidden") not in ("visible", "auto") and width > 0 and height > 0:
            clips = (*clips, as_region(moved(shapely.box(0, 0, width, height), matrix)))
        box = read_view_box(element.get("viewBox"))
        if box is not None and width > 0 and height > 0:
            matrix = matrix @ fit_view_box(box, width, height, element.get("preserveAspectRatio"))
            width, height = box[2], box[3]
        return replace(context, matrix=matrix, clips=clips, width=width, height=height)

    def _use(self, element: Element, context: _Context) -> None:
        target_id = reference(element)
        target = self.ids.get(target_id)
        entered = self._enter(element, context)
        if entered is None:
            return
        if target is None or target_id in context.inside_use:
            self.remarks["left-out"] += 1
            return
        place = shift(
            length(element.get("x"), percent_of=context.width),
            length(element.get("y"), percent_of=context.height),
        )
        within = replace(entered, matrix=entered.matrix @ place, inside_use=(*context.inside_use, target_id))
        if local_name(target) not in ("symbol", "svg"):
            self._visit(target, within)
            return
        inner = self._enter(target, within)
        if inner is None:
            return
        inner = self._viewport(
            target,
            inner,
            element.get("width", target.get("width")),
            element.get("height", target.get("height")),
        )
        for child in target:
            self._visit(child, inner)

    def _shape(self, element: Element, context: _Context | None) -> None:
        if context is None or context.style["visibility"] != "visible":
            return
        self.points += sum(count_points(element.get(name, ""), MOST_POINTS) for name in ("d", "points"))
        if self.points > MOST_POINTS:
            raise ArtworkError(f"{self.name} has more than {MOST_POINTS} points; simplify its paths and open it again.")
        subpaths, whole = outline(element, context.width, context.height)
        if not whole:
            self.remarks["mended"] += 1
        if not subpaths or abs(np.linalg.det(context.matrix)) < 1e-12:
            return
        style = context.style
        fill_paint, fill_blend = read_paint(
            style["fill"], style, context.opacity * fraction(style["fill-opacity"]), self.ids, self.sheets
        )
        stroke, stroke_blend = self._stroke(context)
        self.remarks["blend"] += fill_blend + stroke_blend
        if local_name(element) == "line":
            fill_paint = None
        if fill_paint is None and stroke is None:
            return
        if fill_paint is not None and stroke is None:
            self.remarks["open-outline"] += sum(map(_is_open, subpaths))
        self.shapes.append(
            Shape(
                name=element.get("id", ""),
                subpaths=subpaths,
                matrix=context.matrix,
                fill=fill_paint,
                fill_rule="evenodd" if style["fill-rule"] == "evenodd" else "nonzero",
                stroke=stroke,
                clips=context.clips,
            )
        )

    def _stroke(self, context: _Context) -> tuple[StrokeStyle | None, bool]:
        style = context.style
        paint, blend = read_paint(
            style["stroke"], style, context.opacity * fraction(style["stroke-opacity"]), self.ids, self.sheets
        )
        diagonal = float(np.hypot(context.width, context.height) / np.sqrt(2))
        width = length(style["stroke-width"], percent_of=diagonal, default=1.0)
        if paint is None or width <= 0:
            return None, False
        dashes = self._dashes(style["stroke-dasharray"], diagonal)
        cap, join = style["stroke-linecap"], style["stroke-linejoin"]
        return StrokeStyle(
            paint,
            width,
            "round" if cap == "round" else "square" if cap == "square" else "butt",
            "round" if join == "round" else "bevel" if join == "bevel" else "miter",
            max(1.0, length(style["stroke-miterlimit"], default=4.0)),
            dashes,
            length(style["stroke-dashoffset"], percent_of=diagonal),
        ), blend

    def _dashes(self, text: str, diagonal: float) -> tuple[float, ...]:
        """Return the dash pattern; none where it is not one, has a length below zero, or is all gaps."""
        if text in ("none", ""):
            return ()
        parts = [part for part in text.replace(",", " ").split() if part]
        lengths = tuple(length(part, percent_of=diagonal, default=-1.0) for part in parts)
        if any(one < 0 for one in lengths):
            self.remarks["mended"] += 1
            return ()
        return lengths if sum(lengths) > 0 and len(lengths) <= MOST_DASH_LENGTHS else ()

    def _clip(self, clip: Element, element: Element, context: _Context) -> Region:
        """Return the area that a ``clipPath`` leaves, in artwork units."""
        matrix = context.matrix @ read_transform(clip.get("transform"))
        if clip.get("clipPathUnits") == "objectBoundingBox":
            subpaths = outline(element, context.width, context.height)[0] if local_name(element) in SHAPES else ()
            if subpaths:
                left, top, right, bottom = hull_box([shapely.MultiPoint(s.cubics.reshape(-1, 2)) for s in subpaths])
                matrix = matrix @ fit_view_box((0, 0, 1, 1), right - left, bottom - top, "none")
                matrix = context.matrix @ shift(left, top) @ np.linalg.solve(context.matrix, matrix)
        found = []
        for child in clip:
            target = self.ids.get(reference(child), child) if local_name(child) == "use" else child
            if local_name(target) not in SHAPES:
                continue
            style = inherit(context.style, self.sheets.declared(target))
            inner = matrix @ read_transform(child.get("transform"))
            if target is not child:
                inner = inner @ shift(length(child.get("x")), length(child.get("y")))
                inner = inner @ read_transform(target.get("transform"))
            tolerance = max(context.width, context.height, 1.0) / 200_000 / max(stretch(inner), 1e-9)
            rings = [flatten(s, tolerance) for s in outline(target, context.width, context.height)[0]]
            rule: FillRule = "evenodd" if style["clip-rule"] == "evenodd" else "nonzero"
            found.append(moved(fill(rings, rule), inner))
        region = union(found)
        nested = self.ids.get(reference_in(clip.get("clip-path")))
        if nested is not None and nested is not clip and local_name(nested) == "clipPath":
            region = common(region, self._clip(nested, element, context)) if context.depth < DEEPEST else region
        return region


def _is_open(subpath: Subpath) -> bool:
    cubics = subpath.cubics
    return not subpath.closed and len(cubics) > 1 and bool(np.abs(cubics[0, 0] - cubics[-1, 3]).max() > 1e-6)
