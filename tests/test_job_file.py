"""Job files: whole or not at all, and nothing hostile comes in."""

import json
import os
import random
import signal
import subprocess
import sys
import time
import zipfile

import pytest

from tests.helpers import LANTERN, RED_AND_BLUE, cases, crashed, document_of, first_of, nested, run_command, svg
from zinnet.artwork.source import source_of
from zinnet.base.errors import JobFileError
from zinnet.bench.automatic_copy import AutomaticCopy
from zinnet.bench.document import Document
from zinnet.bench.recent import MOST_RECENT, picture_of, recent_jobs, remember_job
from zinnet.blanks.catalogue import read_blank_name
from zinnet.data import read_bytes
from zinnet.job.edits import (
    add_design,
    add_source,
    choose_blank,
    choose_film,
    set_copies,
    set_measure,
    set_placement,
    set_sizes,
)
from zinnet.job.file import load_job, save_job
from zinnet.job.model import SCHEMA, Job
from zinnet.plan.older import seen_since
from zinnet.workshop.model import standard_workshop


@pytest.fixture
def saved(tmp_path):
    document = nested(document_of(LANTERN, set_measure("chest", 520.0), set_copies(2)))
    document.save(tmp_path / "walk.zinnet")
    return document, tmp_path / "walk.zinnet"


def test_a_job_comes_back_as_it_was_with_its_nests(saved):
    document, path = saved
    again = Document.open(path, standard_workshop())
    assert again.job == document.job
    assert again.plan.is_nested
    assert [mat.layout for mat in again.plan.mats] == [mat.layout for mat in document.plan.mats] != []
    assert not again.is_changed


def rewritten(path, **entries):
    with zipfile.ZipFile(path) as archive:
        kept = {name: archive.read(name) for name in archive.namelist()}
    kept.update({name.replace("__", "/").replace("_json", ".json"): data for name, data in entries.items()})
    with zipfile.ZipFile(path, "w") as archive:
        for name, data in kept.items():
            if data is not None:
                archive.writestr(name, data)


def job_with(path, **fields):
    with zipfile.ZipFile(path) as archive:
        data = json.loads(archive.read("job.json"))
    data.update(fields)
    return json.dumps(data)


def test_a_job_of_the_first_schema_is_brought_up_to_date(saved):
    _, path = saved
    with zipfile.ZipFile(path) as archive:
        new = json.loads(archive.read("job.json"))
    old = {
        "schema_version": 1,
        "title": "Old walk",
        "blank": {"kind": "tee-adult", "measured": [{"name": "chest", "mm": 510.0}], "colour": None},
        "artwork": new["designs"][0]["source"]["file"],
        "placement": {
            "place": "full-front", "school": "inch", "width_mm": 200.0, "from_centre_mm": 3.0, "below_collar_mm": 33.0,
            "turn_deg": 0.0,
        },
        "copies": 7,
    }  # fmt: skip
    rewritten(path, job_json=json.dumps(old))
    job = Document.open(path, standard_workshop()).job
    assert (job.schema_version, job.title, job.copies) == (SCHEMA, "Old walk", 7)
    assert job.layers.method == "cut-away"
    assert not job.nesting.inside_counters
    assert (job.blank.kind, job.blank.size, job.blank.measured[0].mm) == ("tee", "adult-m", 510.0)
    placement = job.designs[0].placement
    assert (placement.school, placement.width_mm, placement.from_centre_mm, placement.from_reference_mm) == (
        "inch",
        200,
        3,
        33,
    )


def test_an_older_job_opens_as_it_was_and_what_was_not_looked_for_then_is_said(tmp_path):
    square = '<rect width="40" height="40" fill="#d62828"/>'
    document = document_of(square, set_placement("x", width_mm=80.0, from_reference_mm=70.0))
    document.apply(add_design("again.svg", svg(square.replace("#d62828", "#1f57c3"))))
    document.apply(set_placement("x", design=1, place="full-front", width_mm=60.0, from_reference_mm=90.0))
    for colour, film in (("#d62828", "gold-glitter"), ("#1f57c3", "rose-glitter")):
        document.apply(choose_film(colour, film))
    path = tmp_path / "old.zinnet"
    document.save(path)
    assert seen_since(Document.open(path, standard_workshop()).plan) == ""
    rewritten(path, job_json=job_with(path, schema_version=9))
    old = Document.open(path, standard_workshop())
    assert old.job.designs == document.job.designs
    assert "did not look for: designs lie on one another" in seen_since(old.plan)
    assert "did not look for" in run_command("check", path).stderr
    old.save(path)
    assert "from_schema" not in job_with(path)
    assert seen_since(Document.open(path, standard_workshop()).plan) == ""


