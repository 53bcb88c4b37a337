"""The log of what was made: written down, found again, done again, and what it says."""

import io
import json

import pytest
from PIL import Image

from tests.helpers import RED_AND_BLUE, document_of, nested, run_command
from zinnet.base.errors import WorkshopError
from zinnet.bench.made import again, made_of
from zinnet.job.edits import add_size, set_copies, set_title
from zinnet.job.file import (
    load_job,
    packed_job,
    save_job,
    unpacked_job,
)
from zinnet.plan.ledger import film_ledger
from zinnet.pressing.schedule.tasks import tasks_of
from zinnet.workshop.made import Made, MadeFilm, film_records, months
from zinnet.workshop.madebook import MOST_PHOTO, MadeBook
from zinnet.workshop.store import WorkshopStore


@pytest.fixture
def book(tmp_path):
    return MadeBook(WorkshopStore(tmp_path / "workshop.sqlite"))


def tees():
    return nested(document_of(RED_AND_BLUE, set_copies(3), set_title("Stewards' tees")))


def test_what_a_plan_made_is_written_down_as_it_was_planned(book):
    document = tees()
    plan = document.plan
    made = book.record(made_of(plan, verdict="good", real_s=1500.0))
    assert (made.number, made.garments, made.blank) == (1, 3, plan.blank.name)
    assert made.at[:2] == "20"
    assert [film.film for film in made.films] == [nest.film.id for nest in plan.nests]
    for film, use in zip(made.films, film_ledger(plan).films, strict=True):
        assert film.used_mm2 == pytest.approx(use.taken_mm2 - use.kept_mm2)
        assert film.waste_mm2 == pytest.approx(use.lost_mm2)
        assert film.heat_c == pytest.approx(160.0)
    hands = sum(3 * task.load("person") for task in tasks_of(plan.presses[0].steps))
    assert made.planned_s == pytest.approx(hands + sum(load.duration().seconds for load in plan.loads))
    assert book.entries() == [made]


def test_a_job_of_several_sizes_says_how_many(book):
    document = nested(document_of(RED_AND_BLUE, set_copies(3), add_size("youth-m", 2)))
    made = made_of(document.plan)
    assert (made.blank, made.garments) == ("Tee, 2 sizes", 5)


def test_words_find_it_by_title_film_verdict_and_note(book):
    for title, film, verdict in (("Caps", "cream", "good"), ("Bags", "amber", "spoiled"), ("Caps", "amber", None)):
        films = (MadeFilm(film=film, used_mm2=10, waste_mm2=1),)
        book.record(Made(title=title, blank="Cap", garments=2, films=films, verdict=verdict, note="evening parade"))
    assert [one.number for one in book.entries("caps")] == [3, 1]
    assert [one.number for one in book.entries("AMBER parade")] == [3, 2]
    assert [one.number for one in book.entries("spoiled")] == [2]
    assert book.entries("moon") == []


def test_a_verdict_and_washes_come_later(book):
    number = book.record(Made(title="Bags", blank="Tote bag", garments=4)).number
    book.change(number, verdict="usable", washes=3, spoiled=1)
    (entry,) = book.entries()
    assert (entry.verdict, entry.washes, entry.spoiled) == ("usable", 3, 1)
    with pytest.raises(WorkshopError, match="has no entry 9"):
        book.change(9, washes=1)
    with pytest.raises(WorkshopError, match="washes"):
        book.change(number, washes=-1)


def test_a_job_is_done_again_as_it_was(book):
    document = tees()
    layouts = {nest.key: nest.layout for nest in document.plan.nests}
    number = book.record(made_of(document.plan), packed_job(document.job, layouts)).number
    job, kept = again(book.job(number))
    assert job.title == "Stewards' tees, again"
    assert job.model_copy(update={"title": "Stewards' tees"}) == document.job
    assert set(kept) == set(layouts)
    assert unpacked_job(book.job(number), "x")[0] == document.job
    bare = book.record(Made(title="Bags", blank="Tote bag", garments=1)).number
    with pytest.raises(WorkshopError, match="has no job"):
        book.job(bare)


def test_a_photo_is_kept_and_a_huge_one_refused(book):
    buffer = io.BytesIO()
    Image.new("RGB", (40, 30), "#8a2f3c").save(buffer, format="PNG")
    number = book.record(Made(title="Bags", blank="Tote bag", garments=1), photo=buffer.getvalue()).number
    assert book.photo(number) == buffer.getvalue()
    assert book.entry(number).has_photo
    with pytest.raises(WorkshopError, match="make it smaller"):
        book.change(number, photo=b"x" * (MOST_PHOTO + 1))


def made(at, garments, *films, real_s=None, verdict=None, spoiled=0):
    rows = tuple(
        MadeFilm(film=film, used_mm2=1000, waste_mm2=400, school="s", heat_c=160, seconds=15) for film in films
    )
    return Made(
        title="x", blank="Tee", at=at, garments=garments, films=rows, real_s=real_s, verdict=verdict, spoiled=spoiled
    )


def test_the_log_says_how_each_film_and_setting_did():
    log = [
        made("2026-05-02", 4, "cream", verdict="good"),
        made("2026-05-03", 6, "cream", "amber", verdict="spoiled", spoiled=2),
        made("2026-05-04", 5, "cream"),
    ]
    amber, cream = film_records(log)
    assert (cream.film, cream.setting) == ("cream", "s 160 °C, 15 s")
    assert (cream.jobs, cream.good, cream.garments, cream.spoiled) == (2, 1, 10, 2)
    assert (amber.jobs, amber.good) == (1, 0)


def test_months_add_up_and_time_is_counted_where_it_is_known():
    log = [
        made("2026-05-02", 4, "cream", real_s=2400),
        made("2026-05-20", 4, "cream", "amber"),
        made("2026-06-01", 2, "cream"),
    ]
    may, june = months(log)
    assert (may.month, may.garments, may.used_mm2, may.waste_mm2) == ("2026-05", 8, 3000, 1200)
    assert may.minutes_each == pytest.approx(10.0)
    assert (june.month, june.minutes_each) == ("2026-06", None)


def test_the_commands_write_find_change_and_do_again(tmp_path):
    document = tees()
    save_job(tmp_path / "tees.zinnet", document.job, document.plan.layouts)
    Image.new("RGB", (40, 30)).save(tmp_path / "tee.png")
    told = (
        "log",
        "add",
        tmp_path / "tees.zinnet",
        "--verdict",
        "good",
        "--minutes",
        "40",
        "--photo",
        tmp_path / "tee.png",
    )
    assert run_command(*told).stdout.startswith("1  Stewards")
    assert "1 x" not in run_command("log", "list", "--find", "moon").stdout
    assert "Stewards' tees" in run_command("log", "list").stdout
    assert "good, 5 washes" in run_command("log", "change", "1", "--washes", "5").stdout
    assert run_command("log", "again", "1", "--out", tmp_path / "new.zinnet").returncode == 0
    assert load_job(tmp_path / "new.zinnet")[0].copies == 3
    assert run_command("log", "photo", "1", "--out", tmp_path / "out.png").returncode == 0
    data = json.loads(run_command("log", "numbers", "--json").stdout)
    assert data["months"][0]["minutes_each"] == pytest.approx(40 / 3)
    assert "3 garments" in run_command("log", "numbers").stdout
    for wrong in (("change", "7", "--washes", "1"), ("change", "1", "--verdict", "fine"), ("again", "7", "--out", "x")):
        assert run_command("log", *wrong).returncode == 2
    assert run_command("log", "add", tmp_path / "tees.zinnet", "--photo", tmp_path / "tees.zinnet").returncode == 2
