"""How unlike two colours are: the difference by CIEDE2000, the contrast by WCAG.

Worked out here, since the library of colours takes longer to import than a small drawing takes to be split; the tests
hold both against that library.
"""

import math
from functools import cache

type Lab = tuple[float, float, float]

WHITE_D65 = (0.3127 / 0.3290, 1.0, (1 - 0.3127 - 0.3290) / 0.3290)
"""XYZ of the white of sRGB, from its chromaticities (IEC 61966-2-1)."""
TO_XYZ = (
    (0.4123907992659593, 0.357584339383878, 0.1804807884018343),
    (0.21263900587151024, 0.715168678767756, 0.07219231536073371),
    (0.01933081871559182, 0.11919477979462598, 0.9505321522496607),
)
"""Linear sRGB to XYZ, from the primaries and the white of IEC 61966-2-1."""
EPSILON, KAPPA = 216 / 24389, 24389 / 27
"""CIE 15: where the cube root of L*a*b* gives way to a straight line, and how steep that is."""


@cache
def colour_difference(one: str, other: str) -> float:
    """Return the difference of two colours (#rrggbb) by CIEDE2000."""
    return ciede2000(_lab(one), _lab(other))


def ciede2000(one: Lab, other: Lab) -> float:
    """Return the difference of two colours in CIE L*a*b*.

    Sharma, Wu, Dalal 2005, "The CIEDE2000 color-difference formula: implementation notes"; the numbers in the
    comments are those of its equations.
    """
    (l1, a1, b1), (l2, a2, b2) = one, other
    mean = (math.hypot(a1, b1) + math.hypot(a2, b2)) / 2  # (2), (3)
    stretch = 1.5 - 0.5 * _share(mean)  # 1 + G, (4)
    (c1, h1), (c2, h2) = _polar(a1 * stretch, b1), _polar(a2 * stretch, b2)  # (5) to (7)
    grey = c1 * c2 == 0
    turn = 0.0 if grey else (h1 - h2 + 180) % 360 - 180 if abs(h1 - h2) != 180 else h1 - h2  # (10)
    hue = h1 + h2 if grey else _mean_hue(h1, h2)  # (14)
    lightness, chroma = (l1 + l2) / 2, (c1 + c2) / 2  # (12), (13)
    t = 1 - 0.17 * _cos(hue - 30) + 0.24 * _cos(2 * hue) + 0.32 * _cos(3 * hue + 6) - 0.20 * _cos(4 * hue - 63)  # (15)
    off = (lightness - 50) ** 2
    along_l = (l1 - l2) / (1 + 0.015 * off / math.sqrt(20 + off))  # (8), (18)
    along_c = (c1 - c2) / (1 + 0.045 * chroma)  # (9), (19)
    along_h = 2 * math.sqrt(c1 * c2) * math.sin(math.radians(turn / 2)) / (1 + 0.015 * chroma * t)  # (11), (20)
    blue = 60 * math.exp(-(((hue - 275) / 25) ** 2))
    rotated = -math.sin(math.radians(blue)) * 2 * _share(chroma)  # (16), (17), (21)
    return math.sqrt(along_l**2 + along_c**2 + along_h**2 + rotated * along_c * along_h)  # (22)


@cache
def contrast(one: str, other: str) -> float:
    """Return the contrast of two colours (#rrggbb), 1 to 21, by WCAG 2's relative luminance."""
    darker, lighter = sorted((_xyz(one)[1], _xyz(other)[1]))
    return (lighter + 0.05) / (darker + 0.05)


def _share(chroma: float) -> float:
    return math.sqrt(chroma**7 / (chroma**7 + 25**7))


def _polar(a: float, b: float) -> tuple[float, float]:
    return math.hypot(a, b), math.degrees(math.atan2(b, a)) % 360


def _cos(degrees: float) -> float:
    return math.cos(math.radians(degrees))


def _mean_hue(one: float, other: float) -> float:
    total = one + other
    if abs(one - other) <= 180:
        return total / 2
    return (total + 360) / 2 if total < 360 else (total - 360) / 2


@cache
def _xyz(colour: str) -> tuple[float, float, float]:
    """Return XYZ of a colour, its white having Y = 1."""
    channels = [int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5)]
    red, green, blue = (one / 12.92 if one <= 0.04045 else ((one + 0.055) / 1.055) ** 2.4 for one in channels)
    x, y, z = (a * red + b * green + c * blue for a, b, c in TO_XYZ)
    return x, y, z


@cache
def _lab(colour: str) -> Lab:
    """Return CIE L*a*b* of a colour under its own white."""
    shares = (one / white for one, white in zip(_xyz(colour), WHITE_D65, strict=True))
    x, y, z = (math.cbrt(one) if one > EPSILON else (KAPPA * one + 16) / 116 for one in shares)
    return 116 * y - 16, 500 * (x - y), 200 * (y - z)
