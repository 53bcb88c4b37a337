"""Each finding is shown to appear, and to stay silent."""

import base64
import io

import pytest
from PIL import Image, ImageDraw

from tests.helpers import LANTERN, RED_AND_BLUE, document_of, first_of, nested, svg
from tests.names.bags import bags
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import TextArt
from zinnet.bench.document import Document
from zinnet.blanks.catalogue import read_blank_name, typical_measures
from zinnet.blanks.model import DrawnKeepOut
from zinnet.cutting.settings import CutTest
from zinnet.job.edits import (
    add_design,
    add_sizes,
    add_source,
    choose_blank,
    choose_film,
    choose_platen,
    choose_recipe,
    join_outlines,
    keep_off,
    open_artwork,
    override_side,
    pass_finding,
    press_in_order,
    record_readings,
    remove_size,
    set_blank,
    set_blank_colour,
    set_copies,
    set_layers,
    set_measure,
    set_names,
    set_nesting,
    set_placement,
    set_pressing,
    set_sizes,
    take_back_pass,
)
from zinnet.job.model import Job
from zinnet.job.names.model import NameList, NameRow
from zinnet.nesting.model import Layout, Placed, SheetLayout
from zinnet.placement.arrange import Rows
from zinnet.placement.as_laid import readings_at
from zinnet.plan.arranging import grouped
from zinnet.plan.findings.kinds import catalogue
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.stock import StockItem

RINGS = "".join(
    f'<circle cx="50" cy="50" r="{50 - 9 * k}" fill="{colour}"/>'
    for k, colour in enumerate(("#d62828", "#1f57c3", "#f4ead5", "#1a1a1a"))
)
DOTS = "".join(f'<circle cx="{5 + 9 * k}" cy="80" r="3" fill="#f4ead5"/>' for k in range(9))
RING = '<path fill="#f4ead5" fill-rule="evenodd" d="M0 0H80V60H0Z M20 20H60V40H20Z"/>'
BOX = '<rect width="80" height="60" fill="#f4ead5"/>'
TWO_PARTS = '<rect width="30" height="60" fill="#f4ead5"/><rect x="50" width="30" height="60" fill="#f4ead5"/>'
CROSSING = '<circle cx="20" cy="20" r="15" fill="#d62828"/><circle cx="40" cy="20" r="15" fill="#d62828"/>'
DOUBLE = '<circle cx="20" cy="20" r="15" fill="#d62828"/>' * 2
PICTURE = '<image href="moth.png" width="50" height="50"/>'


GAP = '<rect width="40" height="60" fill="#f4ead5"/><rect x="40.1" width="40" height="60" fill="#f4ead5"/>'
DRAWN = '<path d="M0 0 L50 0 L25 40" fill="#d62828"/>'
EMBEDDED = '<image href="data:image/png;base64,{}" width="50" height="50"/>'
BLEND = (
    '<linearGradient id="g"><stop stop-color="#d62828"/><stop offset="1" stop-color="#f4ead5"/></linearGradient>'
    '<rect width="80" height="60" fill="url(#g)"/>'
)
PATTERNED = "reed-pattern"


def measured():
    return [set_measure(name, mm) for name, mm in typical_measures("tee", "adult-m").items()]


def on(blank):
    return choose_blank(read_blank_name(blank))


def laid_off(document, right=6.0, down=0.0, turn=0.0):
    """Return the document with what a ruler says of a piece that lies beside its place."""
    readings = readings_at(first_of(document.plan).placement, right_mm=right, down_mm=down, turn_deg=turn)
    document.apply(record_readings(readings))
    return document


def with_layout(document, change):
    """Return the document with a nest as it might come out of a file, changed."""
    nested(document)
    for nest in document.plan.nests:
        document.keep_layout(nest.key, change(nest.layout))
    return document


def with_text(words):
    document = Document(standard_workshop())
    document.apply(add_source(words, TextArt(text=TextSpec(text=words))))
    return document


