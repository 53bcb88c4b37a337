"""The layers of a design as values: each with its film, how they lie to one another, and how deep they are."""

from dataclasses import dataclass
from functools import cached_property

from zinnet.base.stages import stage
from zinnet.films.catalogue import CutSide, Film, kind_of
from zinnet.films.support import PairRule
from zinnet.geometry.region import Region, hull_box, is_dust
from zinnet.layers.depth import Spot, cut_away_advice, deeper_than, depth_map
from zinnet.layers.split import ColourLayer

LAP_TIMES = 1.2
"""What is narrower than this many laps is a lap."""


@dataclass(frozen=True, eq=False)
class FilmLayer:
    """What is cut from one film; film and sides are None where there is no film.

    ``layer`` has the region as it is cut and the order of pressing. ``seen`` is what is seen of it. ``larger`` is the
    layer at the width from which it was scaled down, and by how much.
    """

    layer: ColourLayer
    colours: tuple[str, ...]
    seen: Region
    film: Film | None
    chosen: bool
    difference: float | None
    side: CutSide | None
    derived_side: CutSide | None
    larger: tuple[ColourLayer, float] | None = None

    @property
    def key(self) -> str:
        """The colour by which the user's decisions name the layer."""
        return self.colours[0]

    @property
    def is_print(self) -> bool:
        """Whether it is printed, which has all the colours of the artwork."""
        return self.film is not None and kind_of(self.film).bond == "print"


@dataclass(frozen=True, eq=False)
class Pair:
    """Two layers that meet: the lower one lies farther from the eye.

    ``under`` and ``over`` are the same two as they are pressed, which through glass is the other way round.
    """

    lower: FilmLayer
    upper: FilmLayer
    under: FilmLayer
    over: FilmLayer
    rule: PairRule

    @property
    def lies_on(self) -> bool:
        """Whether one film lies on the other, with all of it or with a lap."""
        return self.rule.method != "side-by-side"


@dataclass(frozen=True, eq=False)
class LayerStack:
    """All layers of a design as they are seen, the lowest first; they are pressed by their own order.

    Through glass the front colour is pressed first. ``derived_order`` names the layers as they should be pressed;
    ``spared`` are those that were cut away because too many films would have lain on one another. ``piles`` are the
    layers that lie on one another somewhere, each from the lowest to the one that is seen.
    """

    layers: tuple[FilmLayer, ...]
    piles: tuple[tuple[FilmLayer, ...], ...]
    pairs: tuple[Pair, ...]
    derived_order: tuple[str, ...]
    lap_mm: float
    most_films: int
    through_glass: bool
    spared: tuple[str, ...] = ()
    outline: ColourLayer | None = None
    """The layer that reaches beyond all others, where the lowest film is an outline round them."""

    @property
    def box(self) -> tuple[float, float, float, float]:
        """The box round all layers, in artwork mm."""
        return hull_box(row.layer.region for row in self.layers)

    @property
    def in_press_order(self) -> tuple[FilmLayer, ...]:
        """The layers in the order in which they are pressed."""
        return tuple(sorted(self.layers, key=lambda row: row.layer.order))

    @cached_property
    def spots(self) -> tuple[Spot, ...]:
        """How many films lie where, and how thick; layers by their index."""
        return _spots(tuple(row.layer for row in self.layers), tuple(_thickness(row.film) for row in self.layers))

    @property
    def deepest(self) -> int:
        """The most films that lie on one another, laps left out: those are too narrow to be stiff."""
        return max((len(pile) for pile in self.piles), default=0)

    @cached_property
    def too_deep(self) -> Region:
        """Where more films lie on one another than should, laps left out."""
        deep = deeper_than(self.spots, self.most_films)
        return Region([part for part in deep.geoms if not is_dust(part, LAP_TIMES * self.lap_mm)])

    @cached_property
    def advice(self) -> tuple[FilmLayer, ...] | None:
        """The layers to cut away to come down to the most films, with least extra outline; None where nothing helps."""
        place = {id(row): index for index, row in enumerate(self.layers)}
        piles = [tuple(place[id(row)] for row in pile) for pile in self.piles]
        extra = [row.seen.length - row.layer.region.length for row in self.layers]
        found = cut_away_advice(piles, extra, self.most_films)
        return None if found is None else tuple(self.layers[index] for index in found)


def laid_on(through_glass: bool) -> str:
    """Return in words the side that the films are laid on."""
    return "the back of the glass, away from food and lips" if through_glass else "the front"


def _thickness(film: Film | None) -> float:
    return 0.0 if film is None else kind_of(film).thickness_um


@stage(most=64)
def _spots(layers: tuple[ColourLayer, ...], thickness_um: tuple[float, ...]) -> tuple[Spot, ...]:
    return depth_map(tuple(layer.region for layer in layers), thickness_um)
