"""How a job is pressed: for every size its layers with their recipes, the steps, the platen's positions, the heat."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from zinnet.base.stages import stage
from zinnet.base.units import Degrees, Unit, write_length
from zinnet.blanks.fabrics import fabric_of
from zinnet.blanks.model import Panel
from zinnet.data.limits import limits
from zinnet.films.catalogue import Bond, Film, kind_of
from zinnet.geometry.region import Region, union
from zinnet.geometry.transform import moved
from zinnet.job.model import Job
from zinnet.layers.inks import Ink
from zinnet.layers.parting import Parts
from zinnet.layers.stack import FilmLayer
from zinnet.machines.platens import HeatSource, Platen
from zinnet.plan.composed import sources_said
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.fitting import platen_of
from zinnet.pressing.applied_recipe import PressSetting, setting_of
from zinnet.pressing.heat_limits import Limit, heat_limits
from zinnet.pressing.heat_map import HeatPress, HeatSpot, heat_map
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.hem_test import HemTest, allowed_c
from zinnet.pressing.known_recipes import Offer, offers
from zinnet.pressing.misfit import Meeting, Misfit, misfits_of
from zinnet.pressing.object_steps import ObjectWork, object_steps
from zinnet.pressing.pace import Pace, at_pace, paces_of
from zinnet.pressing.pieces import PanelWork, PressPiece
from zinnet.pressing.reach import is_heated
from zinnet.pressing.recipes import KeptRecipe, Pressed
from zinnet.pressing.spec import PressSpec
from zinnet.pressing.steps import PressStep
from zinnet.workshop.made import hand_times
from zinnet.workshop.model import Workshop

BONDS: tuple[Bond, ...] = ("print", "heat", "glue")
"""In this order: what is stuck on is never heated."""
FABRIC_LIMIT = "fabric-limit"


@dataclass(frozen=True, eq=False)
class GarmentPress:
    """How one size of the job is pressed."""

    garment: Garment
    object: ObjectWork
    works: tuple[PanelWork, ...]
    steps: tuple[PressStep, ...]
    offers: dict[str, tuple[Offer, ...]]
    limits: tuple[Limit, ...]
    meetings: dict[str, tuple[Meeting, ...]]
    paces: tuple[Pace, ...] = ()

    @property
    def presses(self) -> tuple[PressStep, ...]:
        """The steps in which something is heated."""
        return tuple(step for step in self.steps if step.heat is not None)

    @property
    def saved_s(self) -> float:
        """How much sooner a garment is done than with every film pressed by itself, in s."""
        return one_by_one_s(self) - sum(step.seconds for step in self.steps)

    def work_of(self, panel: str) -> PanelWork | None:
        """Return what is pressed on a panel with heat, or else at all."""
        on_it = [work for work in self.works if work.panel.id == panel]
        return next((work for work in on_it if work.pieces[0].kind.bond != "glue"), next(iter(on_it), None))

    def presses_on(self, panel: str) -> tuple[HeatPress, ...]:
        """Return the heat that the film of a panel gets, press by press; the preheat comes before it is laid."""
        return tuple(
            HeatPress(tuple(one.box for one in step.heat.coverage.positions), step.heat.seconds)
            for step in self.presses
            if step.heat is not None and step.panel == panel and step.heat.kind != "preheat" and step.heat.seconds
        )

    def heat_on(self, panel: str) -> tuple[HeatSpot, ...]:
        """Return the seconds of heat of a panel, added up."""
        return _heat_on(self, panel)

    def misfits(self) -> tuple[Misfit, ...]:
        """Return how far edges of films that meet are off by shrink, the farthest first."""
        seen = press_numbers().shrink.seen_mm
        found: list[Misfit] = []
        for work in self.works:
            if work.pieces[0].kind.bond == "heat":
                found += misfits_of(work, self.steps, self.meetings.get(work.panel.id, ()), seen)
        return tuple(sorted(found, key=lambda one: -one.mm))


def day_before(presses: Sequence[GarmentPress]) -> tuple[PressStep, ...]:
    """Return what is done the day before, once for all objects that it is about."""
    found = {step.title: step for press in presses for step in press.steps if step.hours and press.garment.copies}
    return tuple(found.values())


def day_before_said(presses: Sequence[GarmentPress]) -> str:
    """Return in a sentence what is done the day before; empty where nothing is."""
    steps = day_before(presses)
    said = "; ".join(f"{step.title[0].lower()}{step.title[1:]} (about {step.hours:g} h)" for step in steps)
    return f"The day before: {said}." if said else ""


@stage(most=64)
def one_by_one_s(press: GarmentPress) -> float:
    """Return how long a garment takes with every film pressed by itself, in s."""
    alone = [replace(work, spec=work.spec.model_copy(update={"together": False})) for work in press.works]
    return sum(step.seconds for step in at_pace(object_steps(alone, press.object, "C"), press.paces))


@stage(most=64)
def _heat_on(press: GarmentPress, panel: str) -> tuple[HeatSpot, ...]:
    return heat_map(press.presses_on(panel))


def degrees_of(job: Job) -> Degrees:
    """Return the scale in which heat is shown."""
    return job.pressing.degrees or ("F" if job.unit == "in" else "C")


@dataclass(frozen=True)
class Pressing:
    """All that the press plan reads of a job and a workshop, besides what is pressed.

    ``lifted`` are the films whose limit of heat the user passed with a reason.
    """

    spec: PressSpec
    platen: Platen | None
    degrees: Degrees
    lifted: frozenset[str]
    unit: Unit
    recipes: tuple[KeptRecipe, ...]
    pressed: tuple[Pressed, ...]
    hem_tests: tuple[HemTest, ...] = ()
    paces: tuple[Pace, ...] = ()


def pressing_of(job: Job, workshop: Workshop) -> Pressing:
    """Return what the press plan reads."""
    films = {choice.id for choice in workshop.films}
    lifted = {film for film in films if any(one.passes(FABRIC_LIMIT, film) for one in job.overrides)}
    return Pressing(
        job.pressing,
        platen_of(job, workshop.presses),
        degrees_of(job),
        frozenset(lifted),
        job.unit,
        workshop.recipes,
        workshop.pressed,
        workshop.hem_tests,
        paces_of(hand_times(workshop.made)),
    )


@stage(most=8)
def press_garments(pressing: Pressing, garments: tuple[Garment, ...]) -> tuple[GarmentPress, ...]:
    """Return how every size of a job is pressed."""
    return tuple(_press_of(pressing, garment) for garment in garments)


def _press_of(pressing: Pressing, garment: Garment) -> GarmentPress:
    blank, platen = garment.blank, pressing.platen
    fabric = fabric_of(blank.fabric)
    is_cloth = fabric is None or fabric.cloth
    limits = heat_limits(fabric, blank.care_dots if is_cloth else None)
    source: HeatSource = platen.heat_source if platen is not None else "press"
    kinds = {row.film.kind for design in garment.compositions for row in design.layers if row.film is not None}
    found: dict[str, tuple[Offer, ...]] = {}
    works: list[PanelWork] = []
    meetings: dict[str, list[Meeting]] = {}
    for panel in blank.panels:
        pieces: list[PressPiece] = []
        for design in garment.composed_on(panel.id):
            if design.placement is None or design.stack is None:
                continue
            rows = [
                row for row in design.stack.in_press_order if row.film is not None and not row.layer.region.is_empty
            ]
            for place, row in enumerate(rows):
                assert row.film is not None
                word = pressing.spec.film(row.film.id)
                options = offers(
                    row.film,
                    fabric,
                    source,
                    beside=kinds - {row.film.kind},
                    is_last=place == len(rows) - 1,
                    kept=pressing.recipes,
                    log=pressing.pressed,
                    tests=pressing.hem_tests,
                    school=word.school if word is not None else None,
                )
                found.setdefault(row.film.id, options)
                tried_c = allowed_c(pressing.hem_tests, fabric, row.film.kind, source)
                setting = _setting(pressing, row.film, options, _as_tried(limits, tried_c))
                parts = garment.pieces_of(row)
                pieces.append(_piece(design, row, parts, setting, among_others=len(garment.compositions) > 1))
            meetings.setdefault(panel.id, []).extend(_meetings(design))
        for bond in BONDS:
            mine = tuple(piece for piece in pieces if piece.kind.bond == bond)
            if mine and (bond == "glue" or is_heated(blank)):
                works.append(_work(pressing, panel, mine, source, platen, works, garment))
    if len({work.panel.id for work in works}) > 1:
        works = [replace(work, among_others=True) for work in works]
    about = _object_of(pressing, garment)
    steps = at_pace(object_steps(works, about, pressing.degrees), pressing.paces)
    by_panel = {panel: tuple(rows) for panel, rows in meetings.items()}
    return GarmentPress(garment, about, tuple(works), steps, found, limits, by_panel, pressing.paces)


def _object_of(pressing: Pressing, garment: Garment) -> ObjectWork:
    """Return what is worked on, with the measures that its procedure asks for in words."""
    blank = garment.blank
    said = {"strip": "", "inset": ""}
    if {"around", "overlap"} <= blank.measures.keys():
        around, overlap = (write_length(blank.measures[name], unit=pressing.unit) for name in ("around", "overlap"))
        whole = write_length(blank.measures["around"] + blank.measures["overlap"], unit=pressing.unit)
        said["strip"] = f"Cut it {whole} long: {around} round and {overlap} of overlap."
    if "inset_width" in blank.measures:
        wide = write_length(blank.measures["inset_width"], unit=pressing.unit, with_unit=False)
        said["inset"] = f"{wide} x {write_length(blank.measures['inset_height'], unit=pressing.unit)}"
    repeats = any(design.placement is not None and len(design.placement.matrices) > 1 for design in garment.designs)
    return ObjectWork(blank.procedure, fabric_of(blank.fabric), bool(blank.care_dots), repeats, said)


def _work(
    pressing: Pressing,
    panel: Panel,
    pieces: tuple[PressPiece, ...],
    source: HeatSource,
    platen: Platen | None,
    before: Sequence[PanelWork],
    garment: Garment,
) -> PanelWork:
    elsewhere = tuple(
        f"{piece.name} ({work.panel.name.lower()})"
        for work in before
        for piece in work.pieces
        if work.panel.id != panel.id
    )
    return PanelWork(
        panel=panel,
        pieces=pieces,
        fabric=fabric_of(garment.blank.fabric),
        platen=platen if pieces[0].kind.bond != "glue" else None,
        heat_source=source,
        spec=pressing.spec,
        procedure=garment.blank.procedure,
        overlap_mm=float(limits()["platen"]["overlap_mm"]),
        is_centred=any(
            design.placement is not None and design.placement.is_on_centre for design in garment.on_panel(panel.id)
        ),
        elsewhere=elsewhere,
    )


def _as_tried(limits: tuple[Limit, ...], tried_c: float | None) -> tuple[Limit, ...]:
    """Return limits of heat, those that may be passed raised to what a hem test found good, in degC."""
    if tried_c is None:
        return limits
    return tuple(limit._replace(most_c=max(limit.most_c, tried_c)) if limit.soft else limit for limit in limits)


def _setting(
    pressing: Pressing, film: Film, options: Sequence[Offer], limits: tuple[Limit, ...]
) -> PressSetting | None:
    """Return how a film is pressed: by the user's own word, else by the first recipe that is known."""
    word = pressing.spec.film(film.id)
    chosen = next(iter(options), None)
    if word is not None and word.own is not None:
        chosen = Offer(recipe=word.own)
    elif word is not None and word.school is not None:
        chosen = next((offer for offer in options if offer.recipe.school == word.school), chosen)
    if chosen is None:
        return None
    span = kind_of(film).heat_c
    return setting_of(
        chosen,
        limits,
        low_c=None if span is None else span[0],
        cold_plate=pressing.spec.cold_plate,
        lifted=film.id in pressing.lifted,
    )


