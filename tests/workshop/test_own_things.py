"""Presses, cutting machines and films of one's own: added, used, exported, imported, taken out; nonsense is refused."""

import json

import pytest

from tests.helpers import run_command, svg
from zinnet.base.errors import SettingsError
from zinnet.machines.platens import read_presses
from zinnet.workshop.opening import open_workshop
from zinnet.workshop.own_things import drop_thing, id_of, keep_film, keep_machine, keep_press, own_things

PLATE = ("workshop", "add", "press", "My plate", "--kind", "plate", "--size", "9x9in", "--margin", "4mm")
CUTTER = (
    *("workshop", "add", "machine", "Cellar cutter", "--mats", "12x12in,300x500mm"),
    *("--steps", "33", "--blades", "10", "--test-corner", "--edge", "3mm"),
)
MARSH = ("workshop", "add", "film", "Marsh green", "--kind", "smooth", "--colour", "#335522", "--heat", "150C-160C")


@pytest.fixture(autouse=True)
def folders(monkeypatch, tmp_path):
    for name in ("CONFIG", "DATA", "STATE"):
        monkeypatch.setenv(f"XDG_{name}_HOME", str(tmp_path / name.lower()))
    return tmp_path


def told(*words):
    done = run_command(*words)
    assert done.returncode == 0, done.stderr
    return done.stdout


def job_on(tmp_path, blank, *sets):
    """Return a job file with a green rectangle on a blank."""
    job = tmp_path / "job.zinnet"
    (tmp_path / "art.svg").write_bytes(svg('<rect width="80" height="60" fill="#335522"/>'))
    told("job", "new", "--blank", blank, "--cloth", "cotton", "--dots", "3", "--out", job)
    told("job", "add", job, tmp_path / "art.svg")
    if sets:
        told("job", "set", job, *sets)
    return job


def test_a_press_of_ones_own_is_taken_by_the_jobs_that_it_gets_to(tmp_path):
    told(*PLATE)
    data = json.loads(told("press", job_on(tmp_path, "tee", "film.#335522=pine"), "--json"))
    (panel,) = data["garments"][0]["panels"]
    assert panel["press"] == "My plate"
    assert panel["heat_source"] == "plate"
    assert panel["layers"][0]["full_s"] == 30
    cap = json.loads(told("press", job_on(tmp_path, "cap"), "--json"))
    (stop,) = [one for one in cap["findings"] if one["id"] == "plate-does-not-reach"]
    assert "My plate" in stop["text"]
    assert stop["mend"]


def test_of_several_the_job_takes_the_one_that_fits():
    from tests.helpers import document_of
    from zinnet.blanks.catalogue import read_blank_name
    from zinnet.job.edits import choose_blank

    keep_press("Big one", heat_source="press", width_mm=381.0, height_mm=381.0)
    keep_press("Cap thing", heat_source="cap", width_mm=150.0, height_mm=76.0)
    keep_press("Tiny", heat_source="plate", width_mm=70.0, height_mm=100.0)
    workshop = open_workshop()
    taken = {}
    for blank in ("tee", "cap", "inset-board", "glass-plate"):
        document = document_of('<rect width="60" height="40" fill="#d62828"/>', choose_blank(read_blank_name(blank)))
        document.use_workshop(workshop)
        taken[blank] = [work.platen.name for work in document.plan.presses[0].works if work.platen is not None]
    assert taken == {"tee": ["Big one"], "cap": ["Cap thing"], "inset-board": ["Tiny"], "glass-plate": []}


def test_a_press_that_the_workshop_has_not_is_said_and_another_is_offered(tmp_path):
    job = job_on(tmp_path, "tee", "press.platen=their-plate")
    (stop,) = [
        one for one in json.loads(told("press", job, "--json"))["findings"] if one["id"] == "plate-does-not-reach"
    ]
    assert "their-plate" in stop["text"]
    assert run_command("press", job, "--platen", "oven").returncode != 0


def test_a_press_that_gets_not_hot_enough_is_a_stop_with_one_that_does(tmp_path):
    told("workshop", "add", "press", "Cool plate", "--kind", "plate", "--size", "9x9in", "--heat", "80C-140C")
    job = job_on(tmp_path, "tee", "film.#335522=pine")
    (stop,) = [
        one for one in json.loads(told("press", job, "--json"))["findings"] if one["id"] == "plate-does-not-reach"
    ]
    assert "140 °C" in stop["text"]
    assert stop["mend"]
    told("job", "mend", job, "plate-does-not-reach")
    found = json.loads(told("press", job, "--json"))["findings"]
    assert "plate-does-not-reach" not in [one["id"] for one in found]


