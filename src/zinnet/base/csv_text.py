"""CSV that spreadsheets read without working anything out, and that is read whatever ends its lines."""

import csv
import io
from collections.abc import Iterable, Sequence
from typing import Any

FORMULA = ("=", "+", "-", "@", "\t", "\r")
"""What a spreadsheet takes a cell for a formula by (OWASP, CSV injection); an apostrophe before it makes it text."""
QUOTE = "'"


def plain_cell(value: Any) -> Any:
    """Return a cell that no spreadsheet works out.

    Examples
    --------
    >>> plain_cell("=1+1"), plain_cell("Moth"), plain_cell(-5)
    ("'=1+1", 'Moth', -5)
    """
    if isinstance(value, str) and value.lstrip(QUOTE).startswith(FORMULA):
        return f"{QUOTE}{value}"
    return value


def cell_as_it_was(text: str) -> str:
    """Return what :func:`plain_cell` was given."""
    return text[1:] if text.startswith(QUOTE) and text.lstrip(QUOTE).startswith(FORMULA) else text


def written_csv(rows: Iterable[Sequence[Any]]) -> str:
    """Return rows as CSV, its texts as plain cells."""
    text = io.StringIO()
    csv.writer(text, lineterminator="\n").writerows([plain_cell(cell) for cell in row] for row in rows)
    return text.getvalue()


def lines_of(text: str) -> io.StringIO:
    """Return a text to be read as CSV, whose lines end as on any machine."""
    return io.StringIO(text, newline=None)