def with_picture():
    """Return a document whose drawing is only an embedded picture: a red moon on white."""
    picture = Image.new("RGB", (80, 80), "#ffffff")
    ImageDraw.Draw(picture).ellipse((15, 15, 65, 65), fill="#d62828")
    buffer = io.BytesIO()
    picture.save(buffer, "PNG")
    return document_of(EMBEDDED.format(base64.b64encode(buffer.getvalue()).decode()))


def shifted(layout, x=0.0, turn=0.0):
    sheets = []
    for sheet in layout.sheets:
        first, *rest = sheet.placed
        moved = Placed(
            piece=first.piece,
            copy_number=first.copy_number,
            x_mm=first.x_mm + x,
            y_mm=first.y_mm,
            turn_deg=first.turn_deg + turn,
        )
        sheets.append(SheetLayout(placed=(moved, *rest), used_length_mm=sheet.used_length_mm))
    return Layout(sheets=tuple(sheets))


def stacked(layout):
    """Put all copies of a sheet on one spot."""
    sheets = []
    for sheet in layout.sheets:
        first = sheet.placed[0]
        placed = tuple(
            Placed(piece=p.piece, copy_number=p.copy_number, x_mm=first.x_mm, y_mm=first.y_mm, turn_deg=first.turn_deg)
            for p in sheet.placed
        )
        sheets.append(SheetLayout(placed=placed, used_length_mm=sheet.used_length_mm))
    return Layout(sheets=tuple(sheets))


SHOWN = {
    "blank-not-measured": lambda: document_of(BOX),
    "outside-usable-area": lambda: document_of(BOX, set_placement("x", from_centre_mm=200.0)),
    "size-unusual": lambda: document_of(BOX, set_placement("x", width_mm=304.8)),
    "off-centre": lambda: document_of(BOX, set_placement("x", from_centre_mm=2.5)),
    "tilted": lambda: document_of(BOX, set_placement("x", turn_deg=-0.8)),
    "collar-distance": lambda: document_of(BOX, set_placement("x", from_reference_mm=60.0)),
    "over-keep-out": lambda: document_of(BOX, on("zip-hoodie-adult"), set_placement("x", place="full-front")),
    "stretched": lambda: document_of(BOX, set_placement("x", width_mm=150.0, height_mm=150.0)),
    "wraps-round-body": lambda: document_of(BOX, on("sash"), set_placement("x", width_mm=400.0, height_mm=60.0)),
    "frame-hides-art": lambda: document_of(BOX, on("canvas"), set_placement("x", width_mm=175.0)),
    "as-laid-off": lambda: laid_off(document_of(BOX, set_placement("x", width_mm=200.0))),
    "food-or-lips": lambda: document_of(BOX, on("glass-plate"), set_placement("x", place="upper-side")),
    "not-for-baby": lambda: document_of(BOX + DOTS, on("tee-infant")),
    "loose-pieces": lambda: document_of(TWO_PARTS, set_nesting("x", cut_apart="parts")),
    "overlapping-outlines": lambda: document_of(CROSSING, join_outlines(False)),
    "double-line": lambda: document_of(DOUBLE),
    "open-outline": lambda: document_of('<path d="M0 0 L50 0 L25 40" fill="#d62828"/>'),
    "picture-not-traced": lambda: document_of(PICTURE),
    "blend-not-cuttable": lambda: document_of('<rect width="50" height="50" fill="#d62828" opacity="0.4"/>'),
    "weed-speck": lambda: document_of(BOX + '<circle cx="95" cy="5" r="0.4" fill="#d62828"/>'),
    "missing-glyph": lambda: with_text("Moth Ω"),
    "too-thin": lambda: document_of(BOX + '<rect y="70" width="80" height="0.2" fill="#f4ead5"/>'),
    "pattern-too-thin": lambda: document_of(
        "".join(f'<rect y="{9 * k}" width="80" height="1.5" fill="#f4ead5"/>' for k in range(7)),
        choose_film("#f4ead5", PATTERNED),
    ),
    "gap-will-close": lambda: document_of(GAP),
    "hard-to-read": lambda: document_of(BOX, set_blank_colour("#e8c9c9")),
    "no-film": lambda: document_of(BOX, choose_film("#f4ead5", "a film that is sold out")),
    "wrong-cut-side": lambda: document_of(BOX, override_side("cream", False, "I think so")),
    "film-cannot-carry": lambda: document_of(
        RED_AND_BLUE, choose_film("#d62828", "gold-glitter"), set_layers("x", method="stack")
    ),
    "too-many-films": lambda: document_of(RINGS, set_layers("x", method="stack")),
    "press-order": lambda: document_of(RED_AND_BLUE, press_in_order(("#1f57c3", "#d62828"))),
    "sliver": lambda: document_of(
        '<circle cx="50" cy="50" r="50" fill="#d62828"/><circle cx="50.3" cy="50" r="49.6" fill="#1f57c3"/>',
        set_layers("x", method="cut-away"),
        set_placement("x", width_mm=100.0),
    ),
    "heat-clash": lambda: document_of(
        RED_AND_BLUE, choose_film("#d62828", "soft-coral"), choose_film("#1f57c3", "moonlight")
    ),
    "invisible-on-blank": lambda: document_of(BOX, set_blank_colour("#f5ebd6")),
    "larger-than-mat": lambda: document_of(BOX, set_nesting("x", mat="200x200mm"), set_placement("x", width_mm=254.0)),
    "pieces-too-close": lambda: document_of(BOX, set_copies(2), set_nesting("x", gap_mm=2.0)),
    "pieces-overlap": lambda: with_layout(document_of(BOX, set_copies(2), set_placement("x", width_mm=120.0)), stacked),
    "off-sheet": lambda: with_layout(document_of(BOX), lambda layout: shifted(layout, x=200.0)),
    "against-nap": lambda: with_layout(
        document_of(BOX, choose_film("#f4ead5", "moss-flock"), set_placement("x", width_mm=100.0)),
        lambda layout: shifted(layout, x=120.0, turn=90.0),
    ),
}


