"""SVG's ``transform`` lists and ``viewBox`` fitting, as matrices."""

import re

import numpy as np

from zinnet.geometry.transform import IDENTITY, Matrix, affine, scale, shift, turn

FUNCTION = re.compile(r"\s*,?\s*(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)")
NUMBER = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")
ALIGN = {"Min": 0.0, "Mid": 0.5, "Max": 1.0}


def read_transform(text: str | None) -> Matrix:
    """Return the matrix of a ``transform`` list; an unreadable list is the identity, as SVG asks."""
    matrix, at = IDENTITY, 0
    text = (text or "").replace("px", "").replace("deg", "")
    if text.strip() in ("", "none"):
        return IDENTITY
    while match := FUNCTION.match(text, at):
        values = [float(number) for number in NUMBER.findall(match[2])]
        one = _function(match[1], values) if np.isfinite(values).all() else None
        if one is None or not np.isfinite(one).all():
            return IDENTITY
        matrix, at = matrix @ one, match.end()
    return IDENTITY if text[at:].strip(" ,\t\r\n") else matrix


def _function(name: str, values: list[float]) -> Matrix | None:
    match name, values:
        case "matrix", [a, b, c, d, e, f]:
            return affine(a, b, c, d, e, f)
        case "translate", [x]:
            return shift(x, 0)
        case "translate", [x, y]:
            return shift(x, y)
        case "scale", [x]:
            return scale(x)
        case "scale", [x, y]:
            return scale(x, y)
        case "rotate", [angle]:
            return turn(angle)
        case "rotate", [angle, x, y]:
            return shift(x, y) @ turn(angle) @ shift(-x, -y)
        case "skewX", [angle]:
            return affine(1, 0, float(np.tan(np.radians(angle))), 1, 0, 0)
        case "skewY", [angle]:
            return affine(1, float(np.tan(np.radians(angle))), 0, 1, 0, 0)
    return None


def read_view_box(text: str | None) -> tuple[float, float, float, float] | None:
    """Return (x, y, width, height) of a ``viewBox``, or None where it is missing or not usable."""
    numbers = [float(number) for number in NUMBER.findall(text or "")]
    if len(numbers) != 4 or not np.isfinite(numbers).all() or numbers[2] <= 0 or numbers[3] <= 0:
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
