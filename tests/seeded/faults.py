"""One hundred jobs and more with planted faults: alone on three kinds of blank, and two together."""

from collections.abc import Iterator
from functools import partial

from tests.helpers import nested, svg
from tests.seeded.base import (
    APART,
    BLUE,
    CLOTH,
    CREAM,
    PLATE,
    RED,
    TEES,
    UNITS,
    Planted,
    Seed,
    films,
    job,
    proposed_mm,
    rings,
    written,
)
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import TextArt
from zinnet.bench.document import Document
from zinnet.job.edits import (
    add_design,
    choose_film,
    choose_platen,
    join_outlines,
    override_side,
    press_in_order,
    set_blank,
    set_blank_colour,
    set_copies,
    set_layers,
    set_nesting,
    set_placement,
    set_pressing,
)

TWO = f'<rect width="60" height="64" fill="{RED}"/><rect x="40" y="10" width="60" height="44" fill="{BLUE}"/>'
RINGS = rings(RED, BLUE, CREAM, "#e9a53a")


def _plate(*cuts: str) -> str:
    """Return the plate with some outlines cut out of it."""
    return f'<path fill="{CREAM}" fill-rule="evenodd" d="M0 0H{UNITS}V64H0Z {" ".join(cuts)}"/>'


def _cut(x: float, y: float, wide: float, high: float) -> str:
    return f"M{x} {y}h{wide}v{high}h{-wide}Z"


def too_thin(blank: str) -> Seed:
    """A bar 0.4 mm thick between two blocks."""
    mm = UNITS / proposed_mm(blank)
    thick = 0.4 * mm
    body = f'<path fill="{CREAM}" d="M0 0H40V{32 - thick / 2}H60V0H100V64H60V{32 + thick / 2}H40V64H0Z"/>'
    box = tuple(side / mm for side in (41, 32 - thick / 2, 59, 32 + thick / 2))
    return Seed(f"too-thin on {blank}", partial(job, blank, body), (Planted("too-thin", box),))


def weed_speck(blank: str) -> Seed:
    """A dot of 1 mm in a round window."""
    mm = UNITS / proposed_mm(blank)
    body = _plate("M40 32a10 10 0 1 0 20 0a10 10 0 1 0 -20 0Z") + (
        f'<circle cx="50" cy="32" r="{0.5 * mm}" fill="{CREAM}"/>'
    )
    box = tuple(side / mm for side in (50 - mm / 2, 32 - mm / 2, 50 + mm / 2, 32 + mm / 2))
    return Seed(f"weed-speck on {blank}", partial(job, blank, body), (Planted("weed-speck", box),))


def small_counter(blank: str) -> Seed:
    """A hole of 0.8 mm."""
    mm = UNITS / proposed_mm(blank)
    side = 0.8 * mm
    body = _plate(_cut(50, 32, side, side))
    box = (50 / mm, 32 / mm, 50 / mm + 0.8, 32 / mm + 0.8)
    return Seed(
        f"a small counter on {blank}", partial(job, blank, body), (Planted("weed-speck", box),), ("gap-will-close",)
    )


def gap(blank: str) -> Seed:
    """A slot of 0.3 mm between two blocks."""
    mm = UNITS / proposed_mm(blank)
    body = _plate(_cut(50, 10, 0.3 * mm, 54))
    box = (50 / mm, 10 / mm, 50 / mm + 0.3, 64 / mm)
    return Seed(f"gap-will-close on {blank}", partial(job, blank, body), (Planted("gap-will-close", box),))


def puff_dots(blank: str) -> Seed:
    """Round dots of puff, 2 mm apart: they grow into one."""
    mm = UNITS / proposed_mm(blank)
    radius = 20.0
    body = (
        f'<circle cx="{50 - radius - mm}" cy="32" r="{radius}" fill="{CREAM}"/>'
        f'<circle cx="{50 + radius + mm}" cy="32" r="{radius}" fill="{CREAM}"/>{_ends()}'
    )
    made = partial(job, blank, body, *films(cream="white_puff"))
    return Seed(f"puff dots on {blank}", made, (Planted("gap-will-close"),), ("no-recipe",))


def _ends() -> str:
    """Return two bars that keep the drawing as wide as it is planned."""
    return f'<rect width="6" height="64" fill="{CREAM}"/><rect x="94" width="6" height="64" fill="{CREAM}"/>'


