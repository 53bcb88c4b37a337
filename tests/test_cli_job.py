"""A job without the window, as a user would: from an SVG to cut files, press steps and a job sheet."""

import json

import pypdfium2
import pytest

from tests.helpers import outlines_in_svg, run_command, svg
from zinnet.data import read_toml
from zinnet.job.file import load_job
from zinnet.job.keys import GROUPS, job_keys
from zinnet.placement.place import PlacementSpec

pytestmark = pytest.mark.usefixtures("nests_here")

REED = (
    '<path fill="#f4ead5" d="M0 0H90V70H0Z M20 15V55H70V15Z" fill-rule="evenodd"/>'
    '<rect x="25" y="20" width="40" height="30" fill="#d62828"/>'
)


@pytest.fixture
def reeds(tmp_path):
    (tmp_path / "reeds.svg").write_bytes(svg(REED))
    return tmp_path


def done(*words):
    result = run_command(*words)
    assert result.returncode in (0, 1), result.stderr
    return result.stdout


def refused(*words):
    result = run_command(*words)
    assert result.returncode == 2
    assert result.stderr.count("\n") == 1
    return result.stderr


@pytest.fixture
def job(reeds):
    path = reeds / "band.zinnet"
    done(
        "job", "new", "--blank", "tee", "--title", "Reed band", "--cloth", "cotton", "--dots", "3", "--colour",
        "#203040", "--measure", "chest=52cm", "--sizes", "adult-m=2,adult-l=1", "--out", path,
    )  # fmt: skip
    done("job", "add", path, reeds / "reeds.svg", "--width", "20cm", "--down", "7.5cm")
    done("job", "set", path, "nest.seconds=0.4", "film.#d62828=scarlet")
    return path


def test_from_an_svg_to_cut_files_press_steps_and_a_job_sheet(job, reeds):
    added = done("job", "add", job, "--text", "REED", "--font", "bitter", "--height", "40mm", "--place", "full-back")
    assert added == "2\n"
    shown = json.loads(done("job", "show", job, "--json"))
    assert (shown["title"], shown["blank"]["cloth"], shown["blank"]["dots"]) == ("Reed band", "cotton", 3)
    assert shown["blank"]["measures"]["chest"] == {"mm": 520, "measured": True}
    assert shown["sizes"] == [{"size": "adult-m", "copies": 2}, {"size": "adult-l", "copies": 1}]
    first, second = shown["designs"]
    assert (first["width_mm"], first["down_mm"], first["place"]) == (200, 75, "full-front")
    assert second["height_mm"] == pytest.approx(40, abs=0.01)
    assert second["place"] == "full-back"
    assert {row["colour"]: row["film"] for row in first["colours"]}["#d62828"] == "scarlet"

    nested = json.loads(done("nest", job, "--json"))
    assert nested["unplaced"] == []
    assert load_job(job)[1], "the nests are kept in the job"
    use = json.loads(done("film", job, "--json"))
    assert {row["film"] for row in use["films"]} == {mat["film"] for mat in nested["mats"]}
    assert {row["film"] for row in use["missing"]} <= {row["film"] for row in use["films"]}, "nothing is on the shelf"
    steps = json.loads(done("press", job, "--json"))
    assert steps
    written = done("cut", job).splitlines()
    pictures = [path for path in written if path.endswith(".svg")]
    assert len(pictures) == len(nested["mats"])
    for path, mat in zip(sorted(pictures), nested["mats"], strict=True):
        with open(path, encoding="utf-8") as file:
            assert len(outlines_in_svg(file.read())) >= len(mat["pieces"])
    done("sheet", job)
    text = pypdfium2.PdfDocument(reeds / "band.pdf")[0].get_textpage().get_text_range()
    assert "Reed band" in text


def test_findings_have_numbers_subjects_and_mends_and_a_mend_says_what_changed(job, reeds):
    done("job", "set", job, "design.1.aside=30mm")
    before = job.read_bytes()
    rows = json.loads(done("check", job, "--json"))
    assert all({"id", "level", "station", "subject", "text", "mends"} <= row.keys() for row in rows)
    (off,) = [row for row in rows if row["id"] == "off-centre" and row["mends"]][:1]
    assert off["mends"][0]["number"] == 1
    words = ["job", "mend", job, "off-centre", "--out", reeds / "mended.zinnet"]
    if off["subject"]:
        words += ["--subject", off["subject"]]
    said = done(*words)
    assert off["mends"][0]["label"] in said
    assert "gone: warn: off-centre" in said
    assert job.read_bytes() == before, "with --out the original is left alone"
    assert "off-centre" not in done("check", reeds / "mended.zinnet")


