"""SVG styling: presentation attributes, ``style`` attributes, style sheets, colours and lengths."""

import re
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from typing import Any
from xml.etree.ElementTree import Element

import cssselect2
import tinycss2
import tinycss2.color4

from zinnet.artwork.svg.bounds import is_bounded

INHERITED = {
    "fill": "black",
    "fill-rule": "nonzero",
    "fill-opacity": "1",
    "stroke": "none",
    "stroke-width": "1",
    "stroke-linecap": "butt",
    "stroke-linejoin": "miter",
    "stroke-miterlimit": "4",
    "stroke-opacity": "1",
    "stroke-dasharray": "none",
    "stroke-dashoffset": "0",
    "clip-rule": "nonzero",
    "color": "black",
    "visibility": "visible",
    "font-size": "16",
    "font-family": "",
    "font-weight": "normal",
    "font-style": "normal",
    "letter-spacing": "0",
    "text-anchor": "start",
    "paint-order": "normal",
    "marker-start": "none",
    "marker-mid": "none",
    "marker-end": "none",
}
OWN = (
    "display",
    "opacity",
    "stop-color",
    "stop-opacity",
    "clip-path",
    "mask",
    "filter",
    "transform",
    "overflow",
    "mask-type",
    "vector-effect",
)
MOST_LOOKS, MOST_STEPS = 5_000_000, 12
KNOWN = {*INHERITED, *OWN, "marker"}
PX_PER_UNIT = {
    "": 1.0,
    "px": 1.0,
    "in": 96.0,
    "cm": 96 / 2.54,
    "mm": 96 / 25.4,
    "q": 96 / 101.6,
    "pt": 96 / 72,
    "pc": 16.0,
}
LENGTH = re.compile(
    r"\s*+([+-]?+(?:\d++\.?+\d*+|\.\d++)(?:e[+-]?+\d++)?+)\s*+(px|in|cm|mm|q|pt|pc|em|ex|rem|%)?+\s*+", re.I
)

Style = Mapping[str, str]


class _Reach:
    """How many elements the rules of a file look through: one for each that they may apply to, and its ancestors.

    A selector with k steps down from ancestors looks through up to depth^k of them for each element.
    """

    def __init__(self, root: Element) -> None:
        self._left = MOST_LOOKS
        self._depths: Counter[int] = Counter()
        level, depth = [root], 1
        while level:
            self._depths[depth] += len(level)
            level, depth = [child for element in level for child in element], depth + 1

    def allows(self, prelude: Sequence[Any]) -> bool:
        """Tell whether a rule may be looked up as well."""
        commas = sum(token == "," for token in prelude)
        steps = min(MOST_STEPS, sum(token.type == "whitespace" or token == "~" for token in prelude))
        self._left -= (commas + 1) * sum(count * depth**steps for depth, count in self._depths.items())
        return self._left >= 0


class StyleSheets:
    """The rules of a file's ``style`` elements, matched against its elements."""

    def __init__(self, root: Element) -> None:
        self._matcher = cssselect2.Matcher()
        self.left_out = 0
        self._own: dict[Element, dict[str, str]] = {}
        self._important: dict[Element, dict[str, str]] = {}
        self.means: dict[tuple[Element, str, str], Any] = {}
        """The mean colours of patterns by what they depend on, each worked out once."""
        text = "\n".join(
            element.text or "" for element in root.iter() if str(element.tag).rpartition("}")[2] == "style"
        )
        if not text.strip():
            return
        reach = _Reach(root)
        for rule in tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True):
            if rule.type != "qualified-rule":
                continue
            if not reach.allows(rule.prelude):
                self.left_out += 1
                continue
            try:
                selectors = cssselect2.compile_selector_list(rule.prelude)
            except cssselect2.SelectorError:
                continue
            text = tinycss2.serialize(rule.content)
            both = declarations(text, important=False), declarations(text, important=True)
            for selector in selectors:
                self._matcher.add_selector(selector, both)
        wrapped = cssselect2.ElementWrapper.from_xml_root(root)
        for element in wrapped.iter_subtree():
            for *_, (plain, important) in sorted(self._matcher.match(element), key=lambda match: match[:2]):
                if plain:
                    self._own.setdefault(element.etree_element, {}).update(plain)
                if important:
                    self._important.setdefault(element.etree_element, {}).update(important)

    def declared(self, element: Element) -> dict[str, str]:
        """Return what attributes, sheets and the ``style`` attribute say of one element, later over earlier.

        What is marked ``!important`` comes last (CSS Cascade 4, 6.4).
        """
        found = {name: value for name, value in element.attrib.items() if name in KNOWN}
        found.update(self._own.get(element, {}))
        own = element.attrib.get("style", "")
        found.update(declarations(own, important=False))
        found.update(self._important.get(element, {}))
        found.update(declarations(own, important=True))
        return found