def pattern(blank: str) -> Seed:
    """Bars of 2 mm of a patterned film."""
    mm = UNITS / proposed_mm(blank)
    bars = "".join(f'<rect y="{8 * k}" width="100" height="{2 * mm}" fill="{CREAM}"/>' for k in range(8))
    made = partial(job, blank, bars, *films(cream="reed_pattern"))
    return Seed(f"pattern-too-thin on {blank}", made, (Planted("pattern-too-thin"),), ("no-recipe", "size-unusual"))


def _edited(fault: str, body: str, *edits, also: tuple[str, ...] = (), colour: str | None = None, on=CLOTH):
    """Return the planter of a fault that edits plant on any cloth, or on one of some."""

    def plant(blank: str) -> Seed:
        blank = on[CLOTH.index(blank)]
        more = [] if colour is None else [set_blank_colour(colour)]
        return Seed(f"{fault} on {blank}", partial(job, blank, body, *edits, *more), (Planted(fault),), also)

    return plant


def missing_glyph(blank: str) -> Seed:
    """A letter that the font lacks."""

    words = TextArt(text=TextSpec(text="Moth Ω"))
    make = partial(written, blank, words, choose_film("#1a1a1a", "cream"))
    return Seed(f"missing-glyph on {blank}", make, (Planted("missing-glyph"),), ("hard-to-read", "invisible-on-blank"))


def _second(fault: str, gap_mm: float, *edits, also: tuple[str, ...] = ()):
    """Return the planter of a fault between two designs of one place, so far apart."""

    def plant(blank: str) -> Seed:
        def make() -> Document:
            document = job(blank, PLATE, set_placement("x", width_mm=60.0, from_centre_mm=-40.0), *edits)
            document.apply(add_design("beside.svg", svg(PLATE.replace(CREAM, RED), 'viewBox="0 0 100 64"')))
            place = document.plan.garments[0].designs[0].placement
            document.apply(
                set_placement(
                    "x",
                    design=1,
                    place=place.place.id,
                    width_mm=60.0,
                    from_centre_mm=-40.0 + 60.0 + gap_mm,
                    from_reference_mm=place.from_reference_mm,
                )
            )
            return document

        comes = ("off-centre", "size-unusual", "collar-distance", *also)
        return Seed(f"{fault} on {blank}", make, (Planted(fault),), comes)

    return plant


def _nested(fault: str, body: str, *edits, also: tuple[str, ...] = ()):
    """Return the planter of a fault that is seen once mats are made."""

    def plant(blank: str) -> Seed:
        return Seed(f"{fault} on {blank}", lambda: nested(job(blank, body, *edits)), (Planted(fault),), also)

    return plant


