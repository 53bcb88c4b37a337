"""Designs that are drawn anew at every width: how much larger, or of how many rows, they must be."""

import pytest

from tests.helpers import run_command
from zinnet.artwork.lettering.outlined_name import OutlinedNameSpec
from zinnet.artwork.lettering.word_through import WordThroughSpec
from zinnet.artwork.source import OutlinedNameArt, WordThroughArt
from zinnet.bench.document import Document
from zinnet.job.edits import add_source, set_blank_colour, set_placement
from zinnet.plan import drawn_anew
from zinnet.plan.drawn_anew import places_not_held, rows_that_hold, width_that_holds
from zinnet.plan.fitting import fitting_of
from zinnet.plan.proof import prove
from zinnet.workshop.model import standard_workshop


def drawn(source, width_mm):
    document = Document(standard_workshop())
    for edit in (add_source("x", source), set_blank_colour("#2f4858"), set_placement("x", width_mm=width_mm)):
        document.apply(edit)
    return document


@pytest.fixture(scope="module")
def name():
    return drawn(OutlinedNameArt(name=OutlinedNameSpec(name="Moth")), 42.0)


def test_a_name_is_enlarged_by_the_least_of_some_widths_that_its_films_hold(name):
    plan, garment = name.plan, name.plan.garments[0]
    design = garment.designs[0]
    assert places_not_held(design) > 0
    width = width_that_holds(fitting_of(plan.job, plan.workshop), garment, design)
    assert width > 42.0
    larger = drawn(OutlinedNameArt(name=OutlinedNameSpec(name="Moth")), width)
    assert places_not_held(larger.plan.garments[0].designs[0]) == 0
    assert width_that_holds(fitting_of(plan.job, plan.workshop), garment, design, may_be=lambda mm: mm < width) is None


def test_the_window_offers_that_width_where_the_place_takes_it(name):
    ids = ("too-thin", "gap-will-close", "weed-speck")
    offered = [
        mend.name
        for finding in name.plan.findings
        if finding.id in ids
        for mend in finding.mends
        if mend.name.startswith("enlarge by") and prove(name.plan, finding, mend).holds
    ]
    assert offered


@pytest.mark.long
def test_of_fewer_rows_the_most_that_hold_are_taken(monkeypatch):
    word = WordThroughArt(word=WordThroughSpec(word="moth", shape="square", rows=4, font="bebas-neue"))
    document = drawn(word, 200.0)
    plan, garment = document.plan, document.plan.garments[0]
    monkeypatch.setattr(drawn_anew, "_holds", lambda *facts: facts[3].source.word.rows <= 2)
    assert rows_that_hold(fitting_of(plan.job, plan.workshop), garment, garment.designs[0]) == 2
    monkeypatch.setattr(drawn_anew, "_holds", lambda *facts: False)
    assert rows_that_hold(fitting_of(plan.job, plan.workshop), garment, garment.designs[0]) is None


def test_only_a_word_through_a_shape_has_rows(name):
    plan, garment = name.plan, name.plan.garments[0]
    assert rows_that_hold(fitting_of(plan.job, plan.workshop), garment, garment.designs[0]) is None


@pytest.mark.parametrize(
    ("width", "rows", "said"), [(320.0, None, "at 320 mm"), (None, 2, "2 rows"), (None, None, "no")]
)
def test_the_command_says_what_helps(width, rows, said, tmp_path, monkeypatch):
    monkeypatch.setattr(drawn_anew, "places_not_held", lambda design: 3)
    monkeypatch.setattr(drawn_anew, "width_that_holds", lambda *facts: width)
    monkeypatch.setattr(drawn_anew, "rows_that_hold", lambda *facts: rows)
    done = run_command("through", "MOTH", "--width", "120mm", "--rows", "1", "--out", tmp_path / "w.svg")
    assert done.returncode == 0
    assert "3 places" in done.stderr
    assert said in done.stderr
