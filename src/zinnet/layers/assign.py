"""Which film each colour is cut from, which colours share one, and from which side it is cut."""

from collections.abc import Sequence
from dataclasses import dataclass

from zinnet.base.words import has_words
from zinnet.data.limits import limits
from zinnet.films.catalogue import Bond, CutSide, Film, cut_side, kind_of, nearest_film
from zinnet.films.colours import colour_difference
from zinnet.layers.spec import LayersSpec
from zinnet.layers.split import ColourLayer


@dataclass(frozen=True)
class Assigned:
    """Colours that are cut together, from one film: the first appears lowest, ``main`` covers most."""

    colours: tuple[str, ...]
    main: str
    film: Film | None
    chosen: bool

    @property
    def difference(self) -> float | None:
        """How far the film is from the main colour (CIEDE2000), None without film and for a print, which has all."""
        if self.film is None or kind_of(self.film).bond == "print":
            return None
        return colour_difference(self.main, self.film.colour)


def assign_films(
    layers: Sequence[ColourLayer],
    spec: LayersSpec,
    stock: tuple[Film, ...],
    *,
    share: bool = True,
    holds: tuple[Bond, ...] = ("heat",),
) -> tuple[Assigned, ...]:
    """Return the colours by film: the user's choice, else the nearest in stock that is not far off.

    Film that does not hold there is never taken by itself.

    Like colours are one, and colours that come to the same film are one layer, unless ``share`` is off.

    Parameters
    ----------
    layers : colour layers
        From the bottom up.
    spec : LayersSpec
        What the user chose.
    stock : films
        Those to choose from.
    share : bool
        Whether colours that come to one film become one layer.
    holds : bonds
        By which films hold on the blank, the usual one first.

    Returns
    -------
    an Assigned for each film, and for each colour without one
        Those of the lowest layers first.
    """
    if not share:
        return tuple(Assigned((one.colour,), one.colour, *_film(one.colour, spec, stock, holds)) for one in layers)
    area = {layer.colour: layer.area_mm2 for layer in layers}
    becomes = _merged(area, spec)
    found: dict[str, tuple[list[str], Film | None, bool]] = {}
    for layer in layers:
        film, chosen = _film(becomes[layer.colour], spec, stock, holds)
        key = film.id if film is not None else becomes[layer.colour]
        found.setdefault(key, ([], film, False))
        colours, _, before = found[key]
        found[key] = ([*colours, layer.colour], film, chosen or before)
    return tuple(
        Assigned(tuple(colours), max(colours, key=lambda one: area[one]), film, chosen)
        for colours, film, chosen in found.values()
    )


def _merged(area: dict[str, float], spec: LayersSpec) -> dict[str, str]:
    """Return for each colour the like one that covers more and stands for it; a colour with a film of its own stays."""
    most = limits()["layers"]["merge_delta_e"] if spec.merge_delta_e is None else spec.merge_delta_e
    own = {choice.colour for choice in spec.films}
    becomes: dict[str, str] = {}
    for colour in sorted(area, key=lambda one: (-area[one], one)):
        like = [one for one in becomes.values() if colour not in own and colour_difference(one, colour) <= most]
        becomes[colour] = like[0] if like else colour
    return becomes


def _film(colour: str, spec: LayersSpec, stock: tuple[Film, ...], holds: tuple[Bond, ...]) -> tuple[Film | None, bool]:
    for choice in spec.films:
        if choice.colour == colour:
            return next((film for film in stock if film.id == choice.film), None), True
    for bond in holds:
        suited = tuple(film for film in stock if kind_of(film).bond == bond)
        if bond == "print" and suited:
            return suited[0], False
        nearest = nearest_film(colour, suited)
        if nearest is not None and nearest[1] <= limits()["colour"]["far_delta_e"]:
            return nearest[0], False
    return None, False


def sides_of(film: Film | None, spec: LayersSpec, seen: str) -> tuple[CutSide | None, CutSide | None]:
    """Return the side that a film is cut from, and the one that follows from the film; None without film."""
    if film is None:
        return None, None
    derived = cut_side(film, seen=seen)
    override = next((side for side in spec.sides if side.film == film.id and has_words(side.reason)), None)
    if override is None:
        return derived, derived
    return CutSide(mirrored=override.mirrored, reason=f"by your own word: {override.reason}"), derived
