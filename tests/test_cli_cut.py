"""The commands of the cutter, run as a user runs them."""

import os
import signal
import subprocess
import sys

import pytest

from tests.helpers import document_of, nested
from tests.helpers import run_command as run
from zinnet.cli import main
from zinnet.job.edits import override_side, set_copies, set_placement

BOX = '<rect width="60" height="40" fill="#f4ead5"/><circle cx="80" cy="20" r="12" fill="#f4ead5"/>'
ZINNET = (sys.executable, "-m", "zinnet")


def stand_in(*words):
    """Start the stand-in in a process of its own."""
    told = [*ZINNET, "cutter", "--times", "0", *map(str, words)]
    return subprocess.Popen(told, stdout=subprocess.PIPE, text=True, env={**os.environ, "PYTHONUNBUFFERED": "1"})


@pytest.fixture
def job(tmp_path):
    document = nested(document_of(BOX, set_placement("x", width_mm=120.0), set_copies(2)))
    document.save(tmp_path / "tees.zinnet")
    return tmp_path / "tees.zinnet"


@pytest.fixture
def wrong_job(tmp_path):
    document = nested(document_of(BOX, override_side("cream", False, "I said so")))
    document.save(tmp_path / "wrong.zinnet")
    return tmp_path / "wrong.zinnet"


@pytest.fixture
def port():
    """A stand-in in a process of its own; its port."""
    process = stand_in()
    try:
        yield process.stdout.readline().strip()
    finally:
        process.send_signal(signal.SIGINT)
        process.wait(10)


def test_cut_writes_every_format_and_names_what_it_wrote(job, tmp_path):
    done = run("cut", job, "--format", "svg,dxf,hpgl,pdf,png", "--out", tmp_path / "out")
    assert done.returncode == 0
    names = {line.rsplit("/", 1)[1] for line in done.stdout.split()}
    assert names == {f"mat-01-cream.{ending}" for ending in ("svg", "dxf", "plt", "pdf", "png")} | {"job-sheet.pdf"}
    assert {path.name for path in (tmp_path / "out").iterdir()} == names


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["--format", "dwg"], "no format “dwg”"),
        (["--mat", "9"], "no mat 9"),
        (["--machine", "loom"], "no machine “loom”"),
        (["--knife-offset", "-1mm"], "less than zero"),
        (["--pass", "wrong-cut-side=I know"], "no such stop is open"),
        (["--pass", "wrong-cut-side"], "has no reason"),
    ],
)
def test_what_can_not_be_is_one_sentence(job, tmp_path, words, said, monkeypatch, capsys):
    monkeypatch.setattr(sys, "argv", ["zinnet", "cut", str(job), "--out", str(tmp_path / "out"), *words])
    with pytest.raises(SystemExit) as ended:
        main()
    assert ended.value.code == 2
    error = capsys.readouterr().err
    assert said in error
    assert error.count("\n") == 1


def test_a_wrong_side_is_written_and_sent_only_with_an_override(wrong_job, tmp_path, port):
    out = tmp_path / "out"
    for words in (("cut", wrong_job, "--out", out), ("send", wrong_job, "--mat", 1, "--port", port, "--loaded")):
        done = run(*words)
        assert done.returncode == 2
        assert "wrong-cut-side" in done.stderr
    assert not out.exists()
    passed = ("--pass", "wrong-cut-side=its maker says so")
    assert run("cut", wrong_job, "--out", out, *passed).returncode == 0
    assert run("send", wrong_job, "--mat", 1, "--port", port, "--loaded", *passed).returncode == 0


def test_a_mat_is_sent_to_the_port_that_the_stand_in_prints(job, port):
    done = run("send", job, "--mat", 1, "--port", port)
    assert done.returncode == 2
    assert "Confirm first how mat" in done.stderr
    done = run("send", job, "--mat", 1, "--port", port, "--loaded")
    assert done.returncode == 0
    assert "carrier down, film up" in done.stdout
    assert "All 4 lines are cut" in done.stdout
    assert "Bend the mat" in done.stdout
    again = run("send", job, "--mat", 1, "--port", port, "--loaded")
    assert again.returncode == 2
    assert "cut already" in again.stderr
    assert run("send", job, "--mat", 1, "--port", port, "--loaded", "--afresh").returncode == 0


def test_after_a_break_the_rest_is_sent_and_nothing_behind_ones_back(job, tmp_path):
    process = stand_in("--fail", "jam@200", "--draw", tmp_path / "cut.svg")
    done = run("send", job, "--mat", 1, "--port", process.stdout.readline().strip(), "--loaded")
    process.send_signal(signal.SIGINT)
    rest, _ = process.communicate(timeout=10)
    assert done.returncode == 1
    assert "in doubt" in done.stderr
    assert "It failed: jam" in rest
    assert (tmp_path / "cut.svg").read_text().startswith("<svg")
    whole = stand_in()
    name = whole.stdout.readline().strip()
    refused = run("send", job, "--mat", 1, "--port", name, "--loaded")
    assert refused.returncode == 2
    assert "nobody knows" in refused.stderr
    again = run("send", job, "--mat", 1, "--port", name, "--loaded", "--again")
    whole.send_signal(signal.SIGINT)
    whole.wait(10)
    assert again.returncode == 0
    assert "begun before" in again.stdout


def test_a_port_that_is_not_there_is_said(job):
    done = run("send", job, "--mat", 1, "--port", "/dev/nowhere", "--loaded")
    assert done.returncode == 1
    assert "/dev/nowhere" in done.stderr


def test_the_stand_in_says_what_it_can_not_be(tmp_path):
    assert "no kind of film" in run("cutter", "--film", "paper").stderr
    assert "--fail cough" in run("cutter", "--fail", "cough").stderr
    done = run("cutter", "--seconds", "0.2")
    assert done.returncode == 0
    assert "0 strokes" in done.stdout


def test_test_cuts_are_written_down_and_the_next_try_is_proposed():
    first = run("testcut", "cream")
    assert "typical, to begin with" in first.stdout.lower()
    second = run("testcut", "cream", "--outcome", "not through")
    assert "more force" in second.stdout
    third = run("testcut", "cream", "--outcome", "clean", "--force", "150")
    assert "150 g" in third.stdout
    assert "clean 1 of 1" in third.stdout
    assert "Blade 1 is in" in run("testcut", "cream", "--new-blade").stdout
    assert "no result" in run("testcut", "cream", "--outcome", "lovely").stderr
    assert "no film" in run("testcut", "gone").stderr
