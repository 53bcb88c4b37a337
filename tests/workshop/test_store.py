"""The workshop's file and the user's habits."""

import sqlite3
import threading

import pytest

from zinnet.base.errors import SettingsError, WorkshopError
from zinnet.blanks.model import BlankSpec, Measure
from zinnet.placement.place import Habits
from zinnet.workshop.habits import read_habits, write_habits
from zinnet.workshop.store import WorkshopStore

HOODIE = BlankSpec(kind="hoodie", size="adult-m", measured=(Measure(name="chest", mm=571.0),), fabric="65 % cotton")


@pytest.fixture
def store(tmp_path):
    return WorkshopStore(tmp_path / "data" / "workshop.sqlite")


def test_a_measured_blank_is_kept_and_offered_again(store):
    assert store.blanks() == []
    store.keep_blank("my 65 % cotton hoodie, M", HOODIE)
    again = WorkshopStore(store.path)
    (kept,) = again.blanks()
    assert kept.name == "my 65 % cotton hoodie, M"
    assert kept.spec == HOODIE


def test_one_of_the_same_name_is_replaced_and_one_can_be_taken_out(store):
    store.keep_blank("hoodie", HOODIE)
    store.keep_blank("  hoodie ", HOODIE.model_copy(update={"colour": "#000000"}))
    (kept,) = store.blanks()
    assert kept.spec.colour == "#000000"
    store.drop_blank("hoodie")
    assert store.blanks() == []


def test_names_from_anywhere_are_only_names(store):
    name = "x'); DROP TABLE blanks; --"
    store.keep_blank(name, HOODIE)
    assert [blank.name for blank in store.blanks()] == [name]
    with pytest.raises(WorkshopError, match="1 to 200 letters"):
        store.keep_blank("   ", HOODIE)


def test_a_broken_or_newer_or_locked_file_is_said(store, tmp_path, monkeypatch):
    broken = tmp_path / "broken.sqlite"
    broken.write_bytes(b"this is no database" * 100)
    with pytest.raises(WorkshopError, match="can't be used"):
        WorkshopStore(broken).blanks()
    store.keep_blank("a", HOODIE)
    with sqlite3.connect(store.path) as connection:
        connection.execute("UPDATE alembic_version SET version_num = '9999'")
    with pytest.raises(WorkshopError, match="newer Zinnet"):
        WorkshopStore(store.path).blanks()


def test_a_locked_file_is_waited_for_and_then_said(store, monkeypatch):
    monkeypatch.setattr("zinnet.workshop.store.BUSY_S", 0.2)
    store.keep_blank("a", HOODIE)
    connection = sqlite3.connect(store.path)
    connection.execute("BEGIN EXCLUSIVE")
    with pytest.raises(WorkshopError, match="close other programs"):
        store.keep_blank("b", HOODIE)
    connection.rollback()
    store.keep_blank("b", HOODIE)
    assert len(store.blanks()) == 2


def test_a_kept_blank_that_can_not_be_read_is_left_out(store):
    store.keep_blank("good", HOODIE)
    with sqlite3.connect(store.path) as connection:
        connection.execute("INSERT INTO blanks (name, spec, kept_at) VALUES ('odd', '{\"kind\": 3}', '')")
    assert [blank.name for blank in store.blanks()] == ["good"]


def test_several_at_once_lose_nothing(store):
    store.keep_blank("first", HOODIE)
    threads = [threading.Thread(target=WorkshopStore(store.path).keep_blank, args=(f"n{k}", HOODIE)) for k in range(6)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(store.blanks()) == 7


def test_habits_are_written_and_read_and_other_settings_stay(tmp_path):
    path = tmp_path / "zinnet" / "settings.toml"
    assert read_habits(path).finger_mm == 19.05
    path.parent.mkdir()
    path.write_text('theme = "night"\n')
    write_habits(Habits(finger_mm=17.5, schools=(("tee/adult", "inch"),)), path)
    assert read_habits(path) == Habits(finger_mm=17.5, schools=(("tee/adult", "inch"),))
    assert 'theme = "night"' in path.read_text()


@pytest.mark.parametrize(
    "text",
    ["finger_mm = 2", "finger_mm = 'wide'", "finger_mm = 400", "[schools]\n'tee/adult' = 'moon'", "schools = 3", "[["],
)
def test_settings_that_can_not_be_are_said(tmp_path, text):
    path = tmp_path / "settings.toml"
    path.write_text(text)
    with pytest.raises(SettingsError):
        read_habits(path)