def test_a_picture_of_an_older_job_stays_traced_also_on_a_blank_that_is_printed(tmp_path):
    document = Document(standard_workshop())
    document.apply(choose_blank(read_blank_name("mug")))
    document.apply(add_source("photo", source_of("photo.jpg", read_bytes("demo", "lantern-photo.jpg"))))
    assert first_of(document.plan).artwork.whole_picture
    path = tmp_path / "old.zinnet"
    document.save(path)
    with zipfile.ZipFile(path) as archive:
        data = json.loads(archive.read("job.json"))
    del data["designs"][0]["source"]["trace"]["taken"]
    rewritten(path, job_json=json.dumps(data | {"schema_version": 14}))
    assert not first_of(Document.open(path, standard_workshop()).plan).artwork.whole_picture


def test_several_designs_and_sizes_come_back(tmp_path):
    document = document_of(
        LANTERN,
        add_design("back.svg", svg(RED_AND_BLUE), "full-back"),
        set_sizes((("toddler", 3),)),
        set_placement("x", design=1, size="toddler", width_mm=90.0),
    )
    document.save(tmp_path / "two.zinnet")
    again = Document.open(tmp_path / "two.zinnet", standard_workshop())
    assert again.job == document.job
    assert again.plan.garments[1].designs[1].word_width_mm == 90


