"""Lengths in mm and temperatures in degC: reading what people type, and writing what they read."""

import math
import re
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from zinnet.base.errors import UnitsError

Unit = Literal["mm", "in"]
Degrees = Literal["C", "F"]

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
SIGNS = {"−": "-", "–": "-", "⁄": "/", "×": "*", "·": "*", "÷": "/", ":": "/"}
TOKEN = re.compile(
    r"\s*(?:(?P<whole>\d+)(?:\s+|-)(?P<top>\d+)/(?P<bottom>\d+)"
    r"|(?P<top_only>\d+)/(?P<bottom_only>\d+)"
    r"|(?P<decimal>\d+(?:[.,]\d*)?|[.,]\d+)"
    r"|(?P<unit>[a-z]+|[\"″”])"
    r"|(?P<sign>[-+*/()]))"
)
FRACTION_TOLERANCE_MM = 0.05
PARTS_OF_INCH = (16, 32, 64, 128)
LONGEST_MM = 100_000.0
MOST_LETTERS = 120


@dataclass(frozen=True)
class _Value:
    """A number met while reading: plain, or a length in mm."""

    number: float
    is_length: bool


def read_length(text: str, *, unit: str = "mm") -> float:
    """Return the length in mm that ``text`` says; a bare number is in ``unit``. Sums, products and brackets count.

    >>> read_length('10 1/2"')
    266.7
    >>> read_length("27cm - 2*1.5cm")
    240.0
    >>> round(read_length("10 1/2in / 3"), 3)
    88.9
    """
    value = _Reader(text, unit).read()
    length = value.number if value.is_length else value.number * MM_PER_UNIT[unit]
    if not math.isfinite(length) or abs(length) > LONGEST_MM:
        raise UnitsError(f"“{text}” is longer than {LONGEST_MM / 1000:.0f} m; check the unit.")
    return length


class _Reader:
    """Reads one length: sums of products of numbers, units and brackets, by recursive descent."""

    def __init__(self, text: str, unit: str) -> None:
        self.text, self.unit = text.strip(), unit
        if len(text) > MOST_LETTERS:
            raise UnitsError(f"“{text[:20]} ...” is too long for a length; write it like 270 mm or 27cm - 2*1.5cm.")
        plain = self.text.lower()
        for glyph, fraction in VULGAR.items():
            plain = plain.replace(glyph, f" {fraction}")
        for sign, meant in SIGNS.items():
            plain = plain.replace(sign, meant)
        self.tokens: list[tuple[str, str]] = []
        at, plain = 0, plain.rstrip()
        while at < len(plain):
            match = TOKEN.match(plain, at)
            if match is None:
                raise self._wrong()
            kind = match.lastgroup or ""
            if kind == "bottom":
                self.tokens.append(("number", str(int(match["whole"]) + self._over(match["top"], match["bottom"]))))
            elif kind == "bottom_only":
                self.tokens.append(("number", str(self._over(match["top_only"], match["bottom_only"]))))
            else:
                self.tokens.append(("number" if kind == "decimal" else kind, match[kind]))
            at = match.end()
        self.at = 0

    def _wrong(self) -> UnitsError:
        return UnitsError(f"“{self.text}” is not a length; write it like 270 mm, 27 cm, 10 1/2 in or 27cm - 2*1.5cm.")

    def _over(self, top: str, bottom: str) -> Fraction:
        if int(bottom) == 0:
            raise UnitsError(f"“{self.text}” divides by zero; write the fraction again.")
        return Fraction(int(top), int(bottom))

    def _next(self, *wanted: str) -> str | None:
        """Take the next token where it is one of the wanted signs, units or numbers."""
        if self.at < len(self.tokens):
            kind, token = self.tokens[self.at]
            if kind in wanted or token in wanted:
                self.at += 1
                return token
        return None

    def read(self) -> _Value:
        value = self._sum()
        if self.at < len(self.tokens):
            raise self._wrong()
        return value

    def _sum(self) -> _Value:
        value = self._product()
        while sign := self._next("+", "-"):
            other = self._product()
            if value.is_length != other.is_length:
                value, other = self._as_length(value), self._as_length(other)
            value = _Value(value.number + (other.number if sign == "+" else -other.number), value.is_length)
        return value

    def _as_length(self, value: _Value) -> _Value:
        return value if value.is_length else _Value(value.number * MM_PER_UNIT[self.unit], True)

    def _product(self) -> _Value:
        value = self._signed()
        while sign := self._next("*", "/"):
            other = self._signed()
            if other.is_length and (sign == "/" or value.is_length):
                raise UnitsError(
                    f"“{self.text}” does not give a length; a length is multiplied or divided by a number."
                )
            if sign == "/" and other.number == 0:
                raise UnitsError(f"“{self.text}” divides by zero; write the fraction again.")
            number = value.number * other.number if sign == "*" else value.number / other.number
            value = self._with_unit(_Value(number, value.is_length or other.is_length))
        return value

    def _signed(self) -> _Value:
        if sign := self._next("+", "-"):
            value = self._plain()
            return _Value(-value.number if sign == "-" else value.number, value.is_length)
        return self._plain()

    def _plain(self) -> _Value:
        if self._next("("):
            value = self._sum()
            if not self._next(")"):
                raise self._wrong()
            return self._with_unit(value)
        number = self._next("number")
        if number is None:
            raise self._wrong()
        return self._with_unit(_Value(float(Fraction(number.replace(",", ".").rstrip(".") or "0")), False))

    def _with_unit(self, value: _Value) -> _Value:
        """Return the value in the unit that stands behind it, where one does."""
        name = self._next("unit")
        if name is None:
            return value
        if name not in MM_PER_UNIT:
            raise UnitsError(f"“{self.text}” has the unknown unit “{name}”; use mm, cm, m or in.")
        if value.is_length:
            raise self._wrong()
        return _Value(value.number * MM_PER_UNIT[name], True)