def piece_key(design: FittedDesign, row: FilmLayer) -> str:
    """Return by what a layer is named among what is pressed."""
    return f"{design.key or design.index}:{row.key}"


def _piece(
    design: FittedDesign, row: FilmLayer, parts: Parts, setting: PressSetting | None, *, among_others: bool
) -> PressPiece:
    assert design.stack is not None
    assert design.placement is not None
    assert row.film is not None
    below = frozenset(piece_key(design, pair.under) for pair in design.stack.pairs if pair.over is row and pair.lies_on)
    matrices = tuple(np.ascontiguousarray(matrix).tobytes() for matrix in design.placement.matrices)
    return _same_piece(
        key=piece_key(design, row),
        number=row.layer.order,
        design=design.index,
        film=row.film,
        region=_laid(row.layer.region, matrices),
        inks=_inks(design.shown(row), matrices) if row.is_print else (),
        copies=_copies(row.layer.region, matrices, parts) if len(matrices) * len(parts) > 1 else (),
        parts=len(parts),
        on=below,
        setting=setting,
        shows=sources_said(design, row) if among_others or len(design.made_of) > 1 else "",
    )


@stage(most=256)
def _inks(inks: tuple[Ink, ...], matrices: tuple[bytes, ...]) -> tuple[Ink, ...]:
    """Return inks where they lie on the panel, a picture once for each place."""
    flat = [Ink(ink.colour, _laid(ink.region, matrices)) for ink in inks if not ink.picture]
    places = [np.frombuffer(matrix).reshape(3, 3) for matrix in matrices]
    return (*flat, *(ink.moved(place) for ink in inks if ink.picture for place in places))


