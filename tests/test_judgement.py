"""Findings that were wrong once, and mends that spoiled work: each stays right."""

import json

import pytest

from tests.helpers import document_of, run_command, svg
from tests.seeded.judge import judge
from zinnet.artwork.lettering.outlined_name import OutlinedNameSpec
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.lettering.word_through import WordThroughSpec
from zinnet.artwork.source import OutlinedNameArt, TextArt, WordThroughArt
from zinnet.bench.document import Document
from zinnet.blanks.catalogue import read_blank_name
from zinnet.blanks.fabrics import fabrics
from zinnet.films.catalogue import Film
from zinnet.job.edits import (
    add_design,
    add_source,
    choose_blank,
    choose_film,
    open_artwork,
    set_blank,
    set_blank_colour,
    set_layers,
    set_nesting,
    set_placement,
)
from zinnet.layers.detail import details
from zinnet.plan.findings.pattern import seen_contrast, seen_difference
from zinnet.plan.proof import key_of, prove
from zinnet.workshop.model import standard_workshop

STACKED = '<rect width="80" height="60" fill="#1a1a1a"/><rect x="20" y="15" width="40" height="30" fill="#dd5f9a"/>'


def of_source(source, *edits):
    document = Document(standard_workshop())
    for edit in (add_source("words", source), *edits):
        document.apply(edit)
    return document


def findings(document, finding_id):
    return [one for one in document.plan.findings if one.id == finding_id]


def held(document, finding):
    return [mend for mend in finding.mends if prove(document.plan, finding, mend).holds]


def test_films_whose_heats_clash_never_become_one_film_nor_another_finish():
    document = document_of(
        STACKED,
        choose_film("#1a1a1a", "soft-coral"),
        choose_film("#dd5f9a", "moonlight"),
        set_layers("x", method="stack"),
    )
    (clash,) = findings(document, "heat-clash")
    films = {row.key: row.film.id for row in document.plan.garments[0].compositions[0].layers}
    for mend in held(document, clash):
        after = Document(document.workshop, document.job)
        after.apply(mend)
        now = {row.key: row.film.id for row in after.plan.garments[0].compositions[0].layers}
        assert len(set(now.values())) == len(set(films.values()))
        assert not judge(document, after, "heat-clash", mend.name)


def test_a_colour_without_film_gets_one_only_by_its_name_and_how_far_off_it_is():
    document = document_of(STACKED, choose_film("#dd5f9a", "a film that is sold out"))
    (none,) = findings(document, "no-film")
    (mend,) = none.mends
    assert "use " in mend.name
    assert mend.name.endswith("away")


@pytest.mark.parametrize("width_mm", [60.0, 90.0, 127.0])
def test_what_is_thickened_is_thick_enough_and_closes_no_gap(width_mm):
    bars = "".join(f'<rect x="{6 * k}" width="0.5" height="60" fill="#f4ead5"/>' for k in range(17))
    document = document_of(bars, set_placement("x", width_mm=width_mm))
    (thin,) = findings(document, "too-thin")
    gaps = len(findings(document, "gap-will-close"))
    for mend in (one for one in held(document, thin) if one.local):
        after = Document(document.workshop, document.job)
        after.apply(mend)
        assert key_of(thin) not in {key_of(one) for one in after.plan.findings}
        assert len(findings(after, "gap-will-close")) <= gaps


def test_letters_are_not_made_so_bold_for_a_pattern_that_they_are_a_blob():
    document = of_source(
        TextArt(text=TextSpec(text="reed bank")),
        set_placement("x", width_mm=150.0),
        choose_film("#1a1a1a", "reed-pattern"),
    )
    (pattern,) = findings(document, "pattern-too-thin")
    assert not [mend for mend in held(document, pattern) if mend.name.startswith("bolder")]


@pytest.mark.parametrize(("mat", "width_mm"), [("12x12in", 380.0), ("12x12in", 700.0), ("12x24in", 900.0)])
def test_a_mat_is_offered_only_where_it_is_another_one_on_which_every_piece_fits(mat, width_mm):
    document = document_of(STACKED, set_nesting("x", mat=mat), set_placement("x", width_mm=width_mm))
    for finding in findings(document, "larger-than-mat"):
        for mend in held(document, finding):
            after = Document(document.workshop, document.job)
            after.apply(mend)
            assert after.job.nesting.mat != mat
            assert not findings(after, "larger-than-mat")


@pytest.mark.long
@pytest.mark.parametrize(("shape", "method"), [("disc", "auto"), ("heart", "lap")])
def test_a_word_through_a_shape_has_nothing_that_its_films_can_not_hold(shape, method):
    source = WordThroughArt(
        word=WordThroughSpec(shape=shape, rows=3, least_mm=1.0, shape_colour="#e9a53a", outside_colour="#e9a53a")
    )
    document = of_source(source, set_placement("x", width_mm=250.0), set_layers("x", method=method))
    (one,) = document.plan.garments[0].compositions
    assert [(detail.kind, row.film.name) for row in one.layers for detail in details(row)] == []


def test_a_speck_of_a_drawing_may_be_bridged_and_the_dot_of_an_i_never():
    ring = '<path fill="#f4ead5" fill-rule="evenodd" d="M0 0H100V60H0Z M40 30a10 10 0 1 0 20 0a10 10 0 1 0 -20 0Z"/>'
    document = document_of(
        f'{ring}<circle cx="50" cy="30" r="0.5" fill="#f4ead5"/>', set_placement("x", width_mm=100.0)
    )
    (speck,) = findings(document, "weed-speck")
    (bridged,) = [mend for mend in held(document, speck) if mend.name.startswith("bridge 1 part")]
    parts = len(document.plan.garments[0].designs[0].split.layers[0].region.geoms)
    document.apply(bridged)
    assert len(document.plan.garments[0].designs[0].split.layers[0].region.geoms) == parts - 1
    letters = of_source(TextArt(text=TextSpec(text="iii")), set_placement("x", width_mm=10.0))
    for speck in findings(letters, "weed-speck"):
        assert not [mend for mend in held(letters, speck) if mend.name.startswith("bridge")]