def broken_files(path):
    yield lambda: path.write_bytes(b""), "not a whole job file"
    yield lambda: path.write_bytes(b"PK\x03\x04 nonsense"), "not a whole job file"
    yield lambda: path.write_bytes(path.read_bytes()[: path.stat().st_size // 2]), "not a whole job file"
    yield lambda: rewritten(path, job_json=b"{"), "is not JSON"
    yield lambda: rewritten(path, job_json=b"[" * 100_000), "is not JSON"
    yield lambda: rewritten(path, job_json=None), "holds no job.json"
    yield lambda: rewritten(path, job_json=job_with(path, schema_version=99)), "newer Zinnet \\(schema 99"
    yield lambda: rewritten(path, job_json=job_with(path, schema_version="x")), "no schema_version"
    yield lambda: rewritten(path, job_json=job_with(path, copies=-3)), "copies"
    yield lambda: rewritten(path, job_json=job_with(path, surprise=1)), "surprise"
    yield lambda: rewritten(path, artwork__original=b"<svg/>"), "not the one that was saved"
    yield lambda: rewritten(path, artwork__original=None), "artwork is missing"
    yield lambda: rewritten(path, **{"../../evil": b"x"}), "points outside"
    yield lambda: rewritten(path, **{"/etc/evil": b"x"}), "points outside"
    yield lambda: path.unlink(), "There is no file"


@pytest.mark.parametrize("number", range(15))
def test_broken_and_hostile_files_are_refused_with_a_sentence(saved, number):
    _, path = saved
    break_it, says = list(broken_files(path))[number]
    break_it()
    with pytest.raises(JobFileError, match=says):
        load_job(path)
    assert not (path.parent.parent / "evil").exists()


def test_a_file_that_swells_is_not_unpacked(saved):
    _, path = saved
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("job.json", b"0" * 200_000_000)
    with pytest.raises(JobFileError, match="more than 20 MB"):
        load_job(path)


def test_any_flipped_byte_gives_the_job_or_a_sentence(saved):
    document, path = saved
    data = path.read_bytes()
    rng = random.Random(4)
    for _ in range(80):
        at = rng.randrange(len(data))
        path.write_bytes(data[:at] + bytes([data[at] ^ (1 << rng.randrange(8))]) + data[at + 1 :])
        try:
            job, _ = load_job(path)
        except JobFileError:
            continue
        assert job == document.job


def test_unreadable_nests_are_left_out(saved):
    document, path = saved
    rewritten(path, layouts_json=b"{broken")
    job, layouts = load_job(path)
    assert job == document.job
    assert layouts == {}


SAVER = """
import sys
from pathlib import Path
from zinnet.job.file import load_job, save_job
path = Path(sys.argv[1])
job, layouts = load_job(path)
other = type(job)(**{**{n: getattr(job, n) for n in type(job).model_fields}, "title": "other"})
print("ready", flush=True)
while True:
    save_job(path, other, layouts)
    save_job(path, job, layouts)
"""


def test_a_kill_while_saving_leaves_the_old_or_the_new_file(saved):
    document, path = saved
    rng = random.Random(2)
    for _ in range(cases(3, 30)):
        process = subprocess.Popen([sys.executable, "-c", SAVER, str(path)], stdout=subprocess.PIPE)
        process.stdout.readline()
        time.sleep(rng.uniform(0.0, 0.03))
        os.kill(process.pid, signal.SIGKILL)
        process.wait()
        process.stdout.close()
        job, layouts = load_job(path)
        assert job.title in (document.job.title, "other")
        assert layouts


def test_a_folder_that_can_not_be_written_is_named(saved, tmp_path):
    document, _ = saved
    with pytest.raises(JobFileError, match="can't be written"):
        document.save(tmp_path / "nowhere" / "x.zinnet")


def test_undo_and_redo_go_through_all_steps():
    document = document_of(LANTERN)
    for chest in (500.0, 510.0, 520.0):
        document.apply(set_measure("chest", chest))
    for mm in range(5):
        document.apply(set_placement("move", merge="move", from_centre_mm=float(mm + 1)))
    assert document.undo_name == "move"
    document.undo()
    assert document.job.designs[0].placement.from_centre_mm is None
    document.undo()
    assert document.plan.blank.measures["chest"] == 510
    document.redo()
    document.redo()
    assert document.job.designs[0].placement.from_centre_mm == 5
    while document.undo_name:
        document.undo()
    assert document.job.designs == ()


def test_an_edit_that_fails_changes_nothing():
    from zinnet.base.errors import BlankError

    document = Document(standard_workshop())
    before = document.job, document.plan
    with pytest.raises(BlankError):
        document.apply(set_measure("chest", 5.0))
    assert (document.job, document.plan) == before
    assert document.undo_name is None


def test_the_automatic_copy_is_found_after_a_crash(tmp_path):
    document = document_of(LANTERN)
    copy = AutomaticCopy(tmp_path / "copies")
    copy.keep(document.job)
    assert copy.left_behind() == []
    other = AutomaticCopy(tmp_path / "copies")
    assert other.left_behind() == []
    crashed(copy)
    assert [(one.path, one.title) for one in other.left_behind()] == [(copy.path, document.job.title)]
    assert Document.open(copy.path, standard_workshop()).job == document.job
    copy.drop()
    assert other.left_behind() == []


def test_jobs_opened_last_are_remembered(tmp_path):
    for name in ("a", "b", "a"):
        path = tmp_path / f"{name}.zinnet"
        path.write_text("x")
        remember_job(path)
    assert [path.stem for path in recent_jobs()] == ["a", "b"]


def test_what_was_a_small_press_of_five_inches_is_a_plate_now(tmp_path):
    path = tmp_path / "old.zinnet"
    save_job(path, Job(), {})
    old = {**json.loads(Job().model_dump_json()), "schema_version": 13, "platen": "hand-5x5"}
    rewritten(path, job_json=json.dumps(old))
    assert load_job(path)[0].platen == "plate-5x5"


def test_a_recent_job_keeps_its_picture_as_long_as_it_is_one_of_them(tmp_path):
    paths = [tmp_path / f"{number}.zinnet" for number in range(MOST_RECENT + 1)]
    for path in paths:
        path.write_bytes(b"")
    remember_job(paths[0], b"first")
    remember_job(paths[0])
    assert picture_of(paths[0]).read_bytes() == b"first"
    for path in paths[1:]:
        remember_job(path, b"other")
    assert not picture_of(paths[0]).exists()
    assert all(picture_of(path).read_bytes() == b"other" for path in paths[1:])
