"""Findings of the artwork and its layers."""

from collections.abc import Iterator

from shapely.geometry import Polygon

from zinnet.artwork.model import Artwork, RemarkCode
from zinnet.artwork.visible import OPAQUE
from zinnet.checks.model import Finding, found
from zinnet.data import read_toml
from zinnet.edits import choose_film, derive_side, join_outlines
from zinnet.facts import Facts
from zinnet.fitted import FittedDesign
from zinnet.layers.assign import FilmLayer
from zinnet.layers.films import colour_difference, kind_of, nearest_film
from zinnet.layers.split import Split


def _artworks(facts: Facts) -> list[Artwork]:
    """Return the artwork of every design, once."""
    return [design.artwork for design in facts.garments[0].designs]


def _splits(facts: Facts) -> list[Split]:
    """Return the layers of every design, once: outlines are the same on every size."""
    return [design.split for design in facts.garments[0].designs if design.split is not None]


def _rows(facts: Facts) -> Iterator[tuple[str, FittedDesign, FilmLayer]]:
    """Yield every layer of every design on the job's own size, with what to call it."""
    designs = facts.garments[0].designs
    for design in designs:
        several = f"{design.name.lower()}, " if len(designs) > 1 else ""
        for row in design.layers:
            yield f"{several}layer {row.layer.order}", design, row


def _count(facts: Facts, code: RemarkCode) -> int:
    return sum(remark.count for artwork in _artworks(facts) for remark in artwork.remarks if remark.code == code)


def _several(count: int, one: str, many: str) -> str:
    return f"1 {one}" if count == 1 else f"{count} {many}"


def picture_not_traced(facts: Facts) -> Iterator[Finding]:
    """The artwork holds a picture, which has no outline."""
    count = _count(facts, "picture")
    if count:
        only = any(not artwork.shapes for artwork in _artworks(facts))
        yield found(
            "picture-not-traced",
            f"{_several(count, 'picture', 'pictures')}" + (" and no shape" if only else " beside the shapes"),
            "a blade follows outlines; bring the artwork as shapes",
            level="stop" if only else "warn",
        )


def overlapping_outlines(facts: Facts) -> Iterator[Finding]:
    """Outlines of one colour cross: joined it is worth a note, not joined it ruins the piece."""
    crossing = sum(split.crossing_outlines for split in _splits(facts))
    if not crossing:
        return
    crossings = _several(crossing, "pair crosses", "pairs cross")
    if facts.job.layers.join_outlines:
        yield found(
            "overlapping-outlines",
            f"{crossings}; joined into one outline",
            "cut once, around both",
            level="note",
        )
        return
    yield found(
        "overlapping-outlines",
        f"{crossings} and would be cut through",
        "shapes of one film that overlap are cut as one",
        mend=join_outlines(True),
    )


def double_line(facts: Facts) -> Iterator[Finding]:
    """A shape lies on a copy of itself."""
    double = sum(split.double_outlines for split in _splits(facts))
    if not double:
        return
    level = None if not facts.job.layers.join_outlines else "note"
    yield found(
        "double-line",
        f"{_several(double, 'shape lies', 'shapes lie')} on a copy" + ("; the copy was joined in" if level else ""),
        "an outline is cut once",
        level="note" if level else None,
        mend=None if level else join_outlines(True),
    )


def open_outline(facts: Facts) -> Iterator[Finding]:
    """A filled outline does not close."""
    count = _count(facts, "open-outline")
    if count:
        yield found(
            "open-outline",
            f"{_several(count, 'outline', 'outlines')} filled but not closed",
            "closed with a straight line, as it is drawn; look whether that is meant",
        )


def blend_not_cuttable(facts: Facts) -> Iterator[Finding]:
    """A gradient, transparency, pattern or filter was made plain."""
    blends = _count(facts, "blend")
    shapes = [shape for artwork in _artworks(facts) for shape in artwork.shapes]
    paints = [(shape.fill, shape.stroke.paint if shape.stroke else None) for shape in shapes]
    clear = sum(any(paint is not None and paint.opacity < OPAQUE for paint in both) for both in paints)
    if blends or clear:
        said = [_several(blends, "gradient, pattern or filter", "gradients, patterns or filters")] if blends else []
        said += [_several(clear, "see-through shape", "see-through shapes")] if clear else []
        yield found(
            "blend-not-cuttable",
            f"{' and '.join(said)}, made plain",
            "film has one colour; choose plain colours",
        )


def weed_speck(facts: Facts) -> Iterator[Finding]:
    """Parts or counters are too small to survive weeding."""
    least = read_toml("limits")["thin"]["specks_mm2"]
    said = []
    for name, _, film_layer in _rows(facts):
        layer = film_layer.layer
        parts = sum(part.area < least for part in layer.region.geoms)
        counters = sum(Polygon(hole).area < least for part in layer.region.geoms for hole in part.interiors)
        if parts or counters:
            small = [_several(parts, "part", "parts")] if parts else []
            small += [_several(counters, "counter", "counters")] if counters else []
            said.append(f"{name}: {' and '.join(small)}")
    if said:
        yield found(
            "weed-speck",
            "; ".join(said),
            f"smaller than {least:g} mm² pulls off in weeding (common practice)",
        )


def no_film(facts: Facts) -> Iterator[Finding]:
    """A colour has no film."""
    for name, _, film_layer in _rows(facts):
        if film_layer.film is not None:
            continue
        colour = film_layer.layer.colour
        nearest = nearest_film(colour, facts.workshop.films)
        if nearest is None:
            yield found("no-film", f"{name}, {colour}", "there is no film in stock")
            continue
        mend = choose_film(colour, nearest[0].id)
        yield found(
            "no-film",
            f"{name}, {colour}; the nearest is {nearest[0].name}, {nearest[1]:.0f} away",
            f"proposed up to {read_toml('limits')['colour']['far_delta_e']:g} by CIEDE2000; farther is yours to choose",
            mend=type(mend)(f"use {nearest[0].name}", mend.change),
        )


def wrong_cut_side(facts: Facts) -> Iterator[Finding]:
    """The side that is cut does not suit the film and its use."""
    said = set()
    for _, _, film_layer in _rows(facts):
        film, side, derived = film_layer.film, film_layer.side, film_layer.derived_side
        if film is None or side is None or derived is None or side.mirrored == derived.mirrored or film.id in said:
            continue
        said.add(film.id)
        yield found(
            "wrong-cut-side",
            f"{film.name} is cut {'mirrored' if side.mirrored else 'not mirrored'}",
            f"{kind_of(film).name}: {derived.reason}",
            mend=derive_side(film.id),
        )


def invisible_on_blank(facts: Facts) -> Iterator[Finding]:
    """A layer next to the blank has the blank's own colour."""
    least = read_toml("limits")["colour"]["same_as_blank_delta_e"]
    for name, _, film_layer in _rows(facts):
        if film_layer.film is None:
            continue
        difference = colour_difference(film_layer.film.colour, facts.blank.colour)
        if difference < least:
            yield found(
                "invisible-on-blank",
                f"{name}, {film_layer.film.name}: {difference:.1f} from the blank's colour",
                f"less than {least:g} by CIEDE2000 is hardly seen",
            )


CHECKS = (
    picture_not_traced,
    overlapping_outlines,
    double_line,
    open_outline,
    blend_not_cuttable,
    weed_speck,
    no_film,
    wrong_cut_side,
    invisible_on_blank,
)
