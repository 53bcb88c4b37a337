"""The steps of a garment: simulated for random jobs, and looked at one by one."""

import pytest

from tests.helpers import RED_AND_BLUE, cases, document_of
from tests.pressing.simulated import random_job, wrongs
from zinnet.blanks.catalogue import read_blank_name
from zinnet.geometry.region import union
from zinnet.job.edits import (
    add_design,
    choose_blank,
    choose_film,
    choose_platen,
    choose_recipe,
    set_blank,
    set_layers,
    set_placement,
    set_pressing,
)
from zinnet.pressing.heat_steps import MOVED, NOT_SLID
from zinnet.pressing.heat_values import press_numbers

BOX = '<rect width="80" height="60" fill="#f4ead5"/>'
HALVES = '<rect width="50" height="80" fill="#d62828"/><rect x="50" width="50" height="80" fill="#1f57c3"/>'
APART = '<rect width="30" height="60" fill="#d62828"/><rect x="60" width="30" height="60" fill="#1f57c3"/>'


def steps_of(document):
    return document.plan.presses[0].steps


def kinds(document):
    return [step.kind for step in steps_of(document)]


@pytest.mark.parametrize("first", range(0, cases(24, 72), 6))
def test_no_step_of_a_random_job_goes_wrong_unless_a_finding_says_so(first):
    for seed in range(first, first + 6):
        assert wrongs(random_job(seed)) == [], seed


def test_one_layer_on_a_tee():
    document = document_of(BOX, set_blank("x", care_dots=3))
    assert kinds(document) == [
        "heat up", "dry fit", "lint", "ready", "preheat", "crease", "lay", "look", "press", "wait", "peel", "care",
    ]  # fmt: skip
    (press,) = [step for step in steps_of(document) if step.kind == "press"]
    assert press.heat.kind == "full"
    assert press.carried
    assert press.bare == ()


def test_the_label_is_read_first_where_nobody_did():
    assert kinds(document_of(BOX))[0] == "label"


def test_tacked_layers_get_one_full_press_over_everything():
    document = document_of(RED_AND_BLUE)
    first, last = [step for step in steps_of(document) if step.kind == "press"]
    assert [first.heat.kind, last.heat.kind] == ["tack", "full"]
    assert first.heat.seconds < last.heat.seconds
    assert last.cover == "the used carrier of Scarlet"
    assert len(last.bare) == len(last.carried) == 1
    document.apply(set_pressing("x", school="full"))
    assert [step.heat.kind for step in steps_of(document) if step.kind == "press"] == ["lower", "full"]
    document.apply(set_pressing("x", cover="parchment"))
    assert {step.cover for step in steps_of(document) if step.bare} == {"parchment"}
    document.apply(set_pressing("x", cover="none"))
    assert any(step.is_bare for step in steps_of(document))


def test_films_that_lie_apart_are_pressed_at_once_where_that_is_wanted():
    document = document_of(APART, set_pressing("x", together=True))
    (press,) = [step for step in steps_of(document) if step.kind == "press"]
    assert len(press.pieces) == len(press.carried) == 2
    stacked = document_of(RED_AND_BLUE, set_pressing("x", together=True))
    assert len([step for step in steps_of(stacked) if step.kind == "press"]) == 2


def test_different_peels_in_one_press_are_peeled_hottest_first():
    hoodie = choose_blank(read_blank_name("hoodie-adult"))
    document = document_of(APART, hoodie, choose_film("#d62828", "gold-glitter"), set_pressing("x", together=True))
    assert [step.peel for step in steps_of(document) if step.kind == "peel"] == ["warm", "cool"]
    waits = [step.seconds for step in steps_of(document) if step.kind == "wait"]
    assert len(waits) == 2
    assert waits[1] > waits[0]


def test_glitter_is_pressed_from_the_back_and_cools_flat():
    hoodie = choose_blank(read_blank_name("hoodie-adult"))
    document = document_of(BOX, hoodie, choose_film("#f4ead5", "gold-glitter"))
    assert kinds(document)[-4:] == ["turn over", "press", "cool", "care"]
    back = steps_of(document)[-3]
    assert back.heat.back
    assert 15 <= back.heat.seconds <= 30


def test_only_the_small_hand_press_is_moved():
    moved = document_of(BOX, choose_blank(read_blank_name("canvas")))
    assert any(MOVED in step.lines for step in steps_of(moved))
    still = document_of(BOX)
    assert all(MOVED not in step.lines for step in steps_of(still))
    assert all(NOT_SLID in step.lines for step in steps_of(still) if step.heat is not None)


def test_positions_of_every_press_cover_its_film():
    document = document_of(HALVES, choose_platen("plate-5x5"), set_placement("x", width_mm=220.0))
    press = document.plan.presses[0]
    for step in press.presses:
        film = press.works[0].region_of(step.pieces) if step.pieces else press.works[0].film
        assert step.heat.coverage.pressed.buffer(1e-3).covers(film)
        count = len(step.heat.coverage.positions)
        assert step.seconds == step.heat.seconds * count + press_numbers().hands.move_s * (count - 1)
        assert "positions" in " ".join(step.lines)


def test_adhesive_film_is_never_heated_and_its_front_colour_goes_first_on_glass():
    plate = choose_blank(read_blank_name("glass-plate"))
    films = (choose_film("#d62828", "white-adhesive"), choose_film("#1f57c3", "white-adhesive"))
    document = document_of(RED_AND_BLUE, plate, *films)
    assert not [step for step in steps_of(document) if step.heat is not None]
    assert kinds(document) == ["gate", "dry fit", "clean", "tape", "lay", "burnish", "ready", "care"]
    two = document_of(RED_AND_BLUE, choose_film("#d62828", "white-adhesive"))
    assert kinds(two).index("burnish") > max(k for k, kind in enumerate(kinds(two)) if kind == "press")
    dry = " ".join(line for step in steps_of(document) for line in step.lines)
    document.apply(set_pressing("x", method="wet"))
    wet = " ".join(line for step in steps_of(document) for line in step.lines)
    assert "hinge" in dry
    assert "soap" in wet
    assert "hinge" not in wet


