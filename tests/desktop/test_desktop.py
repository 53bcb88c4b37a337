"""Zinnet among the desktop's programs, and the wheel that brings all its data."""

import configparser
import re
import shutil
import subprocess
import sys
import xml.etree.ElementTree as ET
import zipfile
from pathlib import Path

import pytest

from tests.helpers import run_command
from zinnet.cli.group import COMMANDS
from zinnet.data import path_of
from zinnet.desktop.entry import (
    APP,
    COMPLETION,
    PLACES,
    completion,
    put_among_programs,
    take_out,
)

ROOT = Path(__file__).parents[2]


def test_everything_is_written_below_the_data_folder_and_taken_out_again(tmp_path):
    written = put_among_programs("/opt/some where/zinnet", tmp_path)
    assert {path.relative_to(tmp_path).as_posix() for path in written} == {*PLACES.values(), COMPLETION}
    entry = configparser.ConfigParser(interpolation=None)
    entry.optionxform = str
    entry.read(tmp_path / "applications" / f"{APP}.desktop", encoding="utf-8")
    assert entry["Desktop Entry"]["Exec"] == '"/opt/some where/zinnet" open %f'
    assert entry["Desktop Entry"]["Icon"] == APP
    assert set(take_out(tmp_path)) == set(written)
    assert take_out(tmp_path) == []


def test_the_kind_of_file_is_that_of_the_entry():
    space = "{http://www.freedesktop.org/standards/shared-mime-info}"
    kind = ET.parse(path_of("desktop", f"{APP}.mime.xml")).getroot().find(f"{space}mime-type")
    assert kind.find(f"{space}glob").get("pattern") == "*.zinnet"
    assert f"MimeType={kind.get('type')};" in path_of("desktop", f"{APP}.desktop").read_text()


@pytest.mark.skipif(shutil.which("desktop-file-validate") is None, reason="desktop-file-utils is not installed")
def test_the_entry_is_valid():
    done = subprocess.run(
        ["desktop-file-validate", path_of("desktop", f"{APP}.desktop")], capture_output=True, text=True
    )
    assert (done.returncode, done.stdout) == (0, "")


@pytest.mark.skipif(shutil.which("appstreamcli") is None, reason="appstream is not installed")
def test_the_software_centres_page_is_valid():
    told = ["appstreamcli", "validate", "--no-net", "--pedantic", path_of("desktop", f"{APP}.metainfo.xml")]
    done = subprocess.run(told, capture_output=True, text=True)
    assert done.returncode == 0, done.stdout


def test_the_man_page_names_every_command():
    page = path_of("desktop", "zinnet.1").read_text()
    assert [name for name in sorted({*COMMANDS, "open", "demo"}) if not re.search(rf"\b{name}\b", page)] == []


def test_a_shell_is_told_how_a_command_goes_on():
    assert "_ZINNET_COMPLETE=complete_bash" in completion()
    asked = {"_ZINNET_COMPLETE": "complete_bash", "COMP_WORDS": "zinnet sche", "COMP_CWORD": "1", "PATH": "/usr/bin"}
    told = [sys.executable, "-c", "from zinnet.cli import main; main()"]
    done = subprocess.run(told, env=asked, capture_output=True, text=True)
    assert done.stdout.split() == ["schedule"], done.stderr


def test_the_command_writes_and_removes(tmp_path):
    found = run_command("desktop", "--folder", tmp_path)
    assert found.returncode == 0, found.stderr
    assert (tmp_path / "man/man1/zinnet.1").exists()
    assert run_command("desktop", "--folder", tmp_path, "--remove").stdout.count("taken out") == len(PLACES) + 1


def test_the_wheel_brings_all_data(tmp_path):
    source = tmp_path / "source"
    shutil.copytree(ROOT / "src", source / "src", ignore=shutil.ignore_patterns("__pycache__", "*.egg-info"))
    for name in ("pyproject.toml", "README.md", "LICENSE", "requirements.txt"):
        shutil.copy(ROOT / name, source / name)
    told = [
        sys.executable,
        "-m",
        "pip",
        "wheel",
        "-q",
        "--no-deps",
        "--no-build-isolation",
        "-w",
        str(tmp_path),
        str(source),
    ]
    done = subprocess.run(told, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    (wheel,) = tmp_path.glob("*.whl")
    names = set(zipfile.ZipFile(wheel).namelist())
    shipped = {
        f"zinnet/{path.relative_to(ROOT / 'src' / 'zinnet').as_posix()}"
        for path in (ROOT / "src" / "zinnet").rglob("*")
        if path.is_file() and "__pycache__" not in path.parts
    }
    assert shipped - names == set()
    assert any(name.endswith("entry_points.txt") for name in names)
