"""Whether every row of a workshop's file can be read, asked before rows from elsewhere are kept."""

from collections.abc import Callable
from sqlite3 import Connection
from typing import Any

from pydantic import ValidationError

from zinnet.base.errors import WorkshopError
from zinnet.blanks.model import BlankSpec
from zinnet.cutting.settings import Blade, CutTest
from zinnet.pressing.hem_test import HemTest
from zinnet.pressing.recipes import KeptRecipe, Pressed
from zinnet.workshop.blank_stock import BlankItem
from zinnet.workshop.cutbook import LogEntry
from zinnet.workshop.made import Made
from zinnet.workshop.stock import StockItem


def _blade(number: Any, machine: Any, since: Any, metres: Any) -> object:
    return Blade(number=number, machine=machine, since=since, metres=metres)


def _log(*row: Any) -> object:
    if not all(isinstance(value, str) for value in row):
        raise ValueError("it is no text")
    return LogEntry(*row)


def _stocked(number: Any, film: Any, kind: Any, item: Any) -> object:
    read = StockItem.model_validate_json(item)
    if not isinstance(number, int) or number < 1 or (film, kind) != (read.film, read.kind):
        raise ValueError("number, film and kind are not those of its item")
    return read


def _event(before: Any, after: Any) -> object:
    return [StockItem.model_validate_json(text) for text in (before, after) if text is not None]


def _bytes(*row: Any) -> object:
    if not all(value is None or isinstance(value, bytes) for value in row):
        raise ValueError("job or photo is no file")
    return row


ROWS: tuple[tuple[str, str, Callable[..., object]], ...] = (
    ("blanks", "SELECT id, spec FROM blanks", BlankSpec.model_validate_json),
    ("stock", "SELECT number, number, film, kind, item FROM stock", _stocked),
    ("stock_events", "SELECT id, before, after FROM stock_events", _event),
    ("test_cuts", "SELECT id, test FROM test_cuts", CutTest.model_validate_json),
    ("blades", "SELECT number, number, machine, since, metres FROM blades", _blade),
    ("log", "SELECT id, at, job, what, said FROM log", _log),
    ("recipes", "SELECT id, recipe FROM recipes", KeptRecipe.model_validate_json),
    ("pressed", "SELECT id, pressed FROM pressed", Pressed.model_validate_json),
    ("hem_tests", "SELECT id, test FROM hem_tests", HemTest.model_validate_json),
    ("made", "SELECT number, made FROM made", Made.model_validate_json),
    ("made", "SELECT number, job, photo FROM made", _bytes),
    ("garments", "SELECT number, item FROM garments", BlankItem.model_validate_json),
)


def refuse_unreadable(connection: Connection, called: str) -> None:
    """Raise :class:`WorkshopError` that names the first row which can't be read."""
    for table, query, read in ROWS:
        for number, *values in connection.execute(query):
            try:
                read(*values)
            except (ValidationError, ValueError, TypeError, RecursionError) as error:
                why = error.errors()[0]["msg"] if isinstance(error, ValidationError) else str(error)
                raise WorkshopError(
                    f"{called}: entry {number} of {table} can't be read ({why}); nothing was taken over."
                ) from None