def on_shelf(*items, length=900.0, copies=4):
    """Return a document nested on a roll of cream, or on none."""
    document = document_of(
        BOX, set_placement("x", width_mm=60.0), set_copies(copies), set_nesting("x", from_shelf=True, test_cut=True)
    )
    roll = StockItem(number=1, film="cream", kind="roll", width_mm=150, length_mm=length)
    document.use_workshop(document.workshop.model_copy(update={"stock": (roll, *items)}))
    return nested(document)


def on_the_test_cut(document):
    """Return a nest as it might come out of a file, with a piece on the spot of the test cut."""
    (nest,) = document.plan.nests
    placed = list(nest.layout.sheets[0].placed)
    spot = next(one for one in placed if one.piece == "test-cut")
    piece = next(one for one in placed if one.piece != "test-cut")
    placed[placed.index(piece)] = piece.model_copy(update={"x_mm": spot.x_mm + 20, "y_mm": spot.y_mm + 20})
    sheets = (nest.layout.sheets[0].model_copy(update={"placed": tuple(placed)}), *nest.layout.sheets[1:])
    document.keep_layout(nest.key, Layout(sheets=sheets, unplaced=nest.layout.unplaced))
    return document


def two_films():
    """Return a nested job whose films need different settings."""
    return nested(document_of(RED_AND_BLUE, choose_film("#d62828", "gold-glitter")))


SHOWN |= {
    "loading-side": lambda: nested(document_of(BOX)),
    "settings-changed": two_films,
    "no-test-cut": lambda: nested(document_of(BOX)),
    "stray-film": lambda: nested(document_of(RING)),
    "film-short": lambda: on_shelf(length=80.0, copies=9),
    "no-spare": lambda: on_shelf(length=140.0),
    "on-test-cut": lambda: on_the_test_cut(on_shelf()),
}