def test_a_print_is_fixed_face_down_under_butcher_paper():
    from tests.helpers import svg
    from zinnet.bench.document import Document
    from zinnet.films.catalogue import Film
    from zinnet.job.edits import open_artwork
    from zinnet.workshop.model import standard_workshop

    ink = Film(id="ink", name="Ink", kind="sublimation", colour="#f4ead5")
    workshop = standard_workshop()
    document = Document(workshop.model_copy(update={"films": (*workshop.films, ink)}))
    document.apply(choose_blank(read_blank_name("inset-board")))
    document.apply(open_artwork("a.svg", svg(BOX)))
    document.apply(choose_film("#f4ead5", "ink"))
    assert kinds(document) == ["gate", "heat up", "lint", "fix", "press", "cool", "care"]
    press = steps_of(document)[4]
    assert press.cover == "butcher paper"
    assert round(press.heat.heat_c, 1) == 204.4
    assert press.heat.seconds == 60


def test_each_side_of_a_garment_is_done_by_itself_and_the_other_is_covered():
    hoodie = choose_blank(read_blank_name("hoodie-adult"))
    glitter = choose_film("#f4ead5", "gold-glitter")
    document = document_of(BOX, hoodie, glitter)
    document.apply(add_design("b.svg", b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 80 60">'
                              + BOX.encode() + b"</svg>", "full-back"))  # fmt: skip
    press = document.plan.presses[0]
    assert [work.panel.id for work in press.works] == ["front", "back"]
    backs = [step for step in press.presses if step.heat.back]
    assert len(backs) == 2
    assert backs[1].bare
    assert backs[1].cover
    assert kinds(document).count("lint") == 2


def test_nobody_is_told_to_wash_new_fleece_with_softener():
    document = document_of(BOX, set_blank("x", fabric="fleece"))
    first = steps_of(document)[0]
    assert first.gate
    assert first.hours > 0
    assert "without softener" in " ".join(first.lines)


def test_cautions_stand_where_they_matter_once():
    said = [step.caution for step in steps_of(document_of(RED_AND_BLUE)) if step.caution]
    assert len(said) == 1
    assert "burns" in said[0]
    assert "manual" in said[0]


def test_seconds_of_heat_add_up_over_all_presses_of_the_film():
    document = document_of(RED_AND_BLUE, set_layers("x", method="stack"))
    press = document.plan.presses[0]
    expected = sum(step.heat.seconds for step in press.presses if step.heat.kind != "preheat")
    assert max(spot.seconds for spot in press.heat_on("front")) == expected
    assert union(spot.region for spot in press.heat_on("front")).covers(press.works[0].film.buffer(-0.01))


def test_shrink_is_what_full_presses_before_add_up_to():
    glitter = (choose_film("#d62828", "gold-glitter"), choose_film("#1f57c3", "rose-glitter"))
    document = document_of(HALVES, *glitter, set_placement("x", width_mm=200.0), set_pressing("x", school="full"))
    (misfit,) = document.plan.presses[0].misfits()
    # A part 100 mm wide, 160 mm high: its corner is the hypotenuse of 50 and 80 off its middle; 0.3 % (from memory).
    assert misfit.reach_mm == pytest.approx((50**2 + 80**2) ** 0.5, abs=0.5)
    assert misfit.mm == pytest.approx(0.003 * (50**2 + 80**2) ** 0.5, abs=0.01)
    document.apply(set_pressing("x", school="tack"))
    (tacked,) = document.plan.presses[0].misfits()
    assert tacked.mm < misfit.mm / 3


def test_the_users_recipe_and_cold_plate_change_the_steps():
    document = document_of(BOX, choose_recipe("cream", school="low and long"))
    table = next(step for step in steps_of(document) if step.kind == "wait")
    assert 60 <= table.seconds <= 90
    document.apply(set_pressing("x", cold_plate=True))
    plate = next(step for step in steps_of(document) if step.kind == "wait")
    assert plate.seconds < table.seconds


def test_art_off_the_centre_is_not_asked_for_equal_distances_and_words_that_touch_nothing_for_no_edges():
    body = '<rect width="60" height="30" fill="#d62828"/><rect y="70" width="60" height="20" fill="#1f57c3"/>'
    centred = document_of(body)
    aside = document_of(body, set_placement("x", from_centre_mm=114.0))
    for document, creased in ((centred, True), (aside, False)):
        lays = [step for step in steps_of(document) if step.kind == "lay"]
        assert all("four lengths" in step.words[0] for step in lays)
        assert not any("edge to edge" in word for step in lays for word in step.words)
        (look,) = (step for step in steps_of(document) if step.kind == "look")
        assert ("crease" in look.words[0]) == creased
        assert "same distance" not in look.words[0]
        assert ("crease" in lays[0].words[0]) == creased


def test_film_that_meets_what_is_pressed_is_told_to_meet_it():
    body = '<rect width="60" height="30" fill="#d62828"/><rect y="30" width="60" height="20" fill="#1f57c3"/>'
    apart = '<rect width="60" height="30" fill="#d62828"/><rect y="60" width="60" height="20" fill="#1f57c3"/>'
    for drawing, said in ((body, "it meets layer 1, Scarlet"), (apart, "touches nothing")):
        document = document_of(drawing, set_pressing("x", together=False))
        _, second = (step for step in steps_of(document) if step.kind == "lay")
        assert said in second.words[0]
