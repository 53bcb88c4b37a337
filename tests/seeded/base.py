"""What the laboratory's jobs are made of: a measured blank with a read label, and a drawing that is cut cleanly."""

from collections.abc import Callable
from dataclasses import dataclass

from tests.helpers import svg
from zinnet.artwork.source import TextArt
from zinnet.bench.document import Document
from zinnet.blanks.catalogue import read_blank_name, typical_measures
from zinnet.job.edits import (
    add_source,
    choose_blank,
    choose_film,
    open_artwork,
    set_blank,
    set_blank_colour,
    set_measure,
)
from zinnet.pressing.hem_test import HemBar, HemTest
from zinnet.workshop.model import Workshop, standard_workshop

CLOTH = ("tee-adult", "long-sleeve-adult", "tote")
"""Three kinds of blank of which all recipes are known."""
TEES = ("tee-adult", "long-sleeve-adult", "fitted-tee-adult")
"""Three that have a collar."""
DARK, CREAM, RED, BLUE = "#202428", "#f4ead5", "#d62828", "#1f57c3"
PLATE = '<rect width="100" height="64" rx="4" fill="#f4ead5"/>'
APART = f'<rect width="40" height="64" fill="{RED}"/><rect x="60" width="40" height="64" fill="{BLUE}"/>'
UNITS = 100
"""How wide the drawing is, in its own units."""

type Box = tuple[float, float, float, float]


@dataclass(frozen=True)
class Planted:
    """A fault that was planted: its id, and where it is, as a box in mm of the artwork, where that is known."""

    id: str
    box: Box | None = None


@dataclass(frozen=True)
class Seed:
    """One job of the laboratory: how it is made, what is wrong with it, and what comes with that by its nature."""

    name: str
    make: Callable[[], Document]
    planted: tuple[Planted, ...] = ()
    comes_with: tuple[str, ...] = ()


def blank_edits(blank: str, colour: str = DARK):
    """Return the edits that put a measured blank on the table, its care label read."""
    spec = read_blank_name(blank)
    measures = typical_measures(spec.kind, spec.size)
    return [
        choose_blank(spec),
        *(set_measure(name, mm) for name, mm in measures.items()),
        set_blank("the label", care_dots=3),
        set_blank_colour(colour),
    ]


def rings(*colours: str) -> str:
    """Return discs that lie on one another, the largest first."""
    return "".join(f'<circle cx="50" cy="32" r="{31 - 7 * k}" fill="{colour}"/>' for k, colour in enumerate(colours))


def workshop() -> Workshop:
    """Return the laboratory's workshop: smooth film on satin was tried on a hem, by every source of heat."""
    bar = HemBar(heat_c=140.0, seconds=9.0, held=True, washed=True)
    tests = tuple(
        HemTest(fabric="polyester satin", kind="smooth", heat_source=source, bars=(bar,), peel="warm")
        for source in ("press", "plate")
    )
    return standard_workshop().model_copy(update={"hem_tests": tests})


def job(blank: str, body: str, *edits, colour: str = DARK, height: float = 64.0) -> Document:
    """Return a job with a drawing 100 units wide, at the width that is proposed."""
    document = Document(workshop())
    data = svg(body, f'viewBox="0 0 {UNITS} {height}"')
    for edit in (*blank_edits(blank, colour), open_artwork("drawing.svg", data), *edits):
        document.apply(edit)
    return document


def written(blank: str, words: TextArt, *edits) -> Document:
    """Return a job with lettering."""
    document = Document(workshop())
    for edit in (*blank_edits(blank), add_source("words", words), *edits):
        document.apply(edit)
    return document


def proposed_mm(blank: str, body: str = PLATE) -> float:
    """Return how wide a drawing like this comes out on a blank."""
    return job(blank, body).plan.garments[0].designs[0].split.width_mm


def films(**choices: str):
    """Return the edits that choose films, by the names of colours."""
    named = {"cream": CREAM, "red": RED, "blue": BLUE}
    return [choose_film(named[colour], film.replace("_", "-")) for colour, film in choices.items()]
