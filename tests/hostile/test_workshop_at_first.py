"""A workshop that is made or upgraded while the program is killed, or by two programs at once."""

import sqlite3
import subprocess
import sys
import time
from contextlib import closing

import pytest

from tests.helpers import cases
from zinnet.workshop.migrations import HEAD, upgrade
from zinnet.workshop.store import WorkshopStore

OPENER = (
    "import sys; from pathlib import Path; from zinnet.workshop.store import WorkshopStore\n"
    "import alembic.command, sqlalchemy\n"
    "print('ready', flush=True); sys.stdin.readline()\n"
    "WorkshopStore(Path(sys.argv[1])).blanks()"
)


def opener(path):
    """Start a program that will open a workshop when it is told; it has all that it needs in memory by then."""
    pipes = {"stdin": subprocess.PIPE, "stdout": subprocess.PIPE, "stderr": subprocess.PIPE}
    process = subprocess.Popen([sys.executable, "-c", OPENER, str(path)], text=True, **pipes)
    process.stdout.readline()
    return process


def is_whole(path):
    with closing(sqlite3.connect(path)) as connection:
        (sound,) = connection.execute("PRAGMA integrity_check").fetchone()
        (revision,) = connection.execute("SELECT version_num FROM alembic_version").fetchone()
    return sound == "ok" and revision == HEAD and WorkshopStore(path).blanks() == []


@pytest.mark.parametrize("case", range(cases(2, 120)))
def test_a_kill_while_it_is_made_leaves_one_that_is_made_the_next_time(case, tmp_path):
    path = tmp_path / "workshop.sqlite"
    process = opener(path)
    process.stdin.write("\n")
    process.stdin.flush()
    time.sleep(0.02 + 0.03 * case)
    process.kill()
    process.communicate()
    assert WorkshopStore(path).blanks() == []
    assert is_whole(path)


def test_a_step_that_breaks_leaves_nothing_of_those_before_it(tmp_path, monkeypatch):
    from alembic import op

    path = tmp_path / "workshop.sqlite"
    made = []
    usual = op.create_table

    def breaks(name, *words, **options):
        made.append(name)
        if len(made) == 4:
            raise sqlite3.OperationalError("killed")
        return usual(name, *words, **options)

    monkeypatch.setattr(op, "create_table", breaks)
    with pytest.raises(sqlite3.OperationalError, match="killed"):
        upgrade(path, 1.0)
    monkeypatch.undo()
    with closing(sqlite3.connect(path)) as connection:
        assert connection.execute("SELECT name FROM sqlite_master").fetchall() == []
    assert WorkshopStore(path).blanks() == []
    assert is_whole(path)


@pytest.mark.long
@pytest.mark.parametrize("case", range(cases(2, 60)))
def test_two_programs_that_open_it_first_both_can(case, tmp_path):
    path = tmp_path / "workshop.sqlite"
    programs = [opener(path), opener(path)]
    for program in programs:
        program.stdin.write("\n")
        program.stdin.flush()
    for program in programs:
        _, complaints = program.communicate()
        assert program.returncode == 0, complaints
    assert is_whole(path)
