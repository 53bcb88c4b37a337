"""Setting an SVG text: its runs one after another along their line, as outlines."""

from dataclasses import replace
from itertools import takewhile
from xml.etree.ElementTree import Element

from zinnet.artwork.lettering.fonts import font_family, missing_characters
from zinnet.artwork.lettering.text import shape_line
from zinnet.artwork.svg.context import Context, Walk
from zinnet.artwork.svg.style import inherit
from zinnet.artwork.svg.words import Run, runs
from zinnet.artwork.svg.xml_guard import local_name
from zinnet.geometry.transform import scale, shift


def set_text(walk: Walk, element: Element, context: Context | None) -> None:
    """Set a text in fonts that are here, run after run along its line."""
    if context is None or context.style["visibility"] != "visible":
        return
    if any(local_name(child) == "textPath" for child in element.iter()):
        walk.remarks["text"] += 1
        return
    walk.budget.count_points(sum(len(text) for text in element.itertext()))
    found = list(runs(element, context.style, lambda css, child: inherit(css, walk.sheets.declared(child))))
    if found:
        found[0] = replace(found[0], text=found[0].text.lstrip())
        found[-1] = replace(found[-1], text=found[-1].text.rstrip())
    x = y = 0.0
    for number, run in enumerate(found):
        if not run.text or run.size <= 0:
            continue
        walk.budget.count_points(len(run.text))
        glyphs = shape_line(run.text, run.font, run.style_name, run.spacing)
        walk.budget.count_points(sum(3 * len(subpath.cubics) for glyph in glyphs for subpath in glyph.subpaths))
        wide = sum(glyph.advance for glyph in glyphs) * run.size
        x = (x if run.x is None else run.x) + run.dx
        y = (y if run.y is None else run.y) + run.dy
        if number == 0 or run.x is not None:
            following = list(takewhile(lambda later: later.x is None, found[number + 1 :]))
            whole = wide + sum(_advance(later) + later.dx for later in following)
            x -= {"middle": whole / 2, "end": whole}.get(run.anchor, 0.0)
        _say_of_font(walk, run)
        within = replace(context, style=run.css)
        for glyph in glyphs:
            if glyph.subpaths:
                at = shift(x + glyph.x * run.size, y + glyph.y * run.size) @ scale(run.size)
                walk.paint(element, tuple(one.moved(at) for one in glyph.subpaths), within)
        x += wide


def _say_of_font(walk: Walk, run: Run) -> None:
    missing = missing_characters(run.text, run.font, run.style_name)
    if missing:
        walk.remarks["missing-glyph"] += len(missing)
        walk.said["missing-glyph"] = f"{font_family(run.font).name} has no “{' '.join(missing)}”"
    if run.substituted is not None:
        walk.remarks["mended"] += 1
        walk.said["mended"] = f"the font {run.substituted} is not here; set in {font_family(run.font).name}"


def _advance(run: Run) -> float:
    return sum(glyph.advance for glyph in shape_line(run.text, run.font, run.style_name, run.spacing)) * run.size
