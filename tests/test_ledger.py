"""The ledger of film: it balances over random jobs and shelves, and all that prints a number of it prints this one."""

import csv
import datetime
import io
import json
import re

import numpy as np
import pypdfium2
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.helpers import cases, document_of, nested, run_command
from tests.nesting.test_leftovers import holds_a_square
from zinnet.base.units import write_area
from zinnet.bench.answers import missing_film
from zinnet.bench.made import made_of
from zinnet.geometry.region import as_region
from zinnet.job.edits import add_size, record_miscut, set_copies, set_nesting, set_placement
from zinnet.machines.cutters import room
from zinnet.output.papers.job_sheet import job_sheet_pdf
from zinnet.output.papers.quote_sheet import quote_pdf
from zinnet.output.plan_json import plan_json
from zinnet.plan.ledger import LOSSES, film_ledger, left_of_mats
from zinnet.plan.nests import TEST_CUT
from zinnet.plan.trims import loads_cut
from zinnet.shop.costing import Costing
from zinnet.shop.film_cost import film_costs, not_whole
from zinnet.shop.film_need import film_needs
from zinnet.shop.ordered import Ordered, order_json
from zinnet.shop.quote import quote_csv, quote_json, savings
from zinnet.ui.nest.bar import _use_in_words
from zinnet.workshop.after_cut import changes
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.price_list import usual_prices
from zinnet.workshop.stock import StockItem

CREAM, RED = "#f4ead5", "#d62828"
ARTWORKS = (
    f'<rect width="80" height="60" fill="{CREAM}"/>',
    f'<path fill="{CREAM}" fill-rule="evenodd" d="M0 0H100V100H0Z M20 20H80V80H20Z"/>',
    f'<circle cx="40" cy="40" r="38" fill="{CREAM}"/><circle cx="120" cy="20" r="12" fill="{RED}"/>',
    f'<path d="M0 60 L30 0 L60 60 Z M80 0 H95 V60 H80 Z" fill="{RED}"/>',
)


def random_shelf(rng):
    """Return film of one kind or of both: rolls, sheets, scraps with holes, some with a price."""
    rows = []
    for number in range(1, int(rng.integers(2, 7))):
        film = str(rng.choice(["cream", "red"]))
        price = float(rng.integers(10, 40)) if rng.random() < 0.6 else None
        kind = str(rng.choice(["roll", "sheet", "scrap"]))
        length, width = float(rng.integers(150, 900)), float(rng.integers(120, 305))
        fields = {"number": number, "film": film, "kind": kind, "length_mm": length, "width_mm": width}
        if kind == "scrap":
            hole = shapely.Point(rng.uniform(0, length), rng.uniform(0, width)).buffer(30)
            fields["outline"] = as_region(shapely.box(0, 0, length, width).difference(hole))
        if kind == "sheet":
            fields["count"] = int(rng.integers(1, 4))
        if rng.random() < 0.2:
            fields["spoiled"] = as_region(shapely.Point(length / 2, width / 2).buffer(15))
        rows.append(StockItem(price_m2=price, **fields))
    return tuple(rows)


def random_job(seed):
    """Return a nested job: some artwork, sizes, copies, spare, test cut and frames, from the shelf or from mats."""
    rng = np.random.default_rng(seed)
    edits = [
        set_copies(int(rng.integers(1, 7))),
        set_placement("width", width_mm=float(rng.integers(40, 220))),
        set_nesting(
            "film",
            from_shelf=bool(rng.random() < 0.7),
            spare=int(rng.integers(0, 2)),
            test_cut=bool(rng.random() < 0.5),
            weed_frame=str(rng.choice(["none", "piece", "mat"])),
            inside_counters=bool(rng.random() < 0.5),
        ),
    ]
    if rng.random() < 0.3:
        edits.append(add_size("youth-m", int(rng.integers(1, 3))))
    document = document_of(str(rng.choice(ARTWORKS)), *edits)
    document.use_workshop(standard_workshop().model_copy(update={"stock": random_shelf(rng)}))
    return nested(document)


def worn_mm2(plan, film):
    """Return the film on garments, reckoned from the pieces on the mats and what the job asks for."""
    found = 0.0
    for nest in plan.nests:
        placed = {}
        for sheet in nest.layout.sheets if nest.film.id == film else ():
            for one in sheet.placed:
                if one.piece != TEST_CUT:
                    placed[one.piece] = placed.get(one.piece, 0) + 1
        for name, count in placed.items():
            part = nest.part(name)
            wanted = plan.garments[part.garment].copies * len(part.places)
            spare = plan.job.nesting.spare
            missing = wanted + spare - count
            found += part.region.area * min(count, wanted if missing <= spare else count)
    return found


@settings(max_examples=cases(12, 300), deadline=None)
@given(st.integers(0, 1_000_000))
def test_all_that_is_taken_is_on_garments_kept_or_lost(seed):
    plan = random_job(seed).plan
    ledger = film_ledger(plan)
    for film in ledger.films:
        assert set(film.lost) == set(LOSSES)
        assert min(film.lost.values()) >= 0
        there = film.on_garments_mm2 + film.kept_mm2 + sum(film.lost.values())
        assert there == pytest.approx(film.taken_mm2, rel=1e-3, abs=1)
        if not plan.job.nesting.spare:
            assert film.on_garments_mm2 == pytest.approx(worn_mm2(plan, film.film), rel=1e-6)
    left = left_of_mats(plan.mats)
    from_shelf = sum(one.taken_mm2 for one in left)
    mats = sum(mat.reach_mm * mat.sheet.height_mm for mat in plan.mats if mat.item is None)
    assert ledger.taken_mm2 == pytest.approx(from_shelf + mats)
    kept = [item for change in changes(loads_cut(plan.mats), left) for item in change.leftovers]
    assert ledger.kept_mm2 == pytest.approx(sum(item.area_mm2 for item in kept))
    for item in kept:
        assert holds_a_square(item.outline, room().least_kept_mm), "a skeleton is no stock"


