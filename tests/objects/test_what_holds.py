"""Which films go on which blanks, which are taken by themselves, what is never heated. Common practice, no source."""

import pytest

from tests.helpers import document_of
from zinnet.blanks.catalogue import blank_kinds, read_blank_name
from zinnet.blanks.procedures import procedures
from zinnet.films.catalogue import Film, film_kinds
from zinnet.job.edits import choose_blank, choose_film, set_blank

BOX = '<rect width="60" height="40" fill="#d62828"/>'
HEAT, GLUE, PRINT = "heat", "glue", "print"
# Typed here a second time: by what bond films hold on each kind of blank, the one that is taken by itself first.
CLOTH = dict.fromkeys(
    (
        *("tee", "long-sleeve", "fitted-tee", "tank", "sweatshirt", "hoodie", "zip-hoodie", "polo", "shirt"),
        *("baby-body", "apron", "tote", "drawstring-bag", "zip-pouch", "cap", "bucket-hat", "beanie", "place-mat"),
        *("banner", "pillow-cover", "stocking", "fur-stocking", "jar-strip", "canvas"),
    ),
    (HEAT,),
)
POLYESTER = dict.fromkeys(("gift-bag", "sash", "blanket"), (HEAT, PRINT))
STUCK = dict.fromkeys(("glass-plate", "round-pan", "wood-sign", "jar"), (GLUE,))
COATED = dict.fromkeys(("inset-board", "tumbler", "mug"), (PRINT, GLUE))
ANY = dict.fromkeys(("rectangle", "circle", "own-outline"), (HEAT, GLUE, PRINT))
HOLDS = {**CLOTH, **POLYESTER, **STUCK, **COATED, **ANY}
OUTLINE = "own-outline"


def on(blank, *edits):
    """Return a red rectangle on a blank; an outline of one's own is left to the measuring tests."""
    return document_of(BOX, choose_blank(read_blank_name(blank)), *edits)


def test_the_table_is_about_every_kind_of_blank():
    assert set(HOLDS) == set(blank_kinds())


@pytest.mark.parametrize("blank", [name for name in HOLDS if name != OUTLINE])
def test_by_itself_a_film_is_taken_that_holds_there_and_no_other(blank):
    document = on(blank)
    rows = [row for design in document.plan.garments[0].compositions for row in design.layers]
    assert {film_kinds()[row.film.kind].bond for row in rows} == {HOLDS[blank][0]}
    assert not [one for one in document.plan.findings if one.id == "film-not-for-blank"]


@pytest.mark.parametrize("blank", [name for name in HOLDS if name != OUTLINE])
def test_every_kind_of_film_is_let_or_stopped_and_nothing_that_is_never_heated_gets_a_step_with_heat(blank):
    document = on(blank)
    films = tuple(Film(id=f"a-{name}", name=name, kind=name, colour="#d62828") for name in film_kinds())
    workshop = document.workshop
    document.use_workshop(workshop.model_copy(update={"films": (*workshop.films, *films)}))
    for name, kind in film_kinds().items():
        document.apply(choose_film("#d62828", f"a-{name}"))
        stops = [one for one in document.plan.findings if one.id == "film-not-for-blank"]
        assert bool(stops) == (kind.bond not in HOLDS[blank]), (blank, name)
        assert all(one.level == "stop" for one in stops)
        heated = any(step.heat is not None for step in document.plan.presses[0].steps)
        if blank in STUCK or kind.bond == GLUE:
            assert not heated, (blank, name)
        elif kind.bond in HOLDS[blank]:
            assert heated, (blank, name)
        if stops:
            document.apply(stops[0].mend)
            assert not [one for one in document.plan.findings if one.id == "film-not-for-blank"], (blank, name)


@pytest.mark.parametrize(
    ("cloth", "bond"),
    [("100 % polyester", PRINT), ("glass", GLUE), ("varnished wood", GLUE), ("plastic", GLUE), ("cotton", HEAT)],
)
def test_what_the_label_says_decides_over_what_is_usual(cloth, bond):
    document = on("rectangle", set_blank("x", fabric=cloth))
    assert bond in document.plan.garments[0].blank.main.holds


# In this order, read from the steps: what can't be taken back, and the press (P) between. Common practice, no source.
GATES = {
    "sash": ["Try the sash on", "P"],
    "bucket-hat": ["Turn the brim in", "P"],
    "fur-stocking": ["Brush the fur away", "P"],
    "canvas": ["P", "Staple it again", "Trim last"],
    "jar-strip": ["Cut the strip with its overlap", "P"],
    "glass-plate": ["Which side touches food?"],
    "round-pan": ["Paint, seal, let it dry"],
    "wood-sign": ["Varnish, and let it dry"],
    "inset-board": ["Is the board coated?", "P"],
    "mug": ["Is it coated?", "P"],
    "tumbler": ["Is it coated?", "P"],
    "blanket": ["Lay paper out first", "P"],
    "baby-body": ["P", "Pull at every part"],
}


@pytest.mark.parametrize("blank", [name for name in HOLDS if name != OUTLINE])
def test_what_can_not_be_taken_back_stands_where_it_belongs(blank):
    steps = on(blank).plan.presses[0].steps
    order = []
    for step in steps:
        if step.gate:
            order.append(step.title)
            assert step.wrong
        elif step.kind == "press" and order[-1:] != ["P"]:
            order.append("P")
    assert order == GATES.get(blank, ["P"] if HOLDS[blank][0] != GLUE else [])
    before = [step.hours > 0 for step in steps]
    assert before == sorted(before, reverse=True), "what is for the day before comes first"


@pytest.mark.parametrize("blank", ["blanket", "tee", "hoodie-adult"])
def test_new_fleece_is_washed_the_day_before_and_nothing_else_is(blank):
    steps = on(blank, set_blank("x", fabric="fleece")).plan.presses[0].steps
    assert steps[0].gate
    assert steps[0].hours >= 6
    assert "softener" in " ".join(steps[0].lines)
    assert not [step for step in on(blank).plan.presses[0].steps if step.hours]


def test_no_step_calls_a_thing_a_garment_or_folds_what_does_not_fold():
    for blank in HOLDS:
        if blank == OUTLINE:
            continue
        for step in on(blank).plan.presses[0].steps:
            said = " ".join((step.title, *step.lines)).lower()
            assert "garment" not in said, (blank, said)
            if blank in {**STUCK, **COATED} or blank in ("cap", "canvas", "bucket-hat"):
                assert "shoulder" not in said
                assert "fold it edge" not in said
                assert "wash it inside out" not in said


def test_every_procedure_is_used_and_says_what_it_is_about():
    used = {kind.procedure for kind in blank_kinds().values()}
    by_size = {to for one in procedures().values() for _, to in one.sizes}
    assert used | by_size == set(procedures())
    for one in procedures().values():
        assert one.noun
        assert one.care
        assert one.sources or HEAT not in one.holds
