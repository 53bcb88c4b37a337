"""Reading SVG into artwork: the walk over the tree, with styles, transforms, ``use`` and clips."""

from collections import Counter
from dataclasses import replace
from itertools import islice
from xml.etree.ElementTree import Element

import numpy as np
import shapely

from zinnet.artwork.model import Artwork, Remark, RemarkCode, Shape, StrokeStyle
from zinnet.artwork.painted import is_open
from zinnet.artwork.svg.bounds import is_bounded
from zinnet.artwork.svg.budget import MOST_POINTS, Budget
from zinnet.artwork.svg.clipping import DEEPEST, clip_area, mask_area
from zinnet.artwork.svg.context import Context
from zinnet.artwork.svg.gradients import bands
from zinnet.artwork.svg.luminance import embedded_picture
from zinnet.artwork.svg.marking import paint_markers
from zinnet.artwork.svg.messages import MESSAGES
from zinnet.artwork.svg.paint import Painting, faded, read_paint, reference_in
from zinnet.artwork.svg.path_data import count_points
from zinnet.artwork.svg.shapes import SHAPES, outline
from zinnet.artwork.svg.style import INHERITED, LENGTH, PX_PER_UNIT, StyleSheets, fraction, inherit, length
from zinnet.artwork.svg.text_layout import set_text
from zinnet.artwork.svg.transform_list import fit_view_box, parse_transform, read_view_box
from zinnet.artwork.svg.xml_guard import local_name, parse_xml, reference
from zinnet.base.errors import ArtworkError
from zinnet.base.stages import stage
from zinnet.geometry.curves import Subpath
from zinnet.geometry.region import Region, as_region
from zinnet.geometry.transform import IDENTITY, moved, shift, stretch

MOST_ELEMENTS = 5_000
MOST_DASH_LENGTHS = 200
MOST_MASKS, DEEPEST_MASKS = 200, 8
LEAST_DETERMINANT = 1e-12
MM_PER_PX = 25.4 / 96
MARKED = {"path", "line", "polyline", "polygon"}
CONTAINERS = {"g", "a", "svg", "symbol", "switch"}
SILENT = {"defs", "style", "title", "desc", "metadata", "clipPath", "mask", "marker", "pattern", "filter"}
SILENT |= {"linearGradient", "radialGradient", "symbol", "script", "namedview", "sodipodi:namedview", ""}


@stage(most=64)
def read_svg(data: bytes, name: str = "The artwork", blend_colours: int = 1) -> Artwork:
    """Return the artwork of an SVG file in its viewBox units; a gradient becomes so many plain colours.

    Raises :class:`ArtworkError` where the file is broken, hostile, too large or holds nothing.
    """
    root = parse_xml(data, name)
    if local_name(root) != "svg":
        raise ArtworkError(f"{name} is not SVG: it begins with <{local_name(root)}>. Save it as SVG.")
    return Reader(root, name, blend_colours).read()


def direct_children(data: bytes, name: str) -> list[tuple[str | None, Artwork]]:
    """Return (id, artwork) for each direct child of the root that paints something."""
    root = parse_xml(data, name)
    if local_name(root) != "svg":
        raise ArtworkError(f"{name} is not SVG: it begins with <{local_name(root)}>. Save it as SVG.")
    reader = Reader(root, name)
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


