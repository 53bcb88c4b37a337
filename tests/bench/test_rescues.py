"""Rescues of short jobs: each is whole when it is opened again, and there are two where brute force finds two."""

import time

import numpy as np
import pytest

from tests.helpers import cases, document_of
from zinnet.bench.document import Document
from zinnet.bench.rescues import rescue_by, rescues
from zinnet.bench.ways_out import ways_out
from zinnet.films.colours import colour_difference
from zinnet.job.edits import add_size, choose_film, set_copies, set_nesting, set_placement
from zinnet.job.file import load_job, save_job
from zinnet.nesting.model import rank
from zinnet.nesting.shelf import shelf_nest
from zinnet.nesting.slide_search import nest_by_sliding
from zinnet.nesting.verify import faults
from zinnet.workshop.price_list import usual_prices
from zinnet.workshop.stock import StockItem

BLACK = "#1b1b1b"
MOTIF = f'<circle cx="150" cy="60" r="55" fill="{BLACK}"/>'
WORDS = (
    f'<text x="150" y="190" font-family="Bitter" font-weight="700" font-size="44" text-anchor="middle" '
    f'fill="{BLACK}">LANTERN</text>'
)
SCATTER = "".join(
    f'<rect x="{x}" y="{y}" width="40" height="{30 + x % 37}" fill="{BLACK}"/>' for x in (0, 120, 240) for y in (0, 110)
)


def nested(document):
    """Nest by sliding pieces in, which is quick, the same each time, and judged like any other nest."""
    tried = set()
    while waiting := [one for one in document.plan.nests if one.layout is None and one.key not in tried]:
        for one in waiting:
            tried.add(one.key)
            if one.task.sheets and not one.waits:
                document.keep_layout(one.key, _slid(one.task))
    return document


def _slid(task):
    found = []
    nest_by_sliding(task, list(task.pieces), time.monotonic() + 60, found.append, once=True)
    found.append(shelf_nest(task))
    sound = [layout for layout in found if not faults(task, layout)]
    return min(sound, key=lambda layout: rank(task, layout)).as_verified()


def short_job(seed):
    """Return a nested job whose black film does not hold all of it, with other films on the shelf."""
    rng = np.random.default_rng(seed)
    body = [MOTIF + WORDS, SCATTER, MOTIF][int(rng.integers(3))]
    edits = [
        choose_film(BLACK, "black"),
        set_copies(int(rng.integers(2, 7))),
        set_placement("x", width_mm=float(rng.integers(120, 240))),
        set_nesting("x", from_shelf=True, cut_apart="whole", spare=int(rng.integers(0, 2))),
    ]
    if rng.random() < 0.3:
        edits.append(add_size("youth-m", 2))
    document = document_of(body, *edits, attributes='viewBox="0 0 300 220"')
    films = ["black", *rng.choice(["charcoal", "navy", "white", "cream"], 2, replace=False)]
    items = []
    for number, film in enumerate(films, start=1):
        length = float(rng.integers(150, 420)) if film == "black" else float(rng.integers(200, 2500))
        kind = "roll" if film != "black" or rng.random() < 0.5 else "sheet"
        items.append(StockItem(number=number, film=film, kind=kind, width_mm=290.0, length_mm=length))
    document.use_workshop(document.workshop.model_copy(update={"stock": tuple(items)}))
    return nested(document)


FOUND = []
"""The short jobs so far, and the seed of each."""


def short_jobs(count):
    """Return the first jobs that are short."""
    seed = FOUND[-1][0] + 1 if FOUND else 0
    while len(FOUND) < count:
        document = short_job(seed)
        if any(one.id == "film-short" for one in document.plan.findings):
            FOUND.append((seed, document))
        seed += 1
    return [document for _, document in FOUND[:count]]


@pytest.mark.long
@pytest.mark.parametrize("number", range(cases(3, 100)))
def test_where_two_changes_help_two_rescues_are_offered_and_each_opens_without_a_stop(number, tmp_path):
    document = short_jobs(number + 1)[number]
    prices = usual_prices()
    others = {one.id for one in document.plan.open_stops} - {"film-short"}
    helped = [way for way in ways_out(document.plan) if _helps(document, way)]
    found = list(rescues(document.plan, prices, nest=nested))
    assert len(found) >= min(2, len(helped))
    for rescue in found:
        # saved, and opened again from its file: whole, and nothing stops it that did not stop it before
        layouts = {**document.layouts, **rescue.layouts}
        path = tmp_path / f"{rescue.kind}.zinnet"
        save_job(path, rescue.plan.job, layouts)
        job, kept = load_job(path)
        again = Document(document.workshop, job, kept)
        assert again.plan.is_nested
        assert {one.id for one in again.plan.open_stops} <= others, rescue.edit.name
        assert not any(nest.layout.unplaced for nest in again.plan.nests)
        assert rescue.minutes > 0
        # choosing it is one step of undo
        before = document.job
        document.apply(rescue.edit)
        document.undo()
        assert document.job == before


def _helps(document, way):
    """Try a change by brute force: make it, nest it, and look whether everything lies and nothing stops it."""
    trial = Document(document.workshop, way.edit.change(document.job), document.layouts)
    nested(trial)
    placed = all(not nest.layout.unplaced for nest in trial.plan.nests)
    return placed and not [one for one in trial.plan.open_stops if one.id not in _stops(document)]


def _stops(document):
    return {one.id for one in document.plan.open_stops} - {"film-short"}


def test_the_black_words_are_cut_in_charcoal():
    document = document_of(
        MOTIF + WORDS,
        choose_film(BLACK, "black"),
        set_copies(2),
        set_placement("x", width_mm=200.0),
        set_nesting("x", from_shelf=True, cut_apart="whole"),
        attributes='viewBox="0 0 300 220"',
    )
    items = [StockItem(number=1, film="black", kind="sheet", width_mm=260, length_mm=130)]
    items.append(StockItem(number=2, film="charcoal", kind="roll", width_mm=290, length_mm=1500))
    document.use_workshop(document.workshop.model_copy(update={"stock": tuple(items)}))
    nested(document)
    assert any(one.id == "film-short" for one in document.plan.findings)
    found = {rescue.edit.name: rescue for rescue in rescues(document.plan, usual_prices(), nest=nested)}
    rescue = found["the words in Charcoal"]
    films = {film.id: film.colour for film in document.workshop.films}
    assert rescue.difference == pytest.approx(colour_difference(films["black"], films["charcoal"]))
    films = {nest.film.id: nest for nest in rescue.plan.nests}
    assert set(films) == {"black", "charcoal"}
    (motif,) = films["black"].parts
    assert len(motif.region.geoms) == 1, "the motif stays black"
    assert sum(len(part.region.geoms) for part in films["charcoal"].parts) == 7, "seven letters"


def test_a_job_that_is_not_short_needs_no_rescue():
    document = nested(document_of(MOTIF, choose_film(BLACK, "black"), attributes='viewBox="0 0 300 220"'))
    assert list(ways_out(document.plan)) == []
    assert list(rescues(document.plan, usual_prices())) == []


def test_what_does_not_help_is_no_rescue():
    document = short_jobs(1)[0]
    way = next(iter(ways_out(document.plan)))
    unchanged = type(way)(way.kind, set_copies(document.job.copies), (), None)
    assert rescue_by(document.plan, unchanged, usual_prices(), nested) is None
