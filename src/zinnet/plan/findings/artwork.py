"""Findings of the artwork: what can't be cut as it is drawn, and what its films can't hold."""

from collections.abc import Iterator
from itertools import combinations

import shapely

from zinnet.artwork.lettering.fonts import font_family, fonts_that_have, missing_characters
from zinnet.artwork.lettering.text import pieces
from zinnet.artwork.model import RemarkCode
from zinnet.artwork.page import beyond_page
from zinnet.artwork.source import FileArt, TextArt
from zinnet.artwork.tracing.picture import picture_kind
from zinnet.artwork.visible import OPAQUE
from zinnet.data.limits import limits
from zinnet.films.catalogue import kind_of
from zinnet.films.colours import contrast
from zinnet.job.edits import (
    Edit,
    add_step,
    choose_film,
    flatten_blends,
    join_outlines,
    one_step,
    open_outlines_as_lines,
    set_recipe,
    take_embedded,
    take_in_whole,
)
from zinnet.layers.stack import FilmLayer
from zinnet.plan.findings.model import Finding, found
from zinnet.plan.findings.pattern import seen_contrast, seen_difference
from zinnet.plan.findings.subject import about, called, layer_rows, several
from zinnet.plan.findings.ways import same_finish
from zinnet.plan.fitted import FittedDesign
from zinnet.plan.model import Facts
from zinnet.steps.model import Thicken

FLATTENED_TO = 4
OVER = 1.02
"""What is enlarged is made so much larger than it must be."""


def _designs(facts: Facts) -> Iterator[tuple[str, FittedDesign]]:
    """Yield every design on the job's own size, with what to say before its finding."""
    designs = facts.garments[0].designs
    for design in designs:
        yield (f"{called(designs, design)}: " if len(designs) > 1 else ""), design


def _count(design: FittedDesign, code: RemarkCode) -> int:
    return sum(remark.count for remark in design.artwork.remarks if remark.code == code)


def _composed(facts: Facts) -> Iterator[tuple[str, FittedDesign]]:
    """Yield what is cut on the job's own size, with what to say before its finding."""
    composed = facts.garments[0].compositions
    for one in composed:
        yield (f"{called(composed, one)}: " if len(composed) > 1 else ""), one


def picture_not_traced(facts: Facts) -> Iterator[Finding]:
    """The artwork holds a picture, which has no outline."""
    for before, design in _designs(facts):
        pictures = design.artwork.pictures
        if not pictures:
            continue
        bare = not design.artwork.shapes
        inside = next((data for data in pictures if picture_kind(data) is not None), None)
        way = "print it as it is" if design.panel.holds[0] == "print" else "trace it"
        mend = None
        if inside is not None and bare:
            mend = take_embedded(way, "picture in the artwork", inside, design.index)
        yield found(
            "picture-not-traced",
            f"{before}{several(len(pictures), 'picture', 'pictures')}"
            + (" and no shape" if bare else " beside shapes"),
            "a blade follows outlines; "
            + (way if mend else "open the picture itself, as PNG, JPEG or WebP, to trace it"),
            level="stop" if bare else "warn",
            mend=mend,
        )
    yield from _picture_not_printed(facts)


def _picture_not_printed(facts: Facts) -> Iterator[Finding]:
    """A picture that stays one lies on a film that is cut, not printed."""
    for before, design in _designs(facts):
        other = next((row.film for row in design.layers if row.film is not None and not row.is_print), None)
        if not design.artwork.whole_picture or other is None:
            continue
        prints = [film for film in facts.workshop.films if kind_of(film).bond == "print"]
        ways = [choose_film(row.key, prints[0].id) for row in design.layers if prints and "print" in design.panel.holds]
        yield found(
            "picture-not-traced",
            f"{before}the picture is taken whole, and cut from {other.name}",
            "a blade follows outlines, a picture is printed: trace it, or take a print",
            mend=set_recipe("trace it", "trace", design.index, taken="traced"),
            also=tuple(ways[:1]),
        )


