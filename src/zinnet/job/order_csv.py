"""Reading an order from a table: size, colour, name and count in CSV."""

import csv

from pydantic import ValidationError

from zinnet.base.csv_text import lines_of
from zinnet.base.errors import ZinnetError
from zinnet.job.order import MOST_LINES, OrderLine

MOST_BYTES = 200_000
COLUMNS = ("size", "colour", "name", "count")


def read_order_csv(data: bytes, called: str) -> tuple[OrderLine, ...]:
    """Return the lines of an order. Raises :class:`ZinnetError` that names the line which can't be read."""
    if len(data) > MOST_BYTES:
        raise ZinnetError(f"{called} has more than {MOST_BYTES // 1000} kB; an order is far smaller.")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise ZinnetError(f"{called} is not UTF-8 text; save the table as CSV in UTF-8.") from None
    delimiter = max(",;\t", key=text.partition("\n")[0].count)
    try:
        return _lines(csv.DictReader(lines_of(text), delimiter=delimiter), called)
    except csv.Error as error:
        raise ZinnetError(f"{called} can't be read as a table ({error}); mend its quotes.") from None


def _lines(rows: csv.DictReader[str], called: str) -> tuple[OrderLine, ...]:
    heads = [(name or "").strip().casefold() for name in rows.fieldnames or ()]
    if not {"size", "count"} <= set(heads):
        raise ZinnetError(
            f"{called} has no columns “size” and “count”; its first line names them: {','.join(COLUMNS)}."
        )
    rows.fieldnames = heads
    found: list[OrderLine] = []
    for number, row in enumerate(rows, start=2):
        fields = {name: (row.get(name) or "").strip() for name in COLUMNS}
        if not any(fields.values()):
            continue
        try:
            found.append(OrderLine.model_validate(fields | {"colour": (fields["colour"] or "#ffffff").lower()}))
        except ValidationError as error:
            first = error.errors()[0]
            where = " ".join(map(str, first["loc"]))
            raise ZinnetError(f"{called}, line {number}: {where}: {first['msg'].lower()}; mend it there.") from None
        if len(found) > MOST_LINES:
            raise ZinnetError(f"{called} has more than {MOST_LINES} lines.")
    if not found:
        raise ZinnetError(f"{called} orders nothing: it has no line but its first.")
    return tuple(found)
