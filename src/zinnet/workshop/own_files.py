"""Things of one's own as TOML files to keep elsewhere or hand to a friend, and from such files."""

from collections.abc import Mapping
from pathlib import Path
from typing import Any

from zinnet.base.errors import SettingsError, ZinnetError
from zinnet.base.files import read_file, write_whole
from zinnet.base.own_toml import MOST_BYTES, read_own_toml
from zinnet.workshop.own_things import KEPT, Thing, keep_things


def write_own(folder: Path) -> tuple[Path, ...]:
    """Write the files of one's own things into a folder, made where it is not there. Raises :class:`SettingsError`."""
    found = [kept.file() for kept in KEPT.values() if kept.file().exists()]
    if not found:
        raise SettingsError("There is nothing of your own yet: add a film, a press or a machine first.")
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise SettingsError(f"{folder} can't be made ({error.strerror}); choose another folder.") from None
    for path in found:
        write_whole(folder / path.name, read_file(path, MOST_BYTES, error=SettingsError), error=SettingsError)
    return tuple(folder / path.name for path in found)


def take_own(path: Path) -> dict[Thing, tuple[str, ...]]:
    """Take the things of a TOML file besides one's own; return the ids of each sort, those that took a place too.

    Raises :class:`SettingsError` where the file holds none, or where one of them makes no sense: nothing is taken then.
    """
    data = read_own_toml(path)
    brought = {thing: _tables(data, kept.tables, path) for thing, kept in KEPT.items()}
    if not any(brought.values()):
        known = ", ".join(table for kept in KEPT.values() for table in kept.tables)
        raise SettingsError(f"{path.name} holds nothing to take: it has none of the tables {known}.")
    for thing, rows in brought.items():
        try:
            KEPT[thing].read(rows, path.name)
        except ZinnetError as error:
            where = "" if str(error).startswith(path.name) else f"{path.name}: "
            raise SettingsError(f"{where}{error} Nothing was taken.") from None
    for thing, rows in brought.items():
        if rows:
            keep_things(thing, rows)
    return {thing: tuple(rows.get(KEPT[thing].table, {})) for thing, rows in brought.items() if rows}


def _tables(data: Mapping[str, Any], names: tuple[str, ...], path: Path) -> dict[str, dict[str, Any]]:
    found = {}
    for name in names:
        table = data.get(name, {})
        if not isinstance(table, dict) or not all(isinstance(row, dict) for row in table.values()):
            raise SettingsError(f"{path.name}: “{name}” is not a table of tables, such as [{name}.my-own].")
        if table:
            found[name] = table
    return found