def missing_glyph(facts: Facts) -> Iterator[Finding]:
    """A font lacks a character."""
    for before, design in _designs(facts):
        for remark in design.artwork.remarks if design.words is None else ():
            if remark.code == "missing-glyph":
                yield found(
                    "missing-glyph",
                    before + remark.message,
                    "a letter that the font lacks is not cut",
                    mend=_other_font(facts, design),
                )


def _other_font(facts: Facts, design: FittedDesign) -> Edit | None:
    source = facts.job.designs[design.index].source
    if not isinstance(source, TextArt):
        return None
    spec = source.text
    lacking = {letter for _, one in pieces(spec) for letter in missing_characters(one.text, one.font, one.style)}
    wanted = spec.text if fonts_that_have(spec.text) else "".join(sorted(lacking))
    others = fonts_that_have(wanted)
    if not others:
        return None
    return set_recipe(
        f"set in {font_family(others[0]).name}", "text", design.index, font=others[0], style=None, runs=()
    )


def overlapping_outlines(facts: Facts) -> Iterator[Finding]:
    """Outlines of one colour cross: joined it is worth a note, not joined it ruins the piece."""
    for before, design in _composed(facts):
        crossing = design.split.crossing_outlines if design.split is not None else 0
        if not crossing:
            continue
        said = before + several(crossing, "pair crosses", "pairs cross")
        joined = facts.job.layers.join_outlines
        yield found(
            "overlapping-outlines",
            said + ("; joined into one outline" if joined else " and would be cut through"),
            "cut once, around both" if joined else "shapes of one film that overlap are cut as one",
            level="note" if joined else None,
            mend=None if joined else join_outlines(True),
        )


def double_line(facts: Facts) -> Iterator[Finding]:
    """A shape lies on a copy of itself."""
    for before, design in _composed(facts):
        double = design.split.double_outlines if design.split is not None else 0
        if not double:
            continue
        joined = facts.job.layers.join_outlines
        said = before + several(double, "shape lies", "shapes lie") + " on a copy"
        yield found(
            "double-line",
            said + ("; the copy was joined in" if joined else ""),
            "an outline is cut once",
            level="note" if joined else None,
            mend=None if joined else join_outlines(True),
        )


def open_outline(facts: Facts) -> Iterator[Finding]:
    """A filled outline does not close."""
    for before, design in _designs(facts):
        count = _count(design, "open-outline")
        if count:
            is_file = isinstance(facts.job.designs[design.index].source, FileArt)
            yield found(
                "open-outline",
                f"{before}{several(count, 'outline', 'outlines')} filled but not closed",
                "closed with a straight line, as it is drawn; look whether that is meant",
                mend=_as_lines(design) if is_file else None,
            )


def _as_lines(design: FittedDesign) -> Edit:
    """Return the mend that takes open outlines as lines, as thick as every film of the design holds them."""
    least = max((kind_of(row.film).least_stroke_mm for row in design.layers if row.film is not None), default=0.0)
    edits = [open_outlines_as_lines(design.index)]
    if least:
        edits.append(add_step(Thicken(least_mm=least), design.index))
    return one_step(f"use as lines, at least {least:g} mm thick" if least else "use as lines", edits)


def outside_page(facts: Facts) -> Iterator[Finding]:
    """Shapes reach beyond the drawing's own page, where they are cut off."""
    for before, design in _designs(facts):
        cut, beside = beyond_page(design.artwork)
        if not cut and not beside:
            continue
        said = [several(cut, "shape is", "shapes are") + " cut off at the edge of the page"] if cut else []
        said += [several(beside, "shape lies", "shapes lie") + " beside it"] if beside else []
        yield found(
            "outside-page",
            f"{before}{', '.join(said)}",
            "what lies beside the page of a drawing is not seen (SVG 2, 8.7); take it in, or move it in the drawing",
            level="warn" if cut else "note",
            mend=take_in_whole(design.index) if isinstance(facts.job.designs[design.index].source, FileArt) else None,
        )


