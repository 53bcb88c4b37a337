"""Designs fitted to blanks: each design of a job on each size, at its width and in its place."""

import math
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
import shapely

from zinnet.artwork.model import Artwork, Group
from zinnet.artwork.source import Source, own_name, words_of
from zinnet.base.errors import ArtworkError, ZinnetError
from zinnet.base.stages import stage
from zinnet.blanks.catalogue import size_of
from zinnet.blanks.model import Blank, Panel
from zinnet.geometry.inside import points_inside
from zinnet.geometry.region import Region, union
from zinnet.geometry.transform import IDENTITY, Matrix, apply, moved
from zinnet.job.model import Design
from zinnet.job.names.model import NameList
from zinnet.job.names.sizes import (
    FittedWords,
    fit_words,
    usual_height_mm,
    word_boxes,
)
from zinnet.job.names.words import all_filled, columns_in
from zinnet.layers.build import build_layers
from zinnet.layers.inks import Ink
from zinnet.layers.marks import frame_box
from zinnet.layers.parting import Parts
from zinnet.layers.split import ColourLayer, Split, move_parts, split_artwork
from zinnet.layers.stack import FilmLayer, LayerStack
from zinnet.layers.weeding import WeedMap, weed_map
from zinnet.placement.arrange import DEFAULTS, Arc, Setting, arc_under, set_on_arc
from zinnet.placement.character import Design as Look
from zinnet.placement.place import Habits, Placement, PlacementSpec, blank_panel, down_range, place_artwork, place_on
from zinnet.placement.propose import Proposal
from zinnet.plan.fitting import Fitting
from zinnet.plan.proposals import look_of_split, proposal_of
from zinnet.steps.run import finished

ANY_WIDTH_MM = 256.0
WIDTH_STEP_MM = 5.0
MOST_STRETCH = 10.0


Apart = tuple[tuple[FilmLayer, Parts], ...]
"""The layers that are cut apart, each with its pieces; one that is not in it is cut whole."""


def whole_of(row: FilmLayer) -> Parts:
    """Return all parts of a layer as one piece."""
    return (tuple(range(len(row.layer.region.geoms))),)


