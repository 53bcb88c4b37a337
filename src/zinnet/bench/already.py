"""What goes with what is there already: a layer cut in another film, another cloth, a fault, a film that is pressed.

Each answer offers whole changes of the job; nothing is checked here but what can be read from afar.
"""

from collections.abc import Iterator
from typing import TYPE_CHECKING

from zinnet.base.units import Unit, write_length
from zinnet.bench.answers import Answer
from zinnet.bench.ways_out import WayOut, changes_of, on_shelf
from zinnet.blanks.cloth_colours import colour_called
from zinnet.data.limits import limits
from zinnet.films.catalogue import Film, by_nearness, kind_of
from zinnet.films.colours import contrast
from zinnet.job.edits import (
    Edit,
    add_step,
    choose_film,
    one_step,
    press_in_order,
    set_blank_colour,
    set_nesting,
    set_placement,
)
from zinnet.layers.stack import FilmLayer
from zinnet.plan.findings.pattern import seen_contrast
from zinnet.plan.fitted import FittedDesign
from zinnet.steps.model import Outline

if TYPE_CHECKING:
    from zinnet.plan.model import Facts

MOST_CLOTHS, MOST_OUTLINES = 3, 3
OUTLINE_MM = Outline().width_mm


def cut_in(facts: "Facts", old: Film, film: Film) -> Answer:
    """Return what goes with pieces of one film that are cut from another already: they are not cut again."""
    rows = [row for row in _rows(facts) if row.film == old]
    if not rows:
        return Answer(f"Nothing of this job is cut from {old.name}.")
    colours = tuple(colour for row in rows for colour in row.colours)
    there = tuple(dict.fromkeys((*facts.job.nesting.cut_already, *colours)))
    kept = one_step(
        f"keep it in {film.name}",
        [choose_film(colours[0], film.id, *colours[1:]), set_nesting("cut already", cut_already=there)],
    )
    cloth = facts.blank.colour
    ratio = seen_contrast(film, cloth)
    said = f"{film.name} against {_cloth_name(facts, cloth)}: {ratio:.1f} to 1"
    others = [row.film for row in _rows(facts) if row.film is not None and row.film != old]
    if ratio >= _least():
        way = WayOut("film", kept, changes_of(old, film))
        return Answer(f"{said}, it can be read. Its pieces are not cut again.", (way,))
    offers = [
        WayOut("cloth", one_step(f"{kept.name}, on {name}", [kept, set_blank_colour(colour)]), ("another garment",))
        for name, colour in _cloths(facts)
        if all(seen_contrast(one, colour) >= _least() for one in (film, *others))
    ]
    offers += [
        WayOut("outline", one_step(f"{kept.name}, {way.edit.name}", [kept, way.edit]), way.said)
        for way in _outlined(facts, film, OUTLINE_MM)
    ]
    return Answer(f"{said}, hard to read. Another garment or an outline goes with it:", tuple(offers))


def on_cloth(facts: "Facts", colour: str) -> Answer:
    """Return what goes with garments that have another colour than was planned."""
    cloth = set_blank_colour(colour)
    films = dict.fromkeys(row.film for row in _rows(facts) if row.film is not None)
    lost = [film for film in films if seen_contrast(film, colour) < _least()]
    name = _cloth_name(facts, colour)
    if not lost:
        way = WayOut("cloth", Edit(f"as it is, on {name}", cloth.make), ("nothing else changes",))
        return Answer(f"Every film can be read on {name}.", (way,))
    said = f"On {name} these are hard to read: {', '.join(film.name for film in lost)}."
    offers = []
    swapped = list(_readable(facts, lost, colour))
    if len(swapped) == len(lost):
        said_films = ", ".join(f"{film.name} instead of {old.name}" for old, film, _ in swapped)
        offers.append(
            WayOut(
                "film",
                one_step(
                    f"{said_films}, on {name}", [cloth, *(_swapped(facts, old, film) for old, film, _ in swapped)]
                ),
                tuple(said for old, film, _ in swapped for said in changes_of(old, film)),
                max(off for _, _, off in swapped),
            )
        )
    for way in _outlined(facts, lost[0], OUTLINE_MM, colour):
        offers.append(WayOut("outline", one_step(f"{way.edit.name}, on {name}", [cloth, way.edit]), way.said))
    return Answer(said, tuple(offers))


def hidden(facts: "Facts", reach_mm: float, unit: Unit) -> Answer:
    """Return outlines that hide a fault which reaches so far beyond the artwork: a stain, a scorch, a film's trace."""
    rows = [row.film for row in _rows(facts) if row.film is not None]
    if not rows:
        return Answer("There is no artwork yet that an outline could go round.")
    offers = tuple(_outlined(facts, rows[0], reach_mm + OUTLINE_MM))
    said = f"An outline that reaches {write_length(reach_mm + OUTLINE_MM, unit=unit)} beyond the artwork lies over it:"
    return Answer(said if offers else "No film on the shelf goes with it.", offers)