def blend_not_cuttable(facts: Facts) -> Iterator[Finding]:
    """A gradient, transparency, pattern or filter was made plain."""
    for before, design in _designs(facts):
        blends = _count(design, "blend")
        paints = [(shape.fill, shape.stroke.paint if shape.stroke else None) for shape in design.artwork.shapes]
        clear = sum(any(paint is not None and paint.opacity < OPAQUE for paint in both) for both in paints)
        if not blends and not clear:
            continue
        said = [several(blends, "gradient, pattern or filter", "gradients, patterns or filters")] if blends else []
        said += [several(clear, "see-through shape", "see-through shapes")] if clear else []
        source = facts.job.designs[design.index].source
        can = bool(blends) and isinstance(source, FileArt) and source.blend_colours == 1
        yield found(
            "blend-not-cuttable",
            f"{before}{' and '.join(said)}, made plain",
            "film has one colour; choose plain colours",
            mend=flatten_blends(FLATTENED_TO, design.index) if can else None,
        )


def hard_to_read(facts: Facts) -> Iterator[Finding]:
    """Too little contrast between a film and the blank, or between films that touch."""
    numbers = limits()
    least, same = numbers["contrast"]["least_ratio"], numbers["colour"]["same_as_blank_delta_e"]
    for blank in dict.fromkeys((facts.blank.colour, *(line.colour for line in facts.job.order.lines))):
        yield from _lost_on(facts, blank, least, same)
    yield from _films_alike(facts, numbers["contrast"]["films_ratio"])


def _print_on_dark(name: str, design: FittedDesign, row: FilmLayer, blank: str) -> Iterator[Finding]:
    """A print lies on a colour that is not light: its ink covers nothing."""
    most = float(limits()["contrast"]["print_ratio"])
    ratio = contrast(blank, "#ffffff")
    if ratio > most:
        yield found(
            "hard-to-read",
            f"{name}: a print on {blank}, {ratio:.2f} to 1 against white",
            f"ink covers nothing: a print is for light colours, up to {most:g} to 1 (common practice)",
            about=f"{about(name, design, row)} on {blank}",
        )


def _lost_on(facts: Facts, blank: str, least: float, same: float) -> Iterator[Finding]:
    """Films that can hardly be read on one colour of the garments."""
    against = "the blank" if blank == facts.blank.colour else f"garments in {blank}"
    for name, design, row in layer_rows(facts):
        if row.film is None:
            continue
        if row.is_print:
            yield from _print_on_dark(name, design, row, blank)
            continue
        if seen_difference(row.film, blank) < same:
            continue
        ratio = seen_contrast(row.film, blank)
        if ratio < least:
            ways = same_finish(facts, row, lambda film: seen_contrast(film, blank) >= least)
            yield found(
                "hard-to-read",
                f"{name}, {row.film.name}: {ratio:.2f} to 1 against {against}",
                f"less than {least:g} to 1 is hard to read from afar (WCAG 2 luminance; common practice)",
                also=tuple(ways),
                about=f"{about(name, design, row)} on {blank}",
            )


def _films_alike(facts: Facts, least: float) -> Iterator[Finding]:
    for (one_name, design, one), (other_name, other_design, other) in combinations(layer_rows(facts), 2):
        if one.film is None or other.film is None or design is not other_design or one.film.id == other.film.id:
            continue
        ratio = contrast(one.film.colour, other.film.colour)
        if ratio < least and shapely.dwithin(one.seen, other.seen, 0.05):
            yield found(
                "hard-to-read",
                f"{one_name} and {other_name} touch: {one.film.name} against {other.film.name}, {ratio:.2f} to 1",
                f"less than {least:g} to 1 can hardly be told apart (WCAG 2 luminance; common practice)",
                about=f"{about(one_name, design, one)} beside {other.key}",
            )


CHECKS = (
    picture_not_traced,
    missing_glyph,
    overlapping_outlines,
    double_line,
    open_outline,
    outside_page,
    blend_not_cuttable,
    hard_to_read,
)
"""In the order of the catalogue."""
