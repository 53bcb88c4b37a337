"""The whole workshop in open files: one ZIP with its tables as JSON and its shelf as CSV; and back again."""

import base64
import binascii
import io
import json
import zipfile
from typing import TYPE_CHECKING, Any

from zinnet.base.errors import WorkshopError
from zinnet.workshop.stock import Stock
from zinnet.workshop.stock_csv import stock_csv
from zinnet.workshop.store import WorkshopStore

if TYPE_CHECKING:
    from sqlalchemy import Connection, MetaData

TABLES, SHELF = "workshop.json", "shelf.csv"
MOST_BYTES = 500_000_000
REVISION = "alembic_version"
BYTES = "base64"


def exported_workshop(store: WorkshopStore) -> bytes:
    """Return the workshop as a ZIP: all tables, with what is JSON in them as JSON, and the shelf as CSV."""
    from sqlalchemy import select

    with store.open() as connection:
        known = _tables(connection)
        tables = {
            table.name: [
                {key: _open(value) for key, value in row.items()}
                for row in connection.execute(select(table)).mappings()
            ]
            for table in known.sorted_tables
        }
    data = {"revision": tables.pop(REVISION)[0]["version_num"], "tables": tables}
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(TABLES, json.dumps(data, indent=1, ensure_ascii=False))
        archive.writestr(SHELF, stock_csv(Stock(store).items()))
    return buffer.getvalue()


def import_workshop(store: WorkshopStore, data: bytes, called: str, *, replace: bool = False) -> int:
    """Put an exported workshop into the file, all of it or nothing; return how many rows it has.

    Raises :class:`WorkshopError` where it can't be read, is of a newer Zinnet, or where the workshop holds something
    and is not to be replaced.
    """
    from sqlalchemy import delete, func, insert, select
    from sqlalchemy.exc import SQLAlchemyError

    revision, tables = _read(data, called)
    with store.open() as connection:
        known = _tables(connection)
        here = connection.execute(select(known.tables[REVISION].c.version_num)).scalar_one()
        if revision > here:
            raise WorkshopError(
                f"{called} is of a newer Zinnet (revision {revision}; this one has {here}); update Zinnet."
            )
        ours = [table for table in known.sorted_tables if table.name != REVISION]
        unknown = set(tables) - {table.name for table in ours}
        if unknown:
            raise WorkshopError(
                f"{called} holds a table “{min(unknown)}” that no workshop has; nothing was taken over."
            )
        held = sum(connection.execute(select(func.count()).select_from(table)).scalar_one() for table in ours)
        if held and not replace:
            raise WorkshopError(
                f"The workshop holds {held} entries already; say that they are to be replaced, or export it first."
            )
        for table in reversed(ours):
            connection.execute(delete(table))
        for table in ours:
            for number, row in enumerate(tables.get(table.name, []), start=1):
                values = _row(row, set(table.c.keys()), f"{called}, {table.name} {number}")
                try:
                    connection.execute(insert(table).values(values))
                except (SQLAlchemyError, TypeError, ValueError) as error:
                    reason = str(getattr(error, "orig", error))
                    raise WorkshopError(f"{called}, {table.name} {number} can't be taken over ({reason}).") from None
    return sum(len(rows) for rows in tables.values())


def _tables(connection: "Connection") -> "MetaData":
    from sqlalchemy import MetaData

    known = MetaData()
    known.reflect(connection)
    return known


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
        with zipfile.ZipFile(io.BytesIO(data)) as archive, archive.open(TABLES) as file:
            text = file.read(MOST_BYTES + 1)
    except (zipfile.BadZipFile, KeyError, OSError, RuntimeError, EOFError, NotImplementedError, ValueError):
        raise WorkshopError(f"{called} is no exported workshop: it is no ZIP with a {TABLES} in it.") from None
    if len(text) > MOST_BYTES:
        raise WorkshopError(f"{called} holds more than {MOST_BYTES / 1e6:.0f} MB.")
    try:
        read = json.loads(text)
        revision, tables = read["revision"], read["tables"]
        if not isinstance(revision, str) or not all(isinstance(rows, list) for rows in tables.values()):
            raise TypeError
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError):
        raise WorkshopError(f"{called} is damaged: its {TABLES} is not as an export writes it.") from None
    return revision, tables