HALVES = '<rect width="50" height="80" fill="#d62828"/><rect x="50" width="50" height="80" fill="#1f57c3"/>'
APART = '<rect width="30" height="60" fill="#d62828"/><rect x="60" width="30" height="60" fill="#1f57c3"/>'
GLITTERS = (choose_film("#d62828", "gold-glitter"), choose_film("#1f57c3", "rose-glitter"))
LONG = tuple(choose_recipe(film, school="low and long") for film in ("scarlet", "blue", "cream", "black"))


SHOWN |= {
    "fabric-limit": lambda: document_of(BOX, set_blank("x", fabric="nylon")),
    "heat-untested": lambda: document_of(BOX, set_blank("x", care_dots=2)),
    "film-not-for-blank": lambda: document_of(BOX, on("round-pan"), choose_film("#f4ead5", "cream")),
    "plate-does-not-reach": lambda: document_of(BOX, on("cap"), choose_platen("flat-15x15")),
    "no-recipe": lambda: document_of(BOX, on("blanket")),
    "platen-smaller": lambda: document_of(BOX, choose_platen("plate-5x5")),
    "platen-edge-on-piece": lambda: document_of(BOX, *three_in_a_row(20.0)),
    "gate-open": lambda: nested(document_of(BOX, on("sash"))),
    "bare-film": lambda: document_of(RED_AND_BLUE, set_pressing("x", cover="none")),
    "carrier-overlap": lambda: document_of(
        HALVES, set_layers("x", method="cut-away"), set_pressing("x", together=True)
    ),
    "peel-mixed": lambda: document_of(
        APART, on("hoodie-adult"), choose_film("#d62828", "gold-glitter"), set_pressing("x", together=True)
    ),
    "shrink-misfit": lambda: document_of(
        HALVES, *GLITTERS, set_placement("x", width_mm=254.0), set_pressing("x", school="full")
    ),
    "too-much-heat": lambda: document_of(
        RINGS, *LONG, set_layers("x", method="stack"), set_pressing("x", school="full")
    ),
    "too-fresh": lambda: document_of(BOX, set_pressing("x", pressed_at="2026-11-26T10:00+00:00")),
}


def three_in_a_row(gap_mm):
    """Return the edits that lay three squares of 60 mm so far apart, under a plate of 127 mm."""
    row = Rows(columns=3, rows=1, gap_x_mm=gap_mm)
    return choose_platen("plate-5x5"), set_placement("x", width_mm=60.0, arrangement=row)


def glitter_on_glitter():
    """Return a tee with a glitter square twice in the same place, the upper one of another film."""
    document = document_of(BOX, choose_film("#f4ead5", "gold-glitter"))
    document.apply(add_design("upper.svg", svg(BOX.replace("#f4ead5", "#1f57c3"))))
    document.apply(choose_film("#1f57c3", "rose-glitter"))
    return document


def beside(gap_mm):
    """Return a tee with two squares of 40 mm, so far apart."""
    document = document_of(BOX, set_placement("x", width_mm=40.0, from_centre_mm=-20.0))
    document.apply(add_design("beside.svg", svg(BOX)))
    document.apply(set_placement("x", design=1, place="full-front", width_mm=40.0, from_centre_mm=20.0 + gap_mm))
    return document


def torn_on_a_size():
    """Return two grouped squares on tees of two sizes, one of them moved by itself on the larger."""
    document = beside(10.0)
    document.apply(grouped(document.plan.garments[0], [0, 1], "pair"))
    document.apply(add_sizes(("adult-xl",)))
    document.apply(set_placement("x", design=1, size="adult-xl", from_centre_mm=60.0))
    return document


