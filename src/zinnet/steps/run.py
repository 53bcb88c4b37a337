"""Running the steps of a design at its finished width, so that every length in them holds in mm."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from zinnet.artwork.model import Artwork, Group
from zinnet.artwork.painted import FLATNESS_MM, paint_artwork, painted_box, rough_extent, round_width_mm
from zinnet.artwork.regions import region_artwork
from zinnet.artwork.source import Source, artwork_of, is_sized
from zinnet.artwork.visible import OPAQUE, visible_patches
from zinnet.base.errors import ArtworkError
from zinnet.base.stages import stage
from zinnet.geometry.inside import points_inside
from zinnet.geometry.transform import moved, scale, shift
from zinnet.steps import arrange, colour, shape, small
from zinnet.steps.areas import Area, Areas, box_of, choose
from zinnet.steps.model import KeepTogether, Step, step_name

CLOSE_SHARE = 2e-4
MOST_TRIES = 4
MOST_PARTS = 20_000

RUN: dict[str, Callable[[Areas, Any], Areas]] = {
    "join": shape.join,
    "cut-away": shape.cut_away,
    "intersect": shape.intersect,
    "exclude": shape.exclude,
    "outline": shape.outline,
    "thicken": shape.thicken,
    "thin": shape.thin,
    "close-gaps": shape.close_gaps,
    "widen-gaps": shape.widen_gaps,
    "smooth": shape.smooth,
    "simplify": shape.simplify,
    "remove-specks": shape.remove_specks,
    "enlarge": small.enlarge,
    "bridge": small.bridge,
    "fill-counters": shape.fill_counters,
    "drop": shape.drop,
    "keep": shape.keep,
    "move": arrange.move,
    "duplicate": arrange.duplicate,
    "turn": arrange.turn,
    "flip": arrange.flip,
    "align": arrange.align,
    "distribute": arrange.distribute,
    "recolour": colour.recolour,
    "reduce-colours": colour.reduce_colours,
    "keep-together": lambda areas, step: areas,
}


NO_LENGTHS = frozenset({"drop", "keep", "flip", "recolour", "reduce-colours", "keep-together"})
"""Steps that come out alike at every width."""


def finished(source: Source, steps: tuple[Step, ...], width_mm: float) -> Artwork:
    """Return a design's artwork after all its steps; where it has lengths in mm, they hold at ``width_mm``.

    Where nothing of it has a length, it is drawn once for a round width at which it is no smaller.
    Raises :class:`ArtworkError` where a step leaves nothing.
    """
    has_lengths = is_sized(source) or any(step.kind not in NO_LENGTHS for step in steps)
    return _finished(source, steps, width_mm if has_lengths else round_width_mm(width_mm))


@stage(most=64)
def _finished(source: Source, steps: tuple[Step, ...], width_mm: float) -> Artwork:
    """Return the artwork; the width at which the source must be drawn is found by trying.

    What the steps add hardly depends on it.
    """
    if not is_sized(source) and not steps:
        return artwork_of(source)
    if not artwork_of(source, width_mm).shapes:
        return artwork_of(source, width_mm)
    drawn = width_mm
    areas: Areas = ()
    for _ in range(MOST_TRIES):
        areas = _stepped(source, steps, drawn)
        left, _, right, _ = box_of(areas)
        wide = right - left
        if abs(wide - width_mm) <= CLOSE_SHARE * width_mm:
            break
        added = wide - drawn
        drawn = width_mm - added if 0.3 * width_mm < width_mm - added < 3 * width_mm else drawn * width_mm / wide
    made = region_artwork(
        [(area.name, area.colour, area.region) for area in areas], remarks=artwork_of(source, width_mm).remarks
    )
    return replace(made, groups=_groups(source, steps, drawn))


def _groups(source: Source, steps: tuple[Step, ...], drawn_mm: float) -> tuple[Group, ...]:
    """Return what is to be kept together or apart, by points of the drawn areas."""
    found = []
    for number, step in enumerate(steps):
        if isinstance(step, KeepTogether):
            areas = _stepped(source, steps[:number], drawn_mm)
            spots = [
                ((spot.x, spot.y), choice.area.colour)
                for choice in choose(areas, step.which)
                for spot in points_inside(choice.chosen.geoms)
            ]
            found.append(Group(tuple(at for at, _ in spots), step.apart, tuple(colour for _, colour in spots)))
    return tuple(found)


@stage(most=64)
def _stepped(source: Source, steps: tuple[Step, ...], drawn_mm: float) -> Areas:
    """Return the areas after the steps, of a source drawn so wide; each step is kept for when the next one changes."""
    if not steps:
        return drawn_areas(artwork_of(source, drawn_mm), drawn_mm)
    before = _stepped(source, steps[:-1], drawn_mm)
    last = steps[-1]
    areas = RUN[last.kind](before, last)
    if not areas:
        raise ArtworkError(f"The step “{step_name(last)}” leaves nothing of the artwork; change it or take it out.")
    if sum(len(area.region.geoms) for area in areas) > MOST_PARTS:
        raise ArtworkError(f"The step “{step_name(last)}” makes more than {MOST_PARTS} parts; that can't be cut.")
    return areas


@stage(most=32)
def drawn_areas(artwork: Artwork, width_mm: float) -> Areas:
    """Return what artwork paints as areas in mm, ``width_mm`` wide, its corner at the origin.

    What is see-through is mixed with what lies under it.
    """
    painted = paint_artwork(artwork, FLATNESS_MM / 2 * rough_extent(artwork) / width_mm)
    left, top, right, _ = painted_box(painted)
    if right <= left:
        raise ArtworkError("The artwork has no width; there is nothing to cut.")
    to_mm = scale(width_mm / (right - left)) @ shift(-left, -top)
    if all(area.paint.opacity >= OPAQUE for area in painted):
        return tuple(
            Area(area.paint.colour, moved(area.region, to_mm), artwork.shapes[area.shape].name) for area in painted
        )
    return tuple(Area(patch.colour, moved(patch.region, to_mm)) for patch in visible_patches(painted))
