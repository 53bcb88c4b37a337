"""Faults of nests, presses, lists of names, and of blanks that only some kinds have."""

from collections.abc import Callable, Iterator
from functools import partial

from tests.checks import test_findings as shown
from tests.helpers import nested
from tests.names.bags import bags
from tests.seeded.base import (
    APART,
    BLUE,
    CLOTH,
    CREAM,
    PLATE,
    RED,
    TEES,
    Planted,
    Seed,
    blank_edits,
    films,
    job,
    rings,
    written,
)
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import TextArt
from zinnet.bench.document import Document
from zinnet.blanks.catalogue import read_blank_name
from zinnet.job.edits import (
    add_sizes,
    choose_blank,
    choose_film,
    choose_platen,
    choose_recipe,
    set_copies,
    set_layers,
    set_placement,
    set_pressing,
)
from zinnet.placement.arrange import Rows
from zinnet.plan.arranging import grouped

HALVES = f'<rect width="50" height="64" fill="{RED}"/><rect x="50" width="50" height="64" fill="{BLUE}"/>'
RINGS = rings(RED, BLUE, CREAM, "#1a1a1a")
RIM = f'<rect width="100" height="64" fill="{RED}"/><rect x="0.3" y="10" width="40" height="44" fill="{BLUE}"/>'
LINE = f'<rect width="100" height="12" fill="{CREAM}"/>'
LONG = tuple(choose_recipe(film, school="low and long") for film in ("scarlet", "blue", "cream", "black"))
DOTS = "".join(f'<circle cx="{5 + 9 * k}" cy="74" r="3" fill="{CREAM}"/>' for k in range(9))
HEAVY = ("hoodie-adult", "sweatshirt-adult", "blanket")
"""Three of which few recipes are known."""
NESTED = ("no-test-cut",)
"""What is said of every job that is nested without a test cut."""
WIDE = ("size-unusual",)
"""What comes with a width that the fault needs."""


def more_seeds() -> Iterator[Seed]:
    """Yield the further jobs with faults."""
    for fault, made, blanks, *comes in _made():
        for blank in blanks:
            yield Seed(f"{fault} on {blank}", partial(made, blank), (Planted(fault),), tuple(comes))


type Made = Callable[[str], Document]


def _made() -> Iterator[tuple[str, Made, tuple[str, ...], *tuple[str, ...]]]:
    """Yield what is planted, how such a job is made on a blank, the blanks, and what comes with it by its nature."""
    yield from _of_fit()
    yield from _of_presses()
    yield from _of_nests()
    yield from _of_names()


def _of_fit() -> Iterator[tuple[str, Made, tuple[str, ...], *tuple[str, ...]]]:
    yield "no-recipe", lambda b: job(b, PLATE, choose_film(CREAM, "moss-flock")), CLOTH, "hard-to-read"
    unread = ("invisible-on-blank", *NESTED)
    yield "blank-not-measured", lambda b: nested(job(b, PLATE, choose_blank(read_blank_name(b)))), CLOTH, *unread
    yield "not-for-baby", lambda b: job(b, PLATE + DOTS, height=80), ("tee-infant", "baby-body", "long-sleeve-infant")
    buttoned = ("zip-hoodie-adult", "polo-adult", "shirt-adult")
    yield "over-keep-out", lambda b: job(b, PLATE, set_placement("x", place="full-front")), buttoned, "no-recipe"
    rim = ("no-recipe", "outside-usable-area", "collar-distance", "hard-to-read")
    yield "food-or-lips", _where_lips_touch, ("glass-plate", "mug", "tumbler"), *rim
    far = ("larger-than-mat", "outside-usable-area", "off-centre", *WIDE)
    yield "wraps-round-body", _round_the_body, ("sash", *TEES[:2]), *far
    yield "frame-hides-art", _on_canvas, ("175", "190", "210")
    yield "as-laid-off", lambda b: shown.laid_off(job(b, PLATE)), CLOTH
    yield "group-torn", _torn, TEES, "off-centre"


def _of_presses() -> Iterator[tuple[str, Made, tuple[str, ...], *tuple[str, ...]]]:
    rough, glitters = films(red="gold_glitter"), films(red="gold_glitter", blue="rose_glitter")
    small, full = set_placement("x", width_mm=100.0), set_pressing("x", school="full")
    yield "sliver", lambda b: job(b, RIM, *rough, small), CLOTH, "no-recipe", *WIDE
    together = set_pressing("x", together=True)
    yield "carrier-overlap", lambda b: job(b, HALVES, set_layers("x", method="cut-away"), together), CLOTH
    yield "peel-mixed", lambda b: job(b, APART, *rough, together), (*HEAVY[:2], "polo-adult")
    wide = set_placement("x", width_mm=254.0)
    yield "shrink-misfit", lambda b: job(b, HALVES, *glitters, wide, full), CLOTH, "no-recipe"
    stacked = set_layers("x", method="stack")
    yield "too-much-heat", lambda b: job(b, RINGS, *LONG, stacked, full), TEES, "too-many-films", "no-recipe"
    row = set_placement("x", width_mm=60.0, arrangement=Rows(columns=3, rows=1, gap_x_mm=20.0))
    by_hand = choose_platen("plate-5x5")
    edged = ("platen-smaller", "no-recipe", "size-unusual", "wraps-round-body")
    yield "platen-edge-on-piece", lambda b: job(b, PLATE, by_hand, row), (*TEES[:2], "place-mat"), *edged
    yield (
        "gate-open",
        lambda b: nested(job(b, PLATE)),
        ("sash", "canvas", "fur-stocking"),
        "no-recipe",
        "heat-untested",
        *NESTED,
    )
    yield "settings-changed", lambda b: nested(job(b, HALVES, *rough)), CLOTH, "no-recipe", *NESTED