SHOWN |= {
    "designs-overlap": glitter_on_glitter,
    "touches-another": lambda: beside(1.0),
    "group-torn": torn_on_a_size,
    "outside-page": lambda: document_of(f'{BOX}<rect x="70" y="80" width="60" height="10" fill="#f4ead5"/>'),
    "name-too-long": lambda: bags(("Ada", "Bo", "Eli", "Bartholomew of the Long Reed Bank")),
    "name-twice": lambda: bags(("Ada", "Bo", "Ada")),
    "name-without-size": lambda: in_sizes(),
    "plain-nest": lambda: with_layout(
        document_of(BOX, set_copies(2)), lambda layout: layout.model_copy(update={"plain": True})
    ),
}


def in_sizes():
    """Return tees whose list of names asks for a size that was taken out of the job."""
    rows = (NameRow(values=("Ada",), size="adult-m"), NameRow(values=("Bo",), size="youth-m"))
    return document_of_text("{name}", set_names(NameList(columns=("name",), rows=rows)), remove_size("youth-m"))


def document_of_text(words, *edits):
    document = Document(standard_workshop())
    for edit in (add_source("text", TextArt(text=TextSpec(text=words))), *edits):
        document.apply(edit)
    return document


def ids(document):
    return [finding.id for finding in document.plan.findings]


def test_every_finding_of_the_catalogue_is_tried():
    assert set(SHOWN) == set(catalogue())


@pytest.mark.parametrize("finding_id", SHOWN)
def test_it_appears_with_numbers_and_a_limit(finding_id):
    document = SHOWN[finding_id]()
    finding = next(f for f in document.plan.findings if f.id == finding_id)
    assert finding.title == catalogue()[finding_id].title
    assert len(finding.limit) > 10
    if finding_id not in ("blank-not-measured", "wrong-cut-side", "missing-glyph", "no-test-cut", "plain-nest"):
        assert any(letter.isdigit() for letter in finding.measured)


def test_a_measured_well_placed_job_has_nothing_to_mend():
    document = nested(document_of(LANTERN, *measured(), set_blank_colour("#202428"), set_copies(2)))
    assert set(ids(document)) == {"loading-side", "no-test-cut", "stray-film"}
    for finding in document.plan.findings:
        if finding.mend is not None:
            document.apply(finding.mend)
    while "loading-side" in ids(document):
        document.apply(next(one.mend for one in document.plan.findings if one.id == "loading-side"))
    films = [film.nest.film.id for film in document.plan.mats]
    clean = tuple(
        CutTest(machine="table", film=film, settings=load.settings, outcome="clean")
        for film in films
        for load in document.plan.loads[:1]
    )
    document.use_workshop(document.workshop.model_copy(update={"tests": clean}))
    assert ids(document) == []


def test_saved_mats_whose_pieces_lie_on_one_another_are_a_stop():
    document = document_of(BOX, set_copies(2), set_placement("x", width_mm=120.0))
    assert not {"pieces-overlap", "pieces-too-close"} & set(ids(nested(document)))
    assert "pieces-overlap" in ids(with_layout(document, stacked))
    assert "pieces-overlap" in [finding.id for finding in document.plan.open_stops]


@pytest.mark.parametrize("finding_id", SHOWN)
def test_a_mend_mends(finding_id):
    document = SHOWN[finding_id]()
    finding = next(f for f in document.plan.findings if f.id == finding_id)
    if finding.mend is None:
        assert finding_id in {
            "blank-not-measured", "picture-not-traced", "blend-not-cuttable",
            "double-line", "over-keep-out", "as-laid-off", "not-for-baby", "no-spare", "no-test-cut",
            "no-recipe", "platen-smaller", "too-fresh", "name-too-long", "name-twice", "film-short", "fabric-limit",
        }  # fmt: skip
        return
    document.apply(finding.mend)
    nested(document)
    assert finding_id not in [f.id for f in document.plan.findings if f.level != "note"]


