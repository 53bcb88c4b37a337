"""Findings of what a film can't hold as it is drawn: specks, thin strokes, gaps that close, and what saves them."""

from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import partial

from shapely.geometry import Polygon

from zinnet.artwork.source import LETTERING
from zinnet.data.limits import limits
from zinnet.films.catalogue import FilmKind, kind_of
from zinnet.geometry.inside import points_inside
from zinnet.geometry.region import Region
from zinnet.geometry.thickness import longer_side
from zinnet.job.edits import Edit, add_step, one_step
from zinnet.layers.detail import gaps_for, small_counters, small_parts, thin_strokes, tight_gaps
from zinnet.layers.stack import FilmLayer
from zinnet.plan.findings.model import Finding, Place, found
from zinnet.plan.findings.subject import about, layer_rows, several
from zinnet.plan.findings.ways import larger, least_times, other_films
from zinnet.plan.fitted import FittedDesign
from zinnet.plan.model import Facts
from zinnet.steps.model import Bridge, Enlarge, RemoveSpecks, Step, Thicken, Which, WidenGaps

type Holds = Callable[[FilmLayer, FilmKind, float], bool]

MOST_BRIDGED = 100
"""So many small parts are bridged at once at most: beyond, it is a texture."""
OVER = 1.02
"""What is enlarged is made so much larger than it must be."""


def _at(design: FittedDesign, region: Region) -> Place | None:
    """Return where something is, in mm of the artwork in which most of it lies."""
    if region.is_empty:
        return None
    member, there = design.of_member(region)
    return Place("artwork", there.bounds, design=member.index)


def _step(design: FittedDesign, region: Region, step: Step, name: str, *, local: bool = False) -> Edit:
    """Return the mend that adds a step to the design in which most of a region lies."""
    return replace(add_step(step, design.of_member(region)[0].index, name), local=local)


def weed_speck(facts: Facts) -> Iterator[Finding]:
    """Parts or counters are too small to survive weeding."""
    for name, design, row in layer_rows(facts):
        if row.film is None:
            continue
        kind = kind_of(row.film)
        parts, counters = small_parts(row, kind.least_part_mm), small_counters(row, kind.open_counter_mm)
        if not parts and not counters:
            continue
        small = [several(len(parts), "part", "parts")] if parts else []
        small += [several(len(counters), "counter", "counters")] if counters else []
        least = min(longer_side([*parts, *counters]))
        place = Region([*parts, *counters])
        lettering = isinstance(facts.job.designs[design.of_member(place)[0].index].source, LETTERING)
        whose = " of its letters" if lettering else ""
        yield found(
            "weed-speck",
            f"{name}: {' and '.join(small)}{whose}, the least {least:.1f} mm",
            f"{kind.name} film loses parts below {kind.least_part_mm:g} mm in weeding and keeps counters below "
            f"{kind.open_counter_mm:g} mm (typical; measure yours)",
            about=about(name, design, row),
            place=_at(design, place),
            mend=None if counters else _enlarged(design, row, place, len(parts)),
            count=len(parts) + len(counters),
            least=partial(float, least),
            more=partial(_speck_ways, facts, design, row, place, len(parts), len(counters)),
        )


def _enlarged(design: FittedDesign, row: FilmLayer, place: Region, parts: int) -> Edit:
    """Return the mend that makes small parts of a layer just large enough."""
    assert row.film is not None
    least = kind_of(row.film).least_part_mm
    step = Enlarge(which=Which(colours=row.colours), least_mm=least * OVER)
    return _step(design, place, step, f"enlarge {several(parts, 'part', 'parts')} to {least:g} mm", local=True)


def _speck_ways(
    facts: Facts, design: FittedDesign, row: FilmLayer, place: Region, parts: int, counters: int
) -> Iterator[Edit]:
    """Yield what else saves small parts and counters: a larger design, doing without them, or another film."""
    assert row.film is not None
    kind, which = kind_of(row.film), Which(colours=row.colours)

    def holds(kind: FilmKind, times: float = 1.0) -> bool:
        return not small_parts(row, kind.least_part_mm / times) and not small_counters(
            row, kind.open_counter_mm / times
        )

    yield from larger(facts, design, least_times(partial(holds, kind)))
    yield from _bridged(design, row, small_parts(row, kind.least_part_mm))
    doing = [f"drop {several(parts, 'part', 'parts')}"] if parts else []
    doing += [f"fill {several(counters, 'counter', 'counters')}"] if counters else []
    specks = RemoveSpecks(which=which, part_mm=kind.least_part_mm, counter_mm=kind.open_counter_mm)
    yield _step(design, place, specks, " and ".join(doing))
    yield from other_films(facts, row, holds)


def _bridged(design: FittedDesign, row: FilmLayer, parts: list[Polygon]) -> Iterator[Edit]:
    """Yield the mend that joins small parts to what is next to them."""
    member, there = design.of_member(Region(parts))
    if not 0 < len(parts) <= MOST_BRIDGED or member.split is None or row.film is None:
        return
    wide = member.split.width_mm
    which = Which(points=tuple((spot.x / wide, spot.y / wide) for spot in points_inside(there.geoms)))
    width = kind_of(row.film).least_stroke_mm * float(limits()["thin"]["bridge_times"])
    name = f"bridge {several(len(parts), 'part', 'parts')} to the next"
    yield add_step(Bridge(which=which, width_mm=width), member.index, name)


def _detail(row: FilmLayer, region: Region, what: str) -> str:
    assert row.film is not None
    return f"{several(len(region.geoms), 'place', 'places')} {what}, for {row.film.name}"