def pressed_first(facts: "Facts", film: Film) -> Answer:
    """Return in which order the others go on where one film lies on the garment already."""
    rows = _rows(facts)
    first = [row.key for row in rows if row.film == film]
    if not first:
        return Answer(f"Nothing of this job is cut from {film.name}.")
    order = tuple(dict.fromkeys((*first, *(row.key for row in rows))))
    return Answer(
        f"The others go on over {film.name}; the drawing shows how it looks then.",
        (WayOut("order", Edit(f"{film.name} first", press_in_order(order).make), ("what lies over what changes",)),),
    )


def _rows(facts: "Facts") -> list[FilmLayer]:
    """Return the layers of the first size by their key, those pressed first first."""
    rows = (row for composed in facts.garments[0].compositions for row in composed.layers)
    return list({row.key: row for row in rows}.values())


def _least() -> float:
    return float(limits()["contrast"]["least_ratio"])


def _cloths(facts: "Facts") -> list[tuple[str, str]]:
    """Return the colours in which such garments are on the shelf, by name."""
    found = {
        item.colour: item.name or colour_called(item.colour)
        for item in facts.workshop.garments
        if item.kind == facts.job.blank.kind and item.count and item.colour != facts.blank.colour
    }
    return [(name, colour) for colour, name in found.items()][:MOST_CLOTHS]


def _cloth_name(facts: "Facts", colour: str) -> str:
    named = (item.name for item in facts.workshop.garments if item.colour == colour and item.name)
    return next(named, colour_called(colour))


def _readable(facts: "Facts", lost: list[Film], colour: str) -> Iterator[tuple[Film, Film, float]]:
    """Yield for each film that is lost the nearest one that can be read on a colour, each film once."""
    taken = {row.film for row in _rows(facts)}
    for old in lost:
        able = tuple(film for film in _at_hand(facts, old) if film not in taken and _goes(film, old, colour))
        near = by_nearness(old.colour, able)
        if near:
            film, off = near[0]
            taken.add(film)
            yield old, film, off


def _at_hand(facts: "Facts", film: Film) -> tuple[Film, ...]:
    """Return the films on the shelf that hold by the same bond as one; all of them where the shelf has none."""
    bond = kind_of(film).bond
    fit = tuple(one for one in on_shelf(facts, film.id) if kind_of(one).bond == bond)
    return fit or tuple(one for one in facts.workshop.films if one != film and kind_of(one).bond == bond)


def _plainest(film: Film, films: tuple[Film, ...]) -> tuple[Film, ...]:
    """Return the films that look like one in their finish; all of them where none does."""
    return tuple(one for one in films if kind_of(one).finish == kind_of(film).finish) or films


def _goes(film: Film, old: Film, colour: str) -> bool:
    return kind_of(film).finish == kind_of(old).finish and seen_contrast(film, colour) >= _least()


def _swapped(facts: "Facts", old: Film, film: Film) -> Edit:
    colours = [colour for row in _rows(facts) if row.film == old for colour in row.colours]
    return choose_film(colours[0], film.id, *colours[1:])


def _outlined(facts: "Facts", film: Film, width_mm: float, cloth: str | None = None) -> Iterator[WayOut]:
    """Yield outlines round all artwork, in films that stand out from the cloth and from a film that lies on them.

    The artwork within stays as large as it is, and where it is: it may be cut or pressed already.
    """
    colour = cloth or facts.blank.colour
    taken = {row.film for row in _rows(facts)}
    able = [
        other
        for other, _ in by_nearness(film.colour, _plainest(film, _at_hand(facts, film)))
        if other not in taken and min(seen_contrast(other, colour), contrast(other.colour, film.colour)) >= _least()
    ]
    said = write_length(width_mm, unit=facts.job.unit)
    designs = [design for design in facts.garments[0].designs if design.words is None and design.placement is not None]
    for other in able[:MOST_OUTLINES]:
        step = Outline(width_mm=width_mm, colours=(other.colour,))
        steps = [edit for design in designs for edit in (add_step(step, design.index), _wider(design, width_mm))]
        edit = one_step(f"outlined by {said} in {other.name}", [*steps, choose_film(other.colour, other.id)])
        yield WayOut("outline", edit, ("one more film to cut and press",))


def _wider(design: FittedDesign, width_mm: float) -> Edit:
    """Return the edit that gives an outline its room around a design, so that what is within stays."""
    placement = design.placement
    assert placement is not None
    up = 0.0 if placement.place.anchor == "middle" else width_mm
    return set_placement(
        "room for the outline",
        design=design.index,
        width_mm=design.word_width_mm + 2 * width_mm,
        height_mm=None,
        from_reference_mm=placement.from_reference_mm - up,
    )
