"""Faults of nests, presses, lists of names, and of blanks that only some kinds have."""

from collections.abc import Callable, Iterator

from tests.checks import test_findings as shown
from tests.helpers import nested
from tests.names.bags import bags
from tests.seeded.base import APART, BLUE, CLOTH, CREAM, PLATE, RED, TEES, Planted, Seed, blank_edits, films, job, rings
from zinnet.bench.document import Document
from zinnet.blanks.catalogue import read_blank_name
from zinnet.job.edits import (
    add_sizes,
    choose_blank,
    choose_film,
    choose_recipe,
    set_copies,
    set_layers,
    set_placement,
    set_pressing,
)
from zinnet.plan.arranging import grouped

HALVES = f'<rect width="50" height="64" fill="{RED}"/><rect x="50" width="50" height="64" fill="{BLUE}"/>'
RINGS = rings(RED, BLUE, CREAM, "#1a1a1a")
RIM = f'<rect width="100" height="64" fill="{RED}"/><rect x="0.3" y="10" width="40" height="44" fill="{BLUE}"/>'
LINE = f'<rect width="100" height="12" fill="{CREAM}"/>'
LONG = tuple(choose_recipe(film, school="low and long") for film in ("scarlet", "blue", "cream", "black"))
DOTS = "".join(f'<circle cx="{5 + 9 * k}" cy="74" r="3" fill="{CREAM}"/>' for k in range(9))
ANY = ("*",)
"""Whatever else is said of such a job is not looked at."""


def more_seeds() -> Iterator[Seed]:
    """Yield the further jobs with faults."""
    for fault, made, blanks in _made():
        for blank in blanks:
            yield Seed(f"{fault} on {blank}", _of(made, blank), (Planted(fault),), ANY)


def _of(made: Callable[[str], Document], blank: str) -> Callable[[], Document]:
    return lambda: made(blank)


def _made() -> Iterator[tuple[str, Callable[[str], Document], tuple[str, ...]]]:
    """Yield what is planted, how such a job is made on a blank, and the blanks."""
    hoodies = ("hoodie-adult", "sweatshirt-adult", "blanket")
    small = set_placement("x", width_mm=100.0)
    rough = films(red="gold_glitter")
    yield "sliver", lambda b: job(b, RIM, *rough, small), CLOTH
    yield "no-recipe", lambda b: job(b, PLATE), hoodies
    yield "blank-not-measured", lambda b: nested(job(b, PLATE, choose_blank(read_blank_name(b)))), CLOTH
    yield "not-for-baby", lambda b: job(b, PLATE + DOTS, height=80), ("tee-infant", "baby-body", "tee-infant")
    yield "over-keep-out", lambda b: job(b, PLATE, set_placement("x", place="full-front")), ("zip-hoodie-adult",)
    yield "food-or-lips", lambda b: job(b, PLATE, set_placement("x", place="upper-side")), ("glass-plate",)
    yield "wraps-round-body", lambda b: job(b, LINE, set_placement("x", width_mm=400.0), height=12), ("sash",)
    yield "frame-hides-art", lambda b: job(b, PLATE, set_placement("x", width_mm=175.0)), ("canvas",)
    yield "as-laid-off", lambda b: shown.laid_off(job(b, PLATE)), CLOTH
    yield "group-torn", _torn, TEES
    together = set_pressing("x", together=True)
    yield "carrier-overlap", lambda b: job(b, HALVES, set_layers("x", method="cut-away"), together), CLOTH
    yield "peel-mixed", lambda b: job(b, APART, *films(red="gold_glitter"), together), hoodies[:2]
    full = set_pressing("x", school="full")
    glitters = films(red="gold_glitter", blue="rose_glitter")
    yield "shrink-misfit", lambda b: job(b, HALVES, *glitters, set_placement("x", width_mm=254.0), full), CLOTH
    yield "too-much-heat", lambda b: job(b, RINGS, *LONG, set_layers("x", method="stack"), full), TEES[:2]
    yield "settings-changed", lambda b: nested(job(b, HALVES, *films(red="gold_glitter"))), CLOTH
    yield "pieces-overlap", lambda b: shown.with_layout(job(b, PLATE, set_copies(2), small), shown.stacked), CLOTH
    yield "off-sheet", lambda b: shown.with_layout(job(b, PLATE), _beyond), CLOTH
    flock = choose_film(CREAM, "moss-flock")
    yield "against-nap", lambda b: shown.with_layout(job(b, PLATE, flock, small), _turned), CLOTH
    yield "plain-nest", lambda b: shown.with_layout(job(b, PLATE, set_copies(2)), _plain), CLOTH
    yield "film-short", lambda b: _shelf(b, length=80.0, copies=9), CLOTH
    yield "no-spare", lambda b: shown.on_shelf(length=140.0), TEES[:1]
    yield "on-test-cut", lambda b: shown.on_the_test_cut(shown.on_shelf()), TEES[:1]
    yield "name-twice", lambda b: bags(("Ada", "Bo", "Ada")), ("tote",)
    yield "name-too-long", lambda b: bags(("Ada", "Bo", "Eli", "Bartholomew of the Long Reed Bank")), ("tote",)
    yield "name-without-size", lambda b: shown.in_sizes(), ("tee-adult",)


def _beyond(layout):
    return shown.shifted(layout, x=260.0)


def _turned(layout):
    return shown.shifted(layout, x=120.0, turn=90.0)


def _plain(layout):
    return layout.model_copy(update={"plain": True})


def _shelf(blank: str, *, length: float, copies: int) -> Document:
    """Return a document like the one of the catalogue's test, on another blank."""
    document = shown.on_shelf(length=length, copies=copies)
    for edit in blank_edits(blank):
        document.apply(edit)
    return nested(document)


def _torn(blank: str) -> Document:
    """Return two grouped squares of two sizes, one of them moved by itself on the larger."""
    document = shown.beside(10.0)
    document.apply(choose_blank(read_blank_name(blank)))
    document.apply(grouped(document.plan.garments[0], [0, 1], "pair"))
    document.apply(add_sizes(("adult-xl",)))
    document.apply(set_placement("x", design=1, size="adult-xl", from_centre_mm=60.0))
    return document
