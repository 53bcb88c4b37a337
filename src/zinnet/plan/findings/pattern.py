"""How a film looks beside a colour: a patterned one by the picture of its pattern, any other by its colour."""

from functools import cache

from zinnet.artwork.svg.reader import read_svg
from zinnet.base.errors import ZinnetError
from zinnet.data import path_of, read_bytes
from zinnet.data.limits import limits
from zinnet.films.catalogue import Film
from zinnet.films.colours import colour_difference, contrast
from zinnet.layers.split import split_artwork

PICTURE_MM = 100.0


def colours_of(film: Film) -> tuple[tuple[str, float], ...]:
    """Return the colours of a film's pattern, each with its share of the area; of a plain film its own colour."""
    return _pictured(film.pattern, film.colour) if film.pattern else ((film.colour, 1.0),)


@cache
def _pictured(pattern: str, colour: str) -> tuple[tuple[str, float], ...]:
    if "/" in pattern or not path_of("patterns", pattern).is_file():
        return ((colour, 1.0),)
    try:
        split = split_artwork(read_svg(read_bytes("patterns", pattern), pattern), width_mm=PICTURE_MM)
    except ZinnetError:
        return ((colour, 1.0),)
    whole = sum(layer.area_mm2 for layer in split.layers)
    return tuple((layer.colour, layer.area_mm2 / whole) for layer in split.layers)


def seen_contrast(film: Film, against: str) -> float:
    """Return the contrast that at least half of a film's area has against a colour (WCAG 2)."""
    return _at_half([(contrast(colour, against), share) for colour, share in colours_of(film)])


def seen_difference(film: Film, against: str) -> float:
    """Return the difference that at least half of a film's area has from a colour (CIEDE2000)."""
    return _at_half([(colour_difference(colour, against), share) for colour, share in colours_of(film)])


def _at_half(rows: list[tuple[float, float]]) -> float:
    """Return the largest value that at least half of the area reaches."""
    reached, wanted = 0.0, float(limits()["mends"]["seen_share"])
    for value, share in sorted(rows, reverse=True):
        reached += share
        if reached >= wanted:
            return value
    return min(value for value, _ in rows)