def write_length(length_mm: float, *, unit: Unit = "mm", with_unit: bool = True) -> str:
    """Return ``length_mm`` in ``unit``, right to 0.1 mm.

    Inches are written in sixteenths, or in finer parts where none of these is within 0.05 mm.

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
    """Return inches with a fraction: the coarsest that is near enough, at the finest less than 0.1 mm away."""
    for parts in PARTS_OF_INCH:
        count = round(length_mm / MM_PER_INCH * parts)
        if abs(count * MM_PER_INCH / parts - length_mm) <= FRACTION_TOLERANCE_MM:
            break
    sign = "-" if count < 0 else ""
    whole, rest = divmod(abs(count), parts)
    if not rest:
        return f"{sign}{whole}"
    fraction = Fraction(rest, parts)
    return f"{sign}{f'{whole} ' if whole else ''}{fraction.numerator}/{fraction.denominator}"


def write_area(area_mm2: float, *, unit: Unit = "mm") -> str:
    """Return an area in square centimetres or, where lengths are in inches, square inches."""
    if unit == "in":
        return f"{area_mm2 / MM_PER_INCH**2:,.1f} in²"
    return f"{area_mm2 / 100:,.0f} cm²" if area_mm2 >= 10_000 else f"{area_mm2 / 100:,.1f} cm²"


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


TEMPERATURE = re.compile(r"\s*(-?\d+(?:[.,]\d+)?)\s*(?:°|deg(?:rees)?)?\s*([cf])?[a-z]*\s*", re.IGNORECASE)
MOST_C = 400.0


def from_fahrenheit(degrees_f: float) -> float:
    """Return a temperature in degC; the scales meet at 32 F and 212 F by definition.

    >>> from_fahrenheit(212)
    100.0
    """
    return float((Fraction(degrees_f) - 32) * 5 / 9)


def to_fahrenheit(degrees_c: float) -> float:
    """Return a temperature in degF."""
    return float(Fraction(degrees_c) * 9 / 5 + 32)


def read_temperature(text: str, *, degrees: Degrees = "C") -> float:
    """Return the temperature in degC that ``text`` says; a bare number is in ``degrees``.

    >>> read_temperature("212 F")
    100.0
    >>> read_temperature("165C")
    165.0
    """
    match = TEMPERATURE.fullmatch(text[:MOST_LETTERS])
    if match is None:
        raise UnitsError(f"“{text[:20]}” is not a temperature; write it like 330 F or 165 C.")
    number = float(match[1].replace(",", "."))
    found = from_fahrenheit(number) if (match[2] or degrees).upper() == "F" else number
    if not 0 <= found <= MOST_C:
        raise UnitsError(f"“{text[:20]}” is no heat to press at (0 to {MOST_C:.0f} °C); check the unit, F or C.")
    return found


def write_temperature(degrees_c: float, *, degrees: Degrees = "C") -> str:
    """Return a temperature in whole degrees.

    >>> write_temperature(read_temperature("330 F"), degrees="F")
    '330 °F'
    """
    number = to_fahrenheit(degrees_c) if degrees == "F" else degrees_c
    return f"{number:.0f} °{degrees}"


def write_seconds(seconds: float) -> str:
    """Return a time in words of hours, minutes and seconds.

    >>> write_seconds(75)
    '1 min 15 s'
    """
    minutes, rest = divmod(round(seconds), 60)
    hours, minutes = divmod(minutes, 60)
    said = [f"{hours} h"] if hours else []
    said += [f"{minutes} min"] if minutes else []
    if not hours and (rest or not minutes):
        said.append(f"{rest} s")
    return " ".join(said)
