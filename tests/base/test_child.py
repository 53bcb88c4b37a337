"""Processes of our own take no code from where they are started."""

import os
import subprocess
import sys
from pathlib import Path

import pytest

from zinnet.base.child import child_command, child_environment, child_folder
from zinnet.base.workers import Worker
from zinnet.nesting.running import WORKER

PLANTED = (
    "import os, pathlib\npathlib.Path(os.environ.get('HOME', '/nowhere'), 'ran').write_text('code of a stranger')\n"
)
"""A module as a stranger might leave it in a folder of artwork."""


@pytest.fixture
def stranger(tmp_path, monkeypatch):
    """Work in a folder that holds modules with the names of those that are needed; return what they would write."""
    folder, home = tmp_path / "artwork", tmp_path / "home"
    folder.mkdir()
    home.mkdir()
    for name in ("numpy", "shapely", "json", "logging", "zinnet_hook", "sitecustomize", "usercustomize", "typer"):
        (folder / f"{name}.py").write_text(PLANTED)
    monkeypatch.chdir(folder)
    monkeypatch.setenv("HOME", str(home))
    monkeypatch.setenv("PYTHONSTARTUP", str(folder / "numpy.py"))
    monkeypatch.setenv("PYTHONPATH", "")
    return home / "ran"


def test_a_worker_runs_nothing_of_the_folder_it_is_started_in(stranger):
    worker = Worker(WORKER)
    try:
        worker.process.stdin.close()
        worker.process.wait()
        assert "Traceback" in worker.complaints(), "it came as far as reading its task"
        assert not stranger.exists()
    finally:
        worker.close()


@pytest.mark.parametrize("path", ["", ":", "."])
def test_neither_does_a_child_whatever_the_search_path_says(stranger, monkeypatch, path):
    monkeypatch.setenv("PYTHONPATH", path)
    told = child_command("zinnet.nesting.worker")
    subprocess.run(told, input=b"", capture_output=True, check=False, env=dict(os.environ))
    assert not stranger.exists()


def test_zinnet_itself_started_as_a_module_runs_nothing_of_the_folder(stranger):
    source = str(Path(child_folder()).parent)
    done = subprocess.run(
        [sys.executable, "-m", "zinnet", "--help"],
        capture_output=True,
        text=True,
        check=False,
        env={**os.environ, "PYTHONPATH": source},
    )
    assert done.returncode == 0, done.stderr
    assert not stranger.exists()


def test_a_child_is_told_little(monkeypatch):
    monkeypatch.setenv("PYTHONSTARTUP", "x.py")
    monkeypatch.setenv("LD_PRELOAD", "x.so")
    monkeypatch.setenv("LC_ALL", "C.UTF-8")
    told = child_environment()
    assert not {"PYTHONSTARTUP", "PYTHONPATH", "LD_PRELOAD"} & set(told)
    assert told["LC_ALL"] == "C.UTF-8"
