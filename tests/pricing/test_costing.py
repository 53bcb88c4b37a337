"""What a job costs: against the worked example of the guide and a reckoning of its own, and every way to ask for it."""

import csv
import io
import json
import re
from decimal import ROUND_HALF_UP, Decimal
from pathlib import Path

import pypdfium2
import pytest

from tests.helpers import LANTERN, RED_AND_BLUE, document_of, nested, run_command
from tests.names.bags import bags
from tests.pricing.example import prices, ten_bags
from zinnet.base.errors import SettingsError
from zinnet.job.edits import (
    add_size,
    set_copies,
    set_placement,
    set_pressing,
    set_price,
)
from zinnet.job.file import save_job
from zinnet.layers.weeding import weed_map
from zinnet.output.papers.quote_sheet import quote_pdf
from zinnet.plan.ledger import film_ledger
from zinnet.pressing.recipes import Pressed
from zinnet.pressing.schedule.tasks import tasks_of
from zinnet.shop.costing import Costing
from zinnet.shop.quote import quote_csv, quote_json, savings
from zinnet.workshop.price_list import usual_prices
from zinnet.workshop.prices import read_prices

GUIDE = Path(__file__).parents[2] / "docs" / "prices.md"
CENT = Decimal("0.01")


def rounded(amount):
    return amount.quantize(CENT, ROUND_HALF_UP)


def rows_of_the_guide():
    """Return the rows of the worked example as it is printed: item, quantity, rate, amount."""
    found = re.findall(r"^\| ([A-Z][^|*]+?) \| ([\d. /]+) \| ([\d.]+) \| ([\d.]+) \|$", GUIDE.read_text(), re.MULTILINE)
    assert len(found) == 9
    return found


def test_the_guide_adds_up_by_hand():
    total = Decimal(0)
    for _, quantity, rate, amount in rows_of_the_guide():
        part, _, whole = quantity.partition("/")
        exact = Decimal(part.strip()) * Decimal(rate) / Decimal(whole.strip() or 1)
        assert rounded(exact) == Decimal(amount)
        total += Decimal(amount)
    assert total == Decimal("45.14")


def test_the_example_of_the_guide_is_what_comes_out():
    costing = Costing(ten_bags().plan, prices())
    priced = costing.priced
    assert [(item.name, str(item.amount)) for item in priced.items] == [(row[0], row[3]) for row in rows_of_the_guide()]
    assert (priced.cost, priced.net, priced.tax, priced.gross) == tuple(
        map(Decimal, ("45.14", "67.70", "12.86", "80.56"))
    )
    assert [one.price for one in priced.lines] == [Decimal("6.77")]
    (use,) = film_ledger(costing.facts).films
    assert use.on_garments_mm2 == pytest.approx(50_000)
    areas = (use.taken_mm2, use.kept_mm2, use.lost_mm2, use.used_up_mm2)
    assert [round(area / 100) for area in areas] == [704, 0, 204, 704]
    assert costing.facts.loads[0].duration().seconds == pytest.approx(20.454, abs=5e-4)


def test_every_amount_is_that_of_a_reckoning_of_its_own():
    covered = set_pressing("cover", cover="sheet")
    document = nested(document_of(RED_AND_BLUE, set_copies(3), add_size("youth-m", 2), covered))
    plan, usual = document.plan, usual_prices()
    priced = Costing(plan, usual).priced
    amounts = {item.name: item.amount for item in priced.items}
    for use, nest in zip(film_ledger(plan).films, plan.nests, strict=True):
        m2 = Decimal(repr((use.taken_mm2 - use.kept_mm2) / 1e6))
        assert amounts.pop(nest.film.name) == rounded(m2 * usual.film_m2)
    assert amounts.pop("Tee") == rounded(5 * usual.blanks["tee"])
    covers = sum(
        garment.copies * sum("PTFE" in (step.cover or "") for step in press.steps if step.heat is not None)
        for garment, press in zip(plan.garments, plan.presses, strict=True)
    )
    assert covers > 0
    assert amounts.pop("Cover sheets") == rounded(covers * usual.cover_sheet / usual.cover_sheet_uses)
    cut_s = sum(load.duration().seconds for load in plan.loads)
    hours = {"Preparing": 600.0, "Loading and cutting": 90.0 * len(plan.loads) + 0.25 * cut_s}
    hours["Pressing"] = hours["Weeding"] = press_s = 0.0
    for garment, press in zip(plan.garments, plan.presses, strict=True):
        tasks = tasks_of(press.steps)
        hours["Pressing"] += garment.copies * sum(task.load("person") for task in tasks)
        press_s += garment.copies * sum(task.load("press") for task in tasks)
        for design in garment.designs:
            for layer in design.layers:
                left, top, right, bottom = design.stack.box
                weed = weed_map(layer.layer, (left - 6, top - 6, right + 6, bottom + 6))
                hours["Weeding"] += garment.copies * weed.seconds
    for stage, seconds in hours.items():
        assert amounts.pop(stage) == pytest.approx(rounded(Decimal(repr(seconds)) * usual.hour / 3600), abs=CENT)
    assert amounts.pop("Cutter") == rounded(Decimal(repr(cut_s)) * usual.cutter_hour / 3600)
    assert amounts.pop("Press") == rounded(Decimal(repr(press_s)) * usual.press_hour / 3600)
    material = sum(item.amount for item in priced.items if item.kind in ("film", "blanks", "cover sheets"))
    assert amounts.pop("Misprints") == rounded(material * usual.misprint_percent / 100)
    assert amounts == {}