@pytest.mark.parametrize(
    ("finding_id", "document"),
    [
        ("picture-not-traced", with_picture()),
        ("blend-not-cuttable", document_of(BLEND)),
        ("double-line", document_of(DOUBLE, join_outlines(False))),
    ],
)
def test_a_mend_mends_where_there_is_one(finding_id, document):
    finding = next(f for f in document.plan.findings if f.id == finding_id)
    document.apply(finding.mend)
    assert finding_id not in [f.id for f in document.plan.findings if f.level != "note"]
    assert first_of(document.plan).split.layers


@pytest.mark.parametrize(
    ("edit", "silent"),
    [
        (set_placement("x", from_centre_mm=1.9), "off-centre"),
        (set_placement("x", turn_deg=0.4), "tilted"),
        (set_placement("x", width_mm=266.7), "size-unusual"),
        (set_placement("x", width_mm=127.0), "size-unusual"),
        (set_placement("x", from_reference_mm=85.7), "collar-distance"),
        (set_placement("x", school="inch"), "collar-distance"),
    ],
)
def test_within_the_limit_it_is_silent(edit, silent):
    assert silent not in ids(document_of(BOX, edit))


def test_unmeasured_blanks_are_graver_once_mats_are_made():
    document = document_of(BOX)
    level = {f.id: f.level for f in document.plan.findings}["blank-not-measured"]
    assert level == "note"
    nested(document)
    assert {f.id: f.level for f in document.plan.findings}["blank-not-measured"] == "warn"


def test_glitter_on_glitter_is_a_warning_by_the_school_that_stacks_it():
    films = (choose_film("#d62828", "gold-glitter"), choose_film("#1f57c3", "rose-glitter"))
    for stacks, level in ((False, "stop"), (True, "warn")):
        document = document_of(RED_AND_BLUE, *films, set_layers("x", method="stack", stack_glitter=stacks))
        (finding,) = [f for f in document.plan.findings if f.id == "film-cannot-carry"]
        assert finding.level == level
    silent = document_of(RED_AND_BLUE, *films)
    assert "film-cannot-carry" not in ids(silent)


def test_adhesive_beside_heat_film_is_stuck_on_last():
    document = document_of(RED_AND_BLUE, choose_film("#1f57c3", "white-adhesive"))
    (finding,) = [f for f in document.plan.findings if f.id == "heat-clash"]
    assert "never heated" in finding.limit


def test_joined_outlines_are_worth_a_note_only():
    (finding,) = [f for f in document_of(CROSSING).plan.findings if f.id == "overlapping-outlines"]
    assert finding.level == "note"


def test_a_picture_beside_shapes_is_a_warning():
    (finding,) = [f for f in document_of(BOX + PICTURE).plan.findings if f.id == "picture-not-traced"]
    assert finding.level == "warn"


def test_a_far_colour_or_an_empty_shelf_has_no_film():
    empty = Document(standard_workshop().model_copy(update={"films": ()}))
    empty.apply(open_artwork("a.svg", svg(BOX)))
    assert "no-film" in ids(empty)
    only_black = Document(standard_workshop().model_copy(update={"films": (standard_workshop().film("black"),)}))
    only_black.apply(open_artwork("a.svg", svg(BOX)))
    assert "no-film" in ids(only_black)
    assert "no-film" not in ids(document_of(BOX))


def test_a_stop_is_passed_with_a_reason_that_stays_in_sight():
    document = document_of(BOX, override_side("cream", False, "I think so"))
    assert [f.id for f in document.plan.open_stops] == ["wrong-cut-side"]
    document.apply(pass_finding("wrong-cut-side", "the maker's sheet says so"))
    assert document.plan.open_stops == ()
    (finding,) = [f for f in document.plan.findings if f.id == "wrong-cut-side"]
    assert finding.passed == "the maker's sheet says so"
    document.apply(take_back_pass("wrong-cut-side"))
    assert document.plan.open_stops


