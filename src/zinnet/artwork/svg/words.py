"""SVG ``text``: which letters stand where, in which font, before they are set as outlines."""

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from xml.etree.ElementTree import Element

from zinnet.artwork.lettering.fonts import find_font
from zinnet.artwork.svg.style import Style, length
from zinnet.artwork.svg.xml_guard import local_name

DEEPEST_SPANS = 40
SPACES = re.compile(r"\s+")


@dataclass(frozen=True)
class Run:
    """Letters in one style: what they are set in, and where the run begins, where it says so."""

    text: str
    font: str
    style_name: str | None
    size: float
    spacing: float
    x: float | None
    y: float | None
    dx: float
    dy: float
    anchor: str
    css: dict[str, str]
    substituted: str | None


def runs(
    element: Element, css: Style, styled: Callable[[Style, Element], dict[str, str]], depth: int = 0
) -> Iterator[Run]:
    """Yield the runs of a ``text`` element; ``styled`` gives a child's style from its parent's."""
    own = dict(css)
    yield from _run(element.text, element, own)
    for child in element:
        if local_name(child) in ("tspan", "a") and depth < DEEPEST_SPANS:
            yield from runs(child, styled(own, child), styled, depth + 1)
        if child.tail:
            yield from _run(child.tail, None, own)


def _run(text: str | None, placed_by: Element | None, css: dict[str, str]) -> Iterator[Run]:
    words = SPACES.sub(" ", text or "")
    if not words or (placed_by is not None and not words.strip() and placed_by.get("x") is None):
        return
    size = length(css.get("font-size"), default=16.0, font_size=16.0, percent_of=16.0)
    bold = css.get("font-weight", "normal") in ("bold", "bolder", "600", "700", "800", "900")
    slanted = css.get("font-style", "normal") in ("italic", "oblique")
    font, style_name, exact = find_font(css.get("font-family", ""), bold=bold, slanted=slanted)
    yield Run(
        text=words,
        font=font,
        style_name=style_name,
        size=size,
        spacing=length(css.get("letter-spacing"), font_size=size) / size if size > 0 else 0.0,
        x=_first(placed_by, "x", size),
        y=_first(placed_by, "y", size),
        dx=_first(placed_by, "dx", size) or 0.0,
        dy=_first(placed_by, "dy", size) or 0.0,
        anchor=css.get("text-anchor", "start"),
        css=css,
        substituted=None if exact else css.get("font-family", "").split(",")[0].strip("'\" ") or None,
    )


def _first(element: Element | None, name: str, size: float) -> float | None:
    """Return the first length of an attribute, where the element has it."""
    parts = (element.get(name) or "").replace(",", " ").split() if element is not None else []
    return length(parts[0], font_size=size) if parts else None
