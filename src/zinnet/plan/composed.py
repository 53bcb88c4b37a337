"""Compositions: what lies in one place of a panel is one picture of films, whichever designs it comes from."""

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import combinations

import numpy as np
import shapely

from zinnet.artwork.model import Group
from zinnet.base.stages import stage
from zinnet.films.catalogue import Film
from zinnet.geometry.inside import points_inside
from zinnet.geometry.region import Region, union, without
from zinnet.geometry.transform import moved, shift
from zinnet.layers.build import build_layers
from zinnet.layers.compose import Laid, compose, laid_at
from zinnet.layers.inks import Ink
from zinnet.layers.spec import LayersSpec
from zinnet.layers.stack import FilmLayer
from zinnet.plan.fitted import FittedDesign, Garment, frozen, on_panel
from zinnet.plan.named import NamedGarment

NEAR_MM = 0.02
"""Designs that come nearer than this to one another share their films."""
LEAST_MM2 = 0.01
"""What is less of a design is rounding."""


@dataclass(frozen=True)
class Spot:
    """One place of one design, by their numbers."""

    design: int
    place: int


@dataclass(frozen=True, eq=False)
class Composition(FittedDesign):
    """Several designs that lie in one place, as one picture: layers, splits and placement are those of all together.

    ``members`` are the designs from the back to the front, ``spots`` which of their places take part.
    """

    members: tuple[FittedDesign, ...] = ()
    spots: tuple[Spot, ...] = ()
    number: int = 1

    @property
    def name(self) -> str:
        """What it is called: by its designs."""
        return " with ".join(dict.fromkeys(member.name for member in self.members))

    @property
    def made_of(self) -> tuple[FittedDesign, ...]:
        """The designs that it is made of."""
        return self.members

    @property
    def key(self) -> str:
        """How its pieces are called."""
        again = f"spot-{self.number}-" if self.number > 1 else ""
        return f"designs-{'-'.join(str(index + 1) for index in self.indices)}-{again}"

    @property
    def groups(self) -> tuple[Group, ...]:
        """The parts to be kept together or apart, by points in mm of the composition."""
        assert self.placement is not None
        back = np.linalg.inv(self.placement.matrix)
        found: list[Group] = []
        for member, spot in zip(self.members, self.spots, strict=True):
            assert member.placement is not None
            found += member.groups_at(back @ member.placement.matrices[spot.place])
        return tuple(found)

    @property
    def inks(self) -> tuple[Ink, ...]:
        """All colours from the bottom up, then the pictures among the designs as far as they are seen."""
        assert self.placement is not None
        back = np.linalg.inv(self.placement.matrix)
        found = list(self.flat_inks)
        laid = tuple(zip(self.members, self.spots, strict=True))
        for place, (member, spot) in enumerate(laid):
            if not member.artwork.whole_picture:
                continue
            assert member.placement is not None
            in_front = [laid_on_panel(*pair).covers for pair in laid[place + 1 :]]
            for ink in member.inks:
                there = ink.moved(member.placement.matrices[spot.place])
                seen = without(there.region, union(in_front)) if in_front else there.region
                found.append(there.moved(back, moved(seen, back)))
        return tuple(found)

    def sources(self, row: FilmLayer) -> tuple[int, ...]:
        """Return the numbers of the designs that one of its layers comes from."""
        assert self.placement is not None
        seen = moved(row.layer.region, self.placement.matrix)
        found = []
        for member, spot in zip(self.members, self.spots, strict=True):
            layers = [layer for layer in laid_on_panel(member, spot).layers if layer.colour in row.colours]
            if any(_share(layer.region, seen) for layer in layers):
                found.append(member.index)
        return tuple(dict.fromkeys(found))

    def of_member(self, region: Region) -> tuple[FittedDesign, Region]:
        """Return the design in which most of a region lies, and where it lies in that one's own mm."""
        assert self.placement is not None
        to_panel = moved(region, self.placement.matrix)
        best = max(
            zip(self.members, self.spots, strict=True),
            key=lambda pair: (shapely.intersection(laid_on_panel(*pair).covers, to_panel).area, pair[1].design),
        )
        member, spot = best
        assert member.placement is not None
        return member, moved(to_panel, np.linalg.inv(member.placement.matrices[spot.place]))


