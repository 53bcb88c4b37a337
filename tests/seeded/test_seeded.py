"""A part of the laboratory in every run; ``python -m benchmarks judgement`` looks at all of it."""

from collections import Counter

import pytest

from tests.helpers import cases, document_of
from tests.seeded.base import CLOTH, CREAM, PLATE, job
from tests.seeded.clean import clean_jobs
from tests.seeded.faults import seeds
from tests.seeded.judge import fine_places, judge
from tests.seeded.laboratory import run
from tests.seeded.more import more_seeds
from tests.seeded.walk import walk
from tests.seeded.words import word_through_a_shape
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import TextArt
from zinnet.bench.document import Document
from zinnet.job.edits import Edit, add_source, add_step, choose_film, set_placement
from zinnet.plan.findings.kinds import catalogue
from zinnet.steps.model import RemoveSpecks, Thicken
from zinnet.workshop.model import standard_workshop

EVERY = cases(24, 1)
"""Every so manyth of the jobs is looked at."""


@pytest.mark.parametrize("start", range(3))
def test_what_is_planted_is_found_nothing_else_is_and_what_is_offered_holds(start):
    faulty = [*seeds(), *more_seeds()][start::EVERY]
    clean = list(clean_jobs())[start::EVERY]
    for name, tally in run(faulty, clean).items():
        assert tally.found == tally.planted, (name, tally.wrong)
        assert tally.false == 0, (name, tally.wrong)
        assert tally.hold == tally.mends, (name, tally.wrong)


def test_every_finding_is_planted_and_there_are_enough_jobs():
    every = [*seeds(), *more_seeds()]
    assert len(every) >= 100
    assert len(list(clean_jobs())) >= 50
    planted = Counter(one.id for seed in every for one in seed.planted)
    assert set(planted) == set(catalogue())
    assert min(planted.values()) >= 3


def test_on_a_random_walk_no_mend_does_what_it_does_not_say():
    assert list(walk(seeds(), cases(20, 1000), start=1)) == []


@pytest.mark.long
@pytest.mark.parametrize("seed", range(1, cases(3, 101)))
def test_no_word_through_a_shape_has_anything_too_fine_by_dots_at_the_width_that_is_said(seed):
    word = word_through_a_shape(seed)
    assert word is None or word.wrong == ()


def test_the_judge_finds_what_is_too_fine_in_a_word():
    document = words("walk", 9.0)
    assert any("strokes" in said for said in fine_places(document))


def after(document, edit):
    changed = Document(document.workshop, document.job)
    changed.apply(edit)
    return changed


def words(text, width_mm):
    document = Document(standard_workshop())
    for edit in (add_source("w", TextArt(text=TextSpec(text=text))), set_placement("x", width_mm=width_mm)):
        document.apply(edit)
    return document


def test_the_judge_sees_the_dots_of_letters_go():
    document = words("iii", 12.0)
    specks = add_step(RemoveSpecks(part_mm=4.0, counter_mm=0.1))
    assert any("parts" in said for said in judge(document, after(document, specks), "weed-speck", "tidy up"))


def test_the_judge_sees_letters_become_a_blob():
    document = words("walk", 60.0)
    wrong = judge(document, after(document, add_step(Thicken(least_mm=9.0))), "pattern-too-thin", "bolder, to 9 mm")
    assert any("counters" in said or "same drawing" in said for said in wrong)


def test_the_judge_sees_a_film_change_in_silence_and_a_finish_that_is_not_named():
    document = job(CLOTH[0], PLATE)
    edit = choose_film(CREAM, "gold-glitter")
    said = " ".join(judge(document, after(document, edit), "hard-to-read", "choose film"))
    assert "comes from Gold glitter" in said
    assert "sparkling" in said
    named = " ".join(judge(document, after(document, edit), "hard-to-read", "use Gold glitter, 9 away"))
    assert "comes from" not in named
    assert "sparkling" in named


def test_the_judge_sees_what_leaves_the_panel_and_what_stays_as_it_was():
    document = job(CLOTH[0], PLATE, set_placement("x", from_centre_mm=8.0))
    off = set_placement("x", from_centre_mm=400.0)
    assert "it reaches off the panel" in judge(document, after(document, off), "off-centre", "centre it")
    nothing = judge(document, after(document, Edit("wish", lambda job: job)), "off-centre", "centre it")
    assert nothing == ["the middle is 8.0 mm off"]


def test_the_judge_measures_gaps_and_strokes_itself():
    gap = document_of(
        '<path fill-rule="evenodd" fill="#f4ead5" d="M0 0H100V60H0Z M50 10h.3v40h-.3Z"/>',
        set_placement("x", width_mm=100.0),
    )
    wrong = judge(gap, after(gap, Edit("wish", lambda job: job)), "gap-will-close", "widen the gaps")
    assert any("too narrow" in said for said in wrong)
    bar = document_of(
        '<rect width="40" height="60" fill="#f4ead5"/><rect x="40" y="30" width="60" height="0.4" fill="#f4ead5"/>',
        set_placement("x", width_mm=100.0),
    )
    wrong = judge(bar, after(bar, Edit("wish", lambda job: job)), "too-thin", "thicken")
    assert any("too thin" in said for said in wrong)