def _of_nests() -> Iterator[tuple[str, Made, tuple[str, ...], *tuple[str, ...]]]:
    small, two = set_placement("x", width_mm=100.0), set_copies(2)
    yield "pieces-overlap", lambda b: shown.with_layout(job(b, PLATE, two, small), shown.stacked), CLOTH, *NESTED, *WIDE
    yield "off-sheet", lambda b: shown.with_layout(job(b, PLATE), _beyond), CLOTH, *NESTED
    flock = choose_film(CREAM, "moss-flock")
    turned = ("no-recipe", "off-sheet", *NESTED, *WIDE)
    yield "against-nap", lambda b: shown.with_layout(job(b, PLATE, flock, small), _turned), CLOTH, *turned
    yield "plain-nest", lambda b: shown.with_layout(job(b, PLATE, two), _plain), CLOTH, *NESTED
    yield "film-short", lambda b: _shelf(b, length=80.0, copies=9), CLOTH, "larger-than-mat"
    unread = ("blank-not-measured", *NESTED, *WIDE)
    yield "no-spare", lambda b: _shelf(b, length=140.0, copies=4, width_mm=60.0), CLOTH, *unread
    upon = ("off-sheet", "pieces-overlap", "pieces-too-close")
    yield "on-test-cut", lambda b: shown.on_the_test_cut(_shelf(b, width_mm=60.0)), CLOTH, *unread, *upon


def _of_names() -> Iterator[tuple[str, Made, tuple[str, ...], *tuple[str, ...]]]:
    sacks = ("tote", "drawstring-bag", "gift-bag")
    fine = ("gap-will-close", "sliver", "too-thin", "blank-not-measured", "no-recipe")
    yield "name-twice", lambda b: _named(b, ("Ada", "Bo", "Ada")), sacks, *fine
    long = ("Ada", "Bo", "Eli", "Bartholomew of the Long Reed Bank")
    yield "name-too-long", lambda b: _named(b, long), sacks, *fine
    yield "name-without-size", _without_size, TEES, "blank-not-measured"


def _where_lips_touch(blank: str) -> Document:
    on = {"place": "upper-side"} if blank == "glass-plate" else {"place": "wall", "from_reference_mm": -50.0}
    return job(blank, PLATE, set_placement("x", **on))


def _round_the_body(blank: str) -> Document:
    if blank == "sash":
        return job(blank, LINE, set_placement("x", width_mm=400.0), height=12)
    words = TextArt(text=TextSpec(text="lantern walk", colour=CREAM))
    return written(blank, words, set_placement("x", width_mm=300.0, from_centre_mm=80.0))


def _on_canvas(width: str) -> Document:
    return job("canvas", PLATE, set_placement("x", width_mm=float(width)))


def _named(blank: str, words: tuple[str, ...]) -> Document:
    document = bags(words)
    if blank != "tote":
        for edit in blank_edits(blank):
            document.apply(edit)
    return document


def _without_size(blank: str) -> Document:
    document = shown.in_sizes()
    document.apply(choose_blank(read_blank_name(blank)))
    return document


def _beyond(layout):
    return shown.shifted(layout, x=260.0)


def _turned(layout):
    return shown.shifted(layout, x=120.0, turn=90.0)


def _plain(layout):
    return layout.model_copy(update={"plain": True})


def _shelf(blank: str, *, length: float = 900.0, copies: int = 4, width_mm: float | None = None) -> Document:
    """Return a document like the one of the catalogue's test, on another blank."""
    document = shown.on_shelf(length=length, copies=copies)
    for edit in blank_edits(blank):
        document.apply(edit)
    if width_mm is not None:
        document.apply(set_placement("x", width_mm=width_mm))
    return nested(document)


def _torn(blank: str) -> Document:
    """Return two grouped squares of two sizes, one of them moved by itself on the larger."""
    document = shown.beside(10.0)
    document.apply(choose_blank(read_blank_name(blank)))
    document.apply(grouped(document.plan.garments[0], [0, 1], "pair"))
    document.apply(add_sizes(("adult-xl",)))
    document.apply(set_placement("x", design=1, size="adult-xl", from_centre_mm=60.0))
    return document
