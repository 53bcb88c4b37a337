"""Making a blank from its measures: its panels by form, and the usable area that follows from seams and keep-outs."""

from collections.abc import Callable
from typing import Any

import shapely

from zinnet.base.errors import BlankError
from zinnet.base.stages import stage
from zinnet.blanks import bags, flat, hard, hats, tops
from zinnet.blanks.catalogue import BlankKind, blank_kind, measures_of, size_of, sizes
from zinnet.blanks.fabrics import fabric_of
from zinnet.blanks.model import Blank, BlankSpec, KeepOut, Panel
from zinnet.blanks.outline import Sketch, room_around
from zinnet.blanks.procedures import procedure_of
from zinnet.films.catalogue import Bond
from zinnet.geometry.region import Region, as_region, union, without

DRAWN: dict[str, Callable[..., list[Sketch]]] = {
    "top": tops.draw_top,
    "apron": bags.draw_apron,
    "tote": bags.draw_tote,
    "drawstring": bags.draw_drawstring,
    "gift-bag": bags.draw_gift_bag,
    "pouch": bags.draw_pouch,
    "cap": hats.draw_cap,
    "bucket-hat": hats.draw_bucket_hat,
    "beanie": hats.draw_beanie,
    "sash": flat.draw_sash,
    "cloth": flat.draw_cloth,
    "pillow": flat.draw_pillow,
    "stocking": flat.draw_stocking,
    "jar-strip": flat.draw_jar_strip,
    "round": flat.draw_round,
    "own": flat.draw_own,
    "canvas": hard.draw_canvas,
    "plate": hard.draw_plate,
    "board": hard.draw_board,
    "cup": hard.draw_cup,
}
LEAST_SHARE = 0.01
"""A part of the usable area smaller than this share of the panel is no place for artwork."""


def build_blank(spec: BlankSpec) -> Blank:
    """Return the blank that the measures give.

    Raises :class:`BlankError` where measures are unknown, impossible or contradict each other.
    """
    return _built(spec, blank_kind(spec.kind))


@stage(most=128)
def _built(spec: BlankSpec, row: BlankKind) -> Blank:
    size = size_of(spec)
    measures = measures_of(spec)
    sketches = DRAWN[row.form](measures, row.shape, spec=spec)
    ids = {sketch.id for sketch in sketches}
    for drawn in spec.keep_outs:
        if drawn.panel not in ids:
            raise BlankError(f"{row.name} has no panel “{drawn.panel}” to keep off; it has: {', '.join(sorted(ids))}.")
    procedure = procedure_of(row.procedure, sizes()[size].class_)
    fabric = fabric_of(spec.fabric or row.fabric)
    holds = procedure.holds if fabric is None else fabric.holds
    name = row.name if size == "one" else f"{row.name}, {sizes()[size].name}"
    return Blank(
        spec=spec,
        kind=spec.kind,
        size=size,
        size_class=sizes()[size].class_,
        name=name,
        procedure=procedure,
        fabric=spec.fabric or row.fabric,
        care_dots=spec.care_dots or None,
        colour=spec.colour or row.colour,
        measures=measures,
        measured=frozenset(measure.name for measure in spec.measured),
        panels=tuple(_panel(sketch, row, spec, holds) for sketch in sketches),
    )


def _panel(sketch: Sketch, row: BlankKind, spec: BlankSpec, holds: tuple[Bond, ...]) -> Panel:
    region = as_region(sketch.region)
    keep_outs = (*sketch.keep_outs, *_drawn_by_user(sketch.id, spec))
    left, top, right, _ = region.bounds
    return Panel(
        id=sketch.id,
        name=sketch.name,
        seen=sketch.seen,
        holds=holds,
        region=region,
        usable=_usable(region, sketch, keep_outs, row.clearance),
        cloth=tuple(sketch.cloth),
        seams=tuple(sketch.stitches),
        lines=tuple(sketch.lines),
        keep_outs=keep_outs,
        references=sketch.references,
        marks=sketch.marks or ((left, top), (right, top)),
        mark_name=sketch.mark_name,
        tapes=tuple(sketch.tapes),
        arc=sketch.arc,
        visible_mm=sketch.visible_mm,
        is_round=sketch.is_round,
        touched=sketch.touched,
        round_mm=sketch.round_mm,
        ends=sketch.ends,
    )


def _drawn_by_user(panel: str, spec: BlankSpec) -> list[KeepOut]:
    return [
        KeepOut(one.kind, as_region(shapely.box(one.left, one.top, one.right, one.bottom)), drawn_by_user=True)
        for one in spec.keep_outs
        if one.panel == panel
    ]


def _usable(region: Region, sketch: Sketch, keep_outs: tuple[KeepOut, ...], clearance: dict[str, float]) -> Region:
    """Return the region less the room that its seams ask for and less what must be kept off."""
    room: list[Any] = [
        part for name, seams in sketch.seams.items() for part in room_around(seams, clearance.get(name, 0.0))
    ]
    room += [keep_out.region for keep_out in keep_outs]
    if sketch.touched is not None and not shapely.covers(sketch.touched, region):
        room.append(sketch.touched)
    if not room:
        return region
    left = without(region, union(room))
    kept = [part for part in left.geoms if part.area > LEAST_SHARE * region.area]
    return Region(kept)
