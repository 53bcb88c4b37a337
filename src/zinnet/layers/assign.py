"""Which film each colour is cut from, and from which side."""

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from zinnet.data import read_toml
from zinnet.layers.films import CutSide, Film, cut_side, kind_of, nearest_film
from zinnet.layers.split import ColourLayer, Method
from zinnet.model import Frozen


class FilmChoice(Frozen):
    """The user's film for a colour; an id that is not in stock leaves the colour without film."""

    colour: str
    film: str


class SideOverride(Frozen):
    """The user's own word on which side of a film is cut, with the reason."""

    film: str
    mirrored: bool
    reason: str


class LayersSpec(Frozen):
    """How the artwork is split and what it is cut from."""

    method: Method = "cut-away"
    join_outlines: bool = True
    films: tuple[FilmChoice, ...] = ()
    sides: tuple[SideOverride, ...] = ()


@dataclass(frozen=True, eq=False)
class FilmLayer:
    """A colour layer with its film and the side that is cut; both None where there is no film."""

    layer: ColourLayer
    film: Film | None
    chosen: bool
    difference: float | None
    side: CutSide | None
    derived_side: CutSide | None

    @property
    def turns(self) -> Literal["none", "quarter"]:
        """Which turns on the mat the film allows: with a nap or pattern, none."""
        return "none" if self.film is not None and kind_of(self.film).direction else "quarter"


@lru_cache(maxsize=256)
def assign_films(
    layers: tuple[ColourLayer, ...], spec: LayersSpec, stock: tuple[Film, ...], *, seen: str
) -> tuple[FilmLayer, ...]:
    """Return each layer with its film: the user's choice, else the nearest in stock that is not far off."""
    chosen = {choice.colour: choice.film for choice in spec.films}
    overrides = {side.film: side for side in spec.sides}
    by_id = {film.id: film for film in stock}
    far = read_toml("limits")["colour"]["far_delta_e"]
    found = []
    for layer in layers:
        nearest = nearest_film(layer.colour, stock)
        film: Film | None = None
        difference = None
        if layer.colour in chosen:
            film = by_id.get(chosen[layer.colour])
        elif nearest is not None and nearest[1] <= far:
            film, difference = nearest
        derived = cut_side(film, seen=seen) if film else None
        side = derived
        if film is not None and film.id in overrides:
            override = overrides[film.id]
            side = CutSide(mirrored=override.mirrored, reason=f"by your own word: {override.reason}")
        found.append(FilmLayer(layer, film, layer.colour in chosen, difference, side, derived))
    return tuple(found)
