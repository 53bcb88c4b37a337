"""SVG's ``transform`` lists and ``viewBox`` fitting, as matrices."""

import math
import re
from collections.abc import Mapping

from zinnet.artwork.svg.bounds import SMALLEST, is_bounded
from zinnet.artwork.svg.style import PX_PER_UNIT
from zinnet.geometry.transform import IDENTITY, Matrix, affine, scale, shift, turn

FUNCTION = re.compile(r"\s*+,?+\s*+([a-zA-Z]++)\s*+\(([^)]*)\)")
NUMBER = re.compile(r"[+-]?+(?:\d++\.?+\d*+|\.\d++)(?:[eE][+-]?+\d++)?+")
VALUE = re.compile(rf"\s*+,?+\s*+({NUMBER.pattern})\s*+([a-zA-Z%]*+)")
DEGREES_PER_UNIT = {"": 1.0, "deg": 1.0, "grad": 0.9, "rad": 180 / math.pi, "turn": 360.0}
"""Angles, CSS Values 4, 6.1."""
PLAIN = {"": 1.0}
KINDS: dict[str, tuple[Mapping[str, float], ...]] = {
    "matrix": (PLAIN, PLAIN, PLAIN, PLAIN, PX_PER_UNIT, PX_PER_UNIT),
    "translate": (PX_PER_UNIT, PX_PER_UNIT),
    "translateX": (PX_PER_UNIT,),
    "translateY": (PX_PER_UNIT,),
    "scale": (PLAIN, PLAIN),
    "scaleX": (PLAIN,),
    "scaleY": (PLAIN,),
    "rotate": (DEGREES_PER_UNIT, PX_PER_UNIT, PX_PER_UNIT),
    "skew": (DEGREES_PER_UNIT, DEGREES_PER_UNIT),
    "skewX": (DEGREES_PER_UNIT,),
    "skewY": (DEGREES_PER_UNIT,),
}
"""The functions of CSS Transforms 1, 9 and 10, and in which units each of their values may stand."""
ALIGN = {"Min": 0.0, "Mid": 0.5, "Max": 1.0}


def read_transform(text: str | None) -> Matrix:
    """Return the matrix of a ``transform`` list; an unreadable list is the identity, as SVG asks."""
    matrix = parse_transform(text)
    return IDENTITY if matrix is None else matrix


def parse_transform(text: str | None) -> Matrix | None:
    """Return the matrix of a ``transform`` list, or None where it can't be read.

    Parameters
    ----------
    text
        The list as it stands in the file, by CSS Transforms 1: lengths in px, mm, in ..., angles in deg, turn ...

    Returns
    -------
    A 3 x 3 matrix in user units (px), y down.

    Examples
    --------
    >>> parse_transform("translateX(1in) rotate(0.25turn)").round(9).tolist()
    [[0.0, -1.0, 96.0], [1.0, 0.0, 0.0], [0.0, 0.0, 1.0]]
    >>> parse_transform("translate(50%)") is None
    True
    """
    matrix, at = IDENTITY, 0
    text = text or ""
    if text.strip() in ("", "none"):
        return IDENTITY
    while match := FUNCTION.match(text, at):
        values = _values(match[1], match[2])
        one = _function(match[1], values) if values is not None else None
        if one is None or not is_bounded(one):
            return None
        matrix, at = matrix @ one, match.end()
    return None if text[at:].strip(" ,\t\r\n") or not is_bounded(matrix) else matrix


def _values(name: str, text: str) -> list[float] | None:
    """Return the values of a function in px and degrees, or None where one has a unit that it may not have."""
    kinds, at = KINDS.get(name, ()), 0
    found: list[float] = []
    while match := VALUE.match(text, at):
        if len(found) == len(kinds) or match[2].lower() not in kinds[len(found)]:
            return None
        found.append(float(match[1]) * kinds[len(found)][match[2].lower()])
        at = match.end()
    return None if text[at:].strip() or not is_bounded(found) else found


def _function(name: str, values: list[float]) -> Matrix | None:
    match name, values:
        case "matrix", [a, b, c, d, e, f]:
            return affine(a, b, c, d, e, f)
        case (("translate" | "translateX"), [x]):
            return shift(x, 0)
        case "translateY", [y]:
            return shift(0, y)
        case "translate", [x, y]:
            return shift(x, y)
        case "scale", [x]:
            return scale(x)
        case "scale", [x, y]:
            return scale(x, y)
        case "scaleX", [x]:
            return scale(x, 1)
        case "scaleY", [y]:
            return scale(1, y)
        case "rotate", [angle]:
            return turn(angle)
        case "rotate", [angle, x, y]:
            return shift(x, y) @ turn(angle) @ shift(-x, -y)
        case (("skew" | "skewX"), [across]):
            return _skew(across, 0.0)
        case "skewY", [down]:
            return _skew(0.0, down)
        case "skew", [across, down]:
            return _skew(across, down)
    return None


def _skew(across_deg: float, down_deg: float) -> Matrix:
    return affine(1, math.tan(math.radians(down_deg)), math.tan(math.radians(across_deg)), 1, 0, 0)


def read_view_box(text: str | None) -> tuple[float, float, float, float] | None:
    """Return (x, y, width, height) of a ``viewBox``, or None where it is missing or not usable."""
    numbers = [float(number) for number in NUMBER.findall(text or "")]
    if len(numbers) != 4 or not is_bounded(numbers) or min(numbers[2:]) < SMALLEST:
        return None
    x, y, width, height = numbers
    return x, y, width, height


def fit_view_box(
    view_box: tuple[float, float, float, float], width: float, height: float, aspect: str | None
) -> Matrix:
    """Return the matrix from viewBox units to a viewport of ``width`` x ``height`` (SVG 2, 8.6-8.7)."""
    x, y, box_width, box_height = view_box
    across, down = width / box_width, height / box_height
    words = (aspect or "xMidYMid meet").split()
    align = words[0] if words else "xMidYMid"
    if align == "none":
        return scale(across, down) @ shift(-x, -y)
    factor = max(across, down) if "slice" in words else min(across, down)
    spare_x, spare_y = width - box_width * factor, height - box_height * factor
    match = re.fullmatch(r"x(Min|Mid|Max)Y(Min|Mid|Max)", align)
    share_x, share_y = (ALIGN[match[1]], ALIGN[match[2]]) if match else (0.5, 0.5)
    return shift(spare_x * share_x, spare_y * share_y) @ scale(factor) @ shift(-x, -y)