def test_a_machine_of_ones_own_cuts_and_speaks_its_own_words(tmp_path):
    told(*CUTTER)
    job = job_on(tmp_path, "tee", "cut.machine=cellar-cutter", "design.1.width=80mm")
    assert "force 9 of 33, blade 2 of 10" in told("testcut", "cream", "--machine", "cellar-cutter")
    assert "force" in told("testcut", "cream", "--machine", "cellar-cutter", "--force", "9", "--outcome", "not through")
    assert run_command("testcut", "cream", "--machine", "cellar-cutter", "--force", "99").returncode != 0
    device = open_workshop().machines.cutter("cellar-cutter")
    assert device.own
    assert device.test_corner
    assert "300x500mm" in device.mats
    told("job", "set", job, "nest.mat=300x500mm")


def test_a_film_of_ones_own_is_taken_and_its_makers_heat_holds(tmp_path):
    told(*MARSH)
    workshop = open_workshop()
    film = workshop.film("marsh-green")
    assert film.own.heat_c == (150, 160)
    assert film.own.least_stroke_mm == 0.8
    data = json.loads(told("press", job_on(tmp_path, "tee"), "--json"))
    assert data["garments"][0]["panels"][0]["layers"][0]["film"] == "marsh-green"


def test_what_is_ones_own_goes_along_in_an_export(tmp_path, monkeypatch):
    for words in (PLATE, CUTTER, MARSH):
        told(*words)
    before = own_things()
    told("workshop", "export", tmp_path / "all.zip")
    refused = run_command("workshop", "import", tmp_path / "all.zip")
    assert refused.returncode != 0
    assert "replaced" in refused.stderr
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "another"))
    assert not any(own_things().values())
    told("workshop", "import", tmp_path / "all.zip")
    assert own_things() == before
    assert "Cellar cutter" in told("workshop", "own")
    told("workshop", "remove", "press", "my-plate")
    assert not own_things()["press"]
    assert run_command("workshop", "remove", "press", "my-plate").returncode != 0


@pytest.mark.parametrize(
    "words",
    [
        (*PLATE[:4], "--kind", "oven", "--size", "9x9in"),
        (*PLATE[:4], "--kind", "plate", "--size", "nine"),
        (*PLATE[:4], "--kind", "plate", "--size", "5x5mm"),
        (*PLATE[:4], "--kind", "plate", "--size", "9x9in", "--margin", "200mm"),
        (*PLATE[:4], "--kind", "plate", "--size", "9x9in", "--heat", "200C-100C"),
        (*PLATE[:3], "...", "--kind", "plate", "--size", "9x9in"),
        (*CUTTER[:4], "--mats", "moon"),
        (*CUTTER[:4], "--mats", "12x12in", "--force", "350-10"),
        (*CUTTER[:4], "--mats", "12x12in", "--presets", " , "),
        (*CUTTER[:4], "--mats", "12x12in", "--steps", "1"),
        (*MARSH[:4], "--kind", "moss", "--colour", "#335522"),
        (*MARSH[:4], "--kind", "smooth", "--colour", "green"),
        (*MARSH[:4], "--kind", "smooth", "--colour", "#335522", "--stroke", "-1mm"),
    ],
)
def test_what_makes_no_sense_is_refused_in_a_sentence_and_nothing_is_written(words):
    done = run_command(*words)
    assert done.returncode != 0
    assert "did not expect" not in done.stderr
    assert len(done.stderr.strip()) > 20
    assert not any(own_things().values())


def test_a_hostile_file_in_an_export_is_refused_whole(tmp_path):
    import zipfile

    told(*PLATE)
    told("workshop", "export", tmp_path / "all.zip")
    with zipfile.ZipFile(tmp_path / "all.zip") as archive:
        rows = {name: archive.read(name) for name in archive.namelist()}
    rows["press.toml"] = b"[platens.x]\nname = 'X'\nheat_source = 'oven'\nwidth_mm = 1\nheight_mm = 1\n"
    with zipfile.ZipFile(tmp_path / "bad.zip", "w") as archive:
        for name, data in rows.items():
            archive.writestr(name, data)
    done = run_command("workshop", "import", tmp_path / "bad.zip", "--replace")
    assert done.returncode != 0
    assert "nothing was taken over" in done.stderr
    assert own_things()["press"]["my-plate"]["name"] == "My plate"


def test_ids_come_from_names_and_another_of_the_same_name_takes_its_place():
    assert id_of("My  Plate, 9 in") == "my-plate-9-in"
    keep_press("Plate", heat_source="plate", width_mm=200.0, height_mm=200.0)
    keep_press("Plate", heat_source="plate", width_mm=230.0, height_mm=230.0)
    ((_, one),) = read_presses().own
    assert one.width_mm == 230
    with pytest.raises(SettingsError):
        drop_thing("press", "another")
    keep_machine("M", {}, mats=("12x12in",))
    keep_film("F", "flock", "#112233")
    assert open_workshop().film("f").kind == "flock"
