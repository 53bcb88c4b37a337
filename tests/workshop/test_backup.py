"""Backups of the workshop: made by themselves, put back after damage, never in the way."""

import datetime
import os
import sqlite3

import pytest

from zinnet.base.errors import WorkshopError
from zinnet.workshop import backup
from zinnet.workshop.stock import Stock, StockItem
from zinnet.workshop.store import WorkshopStore

ROLL = StockItem(film="white", kind="roll", width_mm=305, length_mm=5000)


@pytest.fixture
def path(tmp_path):
    Stock(WorkshopStore(tmp_path / "workshop.sqlite")).add([ROLL])
    return tmp_path / "workshop.sqlite"


def test_one_copy_a_day_is_made_when_the_workshop_is_opened(path):
    assert backup.backups(path) == []
    Stock(WorkshopStore(path)).items()
    Stock(WorkshopStore(path)).items()
    (copy,) = backup.backups(path)
    assert datetime.date.today().isoformat() in copy.name


def test_only_the_last_copies_are_kept(path):
    for day in range(1, 25):
        backup.back_up(path, datetime.date(2031, 5, day))
    kept = backup.backups(path)
    assert len(kept) == backup.KEPT
    assert kept[0].name.endswith("2031-05-24.sqlite")


@pytest.mark.parametrize("damage", ["rubbish", "cut short", "gone"])
def test_a_damaged_workshop_is_put_back_from_its_copy(path, damage):
    Stock(WorkshopStore(path)).items()
    for suffix in ("-wal", "-shm"):
        path.with_name(path.name + suffix).unlink(missing_ok=True)
    if damage == "rubbish":
        path.write_bytes(os.urandom(5000))
    elif damage == "cut short":
        path.write_bytes(path.read_bytes()[:2500])
    else:
        path.unlink()
    if damage != "gone":
        with pytest.raises(WorkshopError, match="restore"):
            Stock(WorkshopStore(path)).items()
    backup.restore(path)
    assert [item.length_mm for item in Stock(WorkshopStore(path)).items()] == [5000]
    if damage != "gone":
        assert list(path.parent.glob("*.aside-*")), "what was there is kept"


def test_a_damaged_file_never_becomes_a_copy(path):
    path.write_bytes(b"no database at all" * 50)
    assert backup.back_up(path) is None
    assert backup.backups(path) == []


def test_a_damaged_copy_is_passed_over(path):
    backup.back_up(path, datetime.date(2031, 5, 1))
    backup.back_up(path, datetime.date(2031, 5, 2))
    newest = backup.backups(path)[0]
    newest.write_bytes(b"rubbish" * 100)
    assert backup.restore(path).name.endswith("2031-05-01.sqlite")
    with pytest.raises(WorkshopError, match="no sound backup"):
        backup.restore(path, newest)


def test_without_any_copy_it_is_said(tmp_path):
    with pytest.raises(WorkshopError, match="no sound backup"):
        backup.restore(tmp_path / "workshop.sqlite")


def test_a_copy_that_can_not_be_written_keeps_nobody_from_working(path, monkeypatch):
    def full(*arguments):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(backup.os, "replace", full)
    assert [item.number for item in Stock(WorkshopStore(path)).items()] == [1]


def test_a_full_disk_is_said_and_nothing_is_lost(path, monkeypatch):
    real = sqlite3.connect

    class Full(sqlite3.Connection):
        def execute(self, sql, *arguments):
            return super().execute(sql, *arguments)

    connection = real(path)
    pages = connection.execute("PRAGMA page_count").fetchone()[0]
    connection.close()

    def limited(*arguments, **options):
        opened = real(*arguments, **options)
        opened.execute(f"PRAGMA max_page_count={pages}")  # the file may not grow: SQLite's own "disk is full"
        return opened

    monkeypatch.setattr(sqlite3, "connect", limited)
    monkeypatch.setattr(sqlite3.dbapi2, "connect", limited)
    stock = Stock(WorkshopStore(path))
    with pytest.raises(WorkshopError, match="full"):
        stock.add([ROLL.model_copy(update={"note": "x" * 2000})] * 200)
    monkeypatch.undo()
    assert [item.number for item in Stock(WorkshopStore(path)).items()] == [1]