def test_the_width_that_is_mended_to_fits():
    document = document_of(BOX, set_placement("x", width_mm=600.0))
    (finding,) = [f for f in document.plan.findings if f.id == "outside-usable-area"]
    document.apply(finding.mend)
    assert "outside-usable-area" not in ids(document)
    assert first_of(document.plan).placement.width_mm < 600


@pytest.mark.parametrize(
    ("document", "silent"),
    [
        (lambda: document_of(BOX, set_blank("x", care_dots=3)), "fabric-limit"),
        (lambda: document_of(BOX), "fabric-limit"),
        (lambda: document_of(BOX, set_blank("x", care_dots=2)), "fabric-limit"),
        (lambda: document_of(BOX, set_blank("x", care_dots=3)), "heat-untested"),
        (lambda: document_of(BOX), "heat-untested"),
        (lambda: document_of(BOX, on("round-pan")), "film-not-for-blank"),
        (lambda: document_of(BOX, on("blanket")), "film-not-for-blank"),
        (lambda: document_of(BOX, on("cap")), "plate-does-not-reach"),
        (lambda: document_of(BOX, on("glass-plate")), "plate-does-not-reach"),
        (lambda: document_of(BOX), "no-recipe"),
        (lambda: document_of(BOX, choose_film("#f4ead5", "white-adhesive")), "no-recipe"),
        (lambda: document_of(BOX), "platen-smaller"),
        (lambda: document_of(BOX, *three_in_a_row(80.0)), "platen-edge-on-piece"),
        (lambda: document_of(BOX, choose_platen("plate-5x5")), "platen-edge-on-piece"),
        (lambda: nested(document_of(BOX)), "gate-open"),
        (lambda: document_of(BOX, on("sash")), "gate-open"),
        (lambda: document_of(BOX, set_pressing("x", cover="none")), "bare-film"),
        (lambda: document_of(RED_AND_BLUE), "bare-film"),
        (lambda: document_of(HALVES, set_layers("x", method="cut-away")), "carrier-overlap"),
        (lambda: document_of(APART, set_pressing("x", together=True)), "carrier-overlap"),
        (lambda: document_of(APART, set_pressing("x", together=True)), "peel-mixed"),
        (lambda: document_of(HALVES, *GLITTERS, set_placement("x", width_mm=254.0)), "shrink-misfit"),
        (lambda: document_of(RINGS, *LONG, set_layers("x", method="stack")), "too-much-heat"),
        (lambda: document_of(BOX), "too-fresh"),
        (lambda: document_of(BOX, on("zip-hoodie-adult"), set_placement("x", place="left-chest")), "over-keep-out"),
        (lambda: document_of(BOX, on("hoodie-adult")), "over-keep-out"),
        (lambda: document_of(BOX, on("polo-adult")), "over-keep-out"),
        (lambda: document_of(BOX, on("drawstring-bag")), "over-keep-out"),
        (lambda: document_of(BOX, on("mug")), "over-keep-out"),
        (lambda: document_of(BOX, set_placement("x", width_mm=200.0, height_mm=152.0)), "stretched"),
        (lambda: document_of(BOX, on("sash")), "wraps-round-body"),
        (lambda: document_of(BOX, on("canvas")), "frame-hides-art"),
        (lambda: document_of(BOX, on("canvas")), "outside-usable-area"),
        (lambda: laid_off(document_of(BOX, set_placement("x", width_mm=200.0)), 1.0, 1.0, 0.2), "as-laid-off"),
        (lambda: document_of(BOX, on("glass-plate")), "food-or-lips"),
        (lambda: document_of(BOX, on("tumbler")), "food-or-lips"),
        (lambda: document_of(BOX, on("tee-infant")), "not-for-baby"),
        (lambda: document_of(BOX + DOTS, on("tee-toddler")), "not-for-baby"),
        (lambda: document_of(BOX, on("cap"), set_placement("x", from_reference_mm=8.0)), "collar-distance"),
        (lambda: document_of(BOX, on("blanket"), set_placement("x", from_centre_mm=90.0)), "off-centre"),
        (lambda: document_of(BOX, set_placement("x", place="left-chest")), "off-centre"),
    ],
)
def test_a_use_that_is_right_is_silent(document, silent):
    assert silent not in ids(document())


