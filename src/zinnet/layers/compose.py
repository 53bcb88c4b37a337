"""Several designs as one picture of films: what lies in front covers what lies behind, colour by colour."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from zinnet.base.stages import stage
from zinnet.geometry.region import Region, hull_box, seamless, settled, union, without, without_specks
from zinnet.geometry.transform import Matrix, moved, shift
from zinnet.layers.split import DUST_MM, ColourLayer, Split, moved_layer, same_outline


@dataclass(frozen=True, eq=False)
class Laid:
    """The layers of one design where it lies on the panel, and all that they cover there.

    ``faults`` counts the pairs of its shapes of one colour that cross, and those that are the same outline.
    """

    layers: tuple[ColourLayer, ...]
    covers: Region
    faults: tuple[int, int]


@stage(most=256)
def laid_at(split: Split, matrix: bytes) -> Laid:
    """Return a design laid on the panel; ``matrix`` holds the nine numbers of its place."""
    to_panel: Matrix = np.frombuffer(matrix).reshape(3, 3)
    return Laid(
        layers=tuple(moved_layer(layer, to_panel) for layer in split.layers),
        covers=settled(moved(split.silhouette, to_panel)),
        faults=(split.crossing_outlines, split.double_outlines),
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
    painted: dict[str, list[ColourLayer]] = {}
    for place, design in enumerate(designs):
        in_front = [other.covers for other in designs[place + 1 :] if shapely.intersects(other.covers, design.covers)]
        cover = union(in_front) if in_front else None
        for layer in design.layers:
            left = layer.region if cover is None else without_specks(without(layer.region, cover), DUST_MM)
            seen.setdefault(layer.colour, []).append(left)
            painted.setdefault(layer.colour, []).append(layer)
    found: list[ColourLayer] = []
    for colour, regions in seen.items():
        layers, left = painted[colour], [region for region in regions if not region.is_empty]
        if not left:
            continue
        region = without_specks(seamless(left), DUST_MM) if len(left) > 1 else left[0]
        found.append(
            ColourLayer(
                order=len(found) + 1,
                colour=colour,
                region=region,
                painted=seamless([layer.painted for layer in layers]),
                drawn=_drawn(layers, regions),
                painted_shapes=tuple(shape for layer in layers for shape in layer.painted_shapes),
            )
        )
    left, top, right, bottom = hull_box(design.covers for design in designs)
    crossing, double = _faults(designs)
    crossing += sum(design.faults[0] for design in designs)
    double += sum(design.faults[1] for design in designs)
    to_corner = shift(-left, -top)
    split = Split(
        layers=tuple(moved_layer(layer, to_corner) for layer in found),
        width_mm=right - left,
        height_mm=bottom - top,
        source_box=(0.0, 0.0, right - left, bottom - top),
        crossing_outlines=crossing,
        double_outlines=double,
    )
    return split, (left, top)


def _drawn(layers: Sequence[ColourLayer], seen: Sequence[Region]) -> tuple[Region, ...]:
    """Return the outlines that are cut where they are not joined: those that nothing covers as they are drawn."""
    found: list[Region] = []
    for layer, region in zip(layers, seen, strict=True):
        found += layer.drawn if region is layer.region else [region] if not region.is_empty else []
    return tuple(found)


def _faults(designs: Sequence[Laid]) -> tuple[int, int]:
    """Return how many pairs of shapes of one colour in two designs cross, and how many are the same outline."""
    shapes = [
        (place, layer.colour, shape)
        for place, design in enumerate(designs)
        for layer in design.layers
        for shape in layer.painted_shapes
    ]
    regions = np.array([shape for _, _, shape in shapes], dtype=object)
    first, second = shapely.STRtree(regions).query(regions, predicate="intersects")
    crossing = double = 0
    for a, b in zip(first.tolist(), second.tolist(), strict=True):
        (place, colour, one), (other_place, other_colour, other) = shapes[a], shapes[b]
        if place >= other_place or colour != other_colour:
            continue
        if same_outline(one, other):
            double += 1
        else:
            crossing += bool(shapely.overlaps(one, other))
    return crossing, double