def _share(one: Region, other: Region) -> bool:
    """Tell whether two regions have more than rounding in common; a look at one point of each part often tells."""
    shapely.prepare(other)
    if shapely.intersects(other, points_inside(one.geoms)).any():
        return True
    return bool(shapely.intersection(one, other).area > LEAST_MM2)


def sources_said(design: FittedDesign, row: FilmLayer) -> str:
    """Return what a layer is called by the designs that it comes from."""
    sources = design.sources(row)
    names = [one.called for one in design.made_of if one.index in sources and one.called]
    return " and ".join(dict.fromkeys(names))


def laid_on_panel(design: FittedDesign, spot: Spot) -> Laid:
    """Return the colours of a design where it lies at one of its places, and all that it covers there."""
    assert design.split is not None
    assert design.placement is not None
    return laid_at(design.split, frozen(design.placement.matrices[spot.place]))


@stage(most=8)
def compose_garments(spec: LayersSpec, films: tuple[Film, ...], garments: tuple[Garment, ...]) -> tuple[Garment, ...]:
    """Return every size with its compositions: of all that is shown, and of what is the same on each of its garments.

    The second leaves out words of the list of names; it is what is cut for every garment.
    """
    return tuple(_composed(spec, films, garment) for garment in garments)


@stage(most=64)
def _composed(spec: LayersSpec, films: tuple[Film, ...], garment: Garment) -> Garment:
    shown = compositions(spec, films, garment.designs)
    plain = tuple(design for design in garment.designs if design.words is None)
    same = shown if len(plain) == len(garment.designs) else compositions(spec, films, plain)
    return replace(garment, compositions=shown, same=same)


def compose_named(
    spec: LayersSpec, films: tuple[Film, ...], garments: Sequence[Garment], named: tuple[NamedGarment, ...]
) -> tuple[NamedGarment, ...]:
    """Return the garment of every row with its compositions: its words, with what lies in one place with them.

    What of a size's own compositions is cut with the words of a row is left out of those of the size.
    """
    return tuple(_with_words(spec, films, garments[one.garment], one) for one in named)


@stage(most=4096)
def _with_words(spec: LayersSpec, films: tuple[Film, ...], garment: Garment, one: NamedGarment) -> NamedGarment:
    plain = [design for design in garment.designs if design.words is None]
    own = {design.index for design in one.designs}
    everything = sorted([*plain, *one.designs], key=lambda design: design.index)
    found = compositions(spec, films, everything)
    alike = {_where(composed) for composed in garment.same}
    kept = {_where(composed) for composed in found if not own & set(composed.indices)} & alike
    return replace(
        one,
        compositions=tuple(composed for composed in found if _where(composed) not in kept),
        taken=frozenset(number for number, same in enumerate(garment.same) if _where(same) not in kept),
    )


def _where(design: FittedDesign) -> tuple[object, ...]:
    """Return which places of which designs a composition is made of."""
    if isinstance(design, Composition):
        return design.spots
    assert design.placement is not None
    return (design.index, *map(frozen, design.placement.matrices))


def compositions(
    spec: LayersSpec, films: tuple[Film, ...], designs: Sequence[FittedDesign]
) -> tuple[FittedDesign, ...]:
    """Return the designs of one garment as they are cut: alone, or together with what lies in the same place.

    Parameters
    ----------
    spec, films
        The decisions about layers, and the films to choose from.
    designs
        Fitted and laid, from the back to the front. A design of which some places lie alone and some do not stands
        for the ones that do.

    Returns
    -------
    designs and compositions
        By their first design; one that lies alone everywhere is the very same.
    """
    found: list[FittedDesign] = []
    at = {design.index: design for design in designs}
    together = _clusters(designs)
    taken = {spot for cluster in together for spot in cluster}
    for design in designs:
        if design.placement is None or design.split is None:
            continue
        alone = [place for place in range(len(design.placement.matrices)) if Spot(design.index, place) not in taken]
        if len(alone) == len(design.placement.matrices):
            found.append(design)
        elif alone:
            found.append(_only(design, tuple(alone)))
    counts: Counter[tuple[int, ...]] = Counter()
    for cluster in together:
        members = tuple(at[spot.design] for spot in cluster)
        indices = tuple(spot.design for spot in cluster)
        counts[indices] += 1
        found.append(_composition(spec, films, members, cluster, counts[indices]))
    return tuple(sorted(found, key=lambda one: (one.index, one.indices)))