@dataclass(frozen=True, eq=False)
class FittedDesign:
    """One design on one blank. What can't be known yet, for artwork without a shape, is None or empty.

    ``split`` is the artwork as it is laid: letters that stand on an arc are set already. ``word_width_mm`` is its
    width laid straight. ``art`` is all that lies on the panel. With a list of names it shows the widest of them.
    """

    index: int
    spec: PlacementSpec
    artwork: Artwork
    panel: Panel
    proposal: Proposal | None = None
    split: Split | None = None
    word_width_mm: float = 0.0
    setting: Setting | None = None
    placement: Placement | None = None
    stack: LayerStack | None = None
    art: Region | None = None
    called: str = ""
    """What it is called by itself: its file, its words."""
    group: tuple[str, ...] = ()
    """The groups that it is in, the outermost first."""
    words: FittedWords | None = None
    """How large the words of each row of the list of names are, where the design has a field for them."""

    @property
    def layers(self) -> tuple[FilmLayer, ...]:
        """The layers as they are seen, the lowest first."""
        return self.stack.layers if self.stack is not None else ()

    @property
    def inks(self) -> tuple[Ink, ...]:
        """The artwork as it is printed: its colours from the bottom up, or the picture that it is."""
        picture = self.artwork.whole_picture
        if self.split is None or not picture:
            return self.flat_inks
        return tuple(Ink.of_picture(one.colour, one.region, picture, self.split.to_mm) for one in self.split.layers)

    @property
    def flat_inks(self) -> tuple[Ink, ...]:
        """The colours of the artwork from the bottom up, a picture as its mean colour."""
        return tuple(Ink(layer.colour, layer.region) for layer in self.split.layers) if self.split is not None else ()

    def shown(self, row: FilmLayer) -> tuple[Ink, ...]:
        """Return what of a layer is seen in which colour: its film's, or of a print all that the artwork has."""
        if self.split is None or not row.is_print:
            return (Ink(row.layer.colour if row.film is None else row.film.colour, row.layer.region),)
        return tuple(ink for ink in self.inks if ink.colour in row.colours)

    def sources(self, row: FilmLayer) -> tuple[int, ...]:
        """Return the numbers of the designs that one of its layers comes from."""
        return (self.index,)

    def weeds(self, row: FilmLayer) -> WeedMap:
        """Return what is weeded out of one of its layers, within the frame around all of them."""
        assert self.stack is not None
        return weed_map(row.layer, frame_box(self.stack.box))

    @property
    def beyond(self) -> ColourLayer | None:
        """The layer that makes an outline round all others, where there is one."""
        return None if self.stack is None else self.stack.outline

    @property
    def made_of(self) -> "tuple[FittedDesign, ...]":
        """The designs that it is made of: itself."""
        return (self,)

    @property
    def indices(self) -> tuple[int, ...]:
        """The numbers of the designs that it is made of."""
        return tuple(design.index for design in self.made_of)

    def of_member(self, region: Region) -> "tuple[FittedDesign, Region]":
        """Return the design in which most of a region lies, and where it lies in that one's own mm: here, itself."""
        return self, region

    @property
    def key(self) -> str:
        """How its pieces are called."""
        return f"design-{self.index + 1}-" if self.index else ""

    @property
    def groups(self) -> tuple[Group, ...]:
        """The parts to be kept together or apart, by points in artwork mm."""
        return self.groups_at(IDENTITY)

    def groups_at(self, matrix: Matrix) -> tuple[Group, ...]:
        """Return the parts to be kept together or apart, by points that ``matrix`` moves out of artwork mm."""
        if self.split is None or not self.artwork.groups:
            return ()
        to_mm = matrix @ self.split.to_mm
        return tuple(
            replace(group, spots=tuple((x, y) for x, y in apply(to_mm, np.array(group.spots)).tolist()))
            for group in self.artwork.groups
            if group.spots
        )

    @property
    def name(self) -> str:
        """What the design is called: by its place, which tells it apart from the others."""
        return self.placement.place.name if self.placement is not None else f"Design {self.index + 1}"


@dataclass(frozen=True, eq=False)
class Garment:
    """One size of the job: its blank, how many there are, and the designs on it.

    ``compositions`` are the designs as they are cut, those in one place together; ``same`` are those of them that are
    cut for every garment alike, without words of a list of names. ``apart`` says which layers are cut apart.
    """

    size: str | None
    blank: Blank
    copies: int
    designs: tuple[FittedDesign, ...]
    compositions: tuple[FittedDesign, ...] = ()
    same: tuple[FittedDesign, ...] = ()
    apart: Apart = ()

    @cached_property
    def _parted(self) -> dict[FilmLayer, Parts]:
        return dict(self.apart)

    def pieces_of(self, row: FilmLayer) -> Parts:
        """Return into which pieces a layer is cut, each of so many of its parts."""
        return self._parted.get(row) or whole_of(row)

    def on_panel(self, panel: str) -> tuple[FittedDesign, ...]:
        """Return the designs that lie on a panel."""
        return tuple(design for design in self.designs if design.panel.id == panel)

    def composed_on(self, panel: str) -> tuple[FittedDesign, ...]:
        """Return what lies on a panel as it is cut."""
        return tuple(composed for composed in self.compositions if composed.panel.id == panel)

    def composed_of(self, design: int) -> FittedDesign | None:
        """Return what a design is cut in: itself, or what lies in one place with it."""
        return next((composed for composed in self.compositions if design in composed.indices), None)