_same_piece = stage(most=256)(PressPiece)
"""Equal pieces are the very same, so that what follows from one is not made again."""


@stage(most=256)
def _copies(region: Region, matrices: tuple[bytes, ...], parts: Parts | None = None) -> tuple[Region, ...]:
    """Return a layer where it lies on the panel, place by place, there piece by piece."""
    pieces = [region] if parts is None else [Region([region.geoms[part] for part in piece]) for piece in parts]
    return tuple(moved(one, np.frombuffer(matrix).reshape(3, 3)) for matrix in matrices for one in pieces)


@stage(most=256)
def _laid(region: Region, matrices: tuple[bytes, ...]) -> Region:
    """Return a layer where it lies on the panel, at all its places."""
    laid = _copies(region, matrices)
    return laid[0] if len(laid) == 1 else union(laid)


def _meetings(design: FittedDesign) -> Iterator[Meeting]:
    """Yield the pairs of layers whose edges meet: what lies on top of film has it below, and shows no misfit."""
    assert design.stack is not None
    for pair in design.stack.pairs:
        films = (pair.under.film, pair.over.film)
        if pair.rule.method == "on-top" or None in films or any(kind_of(one).bond != "heat" for one in films if one):
            continue
        lap = design.stack.lap_mm if pair.rule.method == "lap" else 0.0
        first, second = sorted((pair.under, pair.over), key=lambda row: row.layer.order)
        keys = piece_key(design, first), piece_key(design, second)
        yield Meeting(*keys, lap, (first.layer, second.layer))
