"""Lengths in mm: reading what people type and writing what they read."""

import math
import re
from fractions import Fraction
from typing import Literal

from zinnet.errors import UnitsError

Unit = Literal["mm", "in"]

MM_PER_INCH = 25.4
MM_PER_UNIT = {
    "mm": 1.0,
    "cm": 10.0,
    "m": 1000.0,
    "in": MM_PER_INCH,
    "inch": MM_PER_INCH,
    "inches": MM_PER_INCH,
    '"': MM_PER_INCH,
    "″": MM_PER_INCH,
    "”": MM_PER_INCH,
}
VULGAR = {"¼": "1/4", "½": "1/2", "¾": "3/4", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8"}
LENGTH = re.compile(
    r"(?P<sign>[+-])?\s*"
    r"(?:(?P<whole>\d+)[\s-]+(?P<top>\d+)/(?P<bottom>\d+)"
    r"|(?P<top_only>\d+)/(?P<bottom_only>\d+)"
    r"|(?P<decimal>\d+(?:[.,]\d*)?|[.,]\d+))"
    r"\s*(?P<unit>[a-z\"″”]*)"
)
FRACTION_TOLERANCE_MM = 0.05
LONGEST_MM = 100_000.0


def read_length(text: str, *, unit: str = "mm") -> float:
    """Return the length in mm that ``text`` says; a bare number is in ``unit``.

    >>> read_length('10 1/2"')
    266.7
    >>> read_length("27 cm")
    270.0
    """
    plain = text.strip().lower().replace("−", "-").replace("⁄", "/")
    for glyph, fraction in VULGAR.items():
        plain = plain.replace(glyph, f" {fraction}")
    match = LENGTH.fullmatch(plain.strip())
    if match is None:
        raise UnitsError(f"“{text}” is not a length; write it like 270 mm, 27 cm, 10.5 in or 10 1/2 in.")
    name = match["unit"] or unit
    if name not in MM_PER_UNIT:
        raise UnitsError(f"“{text}” has the unknown unit “{name}”; use mm, cm, m or in.")
    length = float(_number(match, text)) * MM_PER_UNIT[name]
    if not math.isfinite(length) or length > LONGEST_MM:
        raise UnitsError(f"“{text}” is longer than {LONGEST_MM / 1000:.0f} m; check the unit.")
    return -length if match["sign"] == "-" else length


def _number(match: re.Match[str], text: str) -> Fraction:
    if match["decimal"]:
        return Fraction(match["decimal"].replace(",", ".").rstrip(".") or "0")
    top, bottom = (int(match[name] or match[f"{name}_only"]) for name in ("top", "bottom"))
    if bottom == 0:
        raise UnitsError(f"“{text}” divides by zero; write the fraction again.")
    return int(match["whole"] or 0) + Fraction(top, bottom)


def write_length(length_mm: float, *, unit: Unit = "mm", with_unit: bool = True) -> str:
    """Return ``length_mm`` in ``unit``, right to 0.1 mm.

    Inches are written as fractions down to sixteenths where one is within 0.05 mm, else as decimals.

    >>> write_length(266.7, unit="in")
    '10 1/2 in'
    >>> write_length(254.04)
    '254 mm'
    """
    if unit == "mm":
        number = f"{length_mm:.1f}".removesuffix(".0")
        number = "0" if number == "-0" else number
    else:
        number = _inches(length_mm)
    return f"{number} {unit}" if with_unit else number


def _inches(length_mm: float) -> str:
    sixteenths = round(length_mm / MM_PER_INCH * 16)
    if abs(sixteenths * MM_PER_INCH / 16 - length_mm) > FRACTION_TOLERANCE_MM:
        return f"{length_mm / MM_PER_INCH:.3f}".rstrip("0").rstrip(".")
    sign = "-" if sixteenths < 0 else ""
    whole, rest = divmod(abs(sixteenths), 16)
    if not rest:
        return f"{sign}{whole}"
    fraction = Fraction(rest, 16)
    return f"{sign}{f'{whole} ' if whole else ''}{fraction.numerator}/{fraction.denominator}"


def read_size(text: str, *, unit: str = "mm") -> tuple[float, float]:
    """Return width and height in mm from text like ``12x12in`` or ``300 x 200``.

    A unit after the second number holds for both when the first has none.
    """
    parts = re.split(r"\s*[x×*]\s*", text.strip().lower())
    if len(parts) != 2:
        raise UnitsError(f"“{text}” is not a size; write width x height, like 12x12in or 300x200mm.")
    shared = re.search(r"[a-z\"″”]+$", parts[1])
    first_unit = shared[0] if shared and shared[0] in MM_PER_UNIT else unit
    width, height = read_length(parts[0], unit=first_unit), read_length(parts[1], unit=unit)
    if width <= 0 or height <= 0:
        raise UnitsError(f"“{text}” has a side that is not longer than zero; both must be.")
    return width, height