def test_several_settings_are_set_all_or_none(job):
    before = job.read_bytes()
    refused("job", "set", job, "copies=7", "nest.spare=many")
    assert job.read_bytes() == before
    done("job", "set", job, "copies=7", "nest.gap=8mm", "layers.lap=0.6mm", "press.school=full", "order.due=2026-12-12")
    changed, _ = load_job(job)
    assert (changed.copies, changed.nesting.gap_mm, changed.layers.lap_mm) == (7, 8, 0.6)
    assert (changed.pressing.school, changed.order.due.isoformat()) == ("full", "2026-12-12")
    done("job", "set", job, "nest.gap=", "film.#d62828=")
    assert load_job(job)[0].nesting.gap_mm is None
    assert load_job(job)[0].layers.films == ()


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("new", "--blank", "boat", "--out", "{}/x.zinnet"), "no blank “boat”"),
        (("new", "--blank", "tee", "--size", "giant", "--out", "{}/x.zinnet"), "no size “giant”"),
        (("new", "--blank", "tee", "--copies", "0", "--out", "{}/x.zinnet"), "copies=0"),
        (("new", "--blank", "tee", "--copies", "2", "--sizes", "adult-m=2", "--out", "{}/x.zinnet"), "not by both"),
        (("new", "--blank", "tee", "--sizes", "adult-m=2,adult-m=3", "--out", "{}/x.zinnet"), "stands twice"),
        (("new", "--blank", "tee", "--measure", "chest=5mm", "--out", "{}/x.zinnet"), "can't be right"),
        (("new", "--blank", "tee", "--measure", "tail=5cm", "--out", "{}/x.zinnet"), "no measure “tail”"),
        (("new", "--blank", "tee", "--dots", "4", "--out", "{}/x.zinnet"), "unread, 1, 2 or 3"),
        (("new", "--blank", "tee", "--colour", "red", "--out", "{}/x.zinnet"), "no colour"),
        (("new", "--blank", "tee", "--out", "{}/nowhere/x.zinnet"), "no such folder"),
        (("add", "{}/band.zinnet"), "one of the two"),
        (("add", "{}/band.zinnet", "{}/missing.svg"), "no file"),
        (("add", "{}/band.zinnet", "--text", "A", "--width", "3cm", "--height", "3cm"), "the other one follows"),
        (("add", "{}/band.zinnet", "--text", "A", "--font", "no-such-font"), "no font"),
        (("add", "{}/band.zinnet", "--text", "A", "--place", "moon"), "no place “moon”"),
        (("add", "{}/band.zinnet", "{}/reeds.svg", "--colour", "#ff0000"), "for words"),
        (("add", "{}/band.zinnet", "{}/broken.svg"), "broken.svg"),
        (("add", "{}/band.zinnet", "{}/reeds.svg", "--width", "-3cm"), "can't be"),
        (("set", "{}/band.zinnet", "copies"), "has no value"),
        (("set", "{}/band.zinnet", "nothing=3"), "no key “nothing”"),
        (("set", "{}/band.zinnet", "nest.nothing=3"), "no key “nest.nothing”"),
        (("set", "{}/band.zinnet", "nest.from-shelf=perhaps"), "neither yes nor no"),
        (("set", "{}/band.zinnet", "nest.spare=-3"), "can't be"),
        (("set", "{}/band.zinnet", "film.#d62828=no-such-film"), "no film “no-such-film”"),
        (("set", "{}/band.zinnet", "film.#123456=cream"), "no design has that colour"),
        (("set", "{}/band.zinnet", "design.3.width=3cm"), "no design 3"),
        (("set", "{}/band.zinnet", "nest.mat=carpet"), "no mat “carpet”"),
        (("set", "{}/band.zinnet", "order.due=tomorrow"), "can't be read"),
        (("set", "{}/band.zinnet", "price.hour=NaN"), "can't be"),
        (("mend", "{}/band.zinnet", "no-such-finding"), "no finding"),
        (("show", "{}/reeds.svg"), "reeds.svg"),
        (("show", "{}/damaged.zinnet"), "damaged.zinnet"),
    ],
)
def test_damaged_and_contradictory_input_is_refused_in_a_sentence_and_changes_nothing(job, reeds, words, said):
    (reeds / "broken.svg").write_text("<svg")
    (reeds / "damaged.zinnet").write_bytes(job.read_bytes()[:-200])
    before = job.read_bytes()
    assert said in refused("job", *(word.format(reeds) for word in words))
    assert job.read_bytes() == before
    assert not (reeds / "x.zinnet").exists()


def test_every_key_says_its_type_range_and_meaning_and_none_is_about_nothing():
    rows = json.loads(done("job", "keys", "--json"))
    assert len(rows) == len(job_keys()) > 50
    assert all(row["type"] and row["range"] and row["meaning"] for row in rows)
    for group, (model, _) in GROUPS.items():
        named = set(read_toml("keys")[group]) - {"platen"}
        assert named <= set(model.model_fields)
        lists = {name for name, field in model.model_fields.items() if "tuple" in str(field.annotation)}
        assert set(model.model_fields) - named - lists <= {"pressed_at"}, f"a field of {group} has no key"
    assert {"width_mm", "height_mm", "turn_deg"} <= set(PlacementSpec.model_fields)


def test_film_and_nests_are_said_in_words_too_and_pieces_need_a_file_to_write(job, reeds):
    said = done("nest", job, "--steps", "1")
    assert said.splitlines()[0].startswith("mat 1: ")
    lines = done("film", job).splitlines()
    taken = [line for line in lines if "taken" in line]
    assert all("on garments" in line and "lost" in line for line in taken)
    assert len(taken) == len({line.split(":")[0] for line in taken}) >= 2
    assert all(line.endswith("(by area) missing") for line in lines if line not in taken)
    assert "--out" in refused("nest", reeds / "reeds.svg", "--sheet", "300x200mm")


def test_a_job_is_shown_in_words_with_what_there_is_to_say_of_it(job):
    lines = done("job", "show", job).splitlines()
    assert lines[0].startswith("Reed band: ")
    assert lines[1].split() == ["2", "x", "adult-m,", "1", "x", "adult-l"]
    assert any(line.startswith("design 1: reeds.svg: full-front") for line in lines)
    assert any("#d62828: scarlet" in line for line in lines)
    assert any(word in lines[-1] for word in ("warn", "note", "confirm"))