def test_used_carriers_cost_nothing_as_a_cover():
    document = nested(document_of(RED_AND_BLUE, set_pressing("cover", cover="carriers")))
    assert any(step.cover for step in document.plan.presses[0].steps)
    assert Costing(document.plan, usual_prices()).priced.of_kind("cover sheets") == 0


def test_waste_is_shared_by_the_area_that_ends_on_each_garment():
    smaller = set_placement("width", size="youth-s", width_mm=90.0)
    document = nested(document_of(RED_AND_BLUE, set_copies(1), add_size("youth-s", 1), smaller))
    priced = Costing(document.plan, usual_prices()).priced
    film = next(item for item in priced.items if item.kind == "film")
    areas = [0.0, 0.0]
    for part in document.plan.nests[0].parts:
        areas[part.garment] += part.region.area
    assert float(film.weights[0] / sum(film.weights)) == pytest.approx(areas[0] / sum(areas))
    assert priced.lines[0].cost > priced.lines[1].cost


def test_every_name_is_a_line_and_its_pieces_pay_for_it():
    document = nested(bags(("Ada", "Bartholomew")))
    priced = Costing(document.plan, usual_prices()).priced
    assert [one.line.name.split(",")[0] for one in priced.lines] == ["Ada", "Bartholomew"]
    assert priced.lines[1].cost > priced.lines[0].cost


def test_misprints_go_by_the_log_once_it_is_long_enough():
    document = ten_bags()
    costing = Costing(document.plan, prices())
    assert costing.misprint == (Decimal("3.0"), "typical")
    log = tuple(
        Pressed(film="cream", fabric="cotton", heat_source="press", school="x", worked=k % 8 != 0) for k in range(40)
    )
    document.use_workshop(document.workshop.model_copy(update={"pressed": log}))
    assert Costing(document.plan, prices()).misprint == (Decimal("12.5"), "5 of 40 in the log")
    document.apply(set_price("x", misprint_percent=Decimal(0)))
    assert Costing(document.plan, prices()).priced.of_kind("misprints") == 0


def test_a_job_has_its_own_prices():
    document = ten_bags()
    document.apply(
        set_price("x", blank=Decimal(7), hour=Decimal(0), mark_up_percent=Decimal(0), tax_percent=Decimal(0))
    )
    priced = Costing(document.plan, prices()).priced
    assert priced.of_kind("blanks") == 70
    assert priced.of_kind("time") == 0
    assert abs(priced.net - priced.cost) <= Decimal("0.05")
    assert priced.tax == 0


def test_twice_as_many_are_cheaper_and_thrown_away_film_is_named():
    document = nested(document_of(LANTERN, set_copies(2)))
    found = savings(Costing(document.plan, usual_prices()))
    twice = next(one for one in found if one.each)
    assert twice.said.startswith("4 garments instead of 2")
    assert twice.amount > 0
    assert any("thrown away" in one.said for one in found)
    assert [one.amount for one in found] == sorted((one.amount for one in found), reverse=True)


def test_the_quote_reads_back_as_the_plan_says():
    costing = Costing(ten_bags().plan, prices())
    text = pypdfium2.PdfDocument(quote_pdf(costing))[0].get_textpage().get_text_range()
    for number in ("Tote bag", "10", "6.77", "67.70", "12.86", "80.56"):
        assert number in text
    assert "43.64" not in text
    rows = list(csv.reader(io.StringIO(quote_csv(costing))))
    assert rows[1][:4] == ["Tote bag", "10", "6.77", "67.70"]
    assert [row[3] for row in rows[2:]] == ["67.70", "12.86", "80.56"]
    data = quote_json(costing)
    assert Decimal(data["cost"]) == sum(Decimal(item["amount"]) for item in data["items"])


def test_the_price_list_says_what_differs(tmp_path):
    path = tmp_path / "prices.toml"
    assert read_prices(path) == usual_prices()
    path.write_text("hour = 21.35\n[blanks]\ntee = 3.9\n[time]\nmat_s = 60\n", encoding="utf-8")
    found = read_prices(path)
    assert found.hour == Decimal("21.35")
    assert (found.blank_price("tee"), found.blank_price("hoodie"), found.blank_price("kite")) == (
        Decimal("3.9"), Decimal("14.0"), Decimal("5.0"),
    )  # fmt: skip
    assert (found.time.mat_s, found.time.job_s) == (60, 600)
    assert found.source == "from prices.toml"


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("hour = -1", "hour"),
        ("hour = [", "can't be read"),
        ("colour = 3", "colour"),
        ("[blanks]\ntee = 'x'", "blanks.tee"),
    ],
)
def test_a_wrong_price_list_is_said(tmp_path, text, said):
    path = tmp_path / "prices.toml"
    path.write_text(text, encoding="utf-8")
    with pytest.raises(SettingsError, match=said):
        read_prices(path)


def test_the_command_writes_and_prints_the_quote(tmp_path):
    document = nested(document_of(RED_AND_BLUE))
    save_job(tmp_path / "bags.zinnet", document.job, document.plan.layouts)
    for name in ("quote.pdf", "quote.csv"):
        found = run_command("quote", tmp_path / "bags.zinnet", "--out", tmp_path / name, "--tax", "19", "--json")
        assert found.returncode == 0, found.stderr
        assert (tmp_path / name).stat().st_size > 50
        data = json.loads(found.stdout)
        assert Decimal(data["gross"]) == Decimal(data["net"]) + Decimal(data["tax"])
    said = run_command("quote", tmp_path / "bags.zinnet")
    assert "cost in all" in said.stdout
    for wrong in (("--blank", "x"), ("--hour", "-3"), ("--out", tmp_path / "q.doc")):
        assert run_command("quote", tmp_path / "bags.zinnet", *wrong).returncode == 2
