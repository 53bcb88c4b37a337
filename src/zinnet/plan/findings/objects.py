"""Findings of the object: which films hold on it, and which source of heat gets to it."""

from collections.abc import Iterator

from zinnet.base.units import write_temperature
from zinnet.blanks.catalogue import blank_kind
from zinnet.films.catalogue import Bond, Film, by_nearness, kind_of
from zinnet.job.edits import Edit, choose_film, choose_platen, confirm
from zinnet.layers.stack import FilmLayer
from zinnet.machines.platens import Platen
from zinnet.plan.findings.model import Finding, found
from zinnet.plan.findings.subject import about, layer_rows
from zinnet.plan.fitted import FittedDesign
from zinnet.plan.fitting import platen_of
from zinnet.plan.model import Facts
from zinnet.plan.presses import degrees_of
from zinnet.pressing.hem_test import SAME_C
from zinnet.pressing.reach import is_heated, reaching, why_not

SAID: dict[Bond, str] = {
    "heat": "film that is pressed on with heat",
    "glue": "adhesive film, which is stuck on",
    "print": "a print, which goes into the surface",
}


def film_not_for_blank(facts: Facts) -> Iterator[Finding]:
    """A film does not hold on the object, or would need heat that it can't bear."""
    said = set()
    for name, design, row in layer_rows(facts):
        film = row.film
        if film is None or kind_of(film).bond in design.panel.holds or film.id in said:
            continue
        said.add(film.id)
        blank = facts.blank
        hot = kind_of(film).bond != "glue" and not is_heated(blank)
        why = f"{blank.fabric} is never heated" if hot else f"{blank.fabric} takes {SAID[design.panel.holds[0]]}"
        yield found(
            "film-not-for-blank",
            f"{name}: {film.name} is {kind_of(film).name} film, on {blank.fabric}",
            f"{why} (common practice)",
            mend=_one_that_holds(facts, design, row),
            subject=film.id,
            about=about(name, design, row),
        )


def _one_that_holds(facts: Facts, design: FittedDesign, row: FilmLayer) -> Edit | None:
    """Return the edit that takes the film of a kind that holds there which is nearest in colour."""
    for bond in design.panel.holds:
        suited: tuple[Film, ...] = tuple(film for film in facts.workshop.films if kind_of(film).bond == bond)
        if not suited:
            continue
        film, off = by_nearness(row.layer.colour, suited)[0]
        kind = kind_of(film)
        said = kind.finish if kind.bond == "print" else f"{kind.finish}, {off:.0f} away"
        edit = choose_film(row.colours[0], film.id, *row.colours[1:])
        return Edit(f"use {film.name}, {said}", edit.change)
    return None


def plate_does_not_reach(facts: Facts) -> Iterator[Finding]:
    """No source of heat of the workshop gets to the object, or the one that was chosen does not."""
    blank = facts.blank
    films = [row.film for design in facts.garments[0].compositions for row in design.layers if row.film is not None]
    if not is_heated(blank) or all(kind_of(film).bond == "glue" for film in films):
        return
    suited = reaching(facts.workshop.presses, blank, blank_kind(facts.job.blank.kind).platen)
    reach = f"{blank.name.lower()}: {', '.join(one.name for _, one in suited[:3]) or 'none of those that are known'}"
    wanted, why = None, _why_out_of_reach(facts)
    if why is None:
        wanted, why = _too_hot(facts)
    if why is not None:
        hot_enough = [row for row in suited if wanted is None or _most_c(row[1]) >= wanted - SAME_C]
        mend = (
            Edit(f"press with the {hot_enough[0][1].name}", choose_platen(hot_enough[0][0]).change)
            if hot_enough
            else None
        )
        yield found("plate-does-not-reach", why, f"what gets to the {reach}", mend=mend)


def _why_out_of_reach(facts: Facts) -> str | None:
    """Return why the press of the job, chosen or usual, does not get to the object; None where it does."""
    presses, named = facts.workshop.presses, facts.job.platen
    platen = platen_of(facts.job, presses)
    if named is not None and named not in dict(presses.platens):
        return f"the job names the press “{named}”, which is not in this workshop"
    if platen is None:
        return f"none of {len(presses.platens)} presses gets to it"
    if named is not None and (why := why_not(platen, facts.blank)) is not None:
        return f"the {platen.name} {why}"
    if named is None and presses.own and not platen.own:
        return _none_of_mine(facts)
    return None


def _too_hot(facts: Facts) -> tuple[float | None, str | None]:
    """Return the heat in degC that is asked for and that the press can't give, in words too; else nothing."""
    platen, wanted = platen_of(facts.job, facts.workshop.presses), _hottest(facts)
    if platen is None or wanted is None or _most_c(platen) >= wanted - SAME_C:
        return None, None
    degrees = degrees_of(facts.job)
    return wanted, (
        f"the {platen.name} gets no hotter than {write_temperature(_most_c(platen), degrees=degrees)}, and "
        f"{write_temperature(wanted, degrees=degrees)} is asked for"
    )


def _hottest(facts: Facts) -> float | None:
    """Return the greatest heat in degC that anything is pressed at, None where none is known."""
    heats = [step.heat.heat_c for press in facts.presses for step in press.presses if step.heat is not None]
    return max((heat for heat in heats if heat is not None), default=None)


def _most_c(platen: Platen) -> float:
    """Return how hot a platen gets, in degC."""
    return platen.range_c[1] if platen.range_c is not None else max(high for _, high in platen.kind.settings_c.values())


def _none_of_mine(facts: Facts) -> str:
    """Return why none of the user's own presses gets to the object."""
    said = [f"the {one.name} {why_not(one, facts.blank)}" for _, one in facts.workshop.presses.own]
    return "none of yours: " + "; ".join(said[:3])


def gate_open(facts: Facts) -> Iterator[Finding]:
    """A moment that can't be taken back comes next: of the day before at once, of the day itself once all is nested."""
    for press in facts.presses[:1]:
        gates = [step for step in press.steps if step.gate]
        waiting = [step for step in gates if step.confirmed_as not in facts.job.cutting.confirmed]
        if not waiting or not (waiting[0].hours or facts.is_nested):
            return
        step = waiting[0]
        before = f"the day before, about {step.hours:g} h: " if step.hours else ""
        yield found(
            "gate-open",
            f"{len(gates) - len(waiting) + 1} of {len(gates)}, {before}{step.title}: {' '.join(step.words)}",
            step.wrong or "It can't be taken back.",
            mend=confirm(step.confirmed_as),
            subject=step.confirmed_as,
        )


CHECKS = (film_not_for_blank, plate_does_not_reach, gate_open)
OF_PRESSES = (plate_does_not_reach,)
"""Those of them that look at how it is pressed."""
