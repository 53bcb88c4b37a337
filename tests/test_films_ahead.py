"""The films that are chosen are seen at once, before it is known how they lie."""

from tests.helpers import document_of
from zinnet.demo import demo_document
from zinnet.job.edits import choose_film, set_layers, set_placement
from zinnet.plan.ahead import films_ahead, look_ahead


def ahead_of(document, *edits):
    job = document.job
    for edit in edits:
        job = edit.change(job)
    return job, films_ahead(document.plan.garments, document.job, job, document.workshop.films)


def films_of(garments):
    return [[[row.film and row.film.id for row in design.layers] for design in one.compositions] for one in garments]


def test_films_are_those_of_the_plan_that_follows():
    document = demo_document()
    colour = document.plan.garments[0].designs[0].stack.in_press_order[0].layer.colour
    job, found = ahead_of(document, choose_film(colour, "brick"))
    true = look_ahead(job, document.workshop)
    assert found.job == job
    assert films_of(found.garments) == films_of(true.garments)
    assert "brick" in films_of(found.garments)[0][0]


def test_pairs_and_piles_are_of_the_layers_that_are_shown():
    document = demo_document()
    colour = document.plan.garments[0].designs[0].stack.in_press_order[0].layer.colour
    _, found = ahead_of(document, choose_film(colour, "brick"))
    for garment in found.garments:
        assert all(one in garment.designs for one in garment.compositions if one.index == 0)
        for design in garment.compositions:
            layers = set(map(id, design.layers))
            assert design.stack.pairs
            for pair in design.stack.pairs:
                assert {id(row) for row in (pair.lower, pair.upper, pair.under, pair.over)} <= layers
            assert all(id(row) in layers for pile in design.stack.piles for row in pile)


def test_nothing_is_known_at_once_where_more_changes_than_films():
    document = demo_document()
    colour = document.plan.garments[0].designs[0].stack.in_press_order[0].layer.colour
    assert ahead_of(document, set_layers("lap", lap_mm=0.9))[1] is None
    assert ahead_of(document, choose_film(colour, "brick"), set_placement("x", width_mm=120.0))[1] is None
    assert ahead_of(document)[1] is None


def test_a_choice_that_is_taken_back_is_worked_out():
    document = demo_document()
    colour = document.plan.garments[0].designs[0].stack.in_press_order[0].layer.colour
    free = document.job
    document.apply(choose_film(colour, "brick"))
    assert films_ahead(document.plan.garments, document.job, free, document.workshop.films) is None


def test_layers_of_several_colours_and_films_that_are_not_there_stay_as_they_are():
    document = document_of(
        '<rect width="30" height="20" fill="#cc2222"/><rect x="30" width="30" height="20" fill="#2244cc"/>'
    )
    colour = document.plan.garments[0].designs[0].stack.layers[0].layer.colour
    _, found = ahead_of(document, choose_film(colour, "no-such-film"))
    assert films_of(found.garments) == films_of(document.plan.garments)
