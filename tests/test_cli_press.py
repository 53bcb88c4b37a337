"""The commands of pressing."""

import json

import pytest

from tests.helpers import RED_AND_BLUE, document_of, nested, run_command
from zinnet.blanks.catalogue import read_blank_name
from zinnet.job.edits import choose_blank, choose_film, set_copies


def run(*words):
    """Run a command, and return its exit code, what it printed, and what it complained of."""
    done = run_command(*words)
    return done.returncode, done.stdout, done.stderr


@pytest.fixture
def job(tmp_path):
    nested(document_of(RED_AND_BLUE, set_copies(3))).save(tmp_path / "tees.zinnet")
    return tmp_path / "tees.zinnet"


def test_press_says_the_steps_in_words(job):
    code, out, _ = run("press", job, "--degrees", "F")
    assert code == 0
    assert "3 x Tee, adult M, cotton" in out
    assert "320 °F" in out
    assert "Never" not in out
    assert "never slide it" in out
    assert "burns" in out


def test_press_as_json_holds_recipes_steps_positions_and_findings(job):
    code, out, _ = run("press", job, "--json", "--school", "full", "--cover", "none", "--care-dots", "2")
    assert code == 0
    data = json.loads(out)
    (garment,) = data["garments"]
    assert data["school"] == "full"
    presses = [step for step in garment["steps"] if step["heat"]]
    assert all(step["heat"]["heat_c"] <= 150 for step in presses)
    assert all(
        step["heat"]["heat_f"] == pytest.approx(step["heat"]["heat_c"] * 9 / 5 + 32, abs=2e-3) for step in presses
    )
    assert all(step["heat"]["fewest"] and step["heat"]["positions"] for step in presses)
    assert {"bare-film", "heat-untested"} <= {finding["id"] for finding in data["findings"]}
    (films, *_) = [film for film in garment["films"] if film["film"] == "scarlet"]
    assert len(films["recipes"]) == 3
    assert films["heat_c"][0] < films["heat_c"][1]
    assert all(row["source"] for row in films["recipes"])
    assert [layer["on"] for layer in garment["panels"][0]["layers"]] == [[], ["0:#d62828"]]


def test_schedule_is_proven_and_says_what_would_shorten_it(job):
    code, out, _ = run("schedule", job, "--garments", "6", "--presses", "1", "--seconds", "2")
    assert code == 0
    assert "6 garments in" in out
    assert "no faster order exists" in out
    assert "A second person saves" in out


def test_schedule_as_json_names_who_and_what_works_when(job):
    code, out, _ = run("schedule", job, "--presses", "2", "--people", "2", "--seconds", "1", "--json")
    assert code == 0
    data = json.loads(out)
    assert (data["garments"], data["presses"], data["people"]) == (3, 2, 2)
    assert data["bound_s"] <= data["total_s"] <= data["one_after_another_s"]
    assert data["proven"] == (data["total_s"] <= data["bound_s"])
    assert {need["resource"] for slot in data["slots"] for need in slot["needs"]} == {"press", "person", "cooling"}
    assert max(slot["end_s"] for slot in data["slots"]) == data["total_s"]
    assert len({(slot["number"], slot["start_s"], slot["task"]) for slot in data["slots"]}) == len(data["slots"])


def test_a_makers_sheet_is_typed_in_used_and_forgotten(job):
    code, out, _ = run("recipe", "scarlet", "--heat", "300F", "--time", "12", "--peel", "cool", "--pressure", "medium")
    assert code == 0
    assert out.startswith("maker's sheet: the film's sheet: 149 °C, 12 s, medium pressure, peel cool")
    _, out, _ = run("press", job, "--json")
    (scarlet,) = [film for film in json.loads(out)["garments"][0]["films"] if film["film"] == "scarlet"]
    assert scarlet["recipes"][0]["origin"] == "maker"
    code, out, _ = run("recipe", "scarlet", "--forget")
    assert "forgotten" in out
    _, out, _ = run("recipe", "scarlet")
    assert "maker" not in out


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("press", "none.zinnet"), "There is no file"),
        (("schedule", "{job}", "--garments", "0"), "greater than or equal to 1"),
        (("press", "{job}", "--school", "fast"), "school"),
        (("press", "{job}", "--platen", "anvil"), "anvil"),
        (("recipe", "gold"), "There is no film"),
        (("recipe", "scarlet", "--heat", "warm", "--time", "5"), "not a temperature"),
        (("recipe", "scarlet", "--heat", "300F"), "needs a heat and a time"),
        (("recipe", "scarlet", "--heat", "300F", "--time", "5", "--fabric", "silk"), "silk"),
    ],
)
def test_what_can_not_be_is_said_in_one_sentence(job, words, said):
    code, _, err = run(*(str(job) if word == "{job}" else word for word in words))
    assert code == 2
    assert said in err
    assert len(err.strip().splitlines()) == 1


def test_nothing_to_press_is_said(tmp_path):
    adhesive = [choose_film(colour, "white-adhesive") for colour in ("#d62828", "#1f57c3")]
    document = document_of(RED_AND_BLUE, choose_blank(read_blank_name("glass-plate")), *adhesive)
    document.save(tmp_path / "plate.zinnet")
    code, out, _ = run("press", tmp_path / "plate.zinnet")
    assert code == 0
    assert "alcohol" in out
    code, out, _ = run("schedule", tmp_path / "plate.zinnet", "--seconds", "1")
    assert code == 0


def test_what_the_log_says_of_pressing_teaches_the_next_job(job):
    for times in (1, 2):
        code, out, _ = run("log", "add", job, "--verdict", "good", "--lifted", f"scarlet={times}")
        assert code == 0
    _, out, _ = run("press", job, "--json")
    films = {film["film"]: film["recipes"][0] for film in json.loads(out)["garments"][0]["films"]}
    assert films["scarlet"]["origin"] == films["blue"]["origin"] == "learned"
    assert "2 presses of Scarlet, 2 held at 23 to 33 s, 2 lifted at 13 s" in films["scarlet"]["source"]
    assert "2 held at 13 s" in films["blue"]["source"]
    _, out, _ = run("recipe", "scarlet")
    assert "learned here: cotton, press: 160 °C, 23-33 s" in out
    _, entries, _ = run("log", "list", "--json")
    for entry in json.loads(entries):
        run("log", "change", entry["number"], "--verdict", "spoiled", "--washes", 2)
    _, out, _ = run("recipe", "scarlet")
    assert "learned" not in out


@pytest.mark.parametrize("lifted", ["gold=1", "scarlet", "scarlet=0", "scarlet=99"])
def test_what_never_was_there_did_not_lift(job, lifted):
    code, _, said = run("log", "add", job, "--verdict", "good", "--lifted", lifted)
    assert code == 2
    assert f"--lifted {lifted}" in said
    _, entries, _ = run("log", "list", "--json")
    assert json.loads(entries) == []