PLANTERS = (
    too_thin,
    weed_speck,
    small_counter,
    gap,
    puff_dots,
    pattern,
    missing_glyph,
    _edited("hard-to-read", PLATE, colour="#e8c9c9"),
    _edited("invisible-on-blank", PLATE, colour="#f5ebd6"),
    _edited("no-film", PLATE, choose_film(CREAM, "a film that is sold out")),
    _edited("wrong-cut-side", PLATE, override_side("cream", False, "I think so")),
    _edited("film-cannot-carry", TWO, *films(red="gold_glitter"), set_layers("x", method="stack"), also=("no-recipe",)),
    _edited("too-many-films", RINGS, set_layers("x", method="stack"), also=("size-unusual",)),
    _edited("press-order", TWO, press_in_order((BLUE, RED)), set_layers("x", method="stack")),
    _edited(
        "heat-clash",
        TWO,
        *films(red="soft_coral", blue="moonlight"),
        set_layers("x", method="stack"),
        also=("no-recipe", "pattern-too-thin"),
    ),
    _edited("overlapping-outlines", TWO.replace(BLUE, RED), join_outlines(False)),
    _edited("double-line", PLATE + PLATE, join_outlines(False)),
    _edited("open-outline", f'<path d="M0 0H100L50 64" fill="{CREAM}"/>'),
    _edited("picture-not-traced", f'{PLATE}<image href="moth.png" width="50" height="50"/>'),
    _edited("blend-not-cuttable", PLATE.replace("<rect", '<rect opacity="0.5"')),
    _edited(
        "outside-page", f'{PLATE}<rect x="90" y="20" width="20" height="10" fill="{CREAM}"/>', also=("size-unusual",)
    ),
    _edited("off-centre", PLATE, set_placement("x", from_centre_mm=8.0)),
    _edited("tilted", PLATE, set_placement("x", turn_deg=2.0), also=("larger-than-mat",)),
    _edited("stretched", PLATE, set_placement("x", height_mm=100.0)),
    _edited(
        "collar-distance", PLATE, set_placement("x", from_reference_mm=5.0), also=("outside-usable-area",), on=TEES
    ),
    _edited(
        "outside-usable-area", PLATE, set_placement("x", from_centre_mm=170.0), also=("off-centre", "wraps-round-body")
    ),
    _edited("size-unusual", PLATE, set_placement("x", width_mm=60.0), on=TEES),
    _edited("heat-untested", PLATE, set_blank("x", care_dots=2)),
    _edited("fabric-limit", PLATE, set_blank("x", fabric="nylon"), also=("no-recipe", "heat-untested")),
    _edited(
        "film-not-for-blank",
        PLATE,
        choose_film(CREAM, "cream"),
        on=("round-pan", "wood-sign", "glass-plate"),
        also=("no-recipe",),
    ),
    _edited("plate-does-not-reach", PLATE, choose_platen("band-8x4"), also=("no-recipe", "platen-smaller")),
    _edited("platen-smaller", PLATE, choose_platen("plate-5x5"), also=("no-recipe", "too-much-heat")),
    _edited("bare-film", TWO, set_layers("x", method="stack"), set_pressing("x", cover="none")),
    _edited("too-fresh", PLATE, set_pressing("x", pressed_at="2026-11-26T10:00+00:00")),
    _second(
        "designs-overlap",
        -30.0,
        choose_film(CREAM, "gold-glitter"),
        choose_film(RED, "rose-glitter"),
        also=("no-recipe", "sliver"),
    ),
    _second("touches-another", 0.7),
    _nested(
        "loose-pieces",
        APART.replace(BLUE, RED),
        set_nesting("x", cut_apart="parts"),
        also=("no-test-cut", "carrier-overlap"),
    ),
    _nested(
        "pieces-too-close", PLATE, set_copies(2), set_nesting("x", gap_mm=2.0), also=("no-test-cut", "larger-than-mat")
    ),
    _nested(
        "larger-than-mat",
        PLATE,
        set_nesting("x", mat="200x200mm"),
        set_placement("x", width_mm=230.0),
        also=("no-test-cut", "size-unusual"),
    ),
    _nested("no-test-cut", PLATE, also=("larger-than-mat",)),
    _nested("loading-side", PLATE, also=("no-test-cut", "larger-than-mat")),
    _nested("stray-film", PLATE, also=("no-test-cut", "larger-than-mat")),
)
"""Each plants one fault on a blank."""

TOGETHER = (
    (too_thin, set_placement("x", from_centre_mm=8.0), "off-centre"),
    (gap, set_placement("x", turn_deg=2.0), "tilted"),
    (weed_speck, set_blank("x", care_dots=2), "heat-untested"),
    (gap, override_side("cream", False, "I think so"), "wrong-cut-side"),
    (too_thin, set_placement("x", from_centre_mm=170.0), "outside-usable-area"),
    (gap, set_blank_colour("#f5ebd6"), "invisible-on-blank"),
    (too_thin, set_blank("x", care_dots=2), "heat-untested"),
    (weed_speck, set_placement("x", from_centre_mm=8.0), "off-centre"),
    (weed_speck, set_placement("x", turn_deg=2.0), "tilted"),
    (small_counter, set_blank_colour("#e8c9c9"), "hard-to-read"),
    (gap, set_pressing("x", pressed_at="2026-11-26T10:00+00:00"), "too-fresh"),
    (pattern, set_placement("x", from_centre_mm=8.0), "off-centre"),
    (puff_dots, set_placement("x", turn_deg=2.0), "tilted"),
)


WITH = {"outside-usable-area": ("off-centre", "wraps-round-body"), "tilted": ("larger-than-mat",)}
"""What comes with a fault that is added."""


def alone() -> Iterator[Seed]:
    """Yield every fault on three kinds of blank."""
    for plant in PLANTERS:
        for blank in CLOTH:
            yield plant(blank)


def together() -> Iterator[Seed]:
    """Yield two faults at once, on three kinds of blank."""
    for plant, edit, fault in TOGETHER:
        for blank in CLOTH:
            one = plant(blank)
            make = partial(_then, one.make, edit)
            comes = (*one.comes_with, *WITH.get(fault, ()))
            yield Seed(f"{one.name} with {fault}", make, (*one.planted, Planted(fault)), comes)


def _then(make, edit) -> Document:
    document = make()
    document.apply(edit)
    return document


def seeds() -> list[Seed]:
    """Return all jobs with faults."""
    return [*alone(), *together()]
