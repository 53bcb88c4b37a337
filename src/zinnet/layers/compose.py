"""Several designs as one picture of films: what lies in front covers what lies behind, colour by colour."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
import shapely

from zinnet.base.stages import stage
from zinnet.geometry.region import Region, hull_box, seamless, settled, union, without, without_specks
from zinnet.geometry.transform import Matrix, moved, moved_all, shift
from zinnet.layers.split import DUST_MM, ColourLayer, Faults, Split, crossings, moved_layer, same_outline


@dataclass(frozen=True, eq=False)
class Laid:
    """The layers of one design where it lies on the panel, and all that they cover there.

    ``hidden`` are colours of which nothing is seen, ``faults`` what is wrong with the outlines of each colour.
    """

    layers: tuple[ColourLayer, ...]
    covers: Region
    hidden: tuple[ColourLayer, ...]
    faults: Mapping[str, Faults]


@stage(most=256)
def laid_at(split: Split, matrix: bytes) -> Laid:
    """Return a design laid on the panel; ``matrix`` holds the nine numbers of its place."""
    to_panel: Matrix = np.frombuffer(matrix).reshape(3, 3)
    return Laid(
        layers=tuple(moved_layer(layer, to_panel) for layer in split.layers),
        covers=settled(moved(split.silhouette, to_panel)),
        hidden=tuple(moved_layer(layer, to_panel) for layer in split.hidden),
        faults=split.faults,
    )


@stage(most=128)
def compose(designs: tuple[Laid, ...]) -> tuple[Split, tuple[float, float]]:
    """Return the layers of designs that lie in one place, as one drawing of them would be split, and where it begins.

    Parameters
    ----------
    designs : laid designs, mm
        From the back to the front as they are seen.

    Returns
    -------
    (Split, (x, y)), mm
        One region a colour, lowest first, the corner of the box at the origin; the box's corner on the panel.
    """
    seen: dict[str, list[Region]] = {}
    whole: dict[str, list[ColourLayer]] = {}
    for place, design in enumerate(designs):
        in_front = [other.covers for other in designs[place + 1 :] if shapely.intersects(other.covers, design.covers)]
        for layer in design.layers:
            over = tuple(covers for covers in in_front if shapely.intersects(covers, layer.region))
            seen.setdefault(layer.colour, []).append(_left(layer, over) if over else layer.region)
            whole.setdefault(layer.colour, []).append(layer)
    for layer in (layer for design in designs for layer in design.hidden if layer.colour in seen):
        seen[layer.colour].append(layer.region)
        whole[layer.colour].append(layer)
    left, top, right, bottom = hull_box(design.covers for design in designs)
    found: list[ColourLayer] = []
    for colour, regions in seen.items():
        if any(not region.is_empty for region in regions):
            found.append(_one_layer(len(found) + 1, tuple(whole[colour]), tuple(regions), (-left, -top)))
    split = Split(
        layers=tuple(found),
        width_mm=right - left,
        height_mm=bottom - top,
        source_box=(0.0, 0.0, right - left, bottom - top),
        faults=_faults(designs),
    )
    return split, (left, top)


@stage(most=512)
def _left(layer: ColourLayer, in_front: tuple[Region, ...]) -> Region:
    """Return what is left of a layer where others lie in front; parts that these do not touch stay as they are."""
    cover = in_front[0] if len(in_front) == 1 else _joined(in_front)
    shapely.prepare(cover)
    parts = shapely.get_parts(layer.region)
    touched = shapely.intersects(cover, parts)
    cut = without_specks(without(shapely.multipolygons(parts[touched]), cover), DUST_MM)
    return Region([*parts[~touched], *cut.geoms])


@stage(most=64)
def _joined(regions: tuple[Region, ...]) -> Region:
    return union(regions)


@stage(most=512)
def _one_layer(
    order: int, layers: tuple[ColourLayer, ...], seen: tuple[Region, ...], by_mm: tuple[float, float]
) -> ColourLayer:
    """Return one colour of several designs as one layer, moved by so much; ``seen`` is what is seen of each."""
    left = [region for region in seen if not region.is_empty]
    region = without_specks(seamless(left), DUST_MM) if len(left) > 1 else left[0]
    to_corner = shift(*by_mm)
    painted, shapes = _all_painted(layers, by_mm)
    return ColourLayer(
        order=order,
        colour=layers[0].colour,
        region=settled(moved(region, to_corner)),
        painted=painted,
        drawn=moved_all(_drawn(layers, seen), to_corner),
        painted_shapes=shapes,
    )


@stage(most=512)
def _all_painted(layers: tuple[ColourLayer, ...], by_mm: tuple[float, float]) -> tuple[Region, tuple[Region, ...]]:
    """Return all that layers of one colour paint, and what each shape paints, moved by so much."""
    painted = seamless([layer.painted for layer in layers]) if len(layers) > 1 else layers[0].painted
    shapes = tuple(shape for layer in layers for shape in layer.painted_shapes)
    to_corner = shift(*by_mm)
    return settled(moved(painted, to_corner)), moved_all(shapes, to_corner)


def _drawn(layers: Sequence[ColourLayer], seen: Sequence[Region]) -> tuple[Region, ...]:
    """Return the outlines that are cut where they are not joined: those that nothing covers as they are drawn."""
    found: list[Region] = []
    for layer, region in zip(layers, seen, strict=True):
        found += layer.drawn if region is layer.region else [region] if not region.is_empty else []
    return tuple(found)


def _faults(designs: Sequence[Laid]) -> dict[str, Faults]:
    """Return for each colour how many pairs of its shapes cross, and how many are the same outline."""
    crossing, double = Counter[str](), Counter[str]()
    for design in designs:
        for colour, own in design.faults.items():
            crossing[colour] += own.crossing
            double[colour] += own.double
    for one, other in combinations(designs, 2):
        by_colour = {layer.colour: layer.painted_shapes for layer in (*other.layers, *other.hidden)}
        for layer in (*one.layers, *one.hidden):
            mine, theirs = layer.painted_shapes, by_colour.get(layer.colour, ())
            if not mine or not theirs:
                continue
            first, second = shapely.STRtree(mine).query(theirs, predicate="intersects")
            theirs_met, mine_met = np.array(theirs, dtype=object)[first], np.array(mine, dtype=object)[second]
            alike = np.array([same_outline(a, b) for a, b in zip(theirs_met, mine_met, strict=True)], dtype=bool)
            double[layer.colour] += int(alike.sum())
            crossing[layer.colour] += int(crossings(theirs_met[~alike], mine_met[~alike]).sum())
    return {colour: Faults(crossing[colour], double[colour]) for colour in (*crossing, *double)}
