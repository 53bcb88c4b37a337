"""What must hold before anything leaves for a cutter: no open stop, everything nested, every film cut from its side."""

from collections.abc import Callable, Iterator
from operator import attrgetter

import numpy as np

from zinnet.base.errors import CutError
from zinnet.films.catalogue import cut_side
from zinnet.nesting.verify import overhang, sheet_faults
from zinnet.plan.findings.model import Finding
from zinnet.plan.model import Plan
from zinnet.plan.nests import NestedMat

WRONG_SIDE = "wrong-cut-side"
LEAST_OFF_MM = 0.01
"""What rounding may come to."""


def refuse_unready(plan: Plan) -> None:
    """Raise :class:`CutError` while a stop is open, before everything is nested, or where a side can't be right."""
    refuse_stops(plan)
    if not plan.nests:
        raise CutError("There is nothing to cut yet; open artwork first.")
    if not plan.is_nested:
        raise CutError("The pieces are not nested yet; wait until the nest is done.")
    for mat, said in _lost_pieces(plan):
        raise CutError(f"Mat {mat.number} can't be cut: {said}. Nest it again; nothing is written or sent.")
    for mat, said in wrong_sides(plan):
        if not any(one.passes(WRONG_SIDE, mat.nest.film.id) for one in plan.job.overrides):
            raise CutError(f"Mat {mat.number} would be cut from the wrong side ({said}); nothing is written or sent.")


def refuse_stops(plan: Plan, called: Callable[[Finding], str] = attrgetter("id")) -> None:
    """Raise :class:`CutError` while a stop is open; this is soon told, before anything else is asked for.

    ``called`` is what a stop is called in the sentence: its id, by which a command overrides it, unless told otherwise.
    """
    if plan.open_stops:
        names = ", ".join(dict.fromkeys(map(called, plan.open_stops)))
        raise CutError(f"Nothing is cut while a stop is open ({names}); mend it, or override it with a reason.")


def _lost_pieces(plan: Plan) -> Iterator[tuple[NestedMat, str]]:
    """Yield the mats on which a piece leaves the film or lies on another one, judged anew whoever judged before.

    No reason passes these: such a piece is not there afterwards.
    """
    for mat in plan.mats:
        for placed, region in zip(mat.layout.placed, mat.regions, strict=True):
            if overhang(mat.sheet, region) > mat.sheet.margin_mm + LEAST_OFF_MM:
                yield mat, f"{placed.piece} lies beside the film"
        for fault in sheet_faults(mat.nest.task, mat.layout):
            if fault.kind == "overlap":
                yield mat, fault.message


def wrong_sides(plan: Plan) -> Iterator[tuple[NestedMat, str]]:
    """Yield the mats whose pieces do not lie as their film and its use ask, judged anew from the pieces themselves."""
    for mat in plan.mats:
        for placed in mat.layout.placed:
            part = mat.nest.part(placed.piece)
            seen = plan.composition_of(part).panel.seen
            side = cut_side(mat.nest.film, seen=seen)
            turned_over = float(np.linalg.det((placed.matrix @ part.to_cut)[:2, :2])) < 0
            if turned_over != side.mirrored or mat.nest.mirrored != side.mirrored:
                yield mat, side.reason
                break


def passed_in_words(plan: Plan) -> tuple[str, ...]:
    """Return the stops that were passed, each with its reason."""
    rows = [
        f"{finding.title}: {finding.measured}. Passed: {finding.passed}"
        for finding in plan.findings
        if finding.level == "stop" and finding.passed is not None
    ]
    return tuple(dict.fromkeys(rows))
