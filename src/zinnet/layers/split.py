"""Splitting painted artwork into what is seen of each colour, and what each paints under the others."""

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray

from zinnet.artwork.model import Artwork
from zinnet.artwork.painted import FLATNESS_MM, Painted, paint_artwork, painted_box, rough_extent, round_width_mm
from zinnet.artwork.visible import OPAQUE, Patch, visible_patches
from zinnet.base.errors import ArtworkError
from zinnet.base.stages import stage
from zinnet.geometry.pairs import meeting_pairs
from zinnet.geometry.parallel import each
from zinnet.geometry.region import EMPTY, Region, hull_box, is_dust, seamless, settled, union, without, without_specks
from zinnet.geometry.transform import Matrix, moved, moved_all, scale, shift

DUST_MM = 0.01
SPECK_MM2 = 1e-3
"""What two outlines have in common by rounding is less."""
MOST_PAIRS, MOST_ALIKE = 20_000, 1_000
"""So many pairs of shapes that meet are looked at for crossings, and of those so many for being the same."""
ALIKE = 0.02
MOST_ASPECT = 5000.0


@dataclass(frozen=True, eq=False)
class ColourLayer:
    """What is seen of one colour, as worn, in mm; ``order`` 1 is the bottom.

    ``painted`` is all that it paints, also where others lie on it. ``drawn`` and ``painted_shapes`` keep what each
    shape adds by itself to the two: the outlines that are cut where they are not joined.
    """

    order: int
    colour: str
    region: Region
    painted: Region
    drawn: tuple[Region, ...]
    painted_shapes: tuple[Region, ...]

    @property
    def area_mm2(self) -> float:
        """The area of film that stays on the garment."""
        return float(self.region.area)

    @property
    def pieces(self) -> int:
        """How many parts hang together by themselves."""
        return len(self.region.geoms)


class Faults(NamedTuple):
    """How many pairs of shapes of one colour cross, and how many are nearly the same outline."""

    crossing: int
    double: int


@dataclass(frozen=True, eq=False)
class Split:
    """Artwork as layers in mm; the origin is the upper left corner of the artwork's box."""

    layers: tuple[ColourLayer, ...]
    width_mm: float
    height_mm: float
    source_box: tuple[float, float, float, float]
    faults: Mapping[str, "Faults"]
    """What is wrong with the outlines of each colour, also of one that is nowhere seen."""
    hidden: tuple[ColourLayer, ...] = ()
    """Colours that are painted and nowhere seen: what they paint, with no region."""
    larger: "Split | None" = None
    """The layers at the round width from which these were scaled down."""

    @property
    def crossing_outlines(self) -> int:
        """How many pairs of shapes of one colour cross."""
        return sum(self.faults[layer.colour].crossing for layer in self.layers if layer.colour in self.faults)

    @property
    def double_outlines(self) -> int:
        """How many pairs of shapes of one colour are nearly the same outline."""
        return sum(self.faults[layer.colour].double for layer in self.layers if layer.colour in self.faults)

    @property
    def to_mm(self) -> Matrix:
        """The matrix from the artwork's viewBox units to artwork mm."""
        left, top, width, height = self.source_box
        return scale(self.width_mm / width, self.height_mm / height) @ shift(-left, -top)

    @property
    def stretch(self) -> float:
        """How much taller it is than its width asks for: 1 where the proportions are kept."""
        _, _, width, height = self.source_box
        return (self.height_mm / height) / (self.width_mm / width)

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """The box around all layers, in mm."""
        return hull_box(layer.region for layer in self.layers)

    @property
    def silhouette(self) -> Region:
        """All that the layers cover together."""
        return _silhouette(self)


@stage(most=256)
def _silhouette(split: Split) -> Region:
    if split.larger is not None:
        down = scale(split.width_mm / split.larger.width_mm, split.height_mm / split.larger.height_mm)
        return moved(split.larger.silhouette, down)
    return union(layer.region for layer in split.layers)


@stage(most=128)
def split_artwork(artwork: Artwork, *, width_mm: float, height_mm: float | None = None) -> Split:
    """Return the layers of artwork whose box is to be ``width_mm`` wide, curves within 0.02 mm.

    The height follows, unless ``height_mm`` stretches it. The work is done once for a round width at which neither
    side is smaller, and scaled down from there.

    Parameters
    ----------
    artwork : Artwork
        Shapes in the units of their file.
    width_mm : float, mm
        The width of the artwork's box.
    height_mm : float, mm
        Its height, where it is stretched.

    Returns
    -------
    Split, mm
        One region a colour, lowest first, y down, the box's corner at the origin.

    Raises
    ------
    ArtworkError
        Nothing is painted that can be cut: no width, no height, or nowhere thick enough.
    """
    round_width = round_width_mm(width_mm)
    split = _split_at(artwork, round_width)
    while height_mm is not None and split.height_mm < height_mm:
        round_width *= 2
        split = _split_at(artwork, round_width)
    factor = width_mm / round_width
    down = factor if height_mm is None else height_mm / split.height_mm
    layers = tuple(moved_layer(layer, scale(factor, down)) for layer in split.layers)
    hidden = tuple(moved_layer(layer, scale(factor, down)) for layer in split.hidden)
    return replace(
        split, layers=layers, hidden=hidden, width_mm=width_mm, height_mm=split.height_mm * down, larger=split
    )