class Reader:
    """One walk over one file."""

    def __init__(self, root: Element, name: str, blend_colours: int = 1) -> None:
        self.root, self.name, self.blend_colours = root, name, blend_colours
        self.elements = sum(1 for _ in islice(root.iter(), MOST_ELEMENTS + 1))
        self._refuse_too_many()
        self.elements = 0
        self.sheets = StyleSheets(root)
        self.ids = {element.get("id", ""): element for element in root.iter() if element.get("id")}
        self.remarks: Counter[RemarkCode] = Counter()
        self.said: dict[RemarkCode, str] = {}
        self.pictures: list[bytes] = []
        self.shapes: list[Shape] = []
        self.budget, self.masks = Budget(name), 0
        self._areas: dict[tuple[object, ...], Region] = {}
        self._clips_by_box = any(one.get("clipPathUnits") == "objectBoundingBox" for one in root.iter())
        self.view, self.mm_per_unit = self._page()

    def read(self, only: Element | None = None) -> Artwork:
        """Return the artwork of the whole file, or of one child of its root."""
        self.shapes, self.remarks, self.pictures = [], Counter({"left-out": self.sheets.left_out}), []
        style = inherit(INHERITED, self.sheets.declared(self.root))
        width, height = (self.view[2] - self.view[0], self.view[3] - self.view[1]) if self.view else (0.0, 0.0)
        opacity = fraction(style.get("opacity"))
        context = Context(IDENTITY, style, opacity, width, height)
        if style.get("display") != "none":
            for child in self.root if only is None else [only]:
                self.visit(child, context)
        if only is None and not self.shapes and not self.pictures:
            hint = " Its text must be turned into outlines first." if self.remarks["text"] else ""
            raise ArtworkError(f"{self.name} holds nothing to cut: no filled or stroked shape.{hint}")
        remarks = tuple(Remark(code, self.said.get(code, MESSAGES[code]), n) for code, n in self.remarks.items() if n)
        return Artwork(tuple(self.shapes), self.view, self.mm_per_unit, remarks, tuple(self.pictures))

    def _page(self) -> tuple[tuple[float, float, float, float] | None, float | None]:
        """Return the visible box in viewBox units and the mm per unit, where the file states them."""
        box_text, root = self.root.get("viewBox"), self.root
        box = read_view_box(box_text)
        width, height = (_page_side(root.get(side)) for side in ("width", "height"))
        if width == 0 or height == 0 or (box_text and box_text.strip() and box is None):
            raise ArtworkError(f"{self.name} has a page of no size; set its width, height and viewBox.")
        if box is None:
            view = (0.0, 0.0, width, height) if width > 0 and height > 0 else None
            per_unit = MM_PER_PX
        else:
            fitted_width = width if width > 0 else (height * box[2] / box[3] if height > 0 else box[2])
            fitted_height = height if height > 0 else fitted_width * box[3] / box[2]
            to_page = fit_view_box(box, fitted_width, fitted_height, root.get("preserveAspectRatio"))
            if not is_bounded(to_page) or not is_bounded(1 / np.diag(to_page)):
                raise ArtworkError(f"{self.name} has a page that is far too large or small; set its viewBox.")
            (left, top), (right, bottom) = (
                np.linalg.solve(to_page, (x, y, 1))[:2] for x, y in ((0, 0), (fitted_width, fitted_height))
            )
            view = (float(left), float(top), float(right), float(bottom))
            per_unit = MM_PER_PX * float(to_page[0, 0])
        self.px_per_unit = per_unit / MM_PER_PX
        match = LENGTH.fullmatch(root.get("width", ""))
        unit = (match[2] or "").lower() if match else ""
        physical = unit in PX_PER_UNIT and unit not in ("", "px")
        return view, per_unit if physical else None

    def visit(self, element: Element, context: Context) -> None:
        """Take in an element and all that it holds."""
        self.elements += 1
        self._refuse_too_many()
        if context.depth > DEEPEST:
            raise ArtworkError(f"{self.name} nests groups more than {DEEPEST} deep; ungroup it and save it again.")
        name = local_name(element)
        if name in SHAPES:
            self._shape(element, self.enter(element, context))
        elif name == "use":
            self._use(element, context)
        elif name in CONTAINERS and name != "symbol":
            self._container(element, context)
        elif name == "image":
            self.remarks["picture"] += 1
            self.pictures.append(embedded_picture(element))
        elif name == "text":
            set_text(self, element, self.enter(element, context))
        elif name not in SILENT and "}" not in str(element.tag).replace("{http://www.w3.org/2000/svg}", ""):
            self.remarks["left-out"] += 1

    def _refuse_too_many(self) -> None:
        if self.elements > MOST_ELEMENTS:
            raise ArtworkError(
                f"{self.name} holds more than {MOST_ELEMENTS} elements; simplify it or open a part of it."
            )

    def enter(self, element: Element, context: Context) -> Context | None:
        """Return what is inherited within an element, or None where it is not shown."""
        style = inherit(context.style, self.sheets.declared(element))
        if style.get("display") == "none":
            return None
        own = parse_transform(style.get("transform"))
        if own is None:
            self.remarks["mended"] += 1
            self.said["mended"] = f"the transform “{style['transform'][:60]}” can't be read; it was left out"
        matrix = context.matrix @ (IDENTITY if own is None else own)
        entered = replace(
            context,
            matrix=matrix,
            style=style,
            opacity=context.opacity * fraction(style.get("opacity")),
            depth=context.depth + 1,
        )
        if style.get("filter", "none") != "none":
            self.remarks["blend"] += 1
        mask = self.ids.get(reference_in(style.get("mask")))
        if mask is not None and local_name(mask) == "mask" and mask not in context.inside_masks:
            within = replace(entered, inside_masks=(*context.inside_masks, mask))
            entered = replace(entered, clips=(*entered.clips, self._masked(mask, element, within)))
        clip = self.ids.get(reference_in(style.get("clip-path")))
        if clip is not None and local_name(clip) == "clipPath":
            entered = replace(entered, clips=(*entered.clips, self._clipped(clip, element, entered)))
        return entered

    def _clipped(self, clip: Element, element: Element, context: Context) -> Region:
        """Return the area that a clip leaves; each is worked out once for a place and what it inherits."""
        key = (clip, element if self._clips_by_box else None, *context.place, context.style["clip-rule"])
        if key not in self._areas:
            self._areas[key] = clip_area(self, clip, element, context)
        return self._areas[key]

    def _masked(self, mask: Element, element: Element, context: Context) -> Region:
        """Return the area that a mask leaves; each is worked out once for a place."""
        of_box = element if mask.get("maskContentUnits") == "objectBoundingBox" else None
        key = (mask, of_box, *context.place)
        if key not in self._areas:
            self.masks += 1
            if self.masks > MOST_MASKS or len(context.inside_masks) > DEEPEST_MASKS:
                raise ArtworkError(f"{self.name} has more masks than can be worked out; simplify it and open it again.")
            self._areas[key] = mask_area(self, mask, element, context)
        return self._areas[key]

    def _container(self, element: Element, context: Context) -> None:
        entered = self.enter(element, context)
        if entered is None:
            return
        if local_name(element) == "svg":
            entered = self._viewport(element, entered, element.get("width"), element.get("height"))
        children = list(element)
        if local_name(element) == "switch":
            children = [child for child in children if _passes(child)][:1]
        for child in children:
            self.visit(child, entered)

    def _viewport(self, element: Element, context: Context, width_text: str | None, height_text: str | None) -> Context:
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

    def _use(self, element: Element, context: Context) -> None:
        target_id = reference(element)
        target = self.ids.get(target_id)
        entered = self.enter(element, context)
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
            self.visit(target, within)
            return
        inner = self.enter(target, within)
        if inner is None:
            return
        inner = self._viewport(
            target,
            inner,
            element.get("width", target.get("width")),
            element.get("height", target.get("height")),
        )
        for child in target:
            self.visit(child, inner)

    def _shape(self, element: Element, context: Context | None) -> None:
        if context is None or context.style["visibility"] != "visible":
            return
        self.budget.count_points(sum(count_points(element.get(name, ""), MOST_POINTS) for name in ("d", "points")))
        subpaths, whole = outline(element, context.width, context.height)
        if not whole:
            self.remarks["mended"] += 1
        if not subpaths or abs(np.linalg.det(context.matrix)) < LEAST_DETERMINANT:
            return
        self.paint(element, subpaths, context)
        if local_name(element) in MARKED:
            paint_markers(self, subpaths, context)

    def _is_drawable(self, subpaths: tuple[Subpath, ...], context: Context) -> bool:
        """Tell whether an outline lies where it can be worked with; count it, and what clips it."""
        if not is_bounded(context.matrix) or abs(np.linalg.det(context.matrix)) < LEAST_DETERMINANT:
            return False
        count = sum(len(subpath.cubics) for subpath in subpaths)
        self.budget.count_work(sum(count + shapely.get_num_coordinates(clip) for clip in context.clips))
        return all(is_bounded(subpath.moved(context.matrix).cubics) for subpath in subpaths)

    def paint(self, element: Element, subpaths: tuple[Subpath, ...], context: Context) -> None:
        """Add what the fill and the stroke of a shape paint, in the order that it asks for.

        What lies where nothing can be worked with is left out.
        """
        if not self._is_drawable(subpaths, context):
            self.remarks["left-out"] += 1
            return
        style = context.style
        filled = read_paint(
            style["fill"], style, context.opacity * fraction(style["fill-opacity"]), self.ids, self.sheets
        )
        if local_name(element) == "line":
            filled = Painting(None)
        stroke, stroke_blend = self._stroke(context)
        self.remarks["blend"] += filled.blend + stroke_blend
        if filled.paint is None and stroke is None:
            return
        if filled.paint is not None and stroke is None:
            self.remarks["open-outline"] += sum(map(is_open, subpaths))
        whole = Shape(
            name=element.get("id", ""),
            subpaths=subpaths,
            matrix=context.matrix,
            fill=filled.paint,
            fill_rule="evenodd" if style["fill-rule"] == "evenodd" else "nonzero",
            stroke=stroke,
            clips=context.clips,
        )
        fills = self._bands(whole, filled, context) if filled.blend and self.blend_colours > 1 else []
        stroke_first = style["paint-order"].split()[:1] == ["stroke"]
        if not fills and (stroke is None or not stroke_first):
            self.shapes.append(whole)
            return
        strokes = [replace(whole, fill=None)] if stroke is not None else []
        fills = fills or [replace(whole, stroke=None)]
        self.shapes += [*strokes, *fills] if stroke_first else [*fills, *strokes]

    def _bands(self, shape: Shape, filled: Painting, context: Context) -> list[Shape]:
        """Return a shape once for each band of its gradient; none where the gradient has no direction."""
        if filled.gradient is None:
            return []
        points = np.concatenate([subpath.cubics.reshape(-1, 2) for subpath in shape.subpaths])
        (left, top), (right, bottom) = points.min(axis=0).tolist(), points.max(axis=0).tolist()
        found = bands(filled.gradient, list(filled.stops), self.ids, (left, top, right, bottom), self.blend_colours)
        opacity = context.opacity * fraction(context.style["fill-opacity"])
        self.remarks["flattened"] += bool(found)
        self.remarks["blend"] -= bool(found)
        return [
            replace(
                shape,
                fill=faded(band.paint, opacity),
                stroke=None,
                clips=(*shape.clips, as_region(moved(band.area, shape.matrix))),
            )
            for band in found
        ]

    def _stroke(self, context: Context) -> tuple[StrokeStyle | None, bool]:
        style = context.style
        painting = read_paint(
            style["stroke"], style, context.opacity * fraction(style["stroke-opacity"]), self.ids, self.sheets
        )
        paint, blend = painting.paint, painting.blend
        diagonal = float(np.hypot(context.width, context.height) / np.sqrt(2))
        width = length(style["stroke-width"], percent_of=diagonal, default=1.0)
        if style.get("vector-effect") == "non-scaling-stroke":
            width /= max(stretch(context.matrix) * self.px_per_unit, 1e-9)
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


def _passes(element: Element) -> bool:
    """Tell whether a child of ``switch`` is one to show: no extension is needed, and its language is English."""
    if element.get("requiredExtensions") is not None or not isinstance(element.tag, str):
        return False
    languages = element.get("systemLanguage")
    return languages is None or any(one.strip().lower().split("-")[0] == "en" for one in languages.split(","))


def _page_side(text: str | None) -> float:
    """Return a side of the page in px; less than zero where only its viewBox says it, as for a share of a window."""
    return -1.0 if text is not None and text.strip().endswith("%") else length(text, default=-1)