def declarations(text: str, *, important: bool) -> dict[str, str]:
    """Return the known properties that CSS declarations set: those marked ``!important``, or the others."""
    found: dict[str, str] = {}
    if not text:
        return found
    for item in tinycss2.parse_blocks_contents(text, skip_comments=True, skip_whitespace=True):
        if item.type == "declaration" and item.lower_name in KNOWN and bool(item.important) == important:
            found[item.lower_name] = tinycss2.serialize(item.value).strip()
    return found


def inherit(parent: Style, declared: Style) -> dict[str, str]:
    """Return an element's style from its parent's and its own declarations."""
    style = {name: parent[name] for name in INHERITED}
    if "marker" in declared:
        style.update(dict.fromkeys(("marker-start", "marker-mid", "marker-end"), declared["marker"].strip()))
    for name, value in declared.items():
        if value == "inherit":
            style[name] = parent.get(name, "")
        else:
            style[name] = value.strip()
    return style


def colour(text: str, current: str = "black") -> tuple[str, float] | None:
    """Return (``#rrggbb``, opacity) for a CSS colour, or None where it isn't one.

    What lies beyond sRGB is brought into it as CSS Color 4 asks: by less chroma in Oklch.
    """
    wanted = current if text.strip().lower() == "currentcolor" else text
    try:
        parsed: Any = tinycss2.color4.parse_color(wanted)
        if parsed is None or isinstance(parsed, str):
            return None
        coordinates, alpha = parsed.to("srgb").coordinates, parsed.alpha
    except NotImplementedError:
        return _wide_colour(wanted)
    except (ValueError, OverflowError, RecursionError):
        return None  # a number too long or too large to be a colour's
    return _as_hex(coordinates), float(alpha)


def _wide_colour(text: str) -> tuple[str, float] | None:
    """Return a colour of a space that only the second library converts."""
    from coloraide import Color

    try:
        found = Color(text).convert("srgb").fit(method="oklch-chroma")
    except (ValueError, OverflowError, ZeroDivisionError):
        return None
    alpha = found.alpha(nans=False)
    return _as_hex(found.coords(nans=False)), float(alpha)


def _as_hex(channels: Iterable[float | None]) -> str:
    return "#" + "".join(f"{round(255 * min(1.0, max(0.0, channel or 0.0))):02x}" for channel in channels)


def length(text: str | None, *, percent_of: float = 0.0, font_size: float = 16.0, default: float = 0.0) -> float:
    """Return a length in user units (px); ``default`` where it is missing or can't be read."""
    match = LENGTH.fullmatch(text or "")
    if match is None:
        return default
    number, unit = float(match[1]), (match[2] or "").lower()
    if not is_bounded(number):
        return default
    if unit == "%":
        return number / 100 * percent_of
    if unit in ("em", "rem"):
        return number * font_size
    if unit == "ex":
        return number * font_size / 2
    return number * PX_PER_UNIT[unit]


def fraction(text: str | None, default: float = 1.0) -> float:
    """Return a number from 0 to 1, also where it is written in percent."""
    value = length(text, percent_of=1.0, default=default)
    return min(1.0, max(0.0, value))