@settings(max_examples=cases(6, 60), deadline=None)
@given(st.integers(0, 1_000_000))
def test_whatever_prints_film_prints_the_ledgers(seed):
    plan = random_job(seed).plan
    prices = usual_prices()
    ledger, costs = film_ledger(plan), film_costs(plan, prices)
    if not ledger.taken_mm2:
        return
    costing = Costing(plan, prices)
    cost = sum(one.amount for one in costs)
    # the plan as JSON, the log, the bar of the mats, the job sheet
    assert plan_json(plan)["film_use"]["taken_mm2"] == ledger.taken_mm2
    for one, film in zip(made_of(plan).films, ledger.films, strict=True):
        assert (one.used_mm2, one.waste_mm2) == pytest.approx((film.used_up_mm2, film.lost_mm2))
    said = _use_in_words(ledger, cost, "mm")
    assert write_area(ledger.taken_mm2) in said
    assert f"{ledger.lost_mm2 / ledger.taken_mm2:.0%} lost" in said
    assert f"{cost:,.2f} in all" in said
    text = text_of(job_sheet_pdf(plan, plan.findings, prices))
    for area in (ledger.taken_mm2, ledger.on_garments_mm2, ledger.kept_mm2, ledger.lost_mm2):
        assert write_area(area) in text
    # cost, quote and order
    items = {item["name"]: item for item in quote_json(costing)["items"] if item["kind"] == "film"}
    for one in costs:
        if one.amount:
            assert items[one.ledger.name]["amount"] == str(one.amount)
            assert f"{one.ledger.used_up_mm2 / 100:.0f} cm² used up" in items[one.ledger.name]["basis"]
            assert f"{one.ledger.lost_mm2 / 100:.0f} cm² of it lost" in items[one.ledger.name]["basis"]
    for saving in savings(costing):
        if "thrown away" in saving.said:
            (own,) = [one for one in costs if saving.said.startswith(one.ledger.name + ":")]
            share = own.ledger.lost_mm2 / own.ledger.used_up_mm2
            assert float(saving.amount) == pytest.approx(float(own.amount) * share, abs=0.0051)
    ordered = Ordered(costing)
    rows = {row["film"]: row for row in order_json(ordered, datetime.date(2026, 5, 1))["films"]}
    for film in ledger.films:
        assert rows[film.name]["taken_mm2"] == round(film.taken_mm2, 1)
    answer = missing_film(plan, lambda: True, "mm").said
    for need in film_needs(plan):
        assert (need.film.name in answer) == bool(need.missing_mm)
        assert rows[need.film.name]["missing_mm"] == need.missing_mm
    # a job that is not whole says so before it says a number
    if ledger.short:
        assert re.search(rf"\b{ledger.short} piece", not_whole(plan))
        assert next(csv.reader(io.StringIO(quote_csv(costing))))[0] == not_whole(plan)
        assert ordered.remarks[0] == not_whole(plan)
        flat = " ".join(text_of(quote_pdf(costing)).split())
        assert flat.index("not whole") < flat.index("To pay")
    else:
        assert not_whole(plan) == ""


def text_of(pdf):
    """Return the text of a PDF, read by another library."""
    pages = [page.get_textpage().get_text_range() for page in pypdfium2.PdfDocument(pdf)]
    return " ".join(" ".join(pages).split())


@pytest.mark.usefixtures("nests_here")
def test_the_commands_print_the_ledger(tmp_path):
    document = random_job(15)
    path = tmp_path / "job.zinnet"
    document.save(path)
    ledger = film_ledger(document.plan)
    said = json.loads(run_command("film", path, "--json").stdout)
    for row, film in zip(said["films"], ledger.films, strict=True):
        assert row["taken_mm2"] == pytest.approx(row["on_garments_mm2"] + row["kept_mm2"] + row["lost_mm2"], rel=1e-3)
        assert row["lost_mm2"] == pytest.approx(sum(row["lost"].values()))
        assert row["film"] == film.film
    assert isinstance(said["cost"], float)
    words = run_command("film", path).stdout
    assert all(row["film"] in words.casefold() for row in said["films"])
    quoted = json.loads(run_command("quote", path, "--json").stdout)
    film = sum(float(item["amount"]) for item in quoted["items"] if item["kind"] == "film")
    assert film == pytest.approx(said["cost"])


def test_what_was_cut_again_is_lost_as_a_miscut_and_the_ledger_still_balances():
    document = random_job(15)
    before = film_ledger(document.plan)
    film = before.films[0].film
    document.apply(record_miscut(film, 1234.5))
    document.apply(record_miscut(film, 100.0))
    after = film_ledger(document.plan).films[0]
    assert after.lost["miscut"] == pytest.approx(1334.5)
    assert after.taken_mm2 == pytest.approx(before.films[0].taken_mm2 + 1334.5)
    assert after.taken_mm2 == pytest.approx(after.on_garments_mm2 + after.kept_mm2 + after.lost_mm2, rel=1e-3, abs=1)
    assert sum(area for _, area in after.used_up) == pytest.approx(after.used_up_mm2)
