"""Writing a file whole: the old one or the new one, its mode kept, nothing left beside it."""

import os
import stat
import subprocess
import sys
import time

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zinnet.base.errors import SettingsError, ZinnetError
from zinnet.base.files import write_whole


@given(st.binary(max_size=2000), st.binary(max_size=2000))
def test_what_is_written_is_what_is_read_whatever_was_there(tmp_path_factory, before, after):
    path = tmp_path_factory.mktemp("files") / "deep" / "walk.bin"
    assert write_whole(path, before) == path
    write_whole(path, after)
    assert path.read_bytes() == after
    assert [one.name for one in path.parent.iterdir()] == ["walk.bin"]


@pytest.mark.parametrize("step", ["write", "fsync", "replace"])
def test_a_break_at_any_step_leaves_the_old_file_and_nothing_beside_it(tmp_path, monkeypatch, step):
    path = write_whole(tmp_path / "walk.bin", b"old")

    def breaks(*_):
        raise OSError(28, "No space left on device")

    if step == "write":
        monkeypatch.setattr("os.fchmod", breaks)
    else:
        monkeypatch.setattr(f"os.{step}", breaks)
    with pytest.raises(SettingsError, match=r"walk\.bin can't be written: No space left"):
        write_whole(path, b"new", error=SettingsError)
    monkeypatch.undo()
    assert path.read_bytes() == b"old"
    assert [one.name for one in tmp_path.iterdir() if one.is_file()] == ["walk.bin"]


def test_the_mode_is_kept_and_a_stranger_can_not_plant_the_file_that_is_written_first(tmp_path):
    secret = tmp_path / "secret"
    secret.write_bytes(b"untouched")
    (tmp_path / ".walk.bin.part").symlink_to(secret)
    path = write_whole(tmp_path / "walk.bin", b"one")
    path.chmod(0o640)
    write_whole(path, b"two")
    assert stat.S_IMODE(path.stat().st_mode) == 0o640
    assert secret.read_bytes() == b"untouched"


def test_a_link_that_leads_round_in_a_circle_is_refused_in_a_sentence(tmp_path):
    one, other = tmp_path / "one", tmp_path / "other"
    one.symlink_to(other)
    other.symlink_to(one)
    with pytest.raises(ZinnetError, match="can't be written"):
        write_whole(one, b"x")


def test_a_folder_in_the_place_of_the_file_is_refused_and_stays(tmp_path):
    (tmp_path / "walk").mkdir()
    with pytest.raises(ZinnetError, match="can't be written"):
        write_whole(tmp_path / "walk", b"x")
    assert os.listdir(tmp_path) == ["walk"]


def test_a_write_protected_file_is_refused_and_stays(tmp_path):
    path = write_whole(tmp_path / "walk.bin", b"one")
    path.chmod(0o444)
    with pytest.raises(ZinnetError, match="write-protected"):
        write_whole(path, b"two")
    assert path.read_bytes() == b"one"


def test_a_pipe_in_the_place_of_the_file_is_refused_and_waited_for_by_nobody(tmp_path):
    os.mkfifo(tmp_path / "walk.bin")
    with pytest.raises(ZinnetError, match="something else than a file"):
        write_whole(tmp_path / "walk.bin", b"one")
    assert stat.S_ISFIFO((tmp_path / "walk.bin").stat().st_mode)


def test_what_breaks_left_is_swept_and_what_is_being_written_is_not(tmp_path):
    old, new, other = (tmp_path / name for name in (".walk.bin.aa.part", ".walk.bin.bb.part", ".other.bin.aa.part"))
    for one in (old, new, other):
        one.write_bytes(b"half")
    long_ago = time.time() - 3600
    for one in (old, other):
        os.utime(one, (long_ago, long_ago))
    write_whole(tmp_path / "walk.bin", b"whole")
    assert sorted(one.name for one in tmp_path.iterdir()) == [".other.bin.aa.part", ".walk.bin.bb.part", "walk.bin"]


@pytest.mark.skipif(os.getuid() != 0, reason="only the superuser gives files away")
def test_the_owner_is_kept(tmp_path):
    path = write_whole(tmp_path / "walk.bin", b"one")
    os.chown(path, 1234, 1235)
    write_whole(path, b"two")
    assert (path.stat().st_uid, path.stat().st_gid) == (1234, 1235)


def test_two_processes_write_one_file_and_whoever_reads_it_reads_a_whole_one(tmp_path):
    path = write_whole(tmp_path / "walk.bin", b"a" * 200_000)
    code = (
        "import sys; from pathlib import Path; from zinnet.base.files import write_whole\n"
        "for _ in range(150): write_whole(Path(sys.argv[1]), sys.argv[2].encode() * 200_000)"
    )
    writers = [subprocess.Popen([sys.executable, "-c", code, str(path), letter]) for letter in "ab"]
    reads = 0
    while any(writer.poll() is None for writer in writers):
        data = path.read_bytes()
        assert len(data) == 200_000
        assert len(set(data)) == 1
        reads += 1
    assert [writer.returncode for writer in writers] == [0, 0]
    assert reads > 5
    assert [one.name for one in tmp_path.iterdir()] == ["walk.bin"]