BLANKS = """
    tee-adult tee-youth tee-infant long-sleeve-adult fitted-tee-adult tank-adult sweatshirt-adult hoodie-adult
    hoodie-toddler zip-hoodie-adult polo-adult shirt-adult baby-body apron-adult tote drawstring-bag gift-bag zip-pouch
    cap bucket-hat beanie sash blanket place-mat pillow-cover stocking fur-stocking jar-strip canvas glass-plate
    round-pan inset-board tumbler mug rectangle circle
"""


@pytest.mark.parametrize("blank", BLANKS.split())
def test_zinnets_own_proposal_has_nothing_to_mend_at_the_fit(blank):
    document = document_of(BOX, on(blank))
    found = [f for f in document.plan.findings if f.station in ("fit", "measure") and f.level != "note"]
    assert [(f.id, f.measured) for f in found] == []


def test_a_spot_that_the_user_drew_is_kept_off():
    spot = DrawnKeepOut(panel="front", kind="plastic", left=-10, top=220, right=10, bottom=240)
    document = document_of(BOX, set_placement("x", width_mm=150.0), keep_off(spot))
    (finding,) = [f for f in document.plan.findings if f.id == "over-keep-out"]
    assert "plastic" in finding.measured
    assert finding.level == "stop"
    document.apply(finding.mend)
    assert "over-keep-out" not in ids(document)


def test_a_platen_that_must_press_on_a_zip_is_a_stop():
    document = document_of(BOX, on("zip-hoodie-adult"), set_placement("x", place="left-chest", from_centre_mm=70.0))
    assert "over-keep-out" not in ids(document)
    both = [
        DrawnKeepOut(panel="front", kind="plastic", left=250, top=100, right=270, bottom=300),
    ]
    for spot in both:
        document.apply(keep_off(spot))
    (finding,) = [f for f in document.plan.findings if f.id == "over-keep-out"]
    assert "platen" in finding.measured


def test_scented_film_on_an_infants_size_is_a_warning():
    film = standard_workshop().films[0].model_copy(update={"id": "rose-scent", "name": "Rose scent", "kind": "scented"})
    shop = standard_workshop().model_copy(update={"films": (film,)})
    document = Document(shop, Job())
    document.apply(open_artwork("a.svg", svg(BOX)))
    document.apply(on("tee-infant"))
    document.apply(choose_film("#f4ead5", "rose-scent"))
    (finding,) = [f for f in document.plan.findings if f.id == "not-for-baby"]
    assert "Rose scent" in finding.measured


def test_findings_say_which_size_and_which_design_is_meant():
    document = document_of(BOX, add_design("back.svg", svg(BOX), "full-back"), set_sizes((("toddler", 2),)))
    document.apply(set_placement("x", design=1, size="toddler", width_mm=400.0))
    found = [f for f in document.plan.findings if f.id == "size-unusual"]
    (finding,) = found
    assert finding.measured.startswith("toddler, full back: 400 mm")
    assert (finding.place.size, finding.place.design, finding.place.panel) == ("toddler", 1, "back")
    document.apply(finding.mend)
    assert "size-unusual" not in ids(document)
    assert document.plan.garments[0].designs[1].word_width_mm != 400


def test_rows_that_leave_the_field_can_not_be():
    rows = Rows(gap_x_mm=0.0, gap_y_mm=0.0).model_dump()
    document = document_of(BOX, on("blanket"), set_placement("x", width_mm=120.0, arrangement=rows))
    assert not {"outside-usable-area", "over-keep-out"} & set(ids(document))