def too_thin(facts: Facts) -> Iterator[Finding]:
    """A stroke is thinner than its film can hold."""
    for name, design, row in layer_rows(facts):
        if row.film is None or design.split is None:
            continue
        kind = kind_of(row.film)
        thin = thin_strokes(row, kind.least_stroke_mm)
        if not thin.is_empty and design.setting is None:
            step = Thicken(which=Which(colours=row.colours), least_mm=kind.least_stroke_mm)
            yield found(
                "too-thin",
                f"{name}: {_detail(row, thin, f'thinner than {kind.least_stroke_mm:g} mm')}",
                f"{kind.name} film holds strokes of {kind.least_stroke_mm:g} mm (typical; measure yours)",
                about=about(name, design, row),
                place=_at(design, thin),
                mend=_step(design, thin, step, f"thicken to {kind.least_stroke_mm:g} mm", local=True),
                count=len(thin.geoms),
                more=partial(
                    _larger_or_film,
                    facts,
                    design,
                    row,
                    _strokes_hold,
                ),
                least=partial(_narrowest, _strokes_hold, row, kind.least_stroke_mm),
            )


def _strokes_hold(row: FilmLayer, kind: FilmKind, times: float) -> bool:
    """Tell whether a kind of film holds every stroke of a layer, were it so many times as large."""
    return bool(thin_strokes(row, kind.least_stroke_mm / times).is_empty)


def _gaps_hold(row: FilmLayer, kind: FilmKind, times: float) -> bool:
    """Tell whether a kind of film leaves every gap of a layer open, were it so many times as large."""
    return bool(gaps_for(row, kind, times).is_empty)


def _narrowest(holds: Holds, row: FilmLayer, limit_mm: float) -> float:
    """Return how narrow the narrowest place of a layer is, in mm, within a fiftieth of the limit."""
    assert row.film is not None
    kind = kind_of(row.film)
    low, high = 0.0, 1.0
    while high - low > 1 / 50:
        middle = (low + high) / 2
        low, high = (middle, high) if holds(row, kind, 1 / middle) else (low, middle)
    return limit_mm * high


def _larger_or_film(facts: Facts, design: FittedDesign, row: FilmLayer, holds: Holds) -> Iterator[Edit]:
    """Yield the least size at which the film holds a layer, and other films that hold it as it is."""
    assert row.film is not None
    kind = kind_of(row.film)
    yield from larger(facts, design, least_times(lambda times: holds(row, kind, times)))
    yield from other_films(facts, row, lambda other: holds(row, other, 1.0))


def pattern_too_thin(facts: Facts) -> Iterator[Finding]:
    """Strokes are too thin for a patterned film to show its pattern."""
    share = float(limits()["thin"]["pattern_share"])

    def shows(row: FilmLayer, kind: FilmKind, times: float) -> bool:
        least = kind.pattern_stroke_mm
        return least is None or thin_strokes(row, least / times).area <= share * row.layer.area_mm2

    for name, design, row in layer_rows(facts):
        if row.film is None or design.split is None:
            continue
        least = kind_of(row.film).pattern_stroke_mm
        if least is None or shows(row, kind_of(row.film), 1.0):
            continue
        thin = thin_strokes(row, least)
        step = Thicken(which=Which(colours=row.colours), least_mm=least)
        yield found(
            "pattern-too-thin",
            f"{name}: {thin.area / row.layer.area_mm2:.0%} of it is thinner than {least:g} mm",
            "letters must be bold enough to show the pattern (common practice)",
            about=about(name, design, row),
            place=_at(design, thin),
            mend=_step(design, thin, step, f"bolder, to {least:g} mm"),
            more=partial(_larger_or_film, facts, design, row, shows),
        )


def gap_will_close(facts: Facts) -> Iterator[Finding]:
    """A gap is narrower than the film's growth, or than can be weeded."""
    for name, design, row in layer_rows(facts):
        if row.film is None or design.split is None or design.setting is not None:
            continue
        kind = kind_of(row.film)
        gaps = tight_gaps(row)
        if not gaps.is_empty:
            step = WidenGaps(which=Which(colours=row.colours), gap_mm=kind.open_gap_mm)
            yield found(
                "gap-will-close",
                f"{name}: {_detail(row, gaps, f'narrower than {kind.open_gap_mm:g} mm')}",
                f"{kind.name} film {'grows and closes' if kind.growth_mm else 'can hardly be weeded out of'} "
                f"gaps below {kind.open_gap_mm:g} mm (typical; measure yours)",
                about=about(name, design, row),
                place=_at(design, gaps),
                mend=_step(design, gaps, step, f"widen the gaps to {kind.open_gap_mm:g} mm", local=True),
                count=len(gaps.geoms),
                also=(_widened(design, gaps, row, step),),
                more=partial(_larger_or_film, facts, design, row, _gaps_hold),
                least=partial(_narrowest, _gaps_hold, row, kind.open_gap_mm),
            )


def _widened(design: FittedDesign, gaps: Region, row: FilmLayer, step: WidenGaps) -> Edit:
    """Return the mend that widens gaps and then makes strokes that became too thin wide enough again."""
    assert row.film is not None
    least = kind_of(row.film).least_stroke_mm
    thick = Thicken(which=step.which, least_mm=least)
    name = f"widen the gaps to {step.gap_mm:g} mm, strokes to {least:g} mm"
    edits = [_step(design, gaps, one, name) for one in (step, thick)]
    return replace(one_step(name, edits), local=True)


CHECKS = (weed_speck, too_thin, pattern_too_thin, gap_will_close)
