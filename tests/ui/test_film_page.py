"""The page of film: it shows the ledger's numbers, and rescues that are taken in one step."""

import pytest

from tests.bench.test_rescues import nested, short_jobs
from zinnet.bench import rescues as searched
from zinnet.plan.ledger import film_ledger
from zinnet.shop.film_cost import film_costs


@pytest.fixture
def page(window, monkeypatch):
    monkeypatch.setattr(searched.rescues, "__kwdefaults__", {**searched.rescues.__kwdefaults__, "nest": nested})
    document = short_jobs(1)[0]
    window.session.show_document(document)
    window.go_to("nest")
    window.stations["nest"].show_page("film")
    return window.stations["nest"].pages["film"]


def test_the_ledger_is_the_plans(page):
    plan = page.session.plan
    ledger, costs = film_ledger(plan), film_costs(plan, plan.workshop.prices)
    for film, cost in zip(ledger.films, costs, strict=True):
        assert page.ledger.row_said(film, cost) in page.ledger.accessibleDescription()
    assert "not whole" in page.note.text()
    assert f"{sum(one.amount for one in costs):.2f}" in page.note.text()


def test_a_rescue_is_taken_in_one_step_and_undone_in_one(page, qtbot):
    before = page.session.job
    assert page.look_for.isVisible()
    page.search()
    qtbot.waitUntil(lambda: bool(page.found), timeout=60_000)
    page._stop.set()
    rescue = page.found[0]
    assert page.row.itemAt(0).widget() is not None
    page.take(rescue)
    assert page.session.job == rescue.edit.change(before)
    assert not any(nest.layout is None or nest.layout.unplaced for nest in page.session.plan.nests)
    assert not page.look_for.isVisible()
    page.session.undo()
    assert page.session.job == before