def fit_design(
    fitting: Fitting,
    index: int,
    design: Design,
    spec: PlacementSpec,
    blank: Blank,
    *,
    ratio: float = 1.0,
    own: Artwork | None = None,
) -> FittedDesign:
    """Return a design on a blank; ``own`` is its artwork on the job's own size, None where this is that size.

    ``ratio`` is by how much the user's width differs from the proposal on the job's own size.
    """
    if fitting.names.rows and columns_in(design.source):
        return _fit_words(fitting, index, design, spec, blank, ratio)
    artwork = own or finished(design.source, design.steps, ANY_WIDTH_MM)
    if not artwork.shapes:
        return FittedDesign(index, spec, artwork, blank_panel(spec, blank))
    any_size = split_artwork(artwork, width_mm=ANY_WIDTH_MM)
    bare = PlacementSpec(place=spec.place, school=spec.school)
    aspect = any_size.height_mm / any_size.width_mm
    proposal = proposal_for(
        fitting, bare, blank, any_size.silhouette, aspect, look_of_split(any_size, words_of(design.source))
    )
    width = spec.asked_width_mm(aspect) or stepped(proposal.width_mm, ratio)
    return replace(fit_at(fitting, index, design, spec, blank, width_mm=width, own=own), proposal=proposal)


def _fit_words(
    fitting: Fitting, index: int, design: Design, spec: PlacementSpec, blank: Blank, ratio: float
) -> FittedDesign:
    """Return a design with a field for names, showing the widest, and how large the words of every row are."""
    names = fitting.names
    boxes = word_boxes(design.source, design.steps, names)
    sources = all_filled(design.source, names)
    if not boxes:
        raise ZinnetError(f"No row of the list of names has words for design {index + 1}; fill in its column.")
    longest = max(boxes, key=lambda row: boxes[row].width)
    field = names.field(index)
    shown = _with_source(design, sources[longest])
    wide = spec if field.width_mm is None else at_width(spec, field.width_mm)
    first = fit_design(replace(fitting, names=NameList()), index, shown, wide, blank, ratio=ratio)
    height = field.height_mm or usual_height_mm(first.word_width_mm)
    own = [row for row in boxes if (names.rows[row].size or size_of(fitting.blank)) == blank.size] or list(boxes)
    words = fit_words({row: boxes[row] for row in own}, first.word_width_mm, height, field.sizing)
    widest = _with_source(design, sources[words.widest])
    found = fit_at(fitting, index, widest, at_width(spec, words.widths[words.widest]), blank)
    return replace(found, spec=spec, proposal=first.proposal, words=words)


def at_width(spec: PlacementSpec, width_mm: float) -> PlacementSpec:
    """Return the placement at a width, in its proportions."""
    return spec.model_copy(update={"width_mm": width_mm, "height_mm": None})


def _with_source(design: Design, source: Source | None) -> Design:
    assert source is not None
    return design.model_copy(update={"source": source})


def fit_at(
    fitting: Fitting,
    index: int,
    design: Design,
    spec: PlacementSpec,
    blank: Blank,
    *,
    width_mm: float | None = None,
    own: Artwork | None = None,
) -> FittedDesign:
    """Return a design on a blank at a width in mm, its placement's if none is given.

    ``own`` is its artwork where that is made already.
    """
    habits = fitting.habits
    width = width_mm or spec.width_mm or ANY_WIDTH_MM
    artwork = own or finished(design.source, design.steps, width)
    height = None
    if spec.height_mm is not None:
        height = _height(spec.height_mm, split_artwork(artwork, width_mm=ANY_WIDTH_MM), width)
    split = split_artwork(artwork, width_mm=width, height_mm=height)
    setting = _setting(spec, blank, habits, split)
    if setting is not None:
        split = _set(split, setting)
    laid = _laid(spec, blank, habits, split, setting)
    panel = blank_panel(spec, blank)
    stack = build_layers(split, fitting.layers, fitting.films, seen=panel.seen, holds=panel.holds)
    return FittedDesign(
        index=index,
        spec=spec,
        artwork=artwork,
        panel=panel,
        called=own_name(design.source),
        group=design.group,
        split=split,
        word_width_mm=width,
        setting=setting,
        placement=laid,
        stack=stack,
        art=on_panel(split, stack.outline, tuple(map(frozen, laid.matrices))),
    )