@stage(most=16)
def _split_at(artwork: Artwork, width_mm: float) -> Split:
    """Return the layers at a width; the flatness is met once the true width of the paint is known."""
    flatness = FLATNESS_MM * rough_extent(artwork) / width_mm
    while True:
        painted = paint_artwork(artwork, flatness)
        left, top, right, bottom = painted_box(painted)
        if right - left <= 0 or bottom - top <= 0:
            raise ArtworkError("The artwork has no width or no height; there is nothing to cut.")
        if not 1 / MOST_ASPECT < (bottom - top) / (right - left) < MOST_ASPECT:
            raise ArtworkError(
                f"One side of the artwork is more than {MOST_ASPECT:.0f} times the other; that is a line, not a shape "
                "to cut. Look for a stray point in it."
            )
        units_per_mm = (right - left) / width_mm
        if flatness <= FLATNESS_MM * units_per_mm * 1.001:
            break
        flatness = FLATNESS_MM * units_per_mm / 2
    to_mm = scale(1 / units_per_mm) @ shift(-left, -top)
    regions = moved_all([area.region for area in painted], to_mm)
    in_mm = [Painted(area.shape, area.paint, settled(region)) for area, region in zip(painted, regions, strict=True)]
    layers = tuple(_layers(visible_patches(in_mm), in_mm))
    if not layers:
        raise ArtworkError(
            f"The artwork is nowhere thicker than {DUST_MM:g} mm; there is nothing to cut. Give its lines a thickness."
        )
    return Split(
        layers=layers,
        width_mm=width_mm,
        height_mm=(bottom - top) / units_per_mm,
        source_box=(left, top, right - left, bottom - top),
        faults=outline_faults(in_mm),
        hidden=tuple(_hidden(in_mm, {layer.colour for layer in layers})),
    )


def _layers(patches: Sequence[Patch], painted: Sequence[Painted]) -> list[ColourLayer]:
    """Return one layer per colour, ordered by where the colour first appears from the bottom."""
    found: list[ColourLayer] = []
    colours = list(dict.fromkeys(patch.colour for patch in patches))
    drawn_in = {colour: tuple(patch.region for patch in patches if patch.colour == colour) for colour in colours}
    clean = _dusted(each(lambda colour: seamless(drawn_in[colour]), colours))
    solid = [area for area in painted if area.paint.opacity >= OPAQUE]
    shapes_in = {
        colour: tuple(area.region for area in solid if area.paint.colour == colour) or drawn_in[colour]
        for colour in colours
    }
    wholes = each(lambda index: seamless([clean[index], *shapes_in[colours[index]]]), range(len(colours)))
    for colour, seen, whole in zip(colours, clean, wholes, strict=True):
        if seen.is_empty:
            continue
        drawn, shapes = drawn_in[colour], shapes_in[colour]
        found.append(ColourLayer(len(found) + 1, colour, seen, whole, drawn, shapes))
    return found


def _hidden(painted: Sequence[Painted], seen: Collection[str]) -> Iterator[ColourLayer]:
    """Yield what colours paint of which nothing is seen."""
    for colour in dict.fromkeys(area.paint.colour for area in painted if area.paint.opacity >= OPAQUE):
        if colour not in seen:
            shapes = [area.region for area in painted if area.paint.colour == colour and area.paint.opacity >= OPAQUE]
            yield ColourLayer(0, colour, EMPTY, seamless(shapes), (), tuple(shapes))


def _dusted(regions: Sequence[Region]) -> list[Region]:
    """Return regions that lie side by side without numerical dust: each grain goes to a neighbour, else it is lost."""
    dust = [[part for part in region.geoms if is_dust(part, DUST_MM)] for region in regions]
    clean = [without_specks(region, DUST_MM) for region in regions]
    if not any(dust):
        return clean
    gained: dict[int, list[shapely.Polygon]] = {}
    tree = shapely.STRtree(clean)
    for grain in (grain for grains in dust for grain in grains):
        near = [index for index in tree.query(grain, predicate="intersects") if not clean[index].is_empty]
        if near:
            shared = [shapely.intersection(shapely.boundary(clean[k]), grain.exterior).length for k in near]
            gained.setdefault(int(near[int(np.argmax(shared))]), []).append(grain)
    return [seamless([region, *gained[k]]) if k in gained else region for k, region in enumerate(clean)]


