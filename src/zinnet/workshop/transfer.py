"""The whole workshop in open files: one ZIP with its tables as JSON and its shelf as CSV; and back again."""

import base64
import binascii
import io
import json
import tomllib
import zipfile
from collections.abc import Mapping
from sqlite3 import Connection, Error
from typing import Any

from zinnet.base.errors import WorkshopError, ZinnetError
from zinnet.base.files import read_file, write_whole
from zinnet.base.json_file import read_json
from zinnet.base.zip_file import zip_entry
from zinnet.workshop.own_things import KEPT, Thing
from zinnet.workshop.readable import refuse_unreadable
from zinnet.workshop.stock import Stock
from zinnet.workshop.stock_csv import stock_csv
from zinnet.workshop.store import WorkshopStore

TABLES, SHELF = "workshop.json", "shelf.csv"
MOST_BYTES = 200_000_000
MOST_VALUES = 3_000_000
MOST_OWN = 2_000_000
REVISION = "alembic_version"
BYTES = "base64"


def exported_workshop(store: WorkshopStore) -> bytes:
    """Return the workshop as a ZIP: all tables, the shelf as CSV, and the presses, machines and films of one's own."""
    with store.open() as connection:
        tables = {
            name: [
                {column: _open(value) for column, value in zip(columns, row, strict=True)}
                for row in connection.execute(f"SELECT {', '.join(columns)} FROM {name}")
            ]
            for name, columns in _tables(connection).items()
        }
    data = {"revision": tables.pop(REVISION)[0]["version_num"], "tables": tables}
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(TABLES, json.dumps(data, indent=1, ensure_ascii=False))
        archive.writestr(SHELF, stock_csv(Stock(store).items()))
        for thing, kept in KEPT.items():
            if kept.file().exists():
                archive.writestr(f"{thing}.toml", read_file(kept.file(), MOST_OWN))
    return buffer.getvalue()


def import_workshop(store: WorkshopStore, data: bytes, called: str, *, replace: bool = False) -> int:
    """Put an exported workshop into the file, all of it or nothing; return how many rows it has.

    Raises :class:`WorkshopError` where it can't be read, is of a newer Zinnet, or where the workshop holds something
    and is not to be replaced.
    """
    revision, tables = _read(data, called)
    own = _own_files(data, called)
    if not replace:
        _refuse_own(own, called)
    with store.change() as connection:
        (here,) = connection.execute(f"SELECT version_num FROM {REVISION}").fetchone()
        if revision > here:
            raise WorkshopError(
                f"{called} is of a newer Zinnet (revision {revision}; this one has {here}); update Zinnet."
            )
        ours = {name: columns for name, columns in _tables(connection).items() if name != REVISION}
        unknown = set(tables) - ours.keys()
        if unknown:
            raise WorkshopError(
                f"{called} holds a table “{min(unknown)}” that no workshop has; nothing was taken over."
            )
        held = sum(connection.execute(f"SELECT count(*) FROM {name}").fetchone()[0] for name in ours)
        if held and not replace:
            raise WorkshopError(
                f"The workshop holds {held} entries already; say that they are to be replaced, or export it first."
            )
        connection.execute("PRAGMA defer_foreign_keys=ON")
        for name in ours:
            connection.execute(f"DELETE FROM {name}")
        for name, columns in ours.items():
            for number, row in enumerate(tables.get(name, []), start=1):
                where = f"{called}, {name} {number}"
                _insert(connection, name, _row(row, set(columns), where), where)
        refuse_unreadable(connection, called)
    for thing, text in own.items():
        write_whole(KEPT[thing].file(), text.encode(), error=WorkshopError)
    return sum(len(rows) for rows in tables.values())


def _own_files(data: bytes, called: str) -> dict[Thing, str]:
    """Return the files of one's own things in an export, each checked. Raises :class:`WorkshopError`."""
    found: dict[Thing, str] = {}
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        for thing, kept in KEPT.items():
            name = f"{thing}.toml"
            if name not in archive.namelist():
                continue
            text = zip_entry(archive, name, called, most_bytes=MOST_OWN, error=WorkshopError)
            try:
                found[thing] = text.decode("utf-8")
                kept.read(tomllib.loads(found[thing]), f"{called}, {name}")
            except (ValueError, RecursionError, ZinnetError) as error:
                raise WorkshopError(f"{called}, {name} can't be read ({error}); nothing was taken over.") from None
    return found


def _refuse_own(own: Mapping[Thing, str], called: str) -> None:
    """Raise :class:`WorkshopError` where things of one's own would be lost."""
    there = [thing for thing in own if KEPT[thing].file().exists()]
    if there:
        raise WorkshopError(
            f"There is a {there[0]} of your own already, and {called} brings others; say that they are to be replaced."
        )


def _insert(connection: Connection, table: str, values: dict[str, Any], where: str) -> None:
    columns, marks = ", ".join(values), ", ".join(f":{column}" for column in values)
    try:
        connection.execute(f"INSERT INTO {table} ({columns}) VALUES ({marks})", values)
    except (Error, OverflowError) as error:
        raise WorkshopError(f"{where} can't be taken over ({error}).") from None


def _tables(connection: Connection) -> dict[str, tuple[str, ...]]:
    """Return the columns of each table of the file."""
    names = "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY rowid"
    return {
        name: tuple(row[1] for row in connection.execute(f"PRAGMA table_info({name})"))
        for (name,) in connection.execute(names).fetchall()
    }


def _open(value: Any) -> Any:
    """Return a value as it stands in JSON: bytes as base64, text that is a JSON object as that object."""
    if isinstance(value, bytes):
        return {BYTES: base64.b64encode(value).decode()}
    if isinstance(value, str) and value.startswith("{"):
        try:
            return {"json": json.loads(value)}
        except ValueError:
            return value
    return value


def _row(row: Any, columns: set[str], where: str) -> dict[str, Any]:
    if not isinstance(row, dict) or not set(row) <= columns:
        raise WorkshopError(f"{where} does not have the columns of its table; nothing was taken over.")
    return {key: _closed(value, where) for key, value in row.items()}


def _closed(value: Any, where: str) -> Any:
    """Return a value as it stands in the file again."""
    if isinstance(value, dict):
        if set(value) == {"json"}:
            return json.dumps(value["json"], ensure_ascii=False)
        if set(value) == {BYTES} and isinstance(value[BYTES], str):
            try:
                return base64.b64decode(value[BYTES], validate=True)
            except binascii.Error:
                pass
    if value is None or isinstance(value, str | int | float):
        return value
    raise WorkshopError(f"{where} holds something that is no value of a table; nothing was taken over.")


def _read(data: bytes, called: str) -> tuple[str, dict[str, list[Any]]]:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            if TABLES not in archive.namelist():
                raise WorkshopError(f"{called} is no exported workshop: there is no {TABLES} in it.")
            text = zip_entry(archive, TABLES, called, most_bytes=MOST_BYTES, error=WorkshopError)
    except (zipfile.BadZipFile, OSError, RuntimeError, EOFError, NotImplementedError, ValueError):
        raise WorkshopError(f"{called} is no exported workshop: it is no ZIP with a {TABLES} in it.") from None
    try:
        read = read_json(text, f"{called}, {TABLES}", most_values=MOST_VALUES, error=WorkshopError)
        revision, tables = read["revision"], read["tables"]
        if not isinstance(revision, str) or not all(isinstance(rows, list) for rows in tables.values()):
            raise TypeError
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError):
        raise WorkshopError(f"{called} is damaged: its {TABLES} is not as an export writes it.") from None
    return revision, tables
