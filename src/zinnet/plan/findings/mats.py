"""Findings of film and mats."""

from collections.abc import Iterator

from zinnet.base.units import write_length
from zinnet.base.words import shown_source
from zinnet.films.catalogue import kind_of
from zinnet.job.edits import Edit, nest_again, set_nesting
from zinnet.machines.cutters import usual_gap_mm
from zinnet.nesting.mat_sheets import gap_of
from zinnet.nesting.shelf import best_turn
from zinnet.nesting.verify import FaultKind, overhang
from zinnet.plan.findings.model import Finding, Place, found
from zinnet.plan.model import Facts
from zinnet.plan.nests import NestedMat, faults_of, held_pins


def loose_pieces(facts: Facts) -> Iterator[Finding]:
    """Pieces of one layer are nested one by one, so that their spacing is lost."""
    if facts.job.nesting.cut_apart != "parts":
        return
    loose = [(nest.film.name, len(nest.parts)) for nest in facts.nests if len(nest.parts) > 1]
    if loose:
        yield found(
            "loose-pieces",
            "; ".join(f"{name}: {count} pieces" for name, count in loose),
            "what belongs together keeps its spacing on one carrier",
            mend=set_nesting("cut the layers apart at wide gaps only", cut_apart="proposed"),
        )


def larger_than_mat(facts: Facts) -> Iterator[Finding]:
    """A piece exceeds the mat's cutting area at every allowed turn."""
    unit, what = facts.job.unit, "film" if facts.job.nesting.from_shelf else "mat"
    for nest in facts.nests:
        inners = [sheet.inner for sheet in nest.task.sheets if min(sheet.inner) > 0]
        if not inners:
            continue
        width, height = max(inners, key=lambda inner: inner[0] * inner[1])
        for piece in nest.task.pieces:
            if any(best_turn(piece, *inner) is not None for inner in inners):
                continue
            left, top, right, bottom = piece.region.bounds
            yield found(
                "larger-than-mat",
                f"{nest.film.name}: {write_length(right - left, unit=unit, with_unit=False)} x "
                f"{write_length(bottom - top, unit=unit)}",
                f"the {what}'s cutting area is {write_length(width, unit=unit, with_unit=False)} x "
                f"{write_length(height, unit=unit)}",
                mend=_larger_mat(facts, nest.film.id),
            )
            break


def plain_nest(facts: Facts) -> Iterator[Finding]:
    """The search for a nest failed or was stopped, and plain rows stand in."""
    plain = [nest.film.name for nest in facts.nests if nest.layout is not None and nest.layout.plain]
    if plain:
        yield found(
            "plain-nest",
            f"{', '.join(dict.fromkeys(plain))}: pieces lie in plain rows of their boxes",
            "a search finds nests that take less film",
            mend=nest_again(held_pins(facts.mats, facts.job.nesting)),
        )


def _larger_mat(facts: Facts, film_id: str) -> Edit | None:
    """Return the edit that takes the first other mat of the catalogue on which every piece fits."""
    pieces = [piece for nest in facts.nests for piece in nest.task.pieces]
    for name, mat in facts.workshop.machines.mats:
        if name != facts.job.nesting.mat and all(best_turn(piece, *mat.inner) is not None for piece in pieces):
            return set_nesting(f"use the {mat.name}", mat=name)
    return None


def pieces_too_close(facts: Facts) -> Iterator[Finding]:
    """There is less room between pieces than scissors need: by the gap asked for, or on a saved mat."""
    gap, usual, unit = gap_of(facts.job.nesting), usual_gap_mm(), facts.job.unit
    several = any(sum(piece.copies for piece in nest.task.pieces) > 1 for nest in facts.nests)
    if gap < usual and several:
        yield found(
            "pieces-too-close",
            f"{write_length(gap, unit=unit)} between pieces",
            f"scissors need {write_length(usual, unit=unit)} (common practice)",
            mend=set_nesting("leave room for scissors", gap_mm=None),
        )
    for mat, message in _mat_faults(facts, "gap"):
        yield found(
            "pieces-too-close",
            f"mat {mat.number}: {message}",
            f"the gap asked for is {write_length(gap, unit=unit)}",
            place=Place("nest", (0, 0, mat.sheet.width_mm, mat.sheet.height_mm), mat.number),
            mend=nest_again(held_pins(facts.mats, facts.job.nesting)),
        )


def pieces_overlap(facts: Facts) -> Iterator[Finding]:
    """Two pieces lie on one another, so that each is cut through the other, or one of two copies is lost."""
    for mat, message in _mat_faults(facts, "overlap"):
        yield found(
            "pieces-overlap",
            f"mat {mat.number}: {message}",
            "every piece lies by itself",
            place=Place("nest", (0, 0, mat.sheet.width_mm, mat.sheet.height_mm), mat.number),
            mend=nest_again(held_pins(facts.mats, facts.job.nesting)),
        )


def off_sheet(facts: Facts) -> Iterator[Finding]:
    """A piece on a mat reaches over its margin. No nest of our own does, but a saved one is judged too."""
    for mat, message in _mat_faults(facts, "margin"):
        worst = max(mat.regions, key=lambda region: overhang(mat.sheet, region))
        yield found(
            "off-sheet",
            f"mat {mat.number}: {message}",
            f"the margin is {write_length(mat.sheet.margin_mm, unit=facts.job.unit)}",
            place=Place("nest", worst.bounds, mat.number),
            mend=nest_again(held_pins(facts.mats, facts.job.nesting)),
        )


def _mat_faults(facts: Facts, kind: FaultKind) -> Iterator[tuple[NestedMat, str]]:
    """Yield the first fault of a kind on each mat."""
    for nest in facts.nests:
        if nest.layout is None:
            continue
        mats_of_nest = [mat for mat in facts.mats if mat.nest is nest]
        for number, mat in enumerate(mats_of_nest, start=1):
            for fault in faults_of(nest):
                if fault.kind == kind and fault.sheet == number:
                    yield mat, fault.message
                    break


def against_nap(facts: Facts) -> Iterator[Finding]:
    """A film with a direction lies turned on a mat."""
    for mat in facts.mats:
        if not kind_of(mat.nest.film).direction:
            continue
        allowed = {piece.name: piece.allowed_turns or () for piece in mat.nest.task.pieces}
        turned = [one.turn_deg for one in mat.layout.placed if one.turn_deg % 360 not in allowed[one.piece]]
        if turned:
            yield found(
                "against-nap",
                f"mat {mat.number}: {len(turned)} turned, the first by {turned[0]:g}°",
                f"{kind_of(mat.nest.film).name}: {shown_source(kind_of(mat.nest.film).source)}",
                place=Place("nest", mat.regions[0].bounds, mat.number),
                mend=nest_again(held_pins(facts.mats, facts.job.nesting)),
            )


CHECKS = (loose_pieces, larger_than_mat, pieces_too_close, pieces_overlap, off_sheet, against_nap, plain_nest)