def moved_layer(layer: ColourLayer, matrix: Matrix) -> ColourLayer:
    """Return a layer at another size, or elsewhere."""
    return replace(
        layer,
        region=settled(moved(layer.region, matrix)),
        painted=settled(moved(layer.painted, matrix)),
        drawn=moved_all(layer.drawn, matrix),
        painted_shapes=moved_all(layer.painted_shapes, matrix),
    )


def outline_faults(painted: Sequence[Painted]) -> dict[str, Faults]:
    """Return for each colour how many pairs of its shapes cross, and how many are nearly the same outline.

    Where very many meet, so many as were looked at.
    """
    by_colour: dict[str, list[Painted]] = {}
    for area in painted:
        by_colour.setdefault(area.paint.colour, []).append(area)
    found: dict[str, Faults] = {}
    for colour, areas in by_colour.items():
        if len(areas) < 2:
            continue
        regions = np.array([area.region for area in areas], dtype=object)
        (first, second), _ = meeting_pairs(regions, MOST_PAIRS)
        shapes = np.array([area.shape for area in areas])
        other = shapes[first] != shapes[second]
        first, second = first[other][:MOST_PAIRS], second[other][:MOST_PAIRS]
        sizes = shapely.area(regions)
        alike = np.abs(sizes[first] - sizes[second]) <= ALIKE * np.maximum(sizes[first], sizes[second])
        alike[np.flatnonzero(alike)[MOST_ALIKE:]] = False
        alike[alike] = [same_outline(regions[a], regions[b]) for a, b in zip(first[alike], second[alike], strict=True)]
        first, second = regions[first[~alike]], regions[second[~alike]]
        crossing = int(crossings(first, second).sum())
        found[colour] = Faults(crossing, int(alike.sum()))
    return found


def crossings(first: NDArray[np.object_], second: NDArray[np.object_]) -> NDArray[np.bool_]:
    """Tell for each two regions whether their outlines cross: both have more than dust in common, and by themselves.

    Parameters
    ----------
    first, second : arrays (n,) of regions, mm
        Pair by pair.

    Returns
    -------
    bool array (n,)
        False where they only meet, or one lies in the other, but for rounding.
    """
    cross = shapely.overlaps(first, second)
    one, other = first[cross], second[cross]
    areas = [
        shapely.area(overlay)
        for overlay in (
            shapely.intersection(one, other),
            shapely.difference(one, other),
            shapely.difference(other, one),
        )
    ]
    cross[cross] = np.min(areas, axis=0) > SPECK_MM2 if len(one) else False
    return np.asarray(cross, dtype=bool)


def same_outline(one: Region, other: Region) -> bool:
    """Tell whether two regions differ by no more than dust along their outlines."""
    if abs(one.area - other.area) > ALIKE * max(one.area, other.area):
        return False
    apart = without(one, other).area + without(other, one).area
    return bool(apart < DUST_MM * 10 * max(one.length, other.length))


@stage(most=64)
def own_size_mm(artwork: Artwork) -> tuple[float, float] | None:
    """Return width and height of the artwork's box by the physical size that its file states, where it does."""
    if artwork.mm_per_unit is None:
        return None
    left, top, right, bottom = painted_box(paint_artwork(artwork, rough_extent(artwork) / 10_000))
    return (right - left) * artwork.mm_per_unit, (bottom - top) * artwork.mm_per_unit


def own_width_mm(artwork: Artwork) -> float | None:
    """Return the width of the artwork's box by its file, where it states one."""
    own = own_size_mm(artwork)
    return None if own is None else own[0]


def move_parts(split: Split, matrices: Sequence[Matrix], which: Callable[[Region], Sequence[int]]) -> Split:
    """Return the layers with every part moved by its own matrix.

    ``which`` tells for the parts of a region, in their order, the index of the matrix. The box's size is kept: it
    is that of the artwork before, from which lengths are read.

    Parameters
    ----------
    split : Split, mm
        The colours.
    matrices : arrays (3, 3)
        The moves to choose from.
    which : function of a region
        The index of the matrix for each of its parts.

    Returns
    -------
    Split, mm
        The same box.
    """

    def apart(region: Region) -> Region:
        parts = list(region.geoms)
        indices = which(region)
        return Region([moved(part, matrices[index]) for part, index in zip(parts, indices, strict=True)])

    layers = tuple(
        replace(
            layer,
            region=apart(layer.region),
            painted=apart(layer.painted),
            drawn=tuple(map(apart, layer.drawn)),
            painted_shapes=tuple(map(apart, layer.painted_shapes)),
        )
        for layer in split.layers
    )
    return replace(split, layers=layers, hidden=(), larger=None)