def _only(design: FittedDesign, places: tuple[int, ...]) -> FittedDesign:
    """Return a design at some of its places."""
    assert design.placement is not None
    assert design.split is not None
    matrices = tuple(design.placement.matrices[place] for place in places)
    placement = replace(design.placement, matrices=matrices, matrix=matrices[0])
    return replace(design, placement=placement, art=on_panel(design.split, None, tuple(map(frozen, matrices))))


def _clusters(designs: Sequence[FittedDesign]) -> list[tuple[Spot, ...]]:
    """Return the places of several designs that touch one another, directly or by others, each from back to front."""
    near = set(_near(designs))
    spots: list[Spot] = []
    covers: list[Region] = []
    for design in designs:
        if design.index in near and design.placement is not None:
            for place in range(len(design.placement.matrices)):
                spots.append(Spot(design.index, place))
                covers.append(_reach(design, spots[-1]))
    if not spots:
        return []
    panels = {design.index: design.panel.id for design in designs}
    at = {design.index: design for design in designs}
    first, second = shapely.STRtree(covers).query(covers, predicate="dwithin", distance=NEAR_MM)
    held = [k for k, spot in enumerate(spots) if at[spot.design].group]
    grouped = [(a, b) for a, b in combinations(held, 2) if _are_grouped(at[spots[a].design], at[spots[b].design])]
    label = list(range(len(spots)))
    for a, b in (*zip(first.tolist(), second.tolist(), strict=True), *grouped):
        one, other = spots[a].design, spots[b].design
        if one != other and panels[one] == panels[other] and label[a] != label[b]:
            old, new = max(label[a], label[b]), min(label[a], label[b])
            label = [new if each == old else each for each in label]
    found: dict[int, list[Spot]] = {}
    for spot, each in zip(spots, label, strict=True):
        found.setdefault(each, []).append(spot)
    return [tuple(cluster) for cluster in found.values() if len({spot.design for spot in cluster}) > 1]


def _are_grouped(one: FittedDesign, other: FittedDesign) -> bool:
    """Tell whether two designs are in one group, each in one place: they are cut as one, touching or not."""
    if not one.group or one.group[:1] != other.group[:1] or one.placement is None or other.placement is None:
        return False
    return len(one.placement.matrices) == 1 and len(other.placement.matrices) == 1


def _near(designs: Sequence[FittedDesign]) -> Iterator[int]:
    """Yield the designs that touch another one of their panel anywhere."""
    for k, design in enumerate(designs):
        for other in designs[k + 1 :]:
            if design.panel.id != other.panel.id or design.art is None or other.art is None:
                continue
            if _are_grouped(design, other) or shapely.dwithin(design.art, other.art, NEAR_MM):
                yield from (design.index, other.index)


def _reach(design: FittedDesign, spot: Spot) -> Region:
    """Return what a design covers at one of its places, an outline round it included."""
    assert design.placement is not None
    assert design.split is not None
    return on_panel(design.split, design.beyond, (frozen(design.placement.matrices[spot.place]),))


def _composition(
    spec: LayersSpec,
    films: tuple[Film, ...],
    members: tuple[FittedDesign, ...],
    spots: tuple[Spot, ...],
    number: int,
) -> Composition:
    split, (left, top) = compose(
        tuple(laid_on_panel(member, spot) for member, spot in zip(members, spots, strict=True))
    )
    lowest = members[0]
    assert lowest.placement is not None
    stack = build_layers(split, spec, films, seen=lowest.panel.seen, holds=lowest.panel.holds)
    matrix = shift(left, top)
    placement = replace(
        lowest.placement,
        width_mm=split.width_mm,
        height_mm=split.height_mm,
        turn_deg=0.0,
        matrix=matrix,
        matrices=(matrix,),
    )
    return Composition(
        index=lowest.index,
        spec=lowest.spec,
        artwork=lowest.artwork,
        panel=lowest.panel,
        called=" and ".join(dict.fromkeys(member.called for member in members if member.called)),
        split=split,
        word_width_mm=split.width_mm,
        setting=next((member.setting for member in members if member.setting is not None), None),
        placement=placement,
        stack=stack,
        art=union([_reach(member, spot) for member, spot in zip(members, spots, strict=True)]),
        members=members,
        spots=spots,
        number=number,
    )
