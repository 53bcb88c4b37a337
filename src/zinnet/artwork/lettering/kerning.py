"""Room between single letters, added by hand: which letter lies under a point, and its kern changed."""

import shapely

from zinnet.artwork.lettering.text import Kern, TextSpec, text_artwork
from zinnet.artwork.painted import paint_artwork, painted_box

FLATNESS = 2e-3
NEAR = 0.02
"""A point beside a letter still means it from this far, in shares of the text's width."""


def letters_under(spec: TextSpec, spots: list[tuple[float, float]], width: float) -> set[tuple[int, int]]:
    """Return (line, letter) for each point of a text set ``width`` wide, its upper left corner at the origin."""
    artwork = text_artwork(spec, size_mm=1.0)
    painted = paint_artwork(artwork, FLATNESS)
    left, top, right, _ = painted_box(painted)
    scale = (right - left) / width
    tree = shapely.STRtree([area.region for area in painted])
    found = set()
    for x, y in spots:
        point = shapely.Point(left + x * scale, top + y * scale)
        hits = tree.query_nearest(point, max_distance=NEAR * (right - left))
        for hit in hits[:1]:
            _, line, letter = artwork.shapes[painted[int(hit)].shape].name.split("-")
            found.add((int(line) - 1, int(letter) - 1))
    return found


def kerned(spec: TextSpec, spots: list[tuple[float, float]], width: float, em: float) -> tuple[Kern, ...] | None:
    """Return the kerns of a text with ``em`` more room before the letters under some points.

    None where there is no letter before any of them.
    """
    moved = {(line, letter - 1) for line, letter in letters_under(spec, spots, width) if letter > 0}
    if not moved:
        return None
    kerns = {(kern.line, kern.letter): kern.em for kern in spec.kerns}
    for place in moved:
        kerns[place] = min(10.0, max(-2.0, kerns.get(place, 0.0) + em))
    return tuple(
        Kern(line=line, letter=letter, em=round(room, 4)) for (line, letter), room in sorted(kerns.items()) if room
    )