def stepped(width: float, ratio: float) -> float:
    """Return a proposed width times a ratio, in steps; where the user leaves the proposal as it is, that."""
    if ratio == 1.0:
        return width
    return max(WIDTH_STEP_MM, round(width * ratio / WIDTH_STEP_MM) * WIDTH_STEP_MM)


def _height(asked_mm: float, any_size: Split, width: float) -> float | None:
    """Return the height that the user asked for, where it is not the one that follows from the width."""
    natural = width * any_size.height_mm / any_size.width_mm
    if not 1 / MOST_STRETCH <= asked_mm / natural <= MOST_STRETCH:
        raise ArtworkError(
            f"A height of {asked_mm:.0f} mm is more than {MOST_STRETCH:.0f} times off the {natural:.0f} mm "
            "that the proportions ask for; type another one."
        )
    return None if math.isclose(natural, asked_mm, abs_tol=0.005) else asked_mm


def proposal_for(
    fitting: Fitting, spec: PlacementSpec, blank: Blank, art: Region, aspect: float, look: Look | None = None
) -> Proposal:
    """Return the width that is proposed at a place; ``art`` is what is laid there, ``ANY_WIDTH_MM`` wide."""
    return proposal_of(spec, blank, fitting.habits, art, aspect, fitting.bed, fitting.platen, look)


@stage(most=128)
def _setting(spec: PlacementSpec, blank: Blank, habits: Habits, split: Split) -> Setting | None:
    place = place_on(spec, blank)
    arrangement = spec.arrangement or DEFAULTS[place.arrangement]
    if not isinstance(arrangement, Arc):
        return None
    down, _ = down_range(place, spec, blank, habits)
    up = down.target_mm if spec.from_reference_mm is None else spec.from_reference_mm
    circle = arc_under(arrangement, blank_panel(spec, blank), up)
    if circle.radius < 5:
        raise ZinnetError("The letters would stand on a circle of less than 5 mm; place them farther out.")
    return set_on_arc(split.silhouette, circle.radius, arrangement.gap_mm, arrangement.inward)


@stage(most=64)
def _set(split: Split, setting: Setting) -> Split:
    """Return the layers with every part moved along with the letter that it lies in."""
    tree = shapely.STRtree(setting.letters)

    def which(region: Region) -> list[int]:
        inside = points_inside(region.geoms)
        part, letter = tree.query(inside, predicate="intersects")
        found = dict(zip(part.tolist(), letter.tolist(), strict=True))
        nearest = tree.nearest(inside)
        return [found.get(k, int(nearest[k])) for k in range(len(inside))]

    return move_parts(split, setting.matrices, which)


@stage(most=256)
def _laid(spec: PlacementSpec, blank: Blank, habits: Habits, split: Split, setting: Setting | None) -> Placement:
    """Return the placement; equal ones are the very same, so that what follows from one is not made again."""
    width, height = split.width_mm, split.height_mm
    if setting is not None:
        left, top, right, bottom = split.bounds
        width, height = right - left, bottom - top
    return place_artwork(spec, blank, habits, width_mm=width, height_mm=height, setting=setting)


def frozen(matrix: Matrix) -> bytes:
    """Return a matrix as a value that a stage can keep things by."""
    return np.ascontiguousarray(matrix).tobytes()


@stage(most=64)
def on_panel(split: Split, beyond: ColourLayer | None, matrices: tuple[bytes, ...]) -> Region:
    """Return all that lies on the panel; ``beyond`` is a layer that reaches beyond the artwork."""
    covered = split.silhouette if beyond is None else beyond.region
    laid = [moved(covered, np.frombuffer(matrix).reshape(3, 3)) for matrix in matrices]
    return laid[0] if len(laid) == 1 else union(laid)