def test_plain_letters_have_no_closing_gaps_in_their_notches():
    for words in ("VANILLA", "MAKE WAY", "yellow"):
        assert not findings(
            of_source(TextArt(text=TextSpec(text=words)), set_placement("x", width_mm=200.0)), "gap-will-close"
        )


def test_a_pattern_is_judged_by_its_picture_and_not_by_one_colour():
    film = Film(id="moon", name="Moon", kind="patterned", colour="#202428", pattern="moonlight.svg")
    assert seen_contrast(film, "#202428") > 8
    assert seen_difference(film, "#202428") > 40
    document = document_of(STACKED, choose_film("#1a1a1a", "moonlight"), set_blank_colour("#202428"))
    assert not findings(document, "invisible-on-blank")


def test_an_outlined_name_is_lettering_though_it_is_one_part():
    document = of_source(OutlinedNameArt(name=OutlinedNameSpec(name="Moth")), set_placement("x", width_mm=279.4))
    look = document.plan.garments[0].designs[0].proposal.look
    assert (look.words, look.letters) == (1, 4)
    assert not findings(document, "size-unusual")


def test_traced_letters_with_an_outline_are_told_by_their_own_layer():
    letters = "".join(f'<rect x="{10 + 14 * k}" y="20" width="9" height="30" fill="#f4ead5"/>' for k in range(6))
    around = '<rect x="4" y="14" width="92" height="42" rx="6" fill="#1f57c3"/>'
    document = Document(standard_workshop())
    document.apply(open_artwork("sign.svg", svg(around + letters)))
    assert document.plan.garments[0].designs[0].proposal.look.letters == 6


@pytest.mark.parametrize("colours", [("#f4ead5",), ("#f4ead5", "#d62828")])
def test_a_proposed_width_never_stands_in_a_stop(colours):
    for aspect in (0.2, 0.5, 1.0, 1.6, 2.5):
        body = "".join(
            f'<rect y="{k * 50 * aspect}" width="100" height="{45 * aspect}" fill="{colour}"/>'
            for k, colour in enumerate(colours)
        )
        document = document_of(body, attributes='viewBox="0 0 100 250"')
        assert not document.plan.open_stops, [one.text for one in document.plan.open_stops]


def pair(gap_mm, wide_mm=(90.0, 50.0)):
    """Return a moon and a word's block beside it, so far apart, meant as one: the two about the centre line."""
    document = Document(standard_workshop())
    block = '<rect width="100" height="60" fill="#f4ead5"/>'
    document.apply(open_artwork("a.svg", svg(block)))
    document.apply(add_design("b.svg", svg(block)))
    whole = sum(wide_mm) + gap_mm
    lefts = (-whole / 2, whole / 2 - wide_mm[1])
    place = document.plan.garments[0].designs[0].placement
    for number, (wide, left) in enumerate(zip(wide_mm, lefts, strict=True)):
        document.apply(
            set_placement(
                "x",
                design=number,
                place=place.place.id,
                width_mm=wide,
                from_centre_mm=left + wide / 2,
                from_reference_mm=place.from_reference_mm,
            )
        )
    return document


@pytest.mark.parametrize("gap_mm", [8.0, 20.0])
def test_designs_that_stand_about_the_centre_line_together_are_not_off_centre(gap_mm):
    document = pair(gap_mm)
    assert findings(document, "off-centre") == []
    document.apply(set_placement("x", design=0, from_centre_mm=-70.0))
    document.apply(set_placement("x", design=1, from_centre_mm=12.0))
    assert len(findings(document, "off-centre")) >= 1


@pytest.mark.parametrize("fabric", sorted(fabrics()))
@pytest.mark.parametrize("film", ["cream", "gold-glitter", "moss-flock", "moonlight"])
def test_reading_the_label_that_is_usual_is_never_worse_than_not_reading_it(fabric, film):
    graves = []
    for dots in (None, fabrics()[fabric].usual_dots):
        document = document_of(
            STACKED,
            set_blank("x", fabric=fabric, care_dots=dots),
            choose_film("#1a1a1a", film),
            set_blank_colour("#eeeeee"),
        )
        graves.append([one.level for one in findings(document, "fabric-limit")])
    unread, read = graves
    assert read.count("stop") <= unread.count("stop")
    assert bool(read) <= bool(unread)


@pytest.mark.parametrize("blank", ["tee-adult", "tote"])
def test_artwork_is_inspected_as_it_will_be(blank, tmp_path):
    bar = '<rect width="40" height="60" fill="#f4ead5"/><rect x="40" y="30" width="60" height="0.4" fill="#f4ead5"/>'
    path = tmp_path / "bar.svg"
    path.write_bytes(svg(bar))

    def inspected(*more):
        return json.loads(run_command("inspect", path, "--blank", blank, "--json", *more).stdout)

    document = Document(standard_workshop())
    for edit in (choose_blank(read_blank_name(blank)), open_artwork("bar.svg", svg(bar))):
        document.apply(edit)
    for width in (None, 60.0, 400.0):
        said = inspected() if width is None else inspected("--width", f"{width}mm")
        if width is not None:
            document.apply(set_placement("x", width_mm=width))
        (design,) = document.plan.garments[0].designs
        assert said["width_mm"] == pytest.approx(design.split.width_mm)
        assert [row["id"] for row in said["findings"]] == [
            one.id for one in document.plan.findings if one.station in ("artwork", "split")
        ]
